using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class KitsBeside : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Runs_KitId",
                table: "Runs");

            migrationBuilder.AddColumn<string>(
                name: "ZeroHigh",
                table: "Runs",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ReportsKey",
                table: "Authorities",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Comparisons",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    OneId = table.Column<string>(type: "TEXT", nullable: false),
                    OtherId = table.Column<string>(type: "TEXT", nullable: false),
                    On = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Pairs = table.Column<string>(type: "TEXT", nullable: false),
                    Where = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Comparisons", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Comparisons_Kits_OneId",
                        column: x => x.OneId,
                        principalTable: "Kits",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Comparisons_Kits_OtherId",
                        column: x => x.OtherId,
                        principalTable: "Kits",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Loans",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    KitId = table.Column<string>(type: "TEXT", nullable: false),
                    ToId = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Until = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Loans", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Loans_AspNetUsers_ToId",
                        column: x => x.ToId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Loans_Kits_KitId",
                        column: x => x.KitId,
                        principalTable: "Kits",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Runs_KitId_SignedAt",
                table: "Runs",
                columns: new[] { "KitId", "SignedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Comparisons_OneId",
                table: "Comparisons",
                column: "OneId");

            migrationBuilder.CreateIndex(
                name: "IX_Comparisons_OtherId",
                table: "Comparisons",
                column: "OtherId");

            migrationBuilder.CreateIndex(
                name: "IX_Loans_KitId",
                table: "Loans",
                column: "KitId");

            migrationBuilder.CreateIndex(
                name: "IX_Loans_ToId",
                table: "Loans",
                column: "ToId");

            migrationBuilder.CreateIndex(
                name: "IX_Loans_Until",
                table: "Loans",
                column: "Until");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Comparisons");

            migrationBuilder.DropTable(
                name: "Loans");

            migrationBuilder.DropIndex(
                name: "IX_Runs_KitId_SignedAt",
                table: "Runs");

            migrationBuilder.DropColumn(
                name: "ZeroHigh",
                table: "Runs");

            migrationBuilder.DropColumn(
                name: "ReportsKey",
                table: "Authorities");

            migrationBuilder.CreateIndex(
                name: "IX_Runs_KitId",
                table: "Runs",
                column: "KitId");
        }
    }
}
