using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data;

/// <summary>How what owners are told and answer is kept.</summary>
internal static class NoticeTables
{
    /// <summary>Adds the tables.</summary>
    public static void Notices(this ModelBuilder builder)
    {
        builder.Entity<LinkRow>(e =>
        {
            e.HasIndex(x => x.Hash).IsUnique();
            e.HasIndex(x => new { x.OfId, x.Purpose });
        });
        builder.Entity<LetterRow>(e =>
        {
            e.HasKey(x => x.OutboxId);
            e.HasOne<OutboxRow>().WithMany().HasForeignKey(x => x.OutboxId);
        });
        builder.Entity<NoticeRow>(e =>
        {
            e.HasIndex(x => new { x.AssemblyId, x.At });
            e.HasIndex(x => x.OutboxId);
            e.HasOne<AssemblyRow>().WithMany().HasForeignKey(x => x.AssemblyId).OnDelete(DeleteBehavior.Restrict);
        });
        builder
            .Entity<NoticeTemplateRow>()
            .HasIndex(x => new
            {
                x.Kind,
                x.ProfileId,
                x.Language,
                x.Version,
            })
            .IsUnique();
        builder.Entity<NoticeSwitchRow>().HasKey(x => x.Kind);
        builder.Entity<ConsentRow>(e =>
        {
            e.HasIndex(x => new { x.AssemblyId, x.At });
            e.HasIndex(x => x.At);
            e.HasOne(x => x.Assembly).WithMany().HasForeignKey(x => x.AssemblyId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<IncomingRow>(e =>
        {
            e.HasIndex(x => x.MessageId).IsUnique();
            e.HasIndex(x => x.SeenAt);
            e.HasIndex(x => x.OutboxId);
        });
    }
}
