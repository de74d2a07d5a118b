using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data;

/// <summary>How the counts of the standing are kept: few rows, whatever the number of tests.</summary>
internal static class StandingTables
{
    /// <summary>Adds them.</summary>
    public static void Standing(this ModelBuilder builder)
    {
        builder
            .Entity<StandingCountRow>()
            .HasKey(x => new
            {
                x.Dimension,
                x.Type,
                x.Value,
                x.Month,
                x.Again,
            });
        builder
            .Entity<PartYearRow>()
            .HasKey(x => new
            {
                x.Type,
                x.Part,
                x.Mended,
                x.Year,
            });
        builder
            .Entity<DurationRow>()
            .HasKey(x => new
            {
                x.ProcedureId,
                x.TesterId,
                x.Step,
                x.Class,
            });
        builder.Entity<DurationStepRow>().HasKey(x => new { x.ProcedureId, x.Step });
        builder.Entity<StandingRow>().Property(x => x.Id).ValueGeneratedNever();
    }
}
