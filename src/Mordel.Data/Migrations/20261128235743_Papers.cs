using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class Papers : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Class",
                table: "Certificates",
                type: "TEXT",
                nullable: false,
                defaultValue: "");

            migrationBuilder.CreateTable(
                name: "Papers",
                columns: table => new
                {
                    Id = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    MediaType = table.Column<string>(type: "TEXT", nullable: false),
                    Bytes = table.Column<long>(type: "INTEGER", nullable: false),
                    AccountId = table.Column<string>(type: "TEXT", nullable: true),
                    At = table.Column<string>(type: "TEXT", nullable: false),
                    By = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Papers", x => x.Id);
                });

            // With their references: another way would make the whole table anew.
            migrationBuilder.Sql(
                "ALTER TABLE Certificates ADD COLUMN AuthorityId TEXT NULL REFERENCES Authorities(Id) ON DELETE RESTRICT;"
            );
            migrationBuilder.Sql(
                "ALTER TABLE Certificates ADD COLUMN PaperId TEXT NULL REFERENCES Papers(Id) ON DELETE RESTRICT;"
            );

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_AuthorityId",
                table: "Certificates",
                column: "AuthorityId");

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_PaperId",
                table: "Certificates",
                column: "PaperId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropForeignKey(
                name: "FK_Certificates_Authorities_AuthorityId",
                table: "Certificates");

            migrationBuilder.DropForeignKey(
                name: "FK_Certificates_Papers_PaperId",
                table: "Certificates");

            migrationBuilder.DropTable(
                name: "Papers");

            migrationBuilder.DropIndex(
                name: "IX_Certificates_AuthorityId",
                table: "Certificates");

            migrationBuilder.DropIndex(
                name: "IX_Certificates_PaperId",
                table: "Certificates");

            migrationBuilder.DropColumn(
                name: "AuthorityId",
                table: "Certificates");

            migrationBuilder.DropColumn(
                name: "Class",
                table: "Certificates");

            migrationBuilder.DropColumn(
                name: "PaperId",
                table: "Certificates");
        }
    }
}
