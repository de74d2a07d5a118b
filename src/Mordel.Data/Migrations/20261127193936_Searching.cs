using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Searching : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Runs_TesterId",
                table: "Runs");

            migrationBuilder.AddColumn<string>(
                name: "Lost",
                table: "Attempts",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateIndex(
                name: "IX_Stops_Day",
                table: "Stops",
                column: "Day");

            migrationBuilder.CreateIndex(
                name: "IX_Runs_SignedAt_StartedAt",
                table: "Runs",
                columns: new[] { "SignedAt", "StartedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Runs_StartedAt",
                table: "Runs",
                column: "StartedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Runs_TesterId_StartedAt",
                table: "Runs",
                columns: new[] { "TesterId", "StartedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Outbox_State_SettledAt",
                table: "Outbox",
                columns: new[] { "State", "SettledAt" });

            // The register's full-text index; RegisterIndex keeps it, and its triggers.
            migrationBuilder.Sql(
                """
                CREATE TABLE SearchOrder (
                  Place INTEGER PRIMARY KEY, AssemblyId TEXT NOT NULL UNIQUE, Tag TEXT NOT NULL UNIQUE);
                CREATE TABLE SearchStale (AssemblyId TEXT NOT NULL PRIMARY KEY) WITHOUT ROWID;
                CREATE VIRTUAL TABLE SearchParts USING fts5(Words, tokenize = 'trigram');
                CREATE VIRTUAL TABLE SearchStarts USING fts5(
                  Words, tokenize = 'unicode61', prefix = '1 2', content = '', contentless_delete = 1);
                """
            );
            migrationBuilder.Sql(
                """
                UPDATE Attempts SET Lost = COALESCE((
                  SELECT group_concat(json_extract(m.value, '$.title'), char(10))
                  FROM json_each(Attempts.Marks, '$.marks') m
                  WHERE NOT json_extract(m.value, '$.earned')), '')
                WHERE json_valid(Marks);
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql(
                """
                DROP TRIGGER IF EXISTS SearchAdded; DROP TRIGGER IF EXISTS SearchGone;
                DROP TRIGGER IF EXISTS SearchChanged; DROP TRIGGER IF EXISTS SearchMoved;
                DROP TRIGGER IF EXISTS SearchRenamed;
                DROP TABLE SearchOrder; DROP TABLE SearchStale; DROP TABLE SearchParts; DROP TABLE SearchStarts;
                """
            );
            migrationBuilder.DropIndex(
                name: "IX_Stops_Day",
                table: "Stops");

            migrationBuilder.DropIndex(
                name: "IX_Runs_SignedAt_StartedAt",
                table: "Runs");

            migrationBuilder.DropIndex(
                name: "IX_Runs_StartedAt",
                table: "Runs");

            migrationBuilder.DropIndex(
                name: "IX_Runs_TesterId_StartedAt",
                table: "Runs");

            migrationBuilder.DropIndex(
                name: "IX_Outbox_State_SettledAt",
                table: "Outbox");

            migrationBuilder.DropColumn(
                name: "Lost",
                table: "Attempts");

            migrationBuilder.CreateIndex(
                name: "IX_Runs_TesterId",
                table: "Runs",
                column: "TesterId");
        }
    }
}
