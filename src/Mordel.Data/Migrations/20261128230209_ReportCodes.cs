using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class ReportCodes : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Code",
                table: "Seals",
                type: "TEXT",
                nullable: true);

            // Of what is sealed already: the first digits of the record's hash, as its link names it.
            migrationBuilder.Sql(
                "UPDATE Seals SET Code = substr(json_extract(Link, '$.record'), 1, 15) WHERE AmendmentId IS NULL;"
            );

            migrationBuilder.CreateIndex(
                name: "IX_Seals_Code",
                table: "Seals",
                column: "Code");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Seals_Code",
                table: "Seals");

            migrationBuilder.DropColumn(
                name: "Code",
                table: "Seals");
        }
    }
}
