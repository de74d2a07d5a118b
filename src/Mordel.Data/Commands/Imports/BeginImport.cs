using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Core.Register;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>What somebody says of a file's columns.</summary>
/// <param name="Fields">The field of each column, in order; empty where it is left out.</param>
/// <param name="Orders">How each writes days, in order; empty where that is seen.</param>
/// <param name="Authority">The authority of lines that name none; empty where each names one.</param>
/// <param name="Rules">The rules of authorities that are not known.</param>
public sealed record SaidColumns(
    IReadOnlyList<string> Fields,
    IReadOnlyList<string> Orders,
    string? Authority,
    string? Rules
);

/// <summary>Takes a file, and what a person says of its columns. Nothing of it reaches the register yet.</summary>
public sealed class BeginImport(
    Store store,
    IFiles files,
    ITableReader reader,
    ProfileList profiles,
    TimeProvider clock
)
{
    private const int LongestName = 120;

    /// <summary>Where a file is kept.</summary>
    public static string FileOf(Guid importId) => $"imports/{importId:n}";

    /// <summary>Takes a file and recognises its columns.</summary>
    /// <param name="file">The file.</param>
    /// <param name="name">Its name.</param>
    /// <param name="sender">Whose it is; what was said of their columns before is remembered.</param>
    /// <param name="by">Who brings it.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> Take(Stream file, string name, string? sender, string by, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(file);
        ArgumentNullException.ThrowIfNull(name);
        var from = string.IsNullOrWhiteSpace(sender) ? Stem(name) : sender.Trim();
        if (from.Length > LongestName || from.Any(char.IsControl))
            return Reply<Guid>.Refused($"The sender may have {LongestName} plain characters.");
        var id = Guid.CreateVersion7();
        try
        {
            await files.Keep(FileOf(id), file, cancel);
        }
        catch (IOException)
        {
            return Reply<Guid>.Refused("There is no room for the file on the server. Nothing was changed.");
        }

        ImmutableArray<ImportColumn> columns;
        try
        {
            await using var kept = files.Open(FileOf(id))!;
            var (heads, first) = ImportFile.Begin(reader, kept);
            columns = ColumnGuess.Of(heads, first, await Remembered(from, cancel));
        }
        catch (TableRefusedException e)
        {
            await files.Remove(FileOf(id), cancel);
            return Reply<Guid>.Refused(e.Message);
        }

        var authorities = await store.Authorities.Select(a => a.Name).Take(2).ToListAsync(cancel);
        store.Imports.Add(
            new()
            {
                Id = id,
                FileName = name.Length > LongestName ? name[^LongestName..] : name,
                Sender = from,
                By = by,
                At = clock.Now(),
                State = ImportStates.Columns,
                Columns = ImportColumns.Write(columns),
                Authority = authorities is [var only] ? only : "",
                Rules = (await profiles.All(cancel))[0].Id,
            }
        );
        await store.SaveChangesAsync(cancel);
        return id;
    }

    /// <summary>Keeps what a person says of the columns, and remembers it; the file waits to be checked.</summary>
    public async Task<Reply<Guid>> Say(Guid importId, SaidColumns said, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(said);
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Imports.FirstOrDefaultAsync(i => i.Id == importId, cancel) is not { } import)
            return Reply<Guid>.NotFound("There is no such import.");
        if (import.State is not (ImportStates.Columns or ImportStates.Checked or ImportStates.Stopped))
            return Reply<Guid>.Refused("This file is being worked on, or was taken in already.");
        var before = ImportColumns.Read(import.Columns);
        var fields = new FieldErrors();
        var columns = before
            .Select(
                (c, i) =>
                    c with
                    {
                        Field = RegisterFields.Named(said.Fields.ElementAtOrDefault(i))?.Id,
                        Order = Enum.TryParse<DayOrder>(said.Orders.ElementAtOrDefault(i), out var order)
                            ? order
                            : c.Order,
                    }
            )
            .ToList();
        foreach (var twice in columns.Where(c => c.Field is not null).GroupBy(c => c.Field).Where(g => g.Count() > 1))
            fields.That(
                "fields",
                false,
                $"{RegisterFields.Named(twice.Key)!.Label}: {string.Join(" and ", twice.Select(c => c.Head))} cannot "
                    + "both be it."
            );
        foreach (var wanted in (RegisterField[])[AssemblyFields.Serial, AssemblyFields.Type])
            fields.That(
                "fields",
                columns.Exists(c => c.Of == wanted),
                $"Say which column holds the {wanted.Label.ToLowerInvariant()}: an assembly is known by it."
            );
        var rules = fields.OneOf(
            "rules",
            said.Rules,
            "Rules",
            [.. (await profiles.All(cancel)).Select(p => p.Id).Distinct()]
        );
        fields.That("authority", (said.Authority?.Length ?? 0) <= LongestName, "The authority's name is too long.");
        if (fields.Any)
            return fields;
        import.Columns = ImportColumns.Write(columns);
        (import.Authority, import.Rules) = (said.Authority?.Trim() ?? "", rules);
        (import.State, import.Says) = (ImportStates.Checking, null);
        import.Counted(new());
        var memory = await store.ColumnMemories.Where(m => m.Sender == import.Sender).ToListAsync(cancel);
        foreach (var column in columns.DistinctBy(c => RegisterField.Bare(c.Head)))
        {
            var head = RegisterField.Bare(column.Head);
            var kept = memory.Find(m => m.Head == head);
            if (kept is null)
                store.ColumnMemories.Add(
                    kept = new()
                    {
                        Sender = import.Sender,
                        Head = head,
                        Field = "",
                    }
                );
            kept.Field = column.Field ?? "";
        }

        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return importId;
    }

    private async Task<Dictionary<string, string>> Remembered(string sender, CancellationToken cancel) =>
        await store.ColumnMemories.Where(m => m.Sender == sender).ToDictionaryAsync(m => m.Head, m => m.Field, cancel);

    private static string Stem(string name) =>
        Path.GetFileNameWithoutExtension(name) is { Length: > 0 and <= LongestName } stem ? stem : "a file";
}
