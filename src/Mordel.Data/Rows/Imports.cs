using System.Text.Json;
using Mordel.Core.Register;

namespace Mordel.Data.Rows;

/// <summary>How far a file that was brought in is.</summary>
public static class ImportStates
{
    /// <summary>Its columns are to be looked at.</summary>
    public const string Columns = "columns";

    /// <summary>It is to be checked, or is being checked.</summary>
    public const string Checking = "checking";

    /// <summary>It was checked, and waits for somebody to say yes.</summary>
    public const string Checked = "checked";

    /// <summary>It is being taken in.</summary>
    public const string Applying = "applying";

    /// <summary>It was taken in.</summary>
    public const string Applied = "applied";

    /// <summary>It was undone.</summary>
    public const string Undone = "undone";

    /// <summary>It was stopped, or could not be read.</summary>
    public const string Stopped = "stopped";
}

/// <summary>What a person said of a doubtful line.</summary>
public static class LineDecisions
{
    /// <summary>It is the assembly that is there.</summary>
    public const string Same = "same";

    /// <summary>It is another one.</summary>
    public const string New = "new";

    /// <summary>It is left out.</summary>
    public const string Leave = "leave";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [Same, New, Leave];
}

/// <summary>Lines of a file, counted by what becomes of them.</summary>
public sealed class ImportCounts
{
    private readonly int[] counts = new int[Enum.GetValues<LineState>().Length];

    /// <summary>All lines.</summary>
    public int Lines => counts.Sum();

    /// <summary>Those of a state.</summary>
    public int this[LineState state] => counts[(int)state];

    /// <summary>Counts one more.</summary>
    public void Add(LineState state) => counts[(int)state]++;
}

/// <summary>A file that somebody brought in, with what came of it.</summary>
public sealed class ImportRow
{
    public Guid Id { get; set; }
    public required string FileName { get; set; }

    /// <summary>Whose file it is: what is said of its columns is remembered for the next one.</summary>
    public required string Sender { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>One of <see cref="ImportStates"/>.</summary>
    public required string State { get; set; }

    /// <summary>What the columns hold, as JSON.</summary>
    public required string Columns { get; set; }

    /// <summary>The authority of lines that name none; empty where each names one.</summary>
    public string Authority { get; set; } = "";

    /// <summary>The rules of authorities that are not yet known.</summary>
    public required string Rules { get; set; }

    /// <summary>Lines read so far, and what they are.</summary>
    public int Lines { get; set; }
    public int New { get; set; }
    public int Changed { get; set; }
    public int Same { get; set; }
    public int Doubtful { get; set; }
    public int Wrong { get; set; }

    /// <summary>Writes what was counted.</summary>
    public void Counted(ImportCounts counts)
    {
        ArgumentNullException.ThrowIfNull(counts);
        Lines = counts.Lines;
        (New, Changed, Same, Doubtful, Wrong) = (
            counts[LineState.New],
            counts[LineState.Changed],
            counts[LineState.Same],
            counts[LineState.Doubtful],
            counts[LineState.Wrong]
        );
    }

    /// <summary>How many lines are of a state.</summary>
    public int CountOf(LineState state) =>
        state switch
        {
            LineState.New => New,
            LineState.Changed => Changed,
            LineState.Same => Same,
            LineState.Doubtful => Doubtful,
            _ => Wrong,
        };

    /// <summary>What was understood as what, as JSON.</summary>
    public string? Understood { get; set; }

    /// <summary>What went wrong with the whole, for a person; null when nothing did.</summary>
    public string? Says { get; set; }
    public DateTimeOffset? AppliedAt { get; set; }
    public string? AppliedBy { get; set; }
    public DateTimeOffset? UndoneAt { get; set; }
    public string? UndoneBy { get; set; }
}

/// <summary>One line of a file that was brought in.</summary>
public sealed class ImportLineRow
{
    public Guid ImportId { get; set; }
    public int Number { get; set; }

    /// <summary>One of <c>LineState</c>.</summary>
    public required string State { get; set; }

    /// <summary>Its cells as they stand in the file, as JSON.</summary>
    public required string Cells { get; set; }

    /// <summary>Its cells.</summary>
    public IReadOnlyList<string> CellTexts() => JsonSerializer.Deserialize<List<string>>(Cells)!;

    /// <summary>What a person should see of it, as JSON; null where there is nothing.</summary>
    public string? Remarks { get; set; }

    /// <summary>The assembly it is about; null while there is none.</summary>
    public Guid? AssemblyId { get; set; }

    /// <summary>What a person said of a doubtful line, one of <see cref="LineDecisions"/>.</summary>
    public string? Decision { get; set; }

    /// <summary>What taking it in did, as JSON, to undo it; null where it did nothing.</summary>
    public string? Effect { get; set; }
}

/// <summary>What somebody said of a column of a sender's files.</summary>
public sealed class ColumnMemoryRow
{
    public required string Sender { get; set; }

    /// <summary>The head; letters and digits alone, in small letters.</summary>
    public required string Head { get; set; }

    /// <summary>The field; empty where the column is left out.</summary>
    public required string Field { get; set; }
}
