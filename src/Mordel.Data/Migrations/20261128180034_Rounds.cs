using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Rounds : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "ChangedAt",
                table: "Stops",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<TimeOnly>(
                name: "PlannedAt",
                table: "Stops",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Sequence",
                table: "Stops",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<bool>(
                name: "ConfinedSpace",
                table: "Assemblies",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WaterOff",
                table: "Assemblies",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "CalendarLinks",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    AccountId = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<string>(type: "TEXT", nullable: false),
                    RevokedAt = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CalendarLinks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_CalendarLinks_AspNetUsers_AccountId",
                        column: x => x.AccountId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Proposals",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    State = table.Column<string>(type: "TEXT", nullable: false),
                    FirstDay = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    LastDay = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Stops = table.Column<int>(type: "INTEGER", nullable: false),
                    LeftOut = table.Column<int>(type: "INTEGER", nullable: false),
                    Problem = table.Column<string>(type: "TEXT", nullable: false),
                    Says = table.Column<string>(type: "TEXT", nullable: true),
                    AcceptedAt = table.Column<string>(type: "TEXT", nullable: true),
                    AcceptedBy = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Proposals", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "WorkingHours",
                columns: table => new
                {
                    AccountId = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<TimeOnly>(type: "TEXT", nullable: false),
                    Until = table.Column<TimeOnly>(type: "TEXT", nullable: false),
                    East = table.Column<int>(type: "INTEGER", nullable: false),
                    North = table.Column<int>(type: "INTEGER", nullable: false),
                    LunchMinutes = table.Column<int>(type: "INTEGER", nullable: false),
                    Skills = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_WorkingHours", x => x.AccountId);
                    table.ForeignKey(
                        name: "FK_WorkingHours_AspNetUsers_AccountId",
                        column: x => x.AccountId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "ProposalSteps",
                columns: table => new
                {
                    ProposalId = table.Column<string>(type: "TEXT", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    Says = table.Column<string>(type: "TEXT", nullable: false),
                    Pins = table.Column<string>(type: "TEXT", nullable: false),
                    Plan = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ProposalSteps", x => new { x.ProposalId, x.Number });
                    table.ForeignKey(
                        name: "FK_ProposalSteps_Proposals_ProposalId",
                        column: x => x.ProposalId,
                        principalTable: "Proposals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_CalendarLinks_AccountId",
                table: "CalendarLinks",
                column: "AccountId");

            migrationBuilder.CreateIndex(
                name: "IX_CalendarLinks_Hash",
                table: "CalendarLinks",
                column: "Hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Proposals_At",
                table: "Proposals",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_Proposals_State",
                table: "Proposals",
                column: "State");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "CalendarLinks");

            migrationBuilder.DropTable(
                name: "ProposalSteps");

            migrationBuilder.DropTable(
                name: "WorkingHours");

            migrationBuilder.DropTable(
                name: "Proposals");

            migrationBuilder.DropColumn(
                name: "ChangedAt",
                table: "Stops");

            migrationBuilder.DropColumn(
                name: "PlannedAt",
                table: "Stops");

            migrationBuilder.DropColumn(
                name: "Sequence",
                table: "Stops");

            migrationBuilder.DropColumn(
                name: "ConfinedSpace",
                table: "Assemblies");

            migrationBuilder.DropColumn(
                name: "WaterOff",
                table: "Assemblies");
        }
    }
}
