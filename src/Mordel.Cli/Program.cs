using Mordel.Data.Startup;

namespace Mordel.Cli;

internal static class Program
{
    private static Task<int> Main(string[] args)
    {
        OwnFiles.Alone();
        return CommandLine.Run(args, Console.In, Console.Out, Console.Error);
    }
}
