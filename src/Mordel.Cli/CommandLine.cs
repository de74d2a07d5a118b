using System.CommandLine;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Data.Startup;

namespace Mordel.Cli;

/// <summary>
/// The command line. Exit 0 done, 1 could not be done, 2 bad input: one line an error with its place.
/// </summary>
public static partial class CommandLine
{
    /// <summary>How a command ended.</summary>
    public const int Done = 0,
        CouldNot = 1,
        BadInput = 2;

    /// <summary>Where the data folder is named when no option does.</summary>
    public const string DataVariable = "MORDEL_DATA";

    /// <summary>Where atlases are made when no option says.</summary>
    public const string AtlasVariable = "MORDEL_ATLASES";

    /// <summary>Runs one command.</summary>
    public static async Task<int> Run(string[] args, TextReader input, TextWriter output, TextWriter error)
    {
        ArgumentNullException.ThrowIfNull(args);
        ArgumentNullException.ThrowIfNull(error);
        if (args is [] or ["help"])
            return await SayUsage(error);
        // A file may have any name, one that begins with @ too.
        var given = Commands(input, output, error).Parse(args, new() { ResponseFileTokenReplacer = null });
        if (given.Errors.Count > 0)
        {
            foreach (var wrong in given.Errors)
                await error.WriteLineAsync(wrong.Message);
            return await SayUsage(error);
        }

        try
        {
            return await given.InvokeAsync(
                new()
                {
                    Output = output,
                    Error = error,
                    EnableDefaultExceptionHandler = false,
                }
            );
        }
        catch (StartRefusedException e)
        {
            await error.WriteLineAsync(e.Message);
            return CouldNot;
        }
    }

    /// <summary>The profiles of an installation, or those that come with Mordel where there is none.</summary>
    public static async Task<IReadOnlyList<Profile>> Profiles(StoreAddress? address)
    {
        if (address is null)
            return BuiltInProfiles.All;
        await using var installation = await Installations.Open(address);
        return await installation.Profiles();
    }

    private static RootCommand Commands(TextReader input, TextWriter output, TextWriter error)
    {
        var where = new WhereOptions();
        return new("Tests of backflow preventers: judged, simulated, marked, written out, checked.")
        {
            where.Data,
            where.Store,
            Evaluate(where, input, output, error),
            Simulate(where, input, output, error),
            Diagnose(input, output, error),
            PlanCommand.Command(input, output, error),
            MakeAtlas(error),
            Mark(input, output, error),
            Procedure(where, output, error),
            Verify(where, output, error),
            SealCommands.RotateKeyCommand(where, output, error),
            Import(where, output, error),
            Export(where, output, error),
            SealCommands.ArchiveCommand(where, error),
            MoveCommand.Command(where, output, error),
            BackupCommands.BackupCommand(where, output, error),
            BackupCommands.RestoreCommand(where, output, error),
            BackupCommands.RebuildCommand(where, output, error),
            LetInCommand.Command(where, output, error),
            HealthyCommand.Command(output, error),
            AuthorityCommand.Command(output, error),
        };
    }

    internal static Argument<string> File(string says) => new("FILE") { Description = $"{says}; - for standard input" };

    private static Command Evaluate(WhereOptions where, TextReader input, TextWriter output, TextWriter error)
    {
        var file = File("A test record");
        var command = new Command("evaluate", "Judges a test record") { file };
        command.SetAction(async given =>
            await RecordCommands.Evaluate(
                given.GetRequiredValue(file),
                await Profiles(where.IfAny(given)),
                input,
                output,
                error
            )
        );
        return command;
    }

    private static Command Simulate(WhereOptions where, TextReader input, TextWriter output, TextWriter error)
    {
        var file = File("A scenario");
        var trace = new Option<string?>("--trace") { Description = "Where every moment is written", HelpName = "FILE" };
        var command = new Command("simulate", "Performs a simulated test on the model of the water") { file, trace };
        command.SetAction(async given =>
            await RecordCommands.Simulate(
                given.GetRequiredValue(file),
                given.GetValue(trace),
                await Profiles(where.IfAny(given)),
                input,
                output,
                error
            )
        );
        return command;
    }

    private static Command Diagnose(TextReader input, TextWriter output, TextWriter error)
    {
        var file = File("Evidence");
        var command = new Command("diagnose", "Says what may be wrong, and what to look at next") { file };
        command.SetAction(given => DiagnosisCommands.Diagnose(given.GetRequiredValue(file), input, output, error));
        return command;
    }

    private static Command MakeAtlas(TextWriter error)
    {
        var type = new Argument<string?>("TYPE")
        {
            Description = "RP, RP/three-tap, DC, PVB or SVB; all of them when left out",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var into = new Option<string?>("--into") { Description = "Where the files go", HelpName = "DIR" };
        var command = new Command("atlas", "Performs imagined assemblies on the model of the water, for diagnosis")
        {
            type,
            into,
        };
        command.SetAction(given =>
            DiagnosisCommands.MakeAtlas(
                given.GetValue(type),
                given.GetValue(into) ?? Environment.GetEnvironmentVariable(AtlasVariable) ?? ".",
                error
            )
        );
        return command;
    }

    private static Command Mark(TextReader input, TextWriter output, TextWriter error)
    {
        var file = File("A recording of the bench");
        var command = new Command("mark", "Marks a recording of the bench") { file };
        command.SetAction(given => RecordCommands.Mark(given.GetRequiredValue(file), input, output, error));
        return command;
    }

    private static Command Procedure(WhereOptions where, TextWriter output, TextWriter error)
    {
        var id = new Argument<string>("ID") { Description = string.Join(" ", SchoolCatalogue.All.Select(p => p.Id)) };
        var kit = new Option<string>("--kit") { Description = "The kit", Required = true };
        var profile = new Option<string?>("--profile") { Description = "A profile's name or file" };
        var body = new Option<string?>("--body") { Description = "The body, where the type has several" };
        var with = new Option<string?>("--with") { Description = "What the body or the visit has, between commas" };
        var json = new Option<bool>("--json") { Description = "As data" };
        var command = new Command("procedure", "Writes a run sheet out") { id, kit, profile, body, with, json };
        command.SetAction(given =>
            ProcedureCommand.Print(
                new(
                    given.GetRequiredValue(id),
                    given.GetRequiredValue(kit),
                    given.GetValue(profile),
                    given.GetValue(body),
                    given.GetValue(with)?.Split(',', StringSplitOptions.TrimEntries) ?? [],
                    given.GetValue(json)
                ),
                where.IfAny(given),
                output,
                error
            )
        );
        return command;
    }

    private static Command Verify(WhereOptions where, TextWriter output, TextWriter error)
    {
        var file = new Argument<string?>("FILE")
        {
            Description = "A report's PDF or data; without one, every seal of the installation",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var key = new Option<string?>("--key") { Description = "Published keys", HelpName = "FILE" };
        var command = new Command("verify", "Checks seals") { file, key };
        command.SetAction(given =>
            given.GetValue(file) is { } report
                ? SealCommands.VerifyFile(report, given.GetValue(key), where.IfAny(given), output, error)
                : SealCommands.VerifyAll(where.Own(given), output, error)
        );
        return command;
    }

    private static Command Import(WhereOptions where, TextWriter output, TextWriter error)
    {
        var file = new Argument<string>("FILE") { Description = "CSV or xlsx: assemblies, and tests made elsewhere" };
        var dryRun = new Option<bool>("--dry-run") { Description = "Says what would become of it; changes nothing" };
        var command = new Command("import", "Brings a file into the register") { file, dryRun };
        command.SetAction(given =>
            RegisterCommands.Import(
                given.GetRequiredValue(file),
                where.Own(given),
                given.GetValue(dryRun),
                output,
                error
            )
        );
        return command;
    }

    private static Command Export(WhereOptions where, TextWriter output, TextWriter error)
    {
        var what = new Argument<string>("WHAT") { Description = string.Join(" ", Exports.All) };
        var file = new Argument<string>("FILE")
        {
            Description = "Its ending says how: .csv, .json, .geojson, .ics; - for CSV on standard output",
        };
        var command = new Command("export", "Writes a table of what is kept") { what, file };
        command.SetAction(given =>
            RegisterCommands.Export(
                given.GetRequiredValue(what),
                given.GetRequiredValue(file),
                where.Own(given),
                output,
                error
            )
        );
        return command;
    }

    private static async Task<int> SayUsage(TextWriter error)
    {
        await error.WriteLineAsync(Usage);
        return BadInput;
    }
}
