namespace Mordel.Cli;

internal static class Program
{
    private static Task<int> Main(string[] args) => CommandLine.Run(args, Console.In, Console.Out, Console.Error);
}
