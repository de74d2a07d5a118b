using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <summary>
    /// What lists read of an attempt stands before what it holds: SQLite reads a row from its beginning, and a
    /// recording fills pages.
    /// </summary>
    public partial class AttemptsForLists : Migration
    {
        private const string Columns =
            "\"Id\", \"AccountId\", \"AssignmentId\", \"ProcedureId\", \"HandedInAt\", \"Seconds\", \"Percent\", "
            + "\"Passed\", \"Lost\", \"Marks\", \"Tape\"";

        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) => migrationBuilder.Sql(Again);

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            // The order is nobody's concern but the reader's.
        }

        private const string Again =
            $"""
            CREATE TABLE "AttemptsAgain" (
                "Id" TEXT NOT NULL CONSTRAINT "PK_Attempts" PRIMARY KEY,
                "AccountId" TEXT NOT NULL,
                "AssignmentId" TEXT NULL,
                "ProcedureId" TEXT NOT NULL,
                "HandedInAt" TEXT NOT NULL,
                "Seconds" INTEGER NOT NULL,
                "Percent" INTEGER NOT NULL,
                "Passed" INTEGER NOT NULL,
                "Lost" TEXT NOT NULL DEFAULT '',
                "Marks" TEXT NOT NULL,
                "Tape" TEXT NOT NULL,
                CONSTRAINT "FK_Attempts_AspNetUsers_AccountId" FOREIGN KEY ("AccountId")
                    REFERENCES "AspNetUsers" ("Id") ON DELETE CASCADE,
                CONSTRAINT "FK_Attempts_Assignments_AssignmentId" FOREIGN KEY ("AssignmentId")
                    REFERENCES "Assignments" ("Id")
            );
            INSERT INTO "AttemptsAgain" ({Columns}) SELECT {Columns} FROM "Attempts";
            DROP TABLE "Attempts";
            ALTER TABLE "AttemptsAgain" RENAME TO "Attempts";
            CREATE INDEX "IX_Attempts_AccountId_HandedInAt" ON "Attempts" ("AccountId", "HandedInAt");
            CREATE INDEX "IX_Attempts_AssignmentId" ON "Attempts" ("AssignmentId");
            """;
    }
}
