using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Notices : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateOnly>(
                name: "RemindedOf",
                table: "Stops",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "ToldDay",
                table: "Stops",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<TimeOnly>(
                name: "ToldFrom",
                table: "Stops",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<TimeOnly>(
                name: "ToldUntil",
                table: "Stops",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "OccupantMail",
                table: "Places",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Language",
                table: "Owners",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            // A column that may be empty from now on needs the table made anew; nothing refers to it yet, so that it is
            // done in one transaction with all the rest.
            migrationBuilder.Sql("""
                CREATE TABLE "OutboxNew" (
                    "Id" TEXT NOT NULL CONSTRAINT "PK_Outbox" PRIMARY KEY,
                    "ExpiresAt" TEXT NOT NULL,
                    "Key" TEXT NOT NULL,
                    "Kind" TEXT NOT NULL DEFAULT 'report',
                    "NextTryAt" TEXT NOT NULL,
                    "OwnerId" TEXT NULL,
                    "PlaceId" TEXT NULL,
                    "Receipt" TEXT NULL,
                    "Recipient" TEXT NOT NULL,
                    "RunId" TEXT NULL,
                    "Says" TEXT NULL,
                    "SettledAt" TEXT NULL,
                    "State" TEXT NOT NULL,
                    "Title" TEXT NOT NULL,
                    "To" TEXT NOT NULL,
                    "Tries" INTEGER NOT NULL,
                    "Way" TEXT NOT NULL,
                    "WrittenAt" TEXT NOT NULL,
                    CONSTRAINT "FK_Outbox_Runs_RunId" FOREIGN KEY ("RunId") REFERENCES "Runs" ("Id") ON DELETE RESTRICT
                );
                INSERT INTO "OutboxNew" ("Id", "ExpiresAt", "Key", "NextTryAt", "Receipt", "Recipient", "RunId", "Says",
                    "SettledAt", "State", "Title", "To", "Tries", "Way", "WrittenAt")
                SELECT "Id", "ExpiresAt", "Key", "NextTryAt", "Receipt", "Recipient", "RunId", "Says",
                    "SettledAt", "State", "Title", "To", "Tries", "Way", "WrittenAt" FROM "Outbox";
                DROP TABLE "Outbox";
                ALTER TABLE "OutboxNew" RENAME TO "Outbox";
                CREATE UNIQUE INDEX "IX_Outbox_Key" ON "Outbox" ("Key");
                CREATE INDEX "IX_Outbox_RunId" ON "Outbox" ("RunId");
                CREATE INDEX "IX_Outbox_State_NextTryAt" ON "Outbox" ("State", "NextTryAt");
                CREATE INDEX "IX_Outbox_State_SettledAt" ON "Outbox" ("State", "SettledAt");
                """);

            migrationBuilder.AddColumn<string>(
                name: "AlertsTo",
                table: "Authorities",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Consents",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    AssemblyId = table.Column<string>(type: "TEXT", nullable: false),
                    StopId = table.Column<string>(type: "TEXT", nullable: true),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    Yes = table.Column<bool>(type: "INTEGER", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: true),
                    From = table.Column<TimeOnly>(type: "TEXT", nullable: false),
                    Until = table.Column<TimeOnly>(type: "TEXT", nullable: false),
                    AskFor = table.Column<string>(type: "TEXT", nullable: false),
                    Note = table.Column<string>(type: "TEXT", nullable: false),
                    LinkId = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Consents", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Consents_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Incoming",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    MessageId = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    From = table.Column<string>(type: "TEXT", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    Bounced = table.Column<bool>(type: "INTEGER", nullable: false),
                    OutboxId = table.Column<string>(type: "TEXT", nullable: true),
                    SeenAt = table.Column<string>(type: "TEXT", nullable: true),
                    SeenBy = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Incoming", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Letters",
                columns: table => new
                {
                    OutboxId = table.Column<string>(type: "TEXT", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    Html = table.Column<string>(type: "TEXT", nullable: false),
                    LinkId = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Letters", x => x.OutboxId);
                    table.ForeignKey(
                        name: "FK_Letters_Outbox_OutboxId",
                        column: x => x.OutboxId,
                        principalTable: "Outbox",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Links",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Purpose = table.Column<string>(type: "TEXT", nullable: false),
                    OfId = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<string>(type: "TEXT", nullable: false),
                    ExpiresAt = table.Column<string>(type: "TEXT", nullable: true),
                    RevokedAt = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Links", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "NoticeSwitches",
                columns: table => new
                {
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Off = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NoticeSwitches", x => x.Kind);
                });

            migrationBuilder.CreateTable(
                name: "NoticeTemplates",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    ProfileId = table.Column<string>(type: "TEXT", nullable: true),
                    Language = table.Column<string>(type: "TEXT", nullable: false),
                    Version = table.Column<int>(type: "INTEGER", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<string>(type: "TEXT", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NoticeTemplates", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Notices",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    AssemblyId = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    To = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false),
                    OutboxId = table.Column<string>(type: "TEXT", nullable: true),
                    StopId = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Notices", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Notices_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Consents_AssemblyId_At",
                table: "Consents",
                columns: new[] { "AssemblyId", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_Consents_At",
                table: "Consents",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_Incoming_MessageId",
                table: "Incoming",
                column: "MessageId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Incoming_OutboxId",
                table: "Incoming",
                column: "OutboxId");

            migrationBuilder.CreateIndex(
                name: "IX_Incoming_SeenAt",
                table: "Incoming",
                column: "SeenAt");

            migrationBuilder.CreateIndex(
                name: "IX_Links_Hash",
                table: "Links",
                column: "Hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Links_OfId_Purpose",
                table: "Links",
                columns: new[] { "OfId", "Purpose" });

            migrationBuilder.CreateIndex(
                name: "IX_NoticeTemplates_Kind_ProfileId_Language_Version",
                table: "NoticeTemplates",
                columns: new[] { "Kind", "ProfileId", "Language", "Version" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Notices_AssemblyId_At",
                table: "Notices",
                columns: new[] { "AssemblyId", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_Notices_OutboxId",
                table: "Notices",
                column: "OutboxId");

            // Links that hold go on holding: they are found by the same hash.
            migrationBuilder.Sql("""
                INSERT INTO "Links" ("Id", "Purpose", "OfId", "Hash", "MadeBy", "MadeAt", "ExpiresAt", "RevokedAt")
                SELECT "Id", 'look', "DiagnosisId", "Hash", "MadeBy", "MadeAt", "ExpiresAt", "RevokedAt" FROM "OwnerLinks"
                UNION ALL
                SELECT "Id", 'calendar', "AccountId", "Hash", '', "MadeAt", NULL, "RevokedAt" FROM "CalendarLinks"
                """);

            migrationBuilder.DropTable(
                name: "CalendarLinks");

            migrationBuilder.DropTable(
                name: "OwnerLinks");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Consents");

            migrationBuilder.DropTable(
                name: "Incoming");

            migrationBuilder.DropTable(
                name: "Letters");

            migrationBuilder.DropTable(
                name: "Links");

            migrationBuilder.DropTable(
                name: "NoticeSwitches");

            migrationBuilder.DropTable(
                name: "NoticeTemplates");

            migrationBuilder.DropTable(
                name: "Notices");

            migrationBuilder.DropColumn(
                name: "RemindedOf",
                table: "Stops");

            migrationBuilder.DropColumn(
                name: "ToldDay",
                table: "Stops");

            migrationBuilder.DropColumn(
                name: "ToldFrom",
                table: "Stops");

            migrationBuilder.DropColumn(
                name: "ToldUntil",
                table: "Stops");

            migrationBuilder.DropColumn(
                name: "OccupantMail",
                table: "Places");

            migrationBuilder.DropColumn(
                name: "Language",
                table: "Owners");

            migrationBuilder.DropColumn(
                name: "Kind",
                table: "Outbox");

            migrationBuilder.DropColumn(
                name: "OwnerId",
                table: "Outbox");

            migrationBuilder.DropColumn(
                name: "PlaceId",
                table: "Outbox");

            migrationBuilder.DropColumn(
                name: "AlertsTo",
                table: "Authorities");

            migrationBuilder.AlterColumn<string>(
                name: "RunId",
                table: "Outbox",
                type: "TEXT",
                nullable: false,
                defaultValue: "",
                oldClrType: typeof(string),
                oldType: "TEXT",
                oldNullable: true);

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
                name: "OwnerLinks",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    DiagnosisId = table.Column<string>(type: "TEXT", nullable: false),
                    ExpiresAt = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    MadeAt = table.Column<string>(type: "TEXT", nullable: false),
                    MadeBy = table.Column<string>(type: "TEXT", nullable: false),
                    RevokedAt = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OwnerLinks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_OwnerLinks_Diagnoses_DiagnosisId",
                        column: x => x.DiagnosisId,
                        principalTable: "Diagnoses",
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
                name: "IX_OwnerLinks_DiagnosisId",
                table: "OwnerLinks",
                column: "DiagnosisId");

            migrationBuilder.CreateIndex(
                name: "IX_OwnerLinks_Hash",
                table: "OwnerLinks",
                column: "Hash",
                unique: true);
        }
    }
}
