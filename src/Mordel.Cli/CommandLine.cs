using Mordel.Core.Catalogue;
using Mordel.Core.Formats;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;

namespace Mordel.Cli;

/// <summary>The command line. Exit 0 done, 1 could not be done, 2 bad input: one line a fault with its place.</summary>
public static class CommandLine
{
    private const int Done = 0, CouldNot = 1, BadInput = 2;
    private const long LargestFile = 4 * 1024 * 1024;

    /// <summary>Runs one command.</summary>
    public static async Task<int> Run(string[] args, TextReader input, TextWriter output, TextWriter error)
    {
        ArgumentNullException.ThrowIfNull(args);
        return args switch
        {
            ["evaluate", var file] => await Evaluate(file, input, output, error),
            ["procedure", var id, .. var options] => await PrintProcedure(id, options, output, error),
            _ => await Usage(error),
        };
    }

    private static async Task<int> Evaluate(string file, TextReader input, TextWriter output, TextWriter error)
    {
        string text;
        try
        {
            if (file != "-" && new FileInfo(file) is { Exists: true, Length: > LargestFile })
            {
                await error.WriteLineAsync($"{file}: larger than 4 MiB; a test record is a few hundred bytes");
                return BadInput;
            }

            text = file == "-" ? await input.ReadToEndAsync() : await File.ReadAllTextAsync(file);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"{file}: cannot be read: {e.Message}");
            return CouldNot;
        }

        if (TestRecordFormat.Read(text, out var faults) is { } record)
        {
            await output.WriteLineAsync(VerdictFormat.Write(record.Judge(), indented: true));
            return Done;
        }

        foreach (var fault in faults) await error.WriteLineAsync(fault.ToString());
        return BadInput;
    }

    private static async Task<int> PrintProcedure(string id, string[] options, TextWriter output, TextWriter error)
    {
        var (kitName, profileName, json) = ((string?)null, (string?)null, false);
        for (var i = 0; i < options.Length; i++)
        {
            switch (options[i])
            {
                case "--json": json = true; break;
                case "--kit" when i + 1 < options.Length: kitName = options[++i]; break;
                case "--profile" when i + 1 < options.Length: profileName = options[++i]; break;
                default: return await Usage(error);
            }
        }

        if (kitName is null) return await Usage(error);
        var procedure = SchoolCatalogue.Named(id);
        var kit = Kit.Named(kitName);
        var profile = BuiltInProfiles.Named(profileName);
        if (profileName is not null && profile is null)
        {
            await error.WriteLineAsync($"--profile: \"{profileName}\" is not a profile; {string.Join(", ", BuiltInProfiles.All.Select(p => p.Id))}");
            return BadInput;
        }

        if (procedure is null) await error.WriteLineAsync($"procedure: \"{id}\" is not a procedure of this version; {string.Join(", ", SchoolCatalogue.All.Select(p => p.Id))}");
        if (kit is null) await error.WriteLineAsync($"--kit: \"{kitName}\" is not a kit of this version; {string.Join(", ", Kit.All.Select(k => k.Name))}");
        if (procedure is null || kit is null) return BadInput;
        if (procedure.Unfit(kit) is { } unfit)
        {
            await error.WriteLineAsync($"--kit: {unfit}");
            return BadInput;
        }

        if (profile is not null && profile.School(id) is null)
        {
            await error.WriteLineAsync($"--profile: {profile.Id} has no rules for {id}; it has {string.Join(", ", profile.Schools.Select(s => s.ProcedureId))}");
            return BadInput;
        }

        var sheet = SchoolCatalogue.Sheet(procedure, kit, profile);
        await output.WriteAsync(json ? RunSheetFormat.Json(sheet) + Environment.NewLine : RunSheetFormat.Text(sheet));
        return Done;
    }

    private static async Task<int> Usage(TextWriter error)
    {
        await error.WriteLineAsync("""
            usage: ./mordel demo [--port N] [--data DIR] [--fresh]     set up and start with demo data
                   ./mordel serve [--port N] [--data DIR]              start with your own data
                   ./mordel test [core|web|e2e]                        build and test everything
                   ./mordel evaluate FILE|-                            test record in, verdict out
                   ./mordel procedure ID --kit KIT [--profile P] [--json]   a run sheet for a kit
            """);
        return BadInput;
    }
}
