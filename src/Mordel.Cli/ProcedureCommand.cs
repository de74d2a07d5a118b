using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Data;

namespace Mordel.Cli;

/// <summary>What sheet is wanted.</summary>
/// <param name="Id">The procedure.</param>
/// <param name="Kit">The kit.</param>
/// <param name="Profile">A profile's name or file; null for the first built-in one that works by the procedure.</param>
/// <param name="Body">The body; null for the usual one.</param>
/// <param name="With">What the body has besides; <c>seasonal</c> for the visit of a seasonal line.</param>
/// <param name="AsJson">Whether the sheet is written as data.</param>
public sealed record WantedSheet(string Id, string Kit, string? Profile, string? Body, string[] With, bool AsJson);

/// <summary>Prints a run sheet.</summary>
public static class ProcedureCommand
{
    private const string Seasonal = "seasonal";

    /// <summary>Writes the sheet of a procedure for a kit, a profile and a body.</summary>
    public static async Task<int> Print(WantedSheet wanted, StoreAddress? address, TextWriter output, TextWriter error)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        var (id, kitName, profileName, body, with, json) = wanted;
        // A visit's own, beside what the body has.
        var seasonal = with.Contains(Seasonal);
        var features = BodyFeatures.Named([.. with.Where(w => w != Seasonal)]);
        var procedure = SchoolCatalogue.Named(id);
        var kit = Kit.Named(kitName);
        var (profile, code) = profileName is null
            ? (null, CommandLine.Done)
            : await ProfileOf(profileName, address, error);
        if (code != CommandLine.Done)
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
                    + $"{string.Join(", ", BodyFeatures.Names)}, {Seasonal}"
            );
        if (procedure is not null && body is not null && !Bodies.Choices(procedure.Type).Contains(body))
        {
            await error.WriteLineAsync(
                $"--body: \"{body}\" is not a body of the type {procedure.Type}; "
                    + $"{string.Join(", ", Bodies.Choices(procedure.Type))}"
            );
            return CommandLine.BadInput;
        }

        if (procedure is null || kit is null || features is null)
            return CommandLine.BadInput;
        if (procedure.Unfit(kit) is { } unfit)
        {
            await error.WriteLineAsync($"--kit: {unfit}");
            return CommandLine.BadInput;
        }

        if (profile is not null && profile.School(id) is null)
        {
            await error.WriteLineAsync(
                $"--profile: {profile.Id} has no rules for {id}; it has "
                    + $"{string.Join(", ", profile.Schools.Select(s => s.ProcedureId))}"
            );
            return CommandLine.BadInput;
        }

        var sheet = SchoolCatalogue.Sheet(procedure, kit, profile, features.Value, body, seasonal);
        await output.WriteAsync(json ? RunSheetFormat.Json(sheet) + Environment.NewLine : RunSheetText.Write(sheet));
        return CommandLine.Done;
    }

    // A profile by its name, or the file of one.
    private static async Task<(Profile? Profile, int Code)> ProfileOf(
        string named,
        StoreAddress? address,
        TextWriter error
    )
    {
        var known = await CommandLine.Profiles(address);
        if (known.FirstOrDefault(p => p.Id == named) is { } found)
            return (found, CommandLine.Done);
        if (!File.Exists(named))
        {
            await error.WriteLineAsync(
                $"--profile: \"{named}\" is neither a profile nor a file; {string.Join(", ", known.Select(p => p.Id))}"
            );
            return (null, CommandLine.BadInput);
        }

        var (text, code) = await InputText.Read(named, "a profile is some kilobytes", TextReader.Null, error);
        if (code != CommandLine.Done)
            return (null, code);
        return ProfileFormat.Read(text, out var errors) is { } read
            ? (read, CommandLine.Done)
            : (null, await InputText.Refuse(errors, error));
    }
}
