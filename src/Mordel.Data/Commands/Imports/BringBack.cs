using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Core.Register;
using Mordel.Data.Lists;

namespace Mordel.Data.Commands.Imports;

/// <summary>What became of a file of places, people or kits.</summary>
/// <param name="What">Which of them it holds.</param>
/// <param name="Fresh">How many lines are new.</param>
/// <param name="Changed">How many are there otherwise.</param>
/// <param name="Same">How many are there as the file has them.</param>
public sealed record BroughtBack(string What, int Fresh, int Changed, int Same);

/// <summary>
/// Takes in what was exported elsewhere beside the register: places without assemblies, people with their certificates,
/// kits. All of a file or nothing of it; what is there already is brought to what the file says, nothing is taken away.
/// </summary>
public sealed class BringBack(Store store, ITableReader reader, ChangeLog log, TimeProvider clock)
{
    private const int MostErrors = 12,
        MostLines = 200_000;

    /// <summary>What a file holds by its heads; null where it is none of these.</summary>
    public static string? WhatIs(IReadOnlyList<string> heads)
    {
        ArgumentNullException.ThrowIfNull(heads);
        return Exports.Brought.FirstOrDefault(w => Exports.Heads(w).SequenceEqual(heads.Select(h => h.Trim())));
    }

    /// <summary>Takes a file.</summary>
    /// <param name="file">The file, with the heads of our own exports.</param>
    /// <param name="accounts">Whether whoever brings it may make accounts.</param>
    /// <param name="dryRun">Whether nothing is kept.</param>
    /// <param name="author">Who brings it.</param>
    /// <param name="cancel">Ends it; nothing is kept then.</param>
    public async Task<Reply<BroughtBack>> Take(
        Stream file,
        bool accounts,
        bool dryRun,
        Author author,
        CancellationToken cancel
    )
    {
        List<TableLine> lines;
        try
        {
            lines = [.. reader.Read(file).Take(MostLines + 2)];
        }
        catch (TableRefusedException e)
        {
            return Reply<BroughtBack>.Refused(e.Message);
        }

        if (lines is not [{ Wrong: null, Cells: var heads }, ..] || WhatIs(heads) is not { } what)
            return Reply<BroughtBack>.Refused(
                "This is no file of places, people or kits as they are exported here: its first line must have the "
                    + "same heads in the same order."
            );
        if (lines.Count > MostLines + 1)
            return Reply<BroughtBack>.Refused($"More than {MostLines} lines: bring it in parts.");
        if (what == Exports.People && !accounts)
            return Reply<BroughtBack>.Refused("Only the owner of the installation brings in people.");
        await using var transaction = await store.BeginWriting(cancel);
        var fields = new FieldErrors();
        var rows = new List<BroughtLine>();
        foreach (var line in lines.Skip(1).Where(l => l.Wrong is not null || l.Cells.Any(c => c.Trim().Length > 0)))
        {
            if (line.Wrong is { } wrong)
                fields.That("file", false, $"Line {line.Number}: {wrong}");
            else if (line.Cells.Count != heads.Count)
                fields.That("file", false, $"Line {line.Number} has {line.Cells.Count} cells, not {heads.Count}.");
            else
                rows.Add(new(line.Number, heads, line.Cells, fields));
        }

        var with = author with { How = "brought in" };
        var states = what switch
        {
            Exports.Places => await new BroughtPlaces(store, log, with).Take(rows, cancel),
            Exports.People => await new BroughtPeople(store, log, with).Take(rows, cancel),
            _ => await new BroughtKits(store, log, with, clock).Take(rows, cancel),
        };
        if (fields.Any)
        {
            var first = new FieldErrors();
            foreach (var error in fields.Errors.Take(MostErrors))
                first.That(error.Field, false, error.Says);
            first.That(
                "file",
                fields.Errors.Count <= MostErrors,
                $"and {fields.Errors.Count - MostErrors} more. Nothing was taken in."
            );
            return first;
        }

        if (!dryRun)
        {
            await store.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
        }

        store.ChangeTracker.Clear();
        return new BroughtBack(
            what,
            states.Count(s => s == LineState.New),
            states.Count(s => s == LineState.Changed),
            states.Count(s => s == LineState.Same)
        );
    }
}

/// <summary>A line of such a file.</summary>
/// <param name="Number">Its place in the file.</param>
/// <param name="Heads">The heads.</param>
/// <param name="Cells">As many cells.</param>
/// <param name="Errors">Where what is wrong is said.</param>
internal sealed record BroughtLine(
    int Number,
    IReadOnlyList<string> Heads,
    IReadOnlyList<string> Cells,
    FieldErrors Errors
)
{
    /// <summary>What it says under a head; empty for nothing.</summary>
    public string this[string head]
    {
        get
        {
            for (var i = 0; i < Heads.Count; i++)
                if (Heads[i].Trim() == head)
                    return Cleaner.Plain(Cells[i]);
            throw new ArgumentException($"No head is {head}.", nameof(head));
        }
    }

    /// <summary>Says what is wrong with it, where something is.</summary>
    public bool Wants(bool so, string otherwise)
    {
        Errors.That("file", so, $"Line {Number}: {otherwise}");
        return so;
    }

    /// <summary>A text that must be there.</summary>
    public string Text(string head, int most = 120)
    {
        var text = this[head];
        Wants(text.Length > 0 && text.Length <= most, $"{head} is a text of up to {most} characters.");
        Wants(!text.Any(char.IsControl), $"{head} holds a character that cannot be kept.");
        return text;
    }

    /// <summary>A day that must be there.</summary>
    public DateOnly Day(string head)
    {
        var day = Days.Read(this[head]);
        Wants(day is { Year: >= 1950 and < 2100 }, $"{head} is a day, yyyy-mm-dd.");
        return day ?? default;
    }

    /// <summary>A number that must be there, more than nothing.</summary>
    public decimal Amount(string head, decimal most)
    {
        var read = decimal.TryParse(
            this[head],
            System.Globalization.NumberStyles.AllowDecimalPoint,
            System.Globalization.CultureInfo.InvariantCulture,
            out var number
        );
        Wants(read && number > 0m && number <= most, $"{head} is a number up to {most}.");
        return number;
    }
}
