using System.CommandLine;
using Mordel.Data;
using Mordel.Data.Audit;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Startup;

namespace Mordel.Cli;

/// <summary>
/// Lets somebody in who has lost their password, the owner too: whoever may read the data folder may do that anyhow.
/// </summary>
public static class LetInCommand
{
    internal static Command Command(WhereOptions where, TextWriter output, TextWriter error)
    {
        var name = new Argument<string>("NAME") { Description = "What they sign in with" };
        var command = new Command("let-in", "Makes a link to a new password, for who has lost theirs") { name };
        command.SetAction(given => Run(given.GetRequiredValue(name), where.Own(given), output, error));
        return command;
    }

    /// <summary>Makes it.</summary>
    public static async Task<int> Run(string name, StoreAddress address, TextWriter output, TextWriter error)
    {
        ArgumentNullException.ThrowIfNull(name);
        ArgumentNullException.ThrowIfNull(output);
        ArgumentNullException.ThrowIfNull(error);
        try
        {
            await using var installation = await Installations.Open(address);
            if (await installation.PasswordLink(name) is not { } made)
            {
                await error.WriteLineAsync($"Nobody signs in as {name} there, or they were dismissed.");
                return CommandLine.BadInput;
            }

            await installation.Say(AuditKinds.Person, "password: a link to set one was made", $"{made.Account}");
            await output.WriteLineAsync(
                "Open this under the address of your installation, within "
                    + $"{KeepPasswords.LinkByMail.TotalHours:0} hour, once:\n/new-password/{made.Secret}"
            );
            return CommandLine.Done;
        }
        catch (Exception e) when (e is StartRefusedException || StoreTrouble.Says(e) is not null)
        {
            await error.WriteLineAsync(StoreTrouble.Says(e) ?? e.Message);
            return CommandLine.CouldNot;
        }
    }
}
