using System.CommandLine;

namespace Mordel.Cli;

/// <summary>Asks a server whether it is well, where nothing else is there that could.</summary>
public static class HealthyCommand
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(4);

    internal static Command Command(TextWriter output, TextWriter error)
    {
        var url = new Argument<string>("URL") { Description = "Where it listens: http://127.0.0.1:5170" };
        var command = new Command("healthy", "Asks a server whether it is well: 0 for yes, 1 for no") { url };
        command.SetAction(given => Run(given.GetRequiredValue(url), output, error));
        return command;
    }

    /// <summary>Asks.</summary>
    public static async Task<int> Run(string url, TextWriter output, TextWriter error)
    {
        ArgumentNullException.ThrowIfNull(output);
        ArgumentNullException.ThrowIfNull(error);
        if (!Uri.TryCreate(url, UriKind.Absolute, out var at) || at.Scheme is not ("http" or "https"))
        {
            await error.WriteLineAsync($"{url} is no address: http://127.0.0.1:5170");
            return CommandLine.BadInput;
        }

        try
        {
            using var client = new HttpClient { Timeout = Patience };
            var answer = await client.GetAsync(new Uri(at, "/health/ready"));
            await output.WriteLineAsync((await answer.Content.ReadAsStringAsync()).Trim());
            return answer.IsSuccessStatusCode ? CommandLine.Done : CommandLine.CouldNot;
        }
        catch (Exception e) when (e is HttpRequestException or TaskCanceledException)
        {
            await error.WriteLineAsync($"{at} does not answer.");
            return CommandLine.CouldNot;
        }
    }
}
