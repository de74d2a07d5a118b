using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data;

/// <summary>How runs, their seals, and what was done are kept.</summary>
internal static class RunTables
{
    /// <summary>Says it.</summary>
    public static void RunsAndSeals(this ModelBuilder builder)
    {
        builder.Entity<RunRow>(e =>
        {
            e.HasOne(r => r.Tester).WithMany().HasForeignKey(r => r.TesterId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<StopRow>().WithMany().HasForeignKey(r => r.StopId);
            e.HasMany(r => r.Entries).WithOne().HasForeignKey(x => x.RunId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(r => r.Amendments).WithOne().HasForeignKey(x => x.RunId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(r => r.Results).WithOne().HasForeignKey(x => x.RunId);
            e.HasMany(r => r.Seals).WithOne().HasForeignKey(x => x.RunId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<KitRow>().WithMany().HasForeignKey(r => r.KitId);
            e.HasIndex(r => r.Number).IsUnique();
            e.HasIndex(r => new { r.KitId, r.SignedAt });
            e.HasIndex(r => new { r.AssemblyId, r.SignedAt });
            // Lists of runs, the newest first: everybody's, somebody's, those that are open.
            e.HasIndex(r => r.StartedAt);
            e.HasIndex(r => new { r.TesterId, r.StartedAt });
            e.HasIndex(r => new { r.SignedAt, r.StartedAt });
            // A stop has one run: two tabs that begin at once meet in the same run.
            e.HasIndex(r => r.StopId).IsUnique();
        });
        builder.Entity<KeptTextRow>().HasKey(t => t.Hash);
        builder.Entity<SealRow>(e =>
        {
            e.HasKey(s => s.Number);
            e.Property(s => s.Number).ValueGeneratedNever();
            // Two links cannot take the same place: a chain does not fork.
            e.HasIndex(s => new { s.AssemblyId, s.Sequence }).IsUnique();
            e.HasIndex(s => new { s.RunId, s.AmendmentId }).IsUnique();
            e.HasIndex(s => s.Code);
        });
        builder.Entity<ChainRow>().HasKey(c => c.AssemblyId);
        builder.Entity<LedgerRow>().Property(l => l.Id).ValueGeneratedNever();
        builder.Entity<AuditRow>(e =>
        {
            e.HasKey(a => a.Number);
            e.Property(a => a.Number).ValueGeneratedNever();
            e.HasIndex(a => new { a.What, a.Number });
            e.HasIndex(a => new { a.On, a.Number });
        });
        builder.Entity<AuditEndRow>().Property(a => a.Id).ValueGeneratedNever();
        builder.Entity<AlarmRow>().ToTable("Alarms").HasIndex(a => new { a.Subject, a.Says }).IsUnique();
        builder.Entity<SigningKeyRow>().ToTable("SigningKeys");
        builder.Entity<EntryRow>().HasKey(e => new { e.RunId, e.EntryId });
        builder.Entity<ResultRow>().ToTable("Results").HasKey(e => new { e.RunId, e.Item });
    }
}
