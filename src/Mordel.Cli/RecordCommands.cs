using Mordel.Core.Rules;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Core.Training;

namespace Mordel.Cli;

/// <summary>What the command line computes from one file: verdicts, outcomes, marks.</summary>
public static class RecordCommands
{
    /// <summary>Judges a test record and prints the verdict.</summary>
    public static async Task<int> Evaluate(
        string file,
        IReadOnlyList<Profile> profiles,
        TextReader input,
        TextWriter output,
        TextWriter error
    )
    {
        var (text, code) = await InputText.Read(file, "a test record is a few hundred bytes", input, error);
        if (code != CommandLine.Done)
            return code;
        if (TestRecordFormat.Read(text, out var errors, profiles) is not { } record)
            return await InputText.Refuse(errors, error);
        await output.WriteLineAsync(VerdictFormat.Write(record.Judge(), indented: true));
        return CommandLine.Done;
    }

    /// <summary>Performs a scenario and prints its outcome; with a trace, every moment as CSV.</summary>
    public static async Task<int> Simulate(
        string file,
        string? trace,
        IReadOnlyList<Profile> profiles,
        TextReader input,
        TextWriter output,
        TextWriter error
    )
    {
        var (text, code) = await InputText.Read(file, "a scenario is a few hundred bytes", input, error);
        if (code != CommandLine.Done)
            return code;
        if (ScenarioFormat.Read(text, out var errors, profiles) is not { } scenario)
            return await InputText.Refuse(errors, error);
        if (trace is null)
        {
            await output.WriteLineAsync(OutcomeFormat.Write(scenario, scenario.Perform()));
            return CommandLine.Done;
        }

        // Nothing is half done: the trace takes its name when it is whole.
        var unfinished = $"{trace}.part";
        try
        {
            SimulatedTest outcome;
            await using (var csv = new StreamWriter(unfinished))
            {
                var lines = 0;
                outcome = scenario.Perform(moment =>
                {
                    if (lines++ == 0)
                        csv.WriteLine(OutcomeFormat.TraceHeader(scenario.Situation.Rig, moment.Water));
                    csv.WriteLine(OutcomeFormat.TraceLine(moment));
                });
            }

            File.Move(unfinished, trace, overwrite: true);
            await output.WriteLineAsync(OutcomeFormat.Write(scenario, outcome));
            return CommandLine.Done;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            await error.WriteLineAsync($"--trace: {trace} cannot be written: {e.Message}");
            return CommandLine.CouldNot;
        }
    }

    /// <summary>Marks a recording of the bench.</summary>
    public static async Task<int> Mark(string file, TextReader input, TextWriter output, TextWriter error)
    {
        var (text, code) = await InputText.Read(file, "a recording is some ten kilobytes", input, error);
        if (code != CommandLine.Done)
            return code;
        if (RecordingFormat.Read(text, out var errors) is not { } recording)
            return await InputText.Refuse(errors, error);
        await output.WriteLineAsync(MarksFormat.Write(Marking.Mark(recording)));
        return CommandLine.Done;
    }
}
