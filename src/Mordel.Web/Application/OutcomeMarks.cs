namespace Mordel.Web.Application;

/// <summary>An outcome by word and shape.</summary>
/// <param name="Word">What stands beside it.</param>
/// <param name="Path">Its lines, in a box of 22 by 22.</param>
public sealed record OutcomeMark(string Word, string Path);

/// <summary>How outcomes, results of items and states of stops are shown: never by colour alone.</summary>
public static class OutcomeMarks
{
    private static readonly OutcomeMark ToDo = new("To do", "M11 11V11.1");

    /// <summary>All of them, by their ids.</summary>
    public static IReadOnlyDictionary<string, OutcomeMark> All { get; } =
        new Dictionary<string, OutcomeMark>
        {
            ["pass"] = new("Pass", "M4 11L9 16L18 5"),
            ["fail"] = new("Fail", "M5 5L17 17M17 5L5 17"),
            ["incomplete"] = new("Incomplete", "M4 11H8M10 11H12M14 11H18"),
            ["not-testable"] = new("Not testable", "M4 11H18"),
            ["missing"] = new("Missing", "M4 11H8M14 11H18"),
            ["recorded"] = new("Recorded", "M11 6V16"),
            ["seal-broken"] = new("Seal broken", "M4 7L9 4L13 10L18 7M4 15L9 12L13 18L18 15"),
            ["running"] = new("Open run", "M6 4L17 11L6 18Z"),
            ["open"] = ToDo,
        };

    /// <summary>One of them; what is to be done where there is no such outcome.</summary>
    public static OutcomeMark Of(string id) => All.GetValueOrDefault(id, ToDo);
}
