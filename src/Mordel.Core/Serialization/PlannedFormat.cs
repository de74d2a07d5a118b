using System.Collections.Immutable;
using System.Text.Json;
using Mordel.Core.Planning;

namespace Mordel.Core.Serialization;

/// <summary>Reads and writes <c>mordel.planned/1</c>: rounds as they were planned.</summary>
public static class PlannedFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.planned/1";

    private const int MostRoutes = 600,
        MostVisits = 600;

    private static readonly ImmutableArray<(PlanLimit Limit, string Word)> Limits =
    [
        .. Enum.GetValues<PlanLimit>().Select(l => (l, l.ToString().ToLowerInvariant())),
    ];

    /// <summary>A plan.</summary>
    public static string Write(Plan plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        return JsonText.Object(json => Write(json, plan));
    }

    internal static void Write(Utf8JsonWriter json, Plan plan)
    {
        json.WriteString("format", Name);
        PlanFormat.List(json, "routes", plan.Routes, r =>
        {
            json.WriteString("tester", r.Tester);
            json.WriteDay("day", r.Day);
            json.WriteString("leave", Window.Says(r.Leave));
            PlanFormat.List(json, "visits", r.Visits, v =>
            {
                json.WriteString("stop", v.Stop);
                json.WriteString("arrive", Window.Says(v.Arrive));
                json.WriteString("begin", Window.Says(v.Begin));
                json.WriteString("end", Window.Says(v.End));
            });
            if (r.Lunch is { } lunch)
                PlanFormat.Write(json, "lunch", lunch);
            json.WriteString("back", Window.Says(r.Back));
        });
        PlanFormat.List(json, "leftOut", plan.LeftOut, l =>
        {
            json.WriteString("stop", l.Stop);
            json.WriteStrings("limits", l.Limits.Select(x => Limits.First(k => k.Limit == x).Word));
            json.WriteString("says", l.Says);
            json.WriteStrings("wouldHelp", l.WouldHelp);
        });
    }

    /// <summary>Reads a plan.</summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    /// <param name="kept">Whether Mordel has written it down itself: it may be longer than what is taken from outside.
    /// </param>
    /// <returns>The plan, or null when there are errors.</returns>
    public static Plan? Read(string json, out ImmutableArray<InputError> errors, bool kept = false) =>
        Node.Read(json, out errors, (root, _) => Read(root), kept ? Node.DeepestKept : Node.DeepestTaken);

    internal static Plan? Read(Node root)
    {
        if (!root.IsObject())
            return null;
        root.Format(Name);
        root.Only("format", "routes", "leftOut");
        var routes = Most(root, "routes", MostRoutes).Select(Route).OfType<PlanRoute>().ToImmutableArray();
        foreach (var twice in routes.SelectMany(r => r.Visits).GroupBy(v => v.Stop).Where(g => g.Count() > 1))
            root.Optional("routes")!.Value.Wrong($"stop \"{twice.Key}\" stands here twice");
        return new([.. routes], [.. (root.Required("leftOut")?.Elements() ?? []).Select(Left).OfType<LeftOut>()]);
    }

    private static List<Node> Most(Node n, string name, int most)
    {
        var list = n.Required(name)?.Elements().ToList() ?? [];
        if (list.Count <= most)
            return list;
        n.Optional(name)!.Value.Wrong($"more than {most} of them");
        return [];
    }

    private static PlanRoute? Route(Node n)
    {
        n.Only("tester", "day", "leave", "visits", "lunch", "back");
        var visits = Most(n, "visits", MostVisits).Select(Visit).OfType<PlanVisit>();
        Window? lunch = null;
        if (n.Optional("lunch") is { } l && l.IsObject())
        {
            l.Only("from", "until");
            if (Minute(l, "from") is { } from && Minute(l, "until") is { } until)
                lunch = new(from, until);
        }

        return
            n.Required("tester")?.Text(60) is { } tester
            && n.Required("day")?.Day() is { } day
            && Minute(n, "leave") is { } leave
            && Minute(n, "back") is { } back
            ? new(tester, day, leave, [.. visits], lunch, back)
            : null;
    }

    private static PlanVisit? Visit(Node n)
    {
        n.Only("stop", "arrive", "begin", "end");
        return
            n.Required("stop")?.Text(60) is { } stop
            && Minute(n, "arrive") is { } arrive
            && Minute(n, "begin") is { } begin
            && Minute(n, "end") is { } end
            ? new(stop, arrive, begin, end)
            : null;
    }

    private static LeftOut? Left(Node n)
    {
        n.Only("stop", "limits", "says", "wouldHelp");
        var limits = (n.Required("limits")?.Elements() ?? []).Select(l =>
            l.ValueOf<PlanLimit>(
                t => Limits.Where(k => k.Word == t).Select(k => (PlanLimit?)k.Limit).FirstOrDefault(),
                $"a reason; {string.Join(", ", Limits.Select(k => k.Word))}"
            )
        );
        return n.Required("stop")?.Text(60) is { } stop && n.Required("says")?.Text() is { } says
            ? new(stop, [.. limits.OfType<PlanLimit>()], says, n.Texts("wouldHelp", 2_000))
            : null;
    }

    private static int? Minute(Node n, string name) =>
        n.Required(name) is { } m ? PlanFormat.Minute(m, overnight: true) : null;
}
