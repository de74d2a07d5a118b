using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Core.Training;
using Mordel.Data;
using Mordel.Data.Startup;

namespace Mordel.Cli;

/// <summary>
/// The command line. Exit 0 done, 1 could not be done, 2 bad input: one line an error with its place.
/// </summary>
public static class CommandLine
{
    /// <summary>How a command ended.</summary>
    public const int Done = 0,
        CouldNot = 1,
        BadInput = 2;

    /// <summary>Where the data folder is named when no option does.</summary>
    public const string DataVariable = "MORDEL_DATA";

    private const long LargestFile = Node.LargestText;

    /// <summary>Runs one command.</summary>
    public static async Task<int> Run(string[] args, TextReader input, TextWriter output, TextWriter error)
    {
        ArgumentNullException.ThrowIfNull(args);
        var (rest, folder) = DataOption(args);
        try
        {
            return rest switch
            {
                ["evaluate", var file] => await Evaluate(file, await Profiles(folder), input, output, error),
                ["simulate", var file] => await Simulate(file, null, await Profiles(folder), input, output, error),
                ["simulate", var file, "--trace", var trace] => await Simulate(
                    file,
                    trace,
                    await Profiles(folder),
                    input,
                    output,
                    error
                ),
                ["mark", var file] => await Mark(file, input, output, error),
                ["procedure", var id, .. var options] => await PrintProcedure(id, options, folder, output, error),
                ["verify"] => await SealCommands.VerifyAll(folder ?? ".", output, error),
                ["verify", var file] => await SealCommands.VerifyFile(file, null, folder, output, error),
                ["verify", var file, "--key", var key] => await SealCommands.VerifyFile(
                    file,
                    key,
                    folder,
                    output,
                    error
                ),
                ["rotate-key"] => await SealCommands.RotateKey(folder ?? ".", output, error),
                _ => await Usage(error),
            };
        }
        catch (StartRefusedException e)
        {
            await error.WriteLineAsync(e.Message);
            return CouldNot;
        }
    }

    // The option may stand anywhere; without it the folder that the script names, when an installation is there.
    private static (string[] Words, string? Folder) DataOption(string[] args)
    {
        if (Array.IndexOf(args, "--data") is >= 0 and var at && at + 1 < args.Length)
            return ([.. args[..at], .. args[(at + 2)..]], args[at + 1]);
        var named = Environment.GetEnvironmentVariable(DataVariable);
        return (
            args,
            !string.IsNullOrEmpty(named) && File.Exists(Path.Combine(named, StoreOptions.FileName)) ? named : null
        );
    }

    private static async Task<IReadOnlyList<Profile>> Profiles(string? folder)
    {
        if (folder is null)
            return BuiltInProfiles.All;
        await using var installation = await Installations.Open(folder);
        return await installation.Profiles();
    }

    private static async Task<int> Evaluate(
        string file,
        IReadOnlyList<Profile> profiles,
        TextReader input,
        TextWriter output,
        TextWriter error
    )
    {
        var (text, code) = await Text(file, "a test record is a few hundred bytes", input, error);
        if (code != Done)
            return code;
        if (TestRecordFormat.Read(text, out var errors, profiles) is not { } record)
            return await Bad(errors, error);
        await output.WriteLineAsync(VerdictFormat.Write(record.Judge(), indented: true));
        return Done;
    }

    private static async Task<int> Simulate(
        string file,
        string? trace,
        IReadOnlyList<Profile> profiles,
        TextReader input,
        TextWriter output,
        TextWriter error
    )
    {
        var (text, code) = await Text(file, "a scenario is a few hundred bytes", input, error);
        if (code != Done)
            return code;
        if (ScenarioFormat.Read(text, out var errors, profiles) is not { } scenario)
            return await Bad(errors, error);
        if (trace is null)
        {
            await output.WriteLineAsync(OutcomeFormat.Write(scenario, scenario.Perform()));
            return Done;
        }

        // Nothing is half done: the trace takes its name when it is whole.
        var unfinished = $"{trace}.part";
        try
        {
            SimulatedTest outcome;
            await using (var csv = new StreamWriter(unfinished))
            {
                var lines = 0;
                outcome = scenario.Perform(moment =>
                {
                    if (lines++ == 0)
                        csv.WriteLine(OutcomeFormat.TraceHeader(scenario.Situation.Rig, moment.Water));
                    csv.WriteLine(OutcomeFormat.TraceLine(moment));
                });
            }

            File.Move(unfinished, trace, overwrite: true);
            await output.WriteLineAsync(OutcomeFormat.Write(scenario, outcome));
            return Done;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"--trace: {trace} cannot be written: {e.Message}");
            return CouldNot;
        }
    }

    private static async Task<int> Mark(string file, TextReader input, TextWriter output, TextWriter error)
    {
        var (text, code) = await Text(file, "a recording is some ten kilobytes", input, error);
        if (code != Done)
            return code;
        if (RecordingFormat.Read(text, out var errors) is not { } recording)
            return await Bad(errors, error);
        await output.WriteLineAsync(MarksFormat.Write(Marking.Mark(recording)));
        return Done;
    }

    private static async Task<(string Text, int Code)> Text(
        string file,
        string usual,
        TextReader input,
        TextWriter error
    )
    {
        try
        {
            if (file == "-" || new FileInfo(file) is not { Exists: true, Length: > LargestFile })
                return (file == "-" ? await input.ReadToEndAsync() : await File.ReadAllTextAsync(file), Done);
            await error.WriteLineAsync($"{file}: larger than {LargestFile / 1024 / 1024} MiB; {usual}");
            return ("", BadInput);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"{file}: cannot be read: {e.Message}");
            return ("", CouldNot);
        }
    }

    private static async Task<int> Bad(IEnumerable<InputError> errors, TextWriter error)
    {
        foreach (var wrong in errors)
            await error.WriteLineAsync(wrong.ToString());
        return BadInput;
    }

    private static async Task<int> PrintProcedure(
        string id,
        string[] options,
        string? folder,
        TextWriter output,
        TextWriter error
    )
    {
        var (kitName, profileName, body, with, json) = (
            (string?)null,
            (string?)null,
            (string?)null,
            Array.Empty<string>(),
            false
        );
        for (var i = 0; i < options.Length; i++)
        {
            switch (options[i])
            {
                case "--json":
                    json = true;
                    break;
                case "--kit" when i + 1 < options.Length:
                    kitName = options[++i];
                    break;
                case "--profile" when i + 1 < options.Length:
                    profileName = options[++i];
                    break;
                case "--body" when i + 1 < options.Length:
                    body = options[++i];
                    break;
                case "--with" when i + 1 < options.Length:
                    with = options[++i].Split(',', StringSplitOptions.TrimEntries);
                    break;
                default:
                    return await Usage(error);
            }
        }

        if (kitName is null)
            return await Usage(error);
        var features = BodyFeatures.Named(with);
        var procedure = SchoolCatalogue.Named(id);
        var kit = Kit.Named(kitName);
        var (profile, code) = profileName is null ? (null, Done) : await ProfileOf(profileName, folder, error);
        if (code != Done)
            return code;
        if (procedure is null)
            await error.WriteLineAsync(
                $"procedure: \"{id}\" is not a procedure of this version; "
                    + $"{string.Join(", ", SchoolCatalogue.All.Select(p => p.Id))}"
            );
        if (kit is null)
            await error.WriteLineAsync(
                $"--kit: \"{kitName}\" is not a kit of this version; {string.Join(", ", Kit.All.Select(k => k.Name))}"
            );
        if (features is null)
            await error.WriteLineAsync(
                $"--with: \"{string.Join(',', with)}\" names something else than "
                    + $"{string.Join(", ", BodyFeatures.Names)}"
            );
        if (procedure is not null && body is not null && !Bodies.Choices(procedure.Type).Contains(body))
        {
            await error.WriteLineAsync(
                $"--body: \"{body}\" is not a body of the type {procedure.Type}; "
                    + $"{string.Join(", ", Bodies.Choices(procedure.Type))}"
            );
            return BadInput;
        }

        if (procedure is null || kit is null || features is null)
            return BadInput;
        if (procedure.Unfit(kit) is { } unfit)
        {
            await error.WriteLineAsync($"--kit: {unfit}");
            return BadInput;
        }

        if (profile is not null && profile.School(id) is null)
        {
            await error.WriteLineAsync(
                $"--profile: {profile.Id} has no rules for {id}; it has "
                    + $"{string.Join(", ", profile.Schools.Select(s => s.ProcedureId))}"
            );
            return BadInput;
        }

        var sheet = SchoolCatalogue.Sheet(procedure, kit, profile, features.Value, body);
        await output.WriteAsync(json ? RunSheetFormat.Json(sheet) + Environment.NewLine : RunSheetText.Write(sheet));
        return Done;
    }

    // A profile by its name, or the file of one.
    private static async Task<(Profile? Profile, int Code)> ProfileOf(string named, string? folder, TextWriter error)
    {
        var known = await Profiles(folder);
        if (known.FirstOrDefault(p => p.Id == named) is { } found)
            return (found, Done);
        if (!File.Exists(named))
        {
            await error.WriteLineAsync(
                $"--profile: \"{named}\" is neither a profile nor a file; {string.Join(", ", known.Select(p => p.Id))}"
            );
            return (null, BadInput);
        }

        var (text, code) = await Text(named, "a profile is some kilobytes", TextReader.Null, error);
        if (code != Done)
            return (null, code);
        return ProfileFormat.Read(text, out var errors) is { } read ? (read, Done) : (null, await Bad(errors, error));
    }

    private static async Task<int> Usage(TextWriter error)
    {
        await error.WriteLineAsync(
            """
            usage: ./mordel demo [--port N] [--data DIR] [--fresh]     set up and start with demo data
                   ./mordel serve [--port N] [--data DIR]              start with your own data
                   ./mordel test [core|web|e2e]                        build and test everything
                   ./mordel evaluate FILE|-                            test record in, verdict out
                   ./mordel simulate FILE|- [--trace FILE]             scenario in, outcome of a simulated test out
                   ./mordel mark FILE|-                                recording of the bench in, marks out
                   ./mordel procedure ID --kit KIT [--profile P|FILE] [--body B]
                                [--with strainer,fitted-cocks,bypass-line] [--json]
                                                                       a run sheet for a kit, rules and a body
                   ./mordel verify FILE [--key FILE]                   checks a report, PDF or data, with published keys
                   ./mordel verify                                     checks every seal of your installation
                   ./mordel rotate-key                                 signs with a new key from now on
            Own profiles and seals are those of your installation; --data DIR names another.
            """
        );
        return BadInput;
    }
}
