using System.Collections.Immutable;

namespace Mordel.Core.Register;

/// <summary>What becomes of a line of a file.</summary>
public enum LineState
{
    /// <summary>Something that is not in the register.</summary>
    New,

    /// <summary>Something in the register, otherwise than it is there.</summary>
    Changed,

    /// <summary>It is there as the line has it.</summary>
    Same,

    /// <summary>A person must say.</summary>
    Doubtful,

    /// <summary>It cannot be taken in.</summary>
    Wrong,
}

/// <summary>Something about a line that a person should see.</summary>
/// <param name="Column">The head of its column; empty where it is the whole line.</param>
/// <param name="Says">A sentence.</param>
public sealed record LineRemark(string Column, string Says);

/// <summary>A line of a file as it was understood.</summary>
/// <param name="Number">Its place in the file; the heads stand in line 1.</param>
/// <param name="Values">What it says, by field; nothing for what is empty.</param>
/// <param name="Wrong">Why it cannot be taken in; empty when it can.</param>
public sealed record ImportLine(
    int Number,
    IReadOnlyDictionary<string, string> Values,
    ImmutableArray<LineRemark> Wrong
)
{
    /// <summary>What it says of a field; null where it says nothing.</summary>
    public string? this[RegisterField field]
    {
        get
        {
            ArgumentNullException.ThrowIfNull(field);
            return Values.GetValueOrDefault(field.Id);
        }
    }

    /// <summary>Understands a line.</summary>
    /// <param name="number">Its place in the file.</param>
    /// <param name="cells">Its cells.</param>
    /// <param name="columns">What the columns hold.</param>
    public static ImportLine Read(int number, IReadOnlyList<string> cells, IReadOnlyList<ImportColumn> columns)
    {
        ArgumentNullException.ThrowIfNull(cells);
        ArgumentNullException.ThrowIfNull(columns);
        var values = new Dictionary<string, string>(columns.Count, StringComparer.Ordinal);
        var wrong = ImmutableArray.CreateBuilder<LineRemark>();
        for (var i = 0; i < columns.Count && i < cells.Count; i++)
        {
            if (columns[i].Of is not { } field)
                continue;
            var (value, why) = Cleaner.Clean(field, cells[i], columns[i].Order);
            if (why is not null)
                wrong.Add(new(columns[i].Head, why));
            else if (value.Length > 0)
                values[field.Id] = value;
        }

        if (cells.Count > columns.Count && cells.Skip(columns.Count).Any(c => !string.IsNullOrWhiteSpace(c)))
            wrong.Add(new("", $"It has {cells.Count} cells, and there are {columns.Count} heads."));
        foreach (var wanted in (RegisterField[])[AssemblyFields.Serial, AssemblyFields.Type])
            if (!values.ContainsKey(wanted.Id))
            {
                var head = columns.FirstOrDefault(c => c.Of == wanted)?.Head;
                if (head is null || !wrong.Any(w => w.Column == head))
                    wrong.Add(new(head ?? "", $"{wanted.Label} is missing."));
            }

        return new(number, values, wrong.ToImmutable());
    }
}
