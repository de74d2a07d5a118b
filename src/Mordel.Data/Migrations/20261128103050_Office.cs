using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Office : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Assemblies_AuthorityId",
                table: "Assemblies");

            migrationBuilder.AddColumn<string>(
                name: "Mail",
                table: "Owners",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "DueBy",
                table: "Authorities",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "BroughtOn",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "BroughtOutcome",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "DueCause",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "DueThen",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "DueUntil",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "DueWhy",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "MergedIntoId",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Season",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "SerialKey",
                table: "Assemblies",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "State",
                table: "Assemblies",
                type: "TEXT",
                nullable: false,
                defaultValue: "in service");

            migrationBuilder.AddColumn<string>(
                name: "Stuck",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "StuckNote",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "StuckSince",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Use",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "AssemblyEvents",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    AssemblyId = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Due = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    Note = table.Column<string>(type: "TEXT", nullable: true),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    ImportId = table.Column<string>(type: "TEXT", nullable: true),
                    TakenBackAt = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AssemblyEvents", x => x.Id);
                    table.ForeignKey(
                        name: "FK_AssemblyEvents_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "BroughtTests",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    AssemblyId = table.Column<string>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Outcome = table.Column<string>(type: "TEXT", nullable: false),
                    Values = table.Column<string>(type: "TEXT", nullable: false),
                    Source = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    ImportId = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_BroughtTests", x => x.Id);
                    table.ForeignKey(
                        name: "FK_BroughtTests_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Changes",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Thing = table.Column<string>(type: "TEXT", nullable: false),
                    ThingId = table.Column<string>(type: "TEXT", nullable: false),
                    Field = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<string>(type: "TEXT", nullable: false),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    BatchId = table.Column<string>(type: "TEXT", nullable: true),
                    How = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Changes", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "ColumnMemories",
                columns: table => new
                {
                    Sender = table.Column<string>(type: "TEXT", nullable: false),
                    Head = table.Column<string>(type: "TEXT", nullable: false),
                    Field = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ColumnMemories", x => new { x.Sender, x.Head });
                });

            migrationBuilder.CreateTable(
                name: "Imports",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    FileName = table.Column<string>(type: "TEXT", nullable: false),
                    Sender = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    Columns = table.Column<string>(type: "TEXT", nullable: false),
                    Authority = table.Column<string>(type: "TEXT", nullable: false),
                    Rules = table.Column<string>(type: "TEXT", nullable: false),
                    Lines = table.Column<int>(type: "INTEGER", nullable: false),
                    New = table.Column<int>(type: "INTEGER", nullable: false),
                    Changed = table.Column<int>(type: "INTEGER", nullable: false),
                    Same = table.Column<int>(type: "INTEGER", nullable: false),
                    Doubtful = table.Column<int>(type: "INTEGER", nullable: false),
                    Wrong = table.Column<int>(type: "INTEGER", nullable: false),
                    Understood = table.Column<string>(type: "TEXT", nullable: true),
                    Says = table.Column<string>(type: "TEXT", nullable: true),
                    AppliedAt = table.Column<string>(type: "TEXT", nullable: true),
                    AppliedBy = table.Column<string>(type: "TEXT", nullable: true),
                    UndoneAt = table.Column<string>(type: "TEXT", nullable: true),
                    UndoneBy = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Imports", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Merges",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    KeptId = table.Column<string>(type: "TEXT", nullable: false),
                    GoneId = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Moved = table.Column<string>(type: "TEXT", nullable: false),
                    UndoneAt = table.Column<string>(type: "TEXT", nullable: true),
                    UndoneBy = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Merges", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "ImportLines",
                columns: table => new
                {
                    ImportId = table.Column<string>(type: "TEXT", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    Cells = table.Column<string>(type: "TEXT", nullable: false),
                    Remarks = table.Column<string>(type: "TEXT", nullable: true),
                    AssemblyId = table.Column<string>(type: "TEXT", nullable: true),
                    Decision = table.Column<string>(type: "TEXT", nullable: true),
                    Effect = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ImportLines", x => new { x.ImportId, x.Number });
                    table.ForeignKey(
                        name: "FK_ImportLines_Imports_ImportId",
                        column: x => x.ImportId,
                        principalTable: "Imports",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Places_Address",
                table: "Places",
                column: "Address");

            migrationBuilder.CreateIndex(
                name: "IX_Places_District",
                table: "Places",
                column: "District");

            migrationBuilder.CreateIndex(
                name: "IX_Places_East_North",
                table: "Places",
                columns: new[] { "East", "North" });

            migrationBuilder.CreateIndex(
                name: "IX_Owners_Name",
                table: "Owners",
                column: "Name");

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_AuthorityId_NextDue",
                table: "Assemblies",
                columns: new[] { "AuthorityId", "NextDue" });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_LastTestOn_Tag",
                table: "Assemblies",
                columns: new[] { "LastTestOn", "Tag" });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_MergedIntoId",
                table: "Assemblies",
                column: "MergedIntoId",
                filter: "\"MergedIntoId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_NextDue_Tag",
                table: "Assemblies",
                columns: new[] { "NextDue", "Tag" });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_ReplacesId",
                table: "Assemblies",
                column: "ReplacesId",
                filter: "\"ReplacesId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_SerialKey",
                table: "Assemblies",
                column: "SerialKey");

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_Stuck",
                table: "Assemblies",
                column: "Stuck",
                filter: "\"Stuck\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_AssemblyEvents_AssemblyId",
                table: "AssemblyEvents",
                column: "AssemblyId");

            migrationBuilder.CreateIndex(
                name: "IX_AssemblyEvents_ImportId",
                table: "AssemblyEvents",
                column: "ImportId",
                filter: "\"ImportId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_BroughtTests_AssemblyId_Day",
                table: "BroughtTests",
                columns: new[] { "AssemblyId", "Day" });

            migrationBuilder.CreateIndex(
                name: "IX_BroughtTests_ImportId",
                table: "BroughtTests",
                column: "ImportId",
                filter: "\"ImportId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Changes_BatchId",
                table: "Changes",
                column: "BatchId",
                filter: "\"BatchId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Changes_ThingId_At",
                table: "Changes",
                columns: new[] { "ThingId", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_ImportLines_ImportId_State_Number",
                table: "ImportLines",
                columns: new[] { "ImportId", "State", "Number" });

            migrationBuilder.CreateIndex(
                name: "IX_Imports_At",
                table: "Imports",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_Imports_State",
                table: "Imports",
                column: "State");

            migrationBuilder.CreateIndex(
                name: "IX_Merges_GoneId",
                table: "Merges",
                column: "GoneId");

            migrationBuilder.CreateIndex(
                name: "IX_Merges_KeptId",
                table: "Merges",
                column: "KeptId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "AssemblyEvents");

            migrationBuilder.DropTable(
                name: "BroughtTests");

            migrationBuilder.DropTable(
                name: "Changes");

            migrationBuilder.DropTable(
                name: "ColumnMemories");

            migrationBuilder.DropTable(
                name: "ImportLines");

            migrationBuilder.DropTable(
                name: "Merges");

            migrationBuilder.DropTable(
                name: "Imports");

            migrationBuilder.DropIndex(
                name: "IX_Places_Address",
                table: "Places");

            migrationBuilder.DropIndex(
                name: "IX_Places_District",
                table: "Places");

            migrationBuilder.DropIndex(
                name: "IX_Places_East_North",
                table: "Places");

            migrationBuilder.DropIndex(
                name: "IX_Owners_Name",
                table: "Owners");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_AuthorityId_NextDue",
                table: "Assemblies");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_LastTestOn_Tag",
                table: "Assemblies");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_MergedIntoId",
                table: "Assemblies");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_NextDue_Tag",
                table: "Assemblies");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_ReplacesId",
                table: "Assemblies");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_SerialKey",
                table: "Assemblies");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_Stuck",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "Mail",
                table: "Owners");

            migrationBuilder.DropColumn(
                name: "DueBy",
                table: "Authorities");

            migrationBuilder.DropColumn(
                name: "BroughtOn",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "BroughtOutcome",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "DueCause",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "DueThen",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "DueUntil",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "DueWhy",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "MergedIntoId",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "Season",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "SerialKey",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "State",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "Stuck",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "StuckNote",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "StuckSince",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "Use",
                table: "Assemblies");

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_AuthorityId",
                table: "Assemblies",
                column: "AuthorityId");
        }
    }
}
