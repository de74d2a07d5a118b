using System.Globalization;

namespace Mordel.Data.Backups;

/// <summary>A backup that lies on the shelf.</summary>
/// <param name="File">Where.</param>
/// <param name="At">When it was made.</param>
/// <param name="Bytes">How large it is.</param>
public sealed record ShelvedBackup(string File, DateTimeOffset At, long Bytes);

/// <summary>
/// The folder in which nightly backups lie: the last of each of seven days, four weeks and six months are kept, the
/// others taken away. Whatever else lies there is left alone.
/// </summary>
/// <param name="folder">The folder; made when it is needed.</param>
public sealed class BackupShelf(string folder)
{
    /// <summary>Of how many days, weeks and months the last one is kept.</summary>
    public const int Days = 7,
        Weeks = 4,
        Months = 6;

    private const string Begin = "mordel-",
        End = ".backup",
        Stamp = "yyyyMMdd-HHmmss";

    /// <summary>The folder.</summary>
    public string Folder => folder;

    /// <summary>Where one that is made now goes.</summary>
    public string FileFor(DateTimeOffset at) =>
        Path.Combine(folder, $"{Begin}{at.UtcDateTime.ToString(Stamp, CultureInfo.InvariantCulture)}{End}");

    /// <summary>Those that lie there, the latest first.</summary>
    public IReadOnlyList<ShelvedBackup> All() =>
        Directory.Exists(folder)
            ?
            [
                .. Directory
                    .EnumerateFiles(folder, $"{Begin}*{End}")
                    .Select(f => (File: f, At: TimeOf(f)))
                    .Where(f => f.At is not null)
                    .Select(f => new ShelvedBackup(f.File, f.At!.Value, new FileInfo(f.File).Length))
                    .OrderByDescending(b => b.At),
            ]
            : [];

    /// <summary>Takes away what need not be kept.</summary>
    /// <returns>How many.</returns>
    public int Tidy()
    {
        var all = All();
        var kept = Kept([.. all.Select(b => b.At)]);
        foreach (var backup in all.Where(b => !kept.Contains(b.At)))
            File.Delete(backup.File);
        return all.Count - kept.Count;
    }

    /// <summary>Which of some are kept: the last of each day, week and month, of so many of each as have any.</summary>
    public static IReadOnlySet<DateTimeOffset> Kept(IReadOnlyCollection<DateTimeOffset> made)
    {
        ArgumentNullException.ThrowIfNull(made);
        return new HashSet<DateTimeOffset>([
            .. Last(t => t.UtcDateTime.Date.Ticks, Days),
            .. Last(t => (ISOWeek.GetYear(t.UtcDateTime) * 100L) + ISOWeek.GetWeekOfYear(t.UtcDateTime), Weeks),
            .. Last(t => (t.UtcDateTime.Year * 100L) + t.UtcDateTime.Month, Months),
        ]);

        IEnumerable<DateTimeOffset> Last(Func<DateTimeOffset, long> of, int many) =>
            made.GroupBy(of).OrderByDescending(g => g.Key).Take(many).Select(g => g.Max());
    }

    private static DateTimeOffset? TimeOf(string file) =>
        DateTimeOffset.TryParseExact(
            Path.GetFileName(file)[Begin.Length..^End.Length],
            Stamp,
            CultureInfo.InvariantCulture,
            DateTimeStyles.AssumeUniversal,
            out var at
        )
            ? at
            : null;
}
