using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data;

/// <summary>How the office's tables are kept.</summary>
internal static class OfficeTables
{
    /// <summary>Adds them.</summary>
    public static void Office(this ModelBuilder builder)
    {
        builder.Entity<AssemblyEventRow>(e =>
        {
            e.HasOne<AssemblyRow>().WithMany().HasForeignKey(x => x.AssemblyId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(x => x.AssemblyId);
            e.HasIndex(x => x.ImportId).HasFilter("\"ImportId\" IS NOT NULL");
        });
        builder.Entity<BroughtTestRow>(e =>
        {
            e.HasOne<AssemblyRow>().WithMany().HasForeignKey(x => x.AssemblyId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(x => new { x.AssemblyId, x.Day });
            e.HasIndex(x => x.ImportId).HasFilter("\"ImportId\" IS NOT NULL");
        });
        builder.Entity<ChangeRow>(e =>
        {
            e.HasIndex(x => new { x.ThingId, x.At });
            e.HasIndex(x => x.BatchId).HasFilter("\"BatchId\" IS NOT NULL");
        });
        builder.Entity<MergeRow>(e =>
        {
            e.HasIndex(x => x.KeptId);
            e.HasIndex(x => x.GoneId);
        });
        builder.Entity<ImportRow>(e =>
        {
            e.HasIndex(x => x.At);
            e.HasIndex(x => x.State);
        });
        builder.Entity<ImportLineRow>(e =>
        {
            e.HasKey(x => new { x.ImportId, x.Number });
            e.HasOne<ImportRow>().WithMany().HasForeignKey(x => x.ImportId);
            e.HasIndex(x => new
            {
                x.ImportId,
                x.State,
                x.Number,
            });
        });
        builder.Entity<WorkingHoursRow>(e =>
        {
            e.HasKey(x => x.AccountId);
            e.HasOne<Account>().WithMany().HasForeignKey(x => x.AccountId);
        });
        builder.Entity<ProposalRow>(e =>
        {
            e.HasIndex(x => x.At);
            e.HasIndex(x => x.State);
            e.HasMany(x => x.Steps).WithOne().HasForeignKey(x => x.ProposalId);
        });
        builder.Entity<ProposalStepRow>().HasKey(x => new { x.ProposalId, x.Number });
        builder.Entity<ColumnMemoryRow>().HasKey(x => new { x.Sender, x.Head });
    }
}
