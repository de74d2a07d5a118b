using System.CommandLine;
using Mordel.Core.Seals;
using Mordel.Data;
using Mordel.Data.Seals;
using Mordel.Data.Startup;

namespace Mordel.Cli;

/// <summary>
/// What the command line does about seals: it checks a file that somebody was given, or a whole installation, and
/// rotates the key.
/// </summary>
public static class SealCommands
{
    // Bytes: the longest report with everything in it.
    private const long LargestFile = 64 * 1024 * 1024;

    /// <summary>
    /// Checks a PDF, the data of a report or an archive of a year, with published keys or those of an installation.
    /// </summary>
    public static async Task<int> VerifyFile(
        string file,
        string? keyFile,
        StoreAddress? address,
        TextWriter output,
        TextWriter error
    )
    {
        if (await Keys(keyFile, address, error) is not { } keys)
            return CommandLine.CouldNot;
        byte[] bytes;
        try
        {
            await using (var archive = File.OpenRead(file))
            {
                var begin = new byte[2];
                if (
                    await archive.ReadAtLeastAsync(begin, begin.Length, false) == begin.Length
                    && ArchiveCheck.IsArchive(begin)
                )
                {
                    archive.Position = 0;
                    var found = await new ArchiveCheck(keys).Of(archive, CancellationToken.None);
                    return await Say(found, "archive", output);
                }
            }

            if (new FileInfo(file).Length > LargestFile)
            {
                await error.WriteLineAsync($"{file}: larger than any report");
                return CommandLine.BadInput;
            }

            bytes = await File.ReadAllBytesAsync(file);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"{file}: cannot be read: {e.Message}");
            return CommandLine.CouldNot;
        }

        return await Say(new FileCheck(keys).Of(bytes), "report", output);
    }

    private static async Task<int> Say(CheckedFile found, string what, TextWriter output)
    {
        foreach (var line in found.Says)
            await output.WriteLineAsync(line);
        foreach (var line in found.Broken)
            await output.WriteLineAsync($"BROKEN: {line}");
        await output.WriteLineAsync(
            found.Broken.Count == 0 ? "The seal holds." : $"SEAL BROKEN. Do not rely on this {what}."
        );
        return found.Broken.Count == 0 ? CommandLine.Done : CommandLine.CouldNot;
    }

    /// <summary>Checks every seal of an installation.</summary>
    public static async Task<int> VerifyAll(StoreAddress address, TextWriter output, TextWriter error)
    {
        try
        {
            await using var installation = await Installations.Open(address);
            var found = await installation.Check(done => { });
            foreach (var (subject, says) in found.Broken)
                await output.WriteLineAsync($"BROKEN: {subject}: {says}");
            if (found.JudgedOtherwise > 0)
                await output.WriteLineAsync(
                    $"{found.JudgedOtherwise} runs were judged by an earlier version and would be judged otherwise "
                        + $"today; what was sealed stands."
                );
            await output.WriteLineAsync(
                found.Holds
                    ? $"All {found.Seals} seals over {found.Runs} runs hold."
                    : $"SEAL BROKEN: {found.Broken.Count} things among {found.Seals} seals over {found.Runs} runs."
            );
            return found.Holds ? CommandLine.Done : CommandLine.CouldNot;
        }
        catch (Exception e) when (Refusal(e) is { } why)
        {
            await error.WriteLineAsync(why);
            return CommandLine.CouldNot;
        }
    }

    internal static Command ArchiveCommand(WhereOptions where, TextWriter error)
    {
        var year = new Argument<int>("YEAR") { Description = "The year in which they were signed" };
        var file = new Argument<string>("FILE") { Description = "Where it goes, a ZIP" };
        var command = new Command("archive", "Writes all sealed reports of a year as one signed file") { year, file };
        command.SetAction(given =>
            Archive(given.GetRequiredValue(year), given.GetRequiredValue(file), where.Own(given), error)
        );
        return command;
    }

    internal static Command RotateKeyCommand(WhereOptions where, TextWriter output, TextWriter error)
    {
        var command = new Command("rotate-key", "Signs with a new key from now on");
        command.SetAction(given => RotateKey(where.Own(given), output, error));
        return command;
    }

    /// <summary>Writes all sealed reports of a year as one signed file.</summary>
    public static async Task<int> Archive(int year, string path, StoreAddress address, TextWriter error)
    {
        try
        {
            await using var installation = await Installations.Open(address);
            var archive = await installation.Archive();
            var years = await archive.Years(CancellationToken.None);
            if (!years.Contains(year))
            {
                await error.WriteLineAsync(
                    $"{year}: nothing was signed in that year; there is {string.Join(", ", years)}"
                );
                return CommandLine.BadInput;
            }

            await WholeFile.Write(path, into => archive.Write(year, into, CancellationToken.None));
            return CommandLine.Done;
        }
        catch (Exception e) when (Refusal(e) is { } why)
        {
            await error.WriteLineAsync(why);
            return CommandLine.CouldNot;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"{path}: cannot be written. {e.Message}");
            return CommandLine.CouldNot;
        }
    }

    /// <summary>Puts a new signing key into use; the ones before remain for checking.</summary>
    public static async Task<int> RotateKey(StoreAddress address, TextWriter output, TextWriter error)
    {
        try
        {
            // Only when no server signs at the same time.
            using var hold = FolderLock.Take(address.Folder);
            await using var installation = await Installations.Open(address);
            await installation.Keys.Open(installation.Store, CancellationToken.None);
            var before = installation.Keys.Id;
            var now = await installation.Keys.Rotate(
                installation.Store,
                TimeProvider.System.GetUtcNow(),
                CancellationToken.None
            );
            await output.WriteLineAsync(
                $"The installation signs with {now} from now on; {before} remains for checking. Publish the keys "
                    + $"again (/keys.pem) and make a backup of {SigningKeys.FileName}."
            );
            return CommandLine.Done;
        }
        catch (Exception e) when (Refusal(e) is { } why)
        {
            await error.WriteLineAsync(why);
            return CommandLine.CouldNot;
        }
    }

    private static string? Refusal(Exception e) => e is StartRefusedException ? e.Message : StoreTrouble.Says(e);

    private static async Task<PublicKeys?> Keys(string? file, StoreAddress? address, TextWriter error)
    {
        try
        {
            if (file is not null)
            {
                if (PublicKeys.Read(await File.ReadAllTextAsync(file)) is { } given)
                    return given;
                await error.WriteLineAsync(
                    $"--key: {file} holds no public key. Take the file that the installation publishes under /keys.pem."
                );
                return null;
            }

            if (address is null)
            {
                await error.WriteLineAsync(
                    "verify: say by which keys: --key FILE (published under /keys.pem), or --data DIR of the "
                        + "installation."
                );
                return null;
            }

            await using var installation = await Installations.Open(address);
            await installation.Keys.Open(installation.Store, CancellationToken.None);
            return PublicKeys.Of(installation.Keys);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"--key: {file} cannot be read: {e.Message}");
            return null;
        }
        catch (Exception e) when (Refusal(e) is { } why)
        {
            await error.WriteLineAsync(why);
            return null;
        }
    }
}
