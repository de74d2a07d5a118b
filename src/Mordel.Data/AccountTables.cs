using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data;

/// <summary>The tables of who is signed in where, and of keys for programs.</summary>
internal static class AccountTables
{
    public static void Accounts(this ModelBuilder builder)
    {
        builder.Entity<TokenRow>(e =>
        {
            e.HasOne(t => t.Account).WithMany().HasForeignKey(t => t.AccountId);
            e.HasIndex(t => t.Hash).IsUnique();
        });
        builder.Entity<SessionRow>(e =>
        {
            e.HasOne(s => s.Account).WithMany().HasForeignKey(s => s.AccountId).OnDelete(DeleteBehavior.Cascade);
            e.HasIndex(s => new { s.AccountId, s.EndedAt });
            e.HasIndex(s => new { s.EndedAt, s.LastSeenAt });
        });
    }
}
