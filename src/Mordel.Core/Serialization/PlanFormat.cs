using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Planning;
using Mordel.Core.Rigs;

namespace Mordel.Core.Serialization;

/// <summary>Reads and writes <c>mordel.plan/1</c>: rounds that are to be planned.</summary>
public static partial class PlanFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.plan/1";

    private const int MostStops = 600,
        MostPlaces = 400,
        MostShifts = 120,
        LongestSpan = 60;

    // The solver keeps the ways between all beginnings, ends and stops for each shift.
    private const long MostWays = 40_000_000;

    /// <summary>Reads a problem.</summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    /// <param name="kept">Whether Mordel has written it down itself: it may be longer than what is taken from outside.
    /// </param>
    /// <returns>The problem, or null when there are errors.</returns>
    public static PlanProblem? Read(string json, out ImmutableArray<InputError> errors, bool kept = false) =>
        Node.Read(json, out errors, Read, kept ? Node.DeepestKept : Node.DeepestTaken);

    private static PlanProblem? Read(Node root, List<InputError> errors)
    {
        root.Format(Name);
        root.Only("format", "places", "stops", "testers", "shifts", "travel", "seed", "before");
        var places = List(root, "places", MostPlaces, Place);
        var numbers = Distinct(root, "places", places.Select(p => p.Id));
        var testers = List(root, "testers", MostShifts, Tester);
        Distinct(root, "testers", testers.Select(t => t.Id));
        var stops = List(root, "stops", MostStops, n => Stop(n, numbers));
        Distinct(root, "stops", stops.Select(s => s.Id));
        var known = testers.Select(t => t.Id).ToHashSet();
        var shifts = List(root, "shifts", MostShifts, n => Shift(n, numbers, known));
        Distinct(root, "shifts", shifts.Select(s => $"{s.Tester} {s.Day:yyyy-MM-dd}"));
        if (shifts.Length > 0 && shifts.Max(s => s.Day).DayNumber - shifts.Min(s => s.Day).DayNumber > LongestSpan)
            root.Optional("shifts")!.Value.Wrong($"more than {LongestSpan} days lie between the first and the last");
        if (shifts.Length * Math.Pow(stops.Length + (2 * shifts.Length), 2) > MostWays)
            root.Wrong("these are too many stops for so many shifts; plan fewer at once");
        var travel = Travel(root, places.Length);
        var seed = root.Optional("seed") is { } s ? (int)(s.Whole(0, int.MaxValue) ?? 1) : 1;
        var before = root.Optional("before") is { } b ? PlannedFormat.Read(b) : null;
        return errors.Count > 0 || travel is null
            ? null
            : new([.. places], [.. stops], [.. testers], [.. shifts], travel) { Seed = seed, Before = before };
    }

    private static ImmutableArray<T> List<T>(Node root, string name, int most, Func<Node, T?> read)
        where T : class
    {
        if (root.Required(name) is not { } list)
            return [];
        var nodes = list.Elements().ToList();
        if (nodes.Count <= most)
            return [.. nodes.Where(n => n.IsObject()).Select(read).OfType<T>()];
        list.Wrong($"more than {most} of them; plan fewer at once");
        return [];
    }

    // Each id once; by its number.
    private static Dictionary<string, int> Distinct(Node root, string name, IEnumerable<string> ids)
    {
        var numbers = new Dictionary<string, int>();
        var n = 0;
        foreach (var id in ids)
            if (!numbers.TryAdd(id, n++))
                root.Optional(name)?.Wrong($"\"{id}\" stands here twice");
        return numbers;
    }

    private static PlanPlace? Place(Node n)
    {
        n.Only("id", "name", "east", "north");
        return
            n.Required("id")?.Text(60) is { } id
            && n.Required("name")?.Text(200) is { } name
            && n.Required("east")?.Whole(-500_000, 500_000) is { } east
            && n.Required("north")?.Whole(-500_000, 500_000) is { } north
            ? new(id, name, (int)east, (int)north)
            : null;
    }

    private static PlanStop? Stop(Node n, Dictionary<string, int> places)
    {
        n.Only(
            "id",
            "name",
            "place",
            "minutes",
            "authority",
            "type",
            "windows",
            "days",
            "kits",
            "skills",
            "due",
            "priority",
            "together",
            "pin"
        );
        var id = n.Required("id")?.Text(60);
        var name = n.Required("name")?.Text(200);
        var place = Number(n, "place", places);
        var minutes = n.Required("minutes")?.Whole(1, 720);
        var authority = n.Required("authority")?.Text(120);
        var type = n.Required("type")?.AssemblyType();
        var windows = n.Optional("windows")?.Elements().Select(Window).OfType<Window>().ToImmutableArray();
        var pin = n.Optional("pin") is { } p ? Pin(p) : null;
        if (id is null || name is null || place is not { } at || minutes is null || authority is null || type is null)
            return null;
        return new(id, name, at, (int)minutes, authority, type.Value.Name)
        {
            Windows = windows is { Length: > 0 } some ? some : [new(0, Planning.Window.Day)],
            Days = Days(n),
            Kits = n.Optional("kits") is null
                ? []
                : [.. n.Optional("kits")!.Value.Elements().Select(Kind).OfType<string>()],
            Skills = n.Optional("skills") is null ? [] : n.Texts("skills", 60),
            Due = n.Optional("due")?.Day(),
            Priority = (int)(n.Optional("priority")?.Whole(PlanStop.LeastPriority, PlanStop.MostPriority) ?? 2),
            Together = n.Optional("together")?.Text(120),
            Pin = pin,
        };
    }

    private static string? Kind(Node n) =>
        n.OneOf(t => Kit.Named(t)?.Name, $"a kit; {string.Join(", ", Kit.All.Select(k => k.Name))}");

    private static Collections.EquatableArray<DateOnly> Days(Node n) =>
        [.. (n.Optional("days")?.Elements() ?? []).Select(d => d.Day()).OfType<DateOnly>()];

    private static PlanPin? Pin(Node n)
    {
        n.Only("tester", "day", "at");
        return n.Required("tester")?.Text(60) is { } tester && n.Required("day")?.Day() is { } day
            ? new(tester, day, n.Optional("at") is { } at ? Minute(at) : null)
            : null;
    }

    private static PlanTester? Tester(Node n)
    {
        n.Only("id", "name", "certificates", "kits", "skills");
        if (n.Required("id")?.Text(60) is not { } id || n.Required("name")?.Text(120) is not { } name)
            return null;
        return new(id, name)
        {
            Certificates =
            [
                .. (n.Required("certificates")?.Elements() ?? []).Select(Certificate).OfType<PlanCertificate>(),
            ],
            Kits = [.. (n.Required("kits")?.Elements() ?? []).Select(TesterKit).OfType<PlanKit>()],
            Skills = n.Optional("skills") is null ? [] : n.Texts("skills", 60),
        };
    }

    private static PlanCertificate? Certificate(Node n)
    {
        n.Only("authority", "types", "from", "until");
        var types = (n.Required("types")?.Elements() ?? []).Select(t => t.AssemblyType()?.Name).OfType<string>();
        var authority = n.Optional("authority")?.Text(120);
        return n.Required("from")?.Day() is { } from && n.Required("until")?.Day() is { } until
            ? new(authority, [.. types], from, until)
            : null;
    }

    private static PlanKit? TesterKit(Node n)
    {
        n.Only("kind", "serial", "calibrationDue", "days");
        return
            n.Required("kind") is { } k
            && Kind(k) is { } kind
            && n.Required("serial")?.Text(60) is { } serial
            && n.Required("calibrationDue")?.Day() is { } due
            ? new PlanKit(kind, serial, due) { Days = Days(n) }
            : null;
    }

    private static PlanShift? Shift(Node n, Dictionary<string, int> places, HashSet<string> testers)
    {
        n.Only("tester", "day", "hours", "start", "end", "lunch");
        var tester = n.Required("tester")?.OneOf(t => testers.Contains(t) ? t : null, "one of the testers");
        var day = n.Required("day")?.Day();
        var hours = n.Required("hours") is { } h ? Window(h) : null;
        var (start, end) = (Number(n, "start", places), Number(n, "end", places));
        PlanLunch? lunch = null;
        if (n.Optional("lunch") is { } l && l.IsObject())
        {
            l.Only("within", "minutes");
            var within = l.Required("within") is { } w ? Window(w) : null;
            var minutes = l.Required("minutes")?.Whole(1, 180);
            if (within is { } meal && minutes is { } wanted && meal.Minutes < wanted)
                l.Wrong("the meal is longer than the time it may be in");
            else if (within is { } span && minutes is { } takes)
                lunch = new(span, (int)takes);
        }

        return tester is not null && day is { } on && hours is { } work && start is { } from && end is { } to
            ? new(tester, on, work, from, to, lunch)
            : null;
    }

    private static int? Number(Node n, string name, Dictionary<string, int> places) =>
        n.Required(name)?.ValueOf<int>(t => places.TryGetValue(t, out var at) ? at : null, "one of the places");

    private static Window? Window(Node n)
    {
        if (!n.IsObject())
            return null;
        n.Only("from", "until");
        if (
            (n.Required("from") is { } f ? Minute(f) : null) is not { } from
            || (n.Required("until") is { } u ? Minute(u) : null) is not { } until
        )
            return null;
        if (from < until)
            return new(from, until);
        n.Wrong("it ends before it begins");
        return null;
    }

    internal static int? Minute(Node n, bool overnight = false) =>
        n.ValueOf<int>(t => Planning.Window.Minute(t, overnight), "a time of day; hh:mm");

    private static TravelTable? Travel(Node root, int places)
    {
        if (root.Required("travel") is not { } list)
            return null;
        var parts = new List<(int, ImmutableArray<int>)>();
        foreach (var part in list.Elements().Where(p => p.IsObject()))
        {
            part.Only("from", "minutes");
            var begins = part.Required("from") is { } f ? Minute(f) : null;
            var rows = (part.Required("minutes")?.Elements() ?? []).Select(Row).ToList();
            if (rows.Count != places || rows.Exists(r => r.Length != places))
                part.Wrong($"the minutes from each of the {places} places to each are wanted, a row a place");
            else if (begins is { } at)
                parts.Add((at, [.. rows.SelectMany(r => r)]));
        }

        if (parts.Count > 0 && parts[0].Item1 == 0 && parts.Zip(parts.Skip(1)).All(p => p.First.Item1 < p.Second.Item1))
            return new(places, parts);
        list.Wrong("parts of the day are wanted, the first from 00:00, each later than the one before");
        return null;
    }

    private static int[] Row(Node row) =>
        [
            .. row.Elements()
                .Select(m =>
                    m.IsNull ? TravelTable.NoWay : (int)(m.Whole(0, TravelTable.Longest) ?? TravelTable.NoWay)
                ),
        ];
}
