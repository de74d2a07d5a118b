using System.CommandLine;
using System.Globalization;
using Mordel.Core.Planning;
using Mordel.Core.Serialization;
using Mordel.Planning;

namespace Mordel.Cli;

/// <summary>Plans rounds.</summary>
public static class PlanCommand
{
    private const int UsualSeconds = 10,
        LongestSeconds = 3_600;

    /// <summary>The command.</summary>
    public static Command Command(TextReader input, TextWriter output, TextWriter error)
    {
        var file = CommandLine.File("Rounds that are to be planned");
        var seconds = new Option<int>("--seconds")
        {
            Description = "How long it is looked for at most",
            HelpName = "N",
            DefaultValueFactory = _ => UsualSeconds,
        };
        var command = new Command("plan", "Plans rounds, and says why what is left out is") { file, seconds };
        command.SetAction(
            (given, cancel) => Plan(given.GetRequiredValue(file), given.GetValue(seconds), input, output, error, cancel)
        );
        return command;
    }

    /// <summary>Plans, tells how far it is, and writes the plan.</summary>
    private static async Task<int> Plan(
        string file,
        int seconds,
        TextReader input,
        TextWriter output,
        TextWriter error,
        CancellationToken cancel
    )
    {
        if (seconds is < 1 or > LongestSeconds)
        {
            await error.WriteLineAsync($"--seconds: a whole number from 1 to {LongestSeconds} is wanted");
            return CommandLine.BadInput;
        }

        var (text, code) = await InputText.Read(file, "two hundred stops are some hundred KB", input, error);
        if (code != CommandLine.Done)
            return code;
        if (PlanFormat.Read(text, out var errors) is not { } problem)
            return await InputText.Refuse(errors, error);
        var plan = RoundSolver.Solve(
            problem,
            PlanEffort.Within(TimeSpan.FromSeconds(seconds)),
            p =>
                error.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{p.Seconds:0.0} s: {p.Stops} of {problem.Stops.Length} stops, cost {p.Cost}"
                    )
                ),
            cancel
        );
        var breaches = PlanCheck.Of(problem, plan);
        foreach (var breach in breaches)
            await error.WriteLineAsync(breach.Says);
        await output.WriteLineAsync(PlannedFormat.Write(plan));
        return breaches.IsEmpty ? CommandLine.Done : CommandLine.CouldNot;
    }
}
