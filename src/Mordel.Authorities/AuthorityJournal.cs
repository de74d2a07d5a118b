using System.Text;
using System.Text.Json;

namespace Mordel.Authorities;

/// <summary>
/// What a service has decided, line by line in a file: a line is on the disk before its sender is answered, so that a
/// service that was killed knows after its next start what it has taken.
/// </summary>
public sealed class AuthorityJournal : IDisposable
{
    private readonly Lock writing = new();
    private readonly List<JournalEntry> entries = [];
    private readonly FileStream file;

    /// <summary>Opens the journal of a folder; makes both where they are not there.</summary>
    public AuthorityJournal(string folder)
    {
        Directory.CreateDirectory(folder);
        file = new(Path.Combine(folder, "journal.jsonl"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.Read);
        using var reader = new StreamReader(file, Encoding.UTF8, false, 1 << 14, leaveOpen: true);
        var whole = 0L;
        while (reader.ReadLine() is { } line)
        {
            if (Read(line) is not { } entry)
                break;
            entries.Add(entry);
            whole += Encoding.UTF8.GetByteCount(line) + 1;
        }

        // What was cut off in the middle was never answered.
        file.SetLength(Math.Min(whole, file.Length));
        file.Seek(0, SeekOrigin.End);
    }

    /// <summary>All of it, the first first.</summary>
    public IReadOnlyList<JournalEntry> All
    {
        get
        {
            lock (writing)
                return [.. entries];
        }
    }

    /// <summary>
    /// Decides something: looks at what was said about a key, the last last, and writes down what is answered; nothing
    /// where null is.
    /// </summary>
    public JournalEntry? Write(string key, Func<IReadOnlyList<JournalEntry>, long, JournalEntry?> decide)
    {
        ArgumentNullException.ThrowIfNull(decide);
        lock (writing)
        {
            var entry = decide([.. entries.Where(e => e.Key == key)], entries.Count + 1);
            if (entry is null)
                return null;
            file.Write(Encoding.UTF8.GetBytes(JsonSerializer.Serialize(entry) + "\n"));
            file.Flush(flushToDisk: true);
            entries.Add(entry);
            return entry;
        }
    }

    private static JournalEntry? Read(string line)
    {
        try
        {
            return JsonSerializer.Deserialize<JournalEntry>(line);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <inheritdoc/>
    public void Dispose() => file.Dispose();
}
