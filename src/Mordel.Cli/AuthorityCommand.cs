using System.CommandLine;
using Mordel.Authorities;

namespace Mordel.Cli;

/// <summary>Runs a simulated authority's intake by itself, to try an installation against.</summary>
internal static class AuthorityCommand
{
    public static Command Command(TextWriter output, TextWriter error)
    {
        var name = new Option<string>("--name")
        {
            Description = "The authority's name",
            HelpName = "NAME",
            DefaultValueFactory = _ => "Water board",
        };
        var port = new Option<int>("--port")
        {
            Description = "The port on this machine; 0 for any that is free",
            HelpName = "N",
        };
        var journal = new Option<string>("--journal")
        {
            Description = "The folder where it keeps what it was given",
            HelpName = "DIR",
            Required = true,
        };
        var key = new Option<string?>("--key") { Description = "What callers must say", HelpName = "KEY" };
        var mood = new Option<AuthorityMood>("--mood") { Description = "How it behaves", HelpName = "MOOD" };
        var command = new Command("authority", "Runs a simulated authority that takes reports (docs/papers.md)")
        {
            name,
            port,
            journal,
            mood,
            key,
        };
        command.SetAction(
            async (given, cancel) =>
                await Run(
                    given.GetRequiredValue(name),
                    given.GetValue(port),
                    given.GetRequiredValue(journal),
                    given.GetValue(mood),
                    given.GetValue(key),
                    output,
                    error,
                    cancel
                )
        );
        return command;
    }

    private static async Task<int> Run(
        string name,
        int port,
        string folder,
        AuthorityMood mood,
        string? key,
        TextWriter output,
        TextWriter error,
        CancellationToken cancel
    )
    {
        if (port is < 0 or > 65535 || string.IsNullOrWhiteSpace(name))
        {
            await error.WriteLineAsync("authority: --port is a number from 0 to 65535, and --name says something.");
            return CommandLine.BadInput;
        }

        try
        {
            await using var service = await AuthorityService.Start(name.Trim(), folder, port, TimeProvider.System, key);
            service.Desk.Behave(mood, null);
            await output.WriteLineAsync($"{service.Name}, simulated, takes reports on {service.Address}");
            await service.Ended(cancel);
            return CommandLine.Done;
        }
        catch (OperationCanceledException)
        {
            return CommandLine.Done;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"authority: {e.Message}");
            return CommandLine.CouldNot;
        }
    }
}
