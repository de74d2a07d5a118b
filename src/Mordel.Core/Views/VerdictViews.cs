using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Reports;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using static Mordel.Core.Views.EntryTemplate;

namespace Mordel.Core.Views;

/// <summary>Makes the view of a verdict.</summary>
public static class VerdictViews
{
    private const int LongestWho = 120,
        LongestWords = 2_000;

    private static readonly (string Fact, string Field, string Label, string Kind, PartId Part)[] Positions =
    [
        ("found-so1", "foundSo1", "SO1 as found", "as-found", Parts.So1),
        ("found-so2", "foundSo2", "SO2 as found", "as-found", Parts.So2),
        ("left-so1", "leftSo1", "SO1 as left", "as-left", Parts.So1),
        ("left-so2", "leftSo2", "SO2 as left", "as-left", Parts.So2),
    ];

    private static readonly (TestItem Item, string Field)[] Shutoffs =
    [
        (TestItem.Shutoff1, "so1"),
        (TestItem.Shutoff2, "so2"),
    ];

    private static readonly ImmutableArray<OptionView> Stands =
    [
        new("", "not entered"),
        new("open", "open"),
        new("partly", "partly open"),
        new("closed", "closed"),
    ];

    private static readonly ImmutableArray<OptionView> Holds =
    [
        new("", "not shown"),
        new("tight", "tight"),
        new("leaks", "leaks"),
    ];

    /// <summary>The view.</summary>
    /// <param name="setup">What the run is made with.</param>
    /// <param name="log">Its log.</param>
    /// <param name="state">Where that leads.</param>
    /// <param name="previous">The answers of the test before; null where there is none.</param>
    /// <param name="day">The day of the test.</param>
    /// <param name="right">Whether its tester may sign it on that day.</param>
    public static VerdictView Build(
        RunSetup setup,
        RunLog log,
        RunState state,
        Results? previous,
        DateOnly day,
        SigningRight right
    )
    {
        ArgumentNullException.ThrowIfNull(setup);
        ArgumentNullException.ThrowIfNull(log);
        ArgumentNullException.ThrowIfNull(state);
        var verdict = setup.Plan.VerdictOn(state, previous);
        var missing = EnteredFacts.Collect(setup.Plan, state).Where(f => !f.IsEntered).ToList();
        var shutoffs = Shutoffs.Where(s => AsksShutoff(verdict, s.Item)).ToList();
        var hasty = Pace.FindHasty(setup.Plan, state, setup.BegunAt);
        return new()
        {
            Entries = log.Count,
            Overall = verdict.Overall.Id(),
            Word = verdict.Overall.Word(),
            Reason = verdict.Reason,
            Items = [.. ReportWriter.Items(verdict)],
            Warnings = [.. verdict.Warnings.Select(w => w.Text)],
            Notes = [.. verdict.Notes, .. GaugeNotes.Of(setup.Plan, state, verdict)],
            Tag = state.AtTheEnd ? Tag(setup, verdict, day) : null,
            Rule =
                $"Judged by {setup.Profile.Name}, version {setup.Profile.Version}, {setup.Plan.Procedure.Title}. "
                + "The local code and the certifying authority’s procedure govern.",
            Obstacles = [.. SigningObstacles.Of(setup, state, day, right)],
            Hasty = [.. hasty.Select(h => h.ToString())],
            Asks = [.. Asks(missing, shutoffs, hasty.Length > 0 && state.PaceExplained is null, state.Remarks)],
            StillOnTheSheet = [.. missing.Where(m => !IsAsked(m.Id)).Select(m => m.Name)],
            Beside = [.. Beside(shutoffs, state.Remarks)],
            Name = setup.Tester.Name,
            With =
                $"Certificate {right.With?.Number} · kit {setup.Kit.Serial}, calibrated "
                + $"{setup.Kit.CalibratedOn:d MMM yyyy}",
            Log = HashOf(log),
        };
    }

    /// <summary>SHA-256 of a log in its canonical form, an entry a line.</summary>
    public static string HashOf(RunLog log)
    {
        ArgumentNullException.ThrowIfNull(log);
        return ContentHash.Compute(string.Join('\n', log.Entries.Select(EntryFormat.Write)));
    }

    /// <summary>What is written on the tag: date, result, tester, next due.</summary>
    public static string Tag(RunSetup setup, Verdict verdict, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(setup);
        ArgumentNullException.ThrowIfNull(verdict);
        var passed = verdict.Overall == Overall.Pass;
        return $"{day:d MMM yyyy} · {verdict.Overall.Word()} · {setup.Tester.Name} · "
            + $"{(passed ? "next due" : "test again by")} "
            + $"{DueEngine.After(setup.Assembly.Due, day, passed, setup.Profile):d MMM yyyy}";
    }

    /// <summary>
    /// Whether a shutoff can be stated with the signature: the test has said nothing, or could not have shown a leak.
    /// </summary>
    public static bool AsksShutoff(Verdict verdict, TestItem item)
    {
        ArgumentNullException.ThrowIfNull(verdict);
        return verdict.Items.Any(i => i.Item == item && i.Value is null or ItemValue.NotShown);
    }

    /// <summary>Whether what is missing can be entered together with the signature.</summary>
    public static bool IsAsked(string fact) =>
        fact is "permission" or "restoring" || Array.Exists(Positions, p => p.Fact == fact);

    private static IEnumerable<FieldView> Asks(
        List<EnteredFact> missing,
        List<(TestItem Item, string Field)> shutoffs,
        bool wantsExplanation,
        string remarks
    )
    {
        bool Lacks(string fact) => missing.Exists(m => m.Id == fact);
        if (Lacks("permission"))
            yield return new("permission", "line", "Who allowed the water to be shut off") { Most = LongestWho };
        foreach (var (fact, field, label, _, _) in Positions)
            if (Lacks(fact))
                yield return new(field, "choice", label) { Options = Stands };
        if (Lacks("restoring"))
            yield return new("restoring", "line", "Who was asked before the water came back") { Most = LongestWho };
        foreach (var (item, field) in shutoffs)
            yield return new(field, "choice", $"{item.Name}, if seen otherwise") { Options = Holds };
        if (wantsExplanation)
            yield return new("pace", "words", "How did that come about? It stands on the report.")
            {
                Most = LongestWords,
                Missing = "Say how it came about that the numbers came so fast.",
            };
        yield return new("remarks", "words", "Remarks for the report") { Most = LongestWords, Value = remarks };
    }

    private static IEnumerable<JsonObject> Beside(List<(TestItem Item, string Field)> shutoffs, string remarks)
    {
        yield return Entry("agreed", ("about", "permission"), ("who", Words("permission")));
        yield return Entry("agreed", ("about", "restoring"), ("who", Words("restoring")));
        foreach (var (_, field, _, kind, part) in Positions)
            yield return Entry(kind, ("part", part.Value), ("standing", Words(field)));
        foreach (var (item, field) in shutoffs)
            yield return Entry("result", ("item", item.Id), ("value", Words(field)));
        yield return Entry("explained", ("about", "pace"), ("text", Words("pace")));
        yield return Entry(
            "remarks",
            ("text", Words("remarks")),
            ("unless", new JsonObject { ["slot"] = "remarks", ["is"] = remarks })
        );
    }
}
