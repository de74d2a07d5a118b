using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data;

/// <summary>How repairs, follow-ups and parts lie in the database.</summary>
internal static class RepairTables
{
    public static void Repairs(this ModelBuilder builder)
    {
        builder.Entity<RepairRow>(e =>
        {
            e.HasOne(r => r.Assembly).WithMany().HasForeignKey(r => r.AssemblyId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<RunRow>().WithMany().HasForeignKey(r => r.RunId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<DiagnosisRow>().WithMany().HasForeignKey(r => r.DiagnosisId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(r => r.Entries).WithOne().HasForeignKey(x => x.RepairId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(r => r.FollowUps).WithOne().HasForeignKey(f => f.RepairId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(r => new { r.AssemblyId, r.OpenedAt });
            e.HasIndex(r => new { r.ClosedAt, r.OpenedAt });
            e.HasIndex(r => r.OpenedAt);
            e.HasIndex(r => r.RetestId).IsUnique();
        });
        builder.Entity<RepairEntryRow>(e =>
        {
            e.HasIndex(x => new { x.RepairId, x.Number }).IsUnique();
        });
        builder.Entity<FollowUpRow>(e =>
        {
            e.HasOne(f => f.Assembly).WithMany().HasForeignKey(f => f.AssemblyId).OnDelete(DeleteBehavior.Restrict);
            e.Property(f => f.Id).ValueGeneratedNever();
            e.HasIndex(f => f.AssemblyId);
            e.HasIndex(f => f.Due).HasFilter("\"How\" IS NULL");
        });
        builder.Entity<PartItemRow>(e =>
        {
            e.HasMany(i => i.Moves).WithOne().HasForeignKey(m => m.ItemId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(i => new
                {
                    i.Make,
                    i.Model,
                    i.Size,
                    i.Name,
                })
                .IsUnique();
        });
        builder.Entity<PartMoveRow>().HasIndex(m => new { m.ItemId, m.HolderId });
    }
}
