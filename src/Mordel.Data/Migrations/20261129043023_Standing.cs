using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Standing : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "DurationSteps",
                columns: table => new
                {
                    ProcedureId = table.Column<string>(type: "TEXT", nullable: false),
                    Step = table.Column<string>(type: "TEXT", nullable: false),
                    Order = table.Column<int>(type: "INTEGER", nullable: false),
                    Title = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_DurationSteps", x => new { x.ProcedureId, x.Step });
                });

            migrationBuilder.CreateTable(
                name: "Durations",
                columns: table => new
                {
                    ProcedureId = table.Column<string>(type: "TEXT", nullable: false),
                    TesterId = table.Column<string>(type: "TEXT", nullable: false),
                    Step = table.Column<string>(type: "TEXT", nullable: false),
                    Class = table.Column<int>(type: "INTEGER", nullable: false),
                    Count = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Durations", x => new { x.ProcedureId, x.TesterId, x.Step, x.Class });
                });

            migrationBuilder.CreateTable(
                name: "PartYears",
                columns: table => new
                {
                    Type = table.Column<string>(type: "TEXT", nullable: false),
                    Part = table.Column<string>(type: "TEXT", nullable: false),
                    Mended = table.Column<bool>(type: "INTEGER", nullable: false),
                    Year = table.Column<int>(type: "INTEGER", nullable: false),
                    Seen = table.Column<int>(type: "INTEGER", nullable: false),
                    Failed = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PartYears", x => new { x.Type, x.Part, x.Mended, x.Year });
                });

            migrationBuilder.CreateTable(
                name: "StandingCounts",
                columns: table => new
                {
                    Dimension = table.Column<string>(type: "TEXT", nullable: false),
                    Type = table.Column<string>(type: "TEXT", nullable: false),
                    Value = table.Column<string>(type: "TEXT", nullable: false),
                    Month = table.Column<int>(type: "INTEGER", nullable: false),
                    Again = table.Column<bool>(type: "INTEGER", nullable: false),
                    Passed = table.Column<int>(type: "INTEGER", nullable: false),
                    Failed = table.Column<int>(type: "INTEGER", nullable: false),
                    Unfinished = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_StandingCounts", x => new { x.Dimension, x.Type, x.Value, x.Month, x.Again });
                });

            migrationBuilder.CreateTable(
                name: "Standings",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    Signed = table.Column<int>(type: "INTEGER", nullable: false),
                    LastSeal = table.Column<long>(type: "INTEGER", nullable: false),
                    Brought = table.Column<int>(type: "INTEGER", nullable: false),
                    LeftOpen = table.Column<int>(type: "INTEGER", nullable: false),
                    Timed = table.Column<int>(type: "INTEGER", nullable: false),
                    Took = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Standings", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_Type_NextDue",
                table: "Assemblies",
                columns: new[] { "Type", "NextDue" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "DurationSteps");

            migrationBuilder.DropTable(
                name: "Durations");

            migrationBuilder.DropTable(
                name: "PartYears");

            migrationBuilder.DropTable(
                name: "StandingCounts");

            migrationBuilder.DropTable(
                name: "Standings");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_Type_NextDue",
                table: "Assemblies");
        }
    }
}
