using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Intakes : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Forms",
                table: "Outbox",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ReportsAs",
                table: "Authorities",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "RulingsSeen",
                table: "Authorities",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.CreateTable(
                name: "OutboxEvents",
                columns: table => new
                {
                    Id = table.Column<long>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    OutboxId = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    Says = table.Column<string>(type: "TEXT", nullable: true),
                    Receipt = table.Column<string>(type: "TEXT", nullable: true),
                    By = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OutboxEvents", x => x.Id);
                    table.ForeignKey(
                        name: "FK_OutboxEvents_Outbox_OutboxId",
                        column: x => x.OutboxId,
                        principalTable: "Outbox",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_OutboxEvents_OutboxId",
                table: "OutboxEvents",
                column: "OutboxId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "OutboxEvents");

            migrationBuilder.DropColumn(
                name: "Forms",
                table: "Outbox");

            migrationBuilder.DropColumn(
                name: "ReportsAs",
                table: "Authorities");

            migrationBuilder.DropColumn(
                name: "RulingsSeen",
                table: "Authorities");
        }
    }
}
