using System.CommandLine;
using Mordel.Data;
using Mordel.Data.Audit;
using Mordel.Data.Backups;
using Mordel.Data.Startup;

namespace Mordel.Cli;

/// <summary>What the command line does against loss: a backup, putting one back, and making the lists anew.</summary>
public static class BackupCommands
{
    private static readonly CancellationToken None = CancellationToken.None;

    internal static Command BackupCommand(WhereOptions where, TextWriter output, TextWriter error)
    {
        var file = new Argument<string>("FILE") { Description = "Where it goes, on another disk" };
        var passphrase = Passphrase();
        var command = new Command("backup", "Writes everything into one file, while the server runs")
        {
            file,
            passphrase,
        };
        command.SetAction(given =>
            Backup(given.GetRequiredValue(file), given.GetValue(passphrase), where.Own(given), output, error)
        );
        return command;
    }

    internal static Command RestoreCommand(WhereOptions where, TextWriter output, TextWriter error)
    {
        var file = new Argument<string>("FILE") { Description = "A backup" };
        var passphrase = Passphrase();
        var replace = new Option<bool>("--replace") { Description = "Puts aside the installation that is there" };
        var command = new Command("restore", "Puts a backup into a data folder, while no server runs on it")
        {
            file,
            passphrase,
            replace,
        };
        command.SetAction(given =>
            Restore(
                given.GetRequiredValue(file),
                given.GetValue(passphrase),
                given.GetValue(replace),
                where.Own(given),
                output,
                error
            )
        );
        return command;
    }

    internal static Command RebuildCommand(WhereOptions where, TextWriter output, TextWriter error)
    {
        var command = new Command("rebuild", "Makes the lists anew from what was entered and sealed");
        command.SetAction(given => Rebuild(where.Own(given), output, error));
        return command;
    }

    private static Option<string?> Passphrase() =>
        new("--passphrase-file") { Description = "A file whose first line opens the backup", HelpName = "FILE" };

    /// <summary>Writes a backup.</summary>
    public static Task<int> Backup(
        string file,
        string? passphraseFile,
        StoreAddress address,
        TextWriter output,
        TextWriter error
    ) => Refused(error, async () =>
        {
            var made = await new MakeBackup(address, TimeProvider.System).Write(
                file,
                await Passphrases.Read(passphraseFile, None),
                None
            );
            await output.WriteLineAsync(
                $"{file}: {new FileInfo(file).Length / 1000} KB, {made.Files.Count} files, {made.SignedRuns} signed "
                    + $"runs, {made.Assemblies} assemblies."
            );
            if (passphraseFile is null)
                await output.WriteLineAsync(
                    "Whoever has this file has the signing key and all customers. Keep it locked away, or lock it: "
                        + "--passphrase-file FILE."
                );
            return CommandLine.Done;
        });

    /// <summary>Puts one back, and checks every seal of what is there then.</summary>
    public static Task<int> Restore(
        string file,
        string? passphraseFile,
        bool replace,
        StoreAddress address,
        TextWriter output,
        TextWriter error
    ) => Refused(error, async () =>
        {
            if (address.IsServer)
                throw new StartRefusedException(
                    "A backup is put into a data folder: ./mordel restore FILE --data DIR. From there ./mordel move "
                        + "--from sqlite:DIR --to postgres:… carries it to an empty database."
                );
            var known = Installations.KnownForms();
            using (FolderLock.Take(address.Folder))
            {
                var (made, kept) = await new RestoreBackup(address.Folder, known, TimeProvider.System).Run(
                    file,
                    await Passphrases.Read(passphraseFile, None),
                    replace,
                    None
                );
                await output.WriteLineAsync(
                    $"In place: everything as it was on {made.MadeAt:d MMM yyyy} at {made.MadeAt:HH:mm} UTC, "
                        + $"{made.SignedRuns} signed runs, {made.Assemblies} assemblies."
                );
                if (kept is not null)
                    await output.WriteLineAsync($"What was there before is kept in {kept}.");
                if (made.Schema != known[^1])
                {
                    await output.WriteLineAsync(
                        "It is of an earlier version: start it once, then ./mordel verify checks its seals."
                    );
                    return CommandLine.Done;
                }

                await using var installation = await Installations.Open(address);
                await installation.Say(
                    AuditKinds.Restored,
                    $"{Path.GetFileName(file)}, as it was on {made.MadeAt:d MMM yyyy} at {made.MadeAt:HH:mm} UTC"
                );
            }

            return await SealCommands.VerifyAll(address, output, error);
        });

    /// <summary>Makes the lists anew.</summary>
    public static Task<int> Rebuild(StoreAddress address, TextWriter output, TextWriter error) =>
        Refused(error, async () =>
        {
            // Only while no server writes beside.
            using var hold = FolderLock.Take(address.Folder);
            await using var installation = await Installations.Open(address);
            var lists = await installation.Lists();
            var made = await lists.All(error.WriteLine, None);
            await output.WriteLineAsync(
                $"{made.Runs} signed runs, {made.RunsMended} of them shown otherwise than they were sealed; "
                    + $"{made.Assemblies} assemblies, {made.LastTestsMended} with another last test, "
                    + $"{made.DuesMended} that owed something else. All of it is as it should be now."
            );
            await installation.Say(AuditKinds.Rebuilt, $"{made.RunsMended} lines of {made.Runs} were mended");
            foreach (var run in made.Left)
                await output.WriteLineAsync(
                    $"{run}: its seal cannot be read, so its line stays as it is; ./mordel verify says why."
                );
            return made.Left.Count == 0 ? CommandLine.Done : CommandLine.CouldNot;
        });

    private static async Task<int> Refused(TextWriter error, Func<Task<int>> run)
    {
        try
        {
            return await run();
        }
        catch (Exception e) when (BackupTrouble.Says(e) is { } why)
        {
            await error.WriteLineAsync(why);
            return CommandLine.CouldNot;
        }
    }
}
