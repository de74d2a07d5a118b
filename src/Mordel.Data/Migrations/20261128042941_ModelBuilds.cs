using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class ModelBuilds : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "ModelBuilds",
                columns: table => new
                {
                    Make = table.Column<string>(type: "TEXT", nullable: false),
                    Model = table.Column<string>(type: "TEXT", nullable: false),
                    Family = table.Column<string>(type: "TEXT", nullable: true),
                    Relief = table.Column<string>(type: "TEXT", nullable: true),
                    SaidAt = table.Column<string>(type: "TEXT", nullable: false),
                    SaidBy = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ModelBuilds", x => new { x.Make, x.Model });
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "ModelBuilds");
        }
    }
}
