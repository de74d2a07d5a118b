using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using Mordel.Core.Outside;
using Mordel.Core.Register;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Files;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Documents.Interchange;

namespace Mordel.Cli;

/// <summary>What the command line does with the register: a file comes in, tables go out.</summary>
public static class RegisterCommands
{
    private static readonly CancellationToken None = CancellationToken.None;

    /// <summary>Brings a file in, or says what would become of it.</summary>
    /// <param name="path">The file: CSV or xlsx.</param>
    /// <param name="address">The installation; one is begun where there is none.</param>
    /// <param name="dryRun">Whether nothing is changed.</param>
    /// <param name="output">Where the result goes, <c>mordel.import/1</c>.</param>
    /// <param name="error">Where messages go.</param>
    public static async Task<int> Import(
        string path,
        StoreAddress address,
        bool dryRun,
        TextWriter output,
        TextWriter error
    )
    {
        ArgumentNullException.ThrowIfNull(output);
        ArgumentNullException.ThrowIfNull(error);
        var reader = new TableReader();
        try
        {
            await using var file = File.OpenRead(path);
            var (heads, first) = ImportFile.Begin(reader, file);
            if (BringBack.WhatIs(heads) is not null)
                return await Back(path, address, dryRun, output, error);
            var columns = ColumnGuess.Of(heads, first);
            foreach (var wanted in (RegisterField[])[AssemblyFields.Serial, AssemblyFields.Type])
                if (columns.All(c => c.Of != wanted))
                {
                    await error.WriteLineAsync(
                        $"{path}: line 1: no column is the {wanted.Label.ToLowerInvariant()}; there are "
                            + string.Join(", ", heads)
                    );
                    return CommandLine.BadInput;
                }

            await using var installation = await Installations.OpenOrBegin(address);
            return dryRun
                ? await Check(installation, reader, path, columns, output)
                : await Take(installation, reader, path, output, error);
        }
        catch (TableRefusedException e)
        {
            await error.WriteLineAsync($"{path}: {e.Message}");
            return CommandLine.BadInput;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"{path}: cannot be read. {e.Message}");
            return CommandLine.CouldNot;
        }
    }

    // Places, people or kits as they were exported: whoever has the folder owns the installation.
    private static async Task<int> Back(
        string path,
        StoreAddress address,
        bool dryRun,
        TextWriter output,
        TextWriter error
    )
    {
        await using var installation = await Installations.OpenOrBegin(address);
        var (store, clock) = (installation.Store, TimeProvider.System);
        await using var file = File.OpenRead(path);
        var by = Environment.UserName is { Length: > 0 } user ? user : "the command line";
        var taken = await new BringBack(store, new TableReader(), new ChangeLog(store, clock), clock).Take(
            file,
            accounts: true,
            dryRun,
            new(by),
            None
        );
        if (taken.Value is not { } back)
        {
            foreach (var wrong in taken.Errors)
                await error.WriteLineAsync($"{path}: {wrong.Says}");
            return CommandLine.BadInput;
        }

        var report = new ImportReport(output) { What = back.What };
        await report.End(s =>
            s switch
            {
                LineState.New => back.Fresh,
                LineState.Changed => back.Changed,
                LineState.Same => back.Same,
                _ => 0,
            }
        );
        return CommandLine.Done;
    }

    /// <summary>Writes a table.</summary>
    /// <param name="what">One of <see cref="Exports.All"/>.</param>
    /// <param name="path">The file; its ending says how. - for CSV on standard output.</param>
    /// <param name="address">The installation.</param>
    /// <param name="output">Where it goes when the file is -.</param>
    /// <param name="error">Where messages go.</param>
    public static async Task<int> Export(
        string what,
        string path,
        StoreAddress address,
        TextWriter output,
        TextWriter error
    )
    {
        ArgumentNullException.ThrowIfNull(output);
        ArgumentNullException.ThrowIfNull(error);
        var ending = path == "-" ? ".csv" : Path.GetExtension(path).ToLowerInvariant();
        if (!TableWriter.Endings.Contains(ending))
        {
            await error.WriteLineAsync(
                $"{path}: the ending says how it is written; {string.Join(", ", TableWriter.Endings)}"
            );
            return CommandLine.BadInput;
        }

        await using var installation = await Installations.Open(address);
        var exports = new Exports(installation.Store, new(installation.Store, TimeProvider.System));
        if (exports.Of(what, None) is not { } table)
        {
            await error.WriteLineAsync($"{what}: not something to export; {string.Join(", ", Exports.All)}");
            return CommandLine.BadInput;
        }

        if (TableWriter.WhyNot(ending, table) is { } why)
        {
            await error.WriteLineAsync($"{path}: {what} cannot be written as {ending}: {why}");
            return CommandLine.BadInput;
        }

        try
        {
            Task Write(Stream into) =>
                TableWriter.Write(into, ending, what, table, new ZeroStone(0, 0), TimeProvider.System.GetUtcNow());
            if (path == "-")
            {
                using var all = new MemoryStream();
                await Write(all);
                await output.WriteAsync(System.Text.Encoding.UTF8.GetString(all.ToArray()));
            }
            else
            {
                await WholeFile.Write(path, Write);
            }

            return CommandLine.Done;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"{path}: cannot be written. {e.Message}");
            return CommandLine.CouldNot;
        }
    }

    private static async Task<int> Check(
        Installations installation,
        TableReader reader,
        string path,
        IReadOnlyList<ImportColumn> columns,
        TextWriter output
    )
    {
        var check = new CheckImport(
            installation.Store,
            new FolderFiles(Path.Combine(installation.Folder, "files")),
            reader,
            TimeProvider.System
        );
        var counts = new ImportCounts();
        await using var file = File.OpenRead(path);
        var report = new ImportReport(output);
        await foreach (
            var batch in check.Judge(ImportFile.Lines(reader, file, columns), ImportFile.IsOurs(columns), None)
        )
        foreach (var (judged, _) in batch)
        {
            counts.Add(judged.State);
            report.Line(judged.Line.Number, judged.State, judged.Remarks);
        }

        await report.End(s => counts[s]);
        return CommandLine.Done;
    }

    private static async Task<int> Take(
        Installations installation,
        TableReader reader,
        string path,
        TextWriter output,
        TextWriter error
    )
    {
        var (store, clock) = (installation.Store, TimeProvider.System);
        var files = new FolderFiles(Path.Combine(installation.Folder, "files"));
        var profiles = new ProfileList(store);
        var by = Environment.UserName is { Length: > 0 } user ? user : "the command line";
        var begin = new BeginImport(store, files, reader, profiles, clock);
        Guid id;
        await using (var file = File.OpenRead(path))
        {
            var taken = await begin.Take(file, Path.GetFileName(path), null, by, None);
            if (taken.Refusal is { } refusal)
            {
                await error.WriteLineAsync($"{path}: {refusal}");
                return CommandLine.BadInput;
            }

            id = taken.Value;
        }

        var list = new ImportList(store);
        var import = (await list.Of(id, None))!;
        var columns = ImportColumns.Read(import.Columns);
        var said = await begin.Say(
            id,
            new([.. columns.Select(c => c.Field ?? "")], [], import.Authority, import.Rules),
            None
        );
        if (said.Refusal is { } wrong)
        {
            await error.WriteLineAsync($"{path}: {wrong}");
            return CommandLine.BadInput;
        }

        await new CheckImport(store, files, reader, clock).Run(id, None);
        import = (await list.Of(id, None))!;
        if (import.Says is { } says)
        {
            await error.WriteLineAsync($"{path}: {says}");
            return CommandLine.BadInput;
        }

        var apply = new ApplyImport(
            store,
            profiles,
            new(store, profiles, clock),
            new ChangeLog(store, clock),
            new(new()),
            new(new()),
            clock
        );
        await apply.Confirm(id, by, None);
        await apply.Run(id, None);
        var report = new ImportReport(output);
        foreach (var state in (LineState[])[LineState.Doubtful, LineState.Wrong])
            for (var after = 0; ; )
            {
                var lines = await list.Lines(id, state, after, None);
                foreach (var line in lines.Take(ImportList.PageSize))
                    report.Line(line.Row.Number, state, line.Remarks);
                if (lines.Count <= ImportList.PageSize)
                    break;
                after = lines[ImportList.PageSize - 1].Row.Number;
            }

        import = (await list.Of(id, None))!;
        await report.End(import.CountOf);
        return CommandLine.Done;
    }
}
