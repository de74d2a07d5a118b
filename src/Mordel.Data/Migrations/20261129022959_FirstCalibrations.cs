using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Mordel.Data.Migrations
{
    /// <inheritdoc />
    public partial class FirstCalibrations : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // The calibration that a kit has is the first of its calibrations, unless one was entered since.
            migrationBuilder.Sql(
                """
                INSERT INTO Calibrations (Id, KitId, "On", CalibratedBy, Due, At, By)
                SELECT hex(randomblob(4)) || '-' || hex(randomblob(2)) || '-4' || substr(hex(randomblob(2)), 2)
                        || '-8' || substr(hex(randomblob(2)), 2) || '-' || hex(randomblob(6)),
                    Id, CalibratedOn, CalibratedBy, CalibrationDue, strftime('%Y-%m-%dT%H:%M:%S.000Z', 'now'),
                    'an earlier version'
                FROM Kits
                WHERE Id NOT IN (SELECT KitId FROM Calibrations);
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DELETE FROM Calibrations WHERE By = 'an earlier version';");
        }
    }
}
