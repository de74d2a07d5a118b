using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Learning : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Opened",
                table: "Observations",
                type: "TEXT",
                nullable: true);

            // What was opened before stands in the observations themselves.
            migrationBuilder.Sql(
                "UPDATE Observations SET Opened = json_extract(Json, '$.part') || ' ' || json_extract(Json, '$.found') "
                + "WHERE Json IS NOT NULL AND json_extract(Json, '$.part') IS NOT NULL");

            migrationBuilder.CreateTable(
                name: "RateResets",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_RateResets", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Observations_At",
                table: "Observations",
                column: "At",
                filter: "\"Opened\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_RateResets_At",
                table: "RateResets",
                column: "At");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "RateResets");

            migrationBuilder.DropIndex(
                name: "IX_Observations_At",
                table: "Observations");

            migrationBuilder.DropColumn(
                name: "Opened",
                table: "Observations");
        }
    }
}
