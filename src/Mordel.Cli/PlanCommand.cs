using System.Globalization;
using Mordel.Core.Planning;
using Mordel.Core.Serialization;
using Mordel.Planning;

namespace Mordel.Cli;

/// <summary>Plans rounds.</summary>
public static class PlanCommand
{
    /// <summary>How long a plan is looked for when nobody says, in seconds.</summary>
    public const int UsualSeconds = 10;

    private const int LongestSeconds = 3_600;

    /// <summary>Plans, tells how far it is, and writes the plan.</summary>
    public static async Task<int> Plan(
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
