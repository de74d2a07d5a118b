using System.CommandLine;
using Mordel.Data;
using Mordel.Data.Backups;
using Mordel.Data.Moving;
using Mordel.Data.Startup;

namespace Mordel.Cli;

/// <summary>Carries an installation from one kind of database to another, while no server runs on it.</summary>
public static class MoveCommand
{
    /// <summary>The command.</summary>
    public static Command Command(WhereOptions where, TextWriter output, TextWriter error)
    {
        var from = Store("--from", "Where the rows are");
        var to = Store("--to", "Where they go: nothing is there yet, or what an earlier move has brought");
        var command = new Command("move", "Carries an installation over to another kind of database") { from, to };
        command.SetAction(given =>
            Run(
                StoreAddress.Read(given.GetRequiredValue(from), where.Own(given).Folder),
                StoreAddress.Read(given.GetRequiredValue(to), where.Own(given).Folder),
                output,
                error
            )
        );
        return command;
    }

    /// <summary>Moves it, compares every row, and checks every seal where it is then.</summary>
    public static async Task<int> Run(StoreAddress from, StoreAddress to, TextWriter output, TextWriter error)
    {
        ArgumentNullException.ThrowIfNull(from);
        ArgumentNullException.ThrowIfNull(to);
        ArgumentNullException.ThrowIfNull(output);
        ArgumentNullException.ThrowIfNull(error);
        try
        {
            if (from.Place == to.Place)
                throw new StartRefusedException("It is there already: --from and --to name the same place.");
            Directory.CreateDirectory(to.Folder);
            using var hold = FolderLock.Take(from.Folder);
            using var also =
                Path.GetFullPath(from.Folder) == Path.GetFullPath(to.Folder) ? null : FolderLock.Take(to.Folder);
            // Whether it is one of this version.
            await (await Installations.Open(from)).DisposeAsync();
            await using (var source = from.Open())
            await using (var target = to.Open())
            {
                var (tables, rows) = await new MoveStore(source, target).Run(error.WriteLine, CancellationToken.None);
                await output.WriteLineAsync($"{rows} rows of {tables} tables are there now, each as it was.");
            }

            if (also is not null)
                Files(from.Folder, to.Folder);
            var exit = await SealCommands.VerifyAll(to, output, error);
            if (exit == CommandLine.Done)
                await output.WriteLineAsync(
                    $"Start with it: ./mordel serve --data {to.Folder}"
                        + (to.IsServer ? " --store postgres:…" : "")
                        + $". What was before is left as it is in {from.Place}."
                );
            return exit;
        }
        catch (Exception e) when (e is StartRefusedException || StoreTrouble.Says(e) is not null)
        {
            await error.WriteLineAsync(StoreTrouble.Says(e) ?? e.Message);
            return CommandLine.CouldNot;
        }
    }

    private static Option<string> Store(string name, string says)
    {
        var option = new Option<string>(name)
        {
            Description = says,
            HelpName = "STORE",
            Required = true,
        };
        option.Validators.Add(given => WhereOptions.Validate(given, name));
        return option;
    }

    // Keys and pictures lie beside the rows.
    private static void Files(string from, string to)
    {
        foreach (var name in DataFolder.Beside(from))
        {
            var target = Path.Combine(to, name);
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            File.Copy(Path.Combine(from, name), target, overwrite: true);
        }
    }
}
