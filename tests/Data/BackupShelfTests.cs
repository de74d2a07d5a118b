using CsCheck;
using Mordel.Data.Backups;

namespace Mordel.Data.Tests;

/// <summary>Of many nights some are kept, and the last always.</summary>
[Trait("Store", "File")]
public class BackupShelfTests
{
    private static readonly DateTimeOffset Start = new(2030, 1, 1, 2, 15, 0, TimeSpan.Zero);

    [Fact]
    public void Two_years_of_nights_leave_seven_days_four_weeks_and_six_months()
    {
        var shelf = new List<DateTimeOffset>();
        for (var night = 0; night < 730; night++)
        {
            shelf.Add(Start.AddDays(night));
            shelf = [.. BackupShelf.Kept(shelf)];
            Assert.InRange(
                shelf.Count,
                Math.Min(night + 1, 7),
                BackupShelf.Days + BackupShelf.Weeks + BackupShelf.Months
            );
            Assert.All(Enumerable.Range(0, Math.Min(night + 1, 7)), back =>
                Assert.Contains(Start.AddDays(night - back), shelf)
            );
        }

        Assert.True(shelf.Max() - shelf.Min() > TimeSpan.FromDays(120));
    }

    [Fact]
    public void However_they_were_made_the_last_is_kept_and_tidying_again_takes_none() =>
        Gen.Int[0, 1_000_000]
            .Array[1, 60]
            .Sample(
                minutes =>
                {
                    var made = minutes.Select(m => Start.AddMinutes(m)).ToHashSet();
                    var kept = BackupShelf.Kept(made);
                    return kept.Contains(made.Max())
                        && kept.IsSubsetOf(made)
                        && BackupShelf.Kept([.. kept]).SetEquals(kept);
                },
                iter: 500
            );

    [Fact]
    public void What_else_lies_there_is_left_alone()
    {
        var folder = Directory.CreateTempSubdirectory("mordel-shelf-").FullName;
        try
        {
            var shelf = new BackupShelf(folder);
            for (var night = 0; night < 40; night++)
                File.WriteAllText(shelf.FileFor(Start.AddDays(night)), "x");
            foreach (var other in (string[])["before-1.db", "mordel-holiday.backup", "notes.txt"])
                File.WriteAllText(Path.Combine(folder, other), "x");
            var taken = shelf.Tidy();
            Assert.Equal(40 - taken, shelf.All().Count);
            Assert.Equal(Start.AddDays(39), shelf.All()[0].At);
            Assert.True(taken > 20);
            Assert.Equal(3 + shelf.All().Count, Directory.GetFiles(folder).Length);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
