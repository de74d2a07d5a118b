using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class RoundsAlong : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "CutOffAt",
                table: "Sessions",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "TookAlongAt",
                table: "Sessions",
                type: "TEXT",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "CutOffAt",
                table: "Sessions");

            migrationBuilder.DropColumn(
                name: "TookAlongAt",
                table: "Sessions");
        }
    }
}
