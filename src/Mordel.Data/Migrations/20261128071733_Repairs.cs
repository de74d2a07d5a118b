using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Repairs : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "ChanceToFail",
                table: "Assemblies",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "LikelyPart",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "PartItems",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Make = table.Column<string>(type: "TEXT", nullable: false),
                    Model = table.Column<string>(type: "TEXT", nullable: false),
                    Size = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Part = table.Column<string>(type: "TEXT", nullable: true),
                    Price = table.Column<string>(type: "TEXT", nullable: false),
                    SupplierNumber = table.Column<string>(type: "TEXT", nullable: false),
                    LeadDays = table.Column<int>(type: "INTEGER", nullable: false),
                    Least = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PartItems", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Repairs",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    AssemblyId = table.Column<string>(type: "TEXT", nullable: false),
                    RunId = table.Column<string>(type: "TEXT", nullable: true),
                    DiagnosisId = table.Column<string>(type: "TEXT", nullable: false),
                    Sheets = table.Column<string>(type: "TEXT", nullable: false),
                    TurnedDiscHolds = table.Column<bool>(type: "INTEGER", nullable: false),
                    OpenedAt = table.Column<string>(type: "TEXT", nullable: false),
                    OpenedBy = table.Column<string>(type: "TEXT", nullable: false),
                    OpenedById = table.Column<string>(type: "TEXT", nullable: false),
                    Stage = table.Column<string>(type: "TEXT", nullable: false),
                    Summary = table.Column<string>(type: "TEXT", nullable: true),
                    ClosedAt = table.Column<string>(type: "TEXT", nullable: true),
                    RetestId = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Repairs", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Repairs_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Repairs_Diagnoses_DiagnosisId",
                        column: x => x.DiagnosisId,
                        principalTable: "Diagnoses",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Repairs_Runs_RunId",
                        column: x => x.RunId,
                        principalTable: "Runs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "PartMoves",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    ItemId = table.Column<string>(type: "TEXT", nullable: false),
                    HolderId = table.Column<string>(type: "TEXT", nullable: true),
                    Count = table.Column<int>(type: "INTEGER", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Why = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PartMoves", x => x.Id);
                    table.ForeignKey(
                        name: "FK_PartMoves_PartItems_ItemId",
                        column: x => x.ItemId,
                        principalTable: "PartItems",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "FollowUps",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    RepairId = table.Column<string>(type: "TEXT", nullable: false),
                    AssemblyId = table.Column<string>(type: "TEXT", nullable: false),
                    What = table.Column<string>(type: "TEXT", nullable: false),
                    Order = table.Column<string>(type: "TEXT", nullable: false),
                    Told = table.Column<string>(type: "TEXT", nullable: false),
                    Due = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    How = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_FollowUps", x => x.Id);
                    table.ForeignKey(
                        name: "FK_FollowUps_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_FollowUps_Repairs_RepairId",
                        column: x => x.RepairId,
                        principalTable: "Repairs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "RepairEntries",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    RepairId = table.Column<string>(type: "TEXT", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    ReceivedAt = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    Json = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_RepairEntries", x => x.Id);
                    table.ForeignKey(
                        name: "FK_RepairEntries_Repairs_RepairId",
                        column: x => x.RepairId,
                        principalTable: "Repairs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_ChanceToFail",
                table: "Assemblies",
                column: "ChanceToFail",
                filter: "\"ChanceToFail\" >= 25");

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_AssemblyId",
                table: "FollowUps",
                column: "AssemblyId");

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_Due",
                table: "FollowUps",
                column: "Due",
                filter: "\"How\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_RepairId",
                table: "FollowUps",
                column: "RepairId");

            migrationBuilder.CreateIndex(
                name: "IX_PartItems_Make_Model_Size_Name",
                table: "PartItems",
                columns: new[] { "Make", "Model", "Size", "Name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_PartMoves_ItemId_HolderId",
                table: "PartMoves",
                columns: new[] { "ItemId", "HolderId" });

            migrationBuilder.CreateIndex(
                name: "IX_RepairEntries_RepairId_Number",
                table: "RepairEntries",
                columns: new[] { "RepairId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_AssemblyId_OpenedAt",
                table: "Repairs",
                columns: new[] { "AssemblyId", "OpenedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_ClosedAt_OpenedAt",
                table: "Repairs",
                columns: new[] { "ClosedAt", "OpenedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_DiagnosisId",
                table: "Repairs",
                column: "DiagnosisId");

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_OpenedAt",
                table: "Repairs",
                column: "OpenedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_RetestId",
                table: "Repairs",
                column: "RetestId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_RunId",
                table: "Repairs",
                column: "RunId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "FollowUps");

            migrationBuilder.DropTable(
                name: "PartMoves");

            migrationBuilder.DropTable(
                name: "RepairEntries");

            migrationBuilder.DropTable(
                name: "PartItems");

            migrationBuilder.DropTable(
                name: "Repairs");

            migrationBuilder.DropIndex(
                name: "IX_Assemblies_ChanceToFail",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "ChanceToFail",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "LikelyPart",
                table: "Assemblies");
        }
    }
}
