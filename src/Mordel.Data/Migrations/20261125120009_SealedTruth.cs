using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class SealedTruth : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "Alarms",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Subject = table.Column<string>(type: "TEXT", nullable: false),
                    Says = table.Column<string>(type: "TEXT", nullable: false),
                    FirstSeenAt = table.Column<string>(type: "TEXT", nullable: false),
                    LastSeenAt = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Alarms", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Chains",
                columns: table => new
                {
                    AssemblyId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Head = table.Column<string>(type: "TEXT", nullable: false),
                    Signature = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Chains", x => x.AssemblyId);
                });

            migrationBuilder.CreateTable(
                name: "EarlierSeals",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Serial = table.Column<string>(type: "TEXT", nullable: true),
                    Kit = table.Column<string>(type: "TEXT", nullable: true),
                    Certificate = table.Column<string>(type: "TEXT", nullable: true),
                    Ink = table.Column<string>(type: "TEXT", nullable: true),
                    PreviousHash = table.Column<string>(type: "TEXT", nullable: true),
                    Hash = table.Column<string>(type: "TEXT", nullable: true),
                    KeySignature = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_EarlierSeals", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "KeptTexts",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Text = table.Column<byte[]>(type: "BLOB", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_KeptTexts", x => x.Hash);
                });

            migrationBuilder.CreateTable(
                name: "Ledger",
                columns: table => new
                {
                    Id = table.Column<int>(type: "INTEGER", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    Signature = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Ledger", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Seals",
                columns: table => new
                {
                    Number = table.Column<long>(type: "INTEGER", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Sequence = table.Column<int>(type: "INTEGER", nullable: false),
                    RunId = table.Column<Guid>(type: "TEXT", nullable: false),
                    AmendmentId = table.Column<Guid>(type: "TEXT", nullable: true),
                    Link = table.Column<string>(type: "TEXT", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Signature = table.Column<string>(type: "TEXT", nullable: false),
                    Record = table.Column<byte[]>(type: "BLOB", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Seals", x => x.Number);
                    table.ForeignKey(
                        name: "FK_Seals_Runs_RunId",
                        column: x => x.RunId,
                        principalTable: "Runs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "SigningKeys",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    PublicKey = table.Column<string>(type: "TEXT", nullable: false),
                    Since = table.Column<string>(type: "TEXT", nullable: false),
                    RetiredAt = table.Column<string>(type: "TEXT", nullable: true),
                    Endorsement = table.Column<string>(type: "TEXT", nullable: false),
                    Succession = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SigningKeys", x => x.Id);
                });

            // What sealed a run or an amendment under the earlier form is kept apart, as it was. Columns go by SQLite's own statement, within the transaction: a
            // table that is built anew would not survive being killed half way.
            migrationBuilder.Sql(
                """
                INSERT INTO EarlierSeals (Id, Serial, Kit, Certificate, Ink, PreviousHash, Hash, KeySignature)
                SELECT Id, SealedSerial, SealedKit, Certificate, Ink, PreviousHash, Hash, KeySignature FROM Runs WHERE SignedAt IS NOT NULL;
                INSERT INTO EarlierSeals (Id, PreviousHash, Hash, KeySignature)
                SELECT Id, PreviousHash, Hash, KeySignature FROM Amendments;
                ALTER TABLE Runs DROP COLUMN SealedSerial;
                ALTER TABLE Runs DROP COLUMN SealedKit;
                ALTER TABLE Runs DROP COLUMN Certificate;
                ALTER TABLE Runs DROP COLUMN Hash;
                ALTER TABLE Runs DROP COLUMN Ink;
                ALTER TABLE Runs DROP COLUMN KeySignature;
                ALTER TABLE Runs DROP COLUMN PreviousHash;
                ALTER TABLE Amendments DROP COLUMN Hash;
                ALTER TABLE Amendments DROP COLUMN KeySignature;
                ALTER TABLE Amendments DROP COLUMN PreviousHash;
                """);

            migrationBuilder.AddColumn<int>(
                name: "NotEntered",
                table: "Runs",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "Setup",
                table: "Runs",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Number",
                table: "Runs",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Runs_Number",
                table: "Runs",
                column: "Number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Alarms_Subject_Says",
                table: "Alarms",
                columns: new[] { "Subject", "Says" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Seals_AssemblyId_Sequence",
                table: "Seals",
                columns: new[] { "AssemblyId", "Sequence" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Seals_RunId_AmendmentId",
                table: "Seals",
                columns: new[] { "RunId", "AmendmentId" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new NotSupportedException("What was sealed cannot be taken back into the earlier form; restore the backup that was made before.");
    }
}
