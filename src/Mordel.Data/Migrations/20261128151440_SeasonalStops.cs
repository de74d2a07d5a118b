using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class SeasonalStops : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Assemblies_PlaceId",
                table: "Assemblies");

            migrationBuilder.AddColumn<string>(
                name: "Visit",
                table: "Stops",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_LastOutcome_Tag",
                table: "Assemblies",
                columns: new[] { "LastOutcome", "Tag" });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_PlaceId_ReplacedOn_NextDue_DueCause",
                table: "Assemblies",
                columns: new[] { "PlaceId", "ReplacedOn", "NextDue", "DueCause" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Assemblies_LastOutcome_Tag",
                table: "Assemblies");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_PlaceId_ReplacedOn_NextDue_DueCause",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "Visit",
                table: "Stops");

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_PlaceId",
                table: "Assemblies",
                column: "PlaceId");
        }
    }
}
