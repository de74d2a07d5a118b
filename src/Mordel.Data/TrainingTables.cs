using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data;

/// <summary>The tables of classes and what learners hand in.</summary>
internal static class TrainingTables
{
    /// <summary>Adds them.</summary>
    public static void Training(this ModelBuilder builder)
    {
        builder.Entity<ClassRow>(e =>
        {
            e.HasOne(c => c.Instructor).WithMany().HasForeignKey(c => c.InstructorId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(c => c.Members).WithOne().HasForeignKey(m => m.ClassId);
            e.HasMany(c => c.Assignments).WithOne(a => a.Class).HasForeignKey(a => a.ClassId);
        });
        builder.Entity<ClassMemberRow>(e =>
        {
            e.HasKey(m => new { m.ClassId, m.AccountId });
            e.HasOne(m => m.Account).WithMany().HasForeignKey(m => m.AccountId);
        });
        builder.Entity<AttemptRow>(e =>
        {
            e.HasOne(a => a.Account).WithMany().HasForeignKey(a => a.AccountId);
            e.HasOne(a => a.Assignment).WithMany().HasForeignKey(a => a.AssignmentId);
            // The column keeps the name it was made with.
            e.Property(a => a.Recording).HasColumnName("Tape");
            e.HasIndex(a => new { a.AccountId, a.HandedInAt });
        });
    }
}
