using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data;

/// <summary>The tables of branches: what belongs to one stands beside it, so that one may be without any.</summary>
internal static class BranchTables
{
    /// <summary>Adds them.</summary>
    public static void Branches(this ModelBuilder builder)
    {
        builder.Entity<BranchRow>().HasIndex(b => b.Name).IsUnique();
        builder.Entity<BranchDistrictRow>(e =>
        {
            e.HasKey(d => d.District);
            e.HasOne(d => d.Branch).WithMany().HasForeignKey(d => d.BranchId);
            // A filter asks whether a branch has a district.
            e.HasIndex(d => new { d.BranchId, d.District });
        });
        builder.Entity<BranchPersonRow>(e =>
        {
            e.HasKey(p => p.AccountId);
            e.HasOne<Account>().WithOne().HasForeignKey<BranchPersonRow>(p => p.AccountId);
            e.HasOne(p => p.Branch).WithMany().HasForeignKey(p => p.BranchId);
        });
        builder.Entity<BranchKitRow>(e =>
        {
            e.HasKey(k => k.KitId);
            e.HasOne<KitRow>().WithOne().HasForeignKey<BranchKitRow>(k => k.KitId);
            e.HasOne(k => k.Branch).WithMany().HasForeignKey(k => k.BranchId);
        });
    }
}
