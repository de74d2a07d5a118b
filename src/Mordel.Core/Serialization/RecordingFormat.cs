using System.Collections.Immutable;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Simulation;
using Mordel.Core.Training;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>Reads and writes <c>mordel.tape/1</c>: a rig and everything that was done on it at the bench.</summary>
public static partial class RecordingFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.tape/1";

    /// <summary>The format of a rig that is drawn by lot.</summary>
    public const string Drawn = "mordel.drawn/1";

    private static readonly string[] Kinds = ["turn", "connect", "off", "lift", "tap", "write", "find", "verdict"];

    /// <summary>Reads a rig for the bench: a scenario, or one drawn by lot.</summary>
    public static Scenario? ReadRig(string json, out ImmutableArray<InputError> errors)
    {
        var found = new List<InputError>();
        var root = Node.Root(json, found);
        if (root?.Optional("format") is { LooksLikeString: true } format && format.Text() != Drawn)
            return ScenarioFormat.Read(json, out errors);
        var drawn = root is { } node && node.IsObject() ? ReadDrawn(node, found) : null;
        errors = [.. found];
        return found.Count == 0 ? drawn?.Scenario : null;
    }

    /// <summary>Reads a recording.</summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place.</param>
    /// <returns>The recording, or null when there are errors.</returns>
    public static Recording? Read(string json, out ImmutableArray<InputError> errors) =>
        Node.Read(json, out errors, Read);

    /// <summary>Reads a recording that is handed in: <c>{"assignment":null,"recording":{…}}</c>.</summary>
    /// <param name="json">The text.</param>
    /// <param name="assignment">What it was done for; null for practice.</param>
    /// <param name="recording">The recording's own text.</param>
    /// <param name="errors">Every error with its place.</param>
    public static Recording? ReadHandedIn(
        string json,
        out Guid? assignment,
        out string recording,
        out ImmutableArray<InputError> errors
    )
    {
        var found = new List<InputError>();
        (assignment, recording, Recording? read) = (null, "", null);
        if (Node.Root(json, found) is { } root && root.IsObject())
        {
            root.Only("assignment", "tape");
            if (root.Optional("assignment") is { IsNull: false } named)
                assignment = named.ValueOf<Guid>(t => Guid.TryParse(t, out var id) ? id : null, "an assignment's id");
            if (root.Required("tape") is { } node && node.IsObject())
            {
                recording = node.Raw;
                read = Read(node, found);
            }
        }

        errors = [.. found];
        return found.Count == 0 ? read : null;
    }

    /// <summary>
    /// A recording in its canonical form, on one line, that reads back as the same recording; null when it does not.
    /// </summary>
    /// <param name="recording">The recording.</param>
    /// <param name="text">The text that it was read from.</param>
    public static string? Canonical(Recording recording, string text)
    {
        var rig = JsonText.Compact(RigOf(text));
        var written = Write(recording, rig);
        return
            Read(written, out _) is { } again
            && Write(again, rig) == written
            && again.Actions.SequenceEqual(recording.Actions)
            && again.End == recording.End
            ? written
            : null;
    }

    /// <summary>The text of a recording's rig; empty when there is none.</summary>
    public static string RigOf(string json) =>
        Node.Root(json, []) is { } root && root.Optional("rig") is { } rig ? rig.Raw : "";

    private static Recording? Read(Node root, List<InputError> errors)
    {
        root.Format(Name);
        root.Only("format", "rig", "ticks", "deeds");
        var scenario = root.Required("rig") is { } rig ? Rig(rig) : null;
        var end = root.Required("ticks")?.Whole(0, Recording.Longest);
        var actions = ImmutableArray.CreateBuilder<TimedAction>();
        if (root.Required("deeds") is not { } list || scenario is null)
            return null;
        var last = 0;
        foreach (var node in list.Elements())
        {
            if (actions.Count == Recording.Most)
            {
                list.Wrong($"holds more than {Recording.Most} deeds");
                break;
            }

            if (!node.IsObject() || node.Required("at")?.Whole(last, end ?? Recording.Longest) is not { } at)
                continue;
            last = (int)at;
            if (ReadDeed(node, scenario.Situation.Rig) is { } action)
                actions.Add(new(last, action));
            // A recording that is wrong throughout says so once and briefly.
            if (errors.Count > 20)
                break;
        }

        return new(scenario, actions.ToImmutable(), (int)(end ?? 0));
    }

    private static Scenario? Rig(Node node)
    {
        if (!node.IsObject())
            return null;
        var scenario = ReadRig(node.Raw, out var errors);
        foreach (var error in errors)
            node.Wrong($"{error.Place}: {error.Says}");
        return scenario;
    }

    private static RandomRig? ReadDrawn(Node root, List<InputError> errors)
    {
        root.Required("format")
            ?.ValueOf<bool>(
                t => t == Drawn ? true : null,
                $"a format that is read here; {ScenarioFormat.Name}, {Drawn}"
            );
        root.Only("format", "procedure", "kit", "rules", "seed");
        var procedure = root.Required("procedure")
            ?.OneOf(SchoolCatalogue.Named, $"a procedure; {string.Join(", ", SchoolCatalogue.All.Select(p => p.Id))}");
        var kit = root.Required("kit")?.OneOf(Kit.Named, $"a kit; {string.Join(", ", Kit.All.Select(k => k.Name))}");
        var rules = root.Required("rules")
            ?.ValueOf<RandomRigRules>(
                t =>
                    t switch
                    {
                        "exam" => RandomRigRules.Exam,
                        "field" => RandomRigRules.Field,
                        _ => null,
                    },
                "rules; exam or field"
            );
        var seed = root.Required("seed")?.Whole(0, int.MaxValue);
        if (procedure is not null && kit is not null && procedure.Unfit(kit) is { } unfit)
            root.Optional("kit")!.Value.Wrong(unfit);
        return errors.Count == 0 && procedure is not null && kit is not null && rules is { } by && seed is { } number
            ? new(procedure, kit, by, (int)number)
            : null;
    }

    private static BenchAction? ReadDeed(Node node, Rig rig)
    {
        var kind = Kinds.FirstOrDefault(k => node.Optional(k) is not null);
        if (kind is null)
        {
            node.Wrong($"says nothing that can be done; {string.Join(", ", Kinds)}");
            return null;
        }

        var what = node.Optional(kind)!.Value;
        node.Only(
            "at",
            kind,
            kind switch
            {
                "turn" => "to",
                "connect" => "on",
                "write" => "value",
                "find" => "stands",
                _ => kind,
            },
            kind == "turn" ? "over" : kind
        );
        switch (kind)
        {
            case "turn":
                var part = Part(what, rig, p => p.Turns, "a valve of this rig");
                var to = node.Required("to")?.Number();
                if (to is < 0 or > 1)
                    node.Optional("to")!.Value.Wrong("how far it is open, from 0 to 1");
                var over = node.Optional("over") is { } o ? o.Whole(0, 3600) : 0;
                return part is { } valve && to is >= 0 and <= 1 && over is { } ticks
                    ? new BenchAction.Turn(valve, new(decimal.Round(to.Value, 6)), (int)ticks)
                    : null;
            case "connect":
                var item = Part(what, rig, p => p.Attaches, "a hose or fitting of this rig");
                var on = node.Required("on") is { } place
                    ? Part(place, rig, p => p.HasOutlet, "a cock or the tee")
                    : null;
                return item is { } hose && on is { } cock ? new BenchAction.Connect(hose, cock) : null;
            case "off":
                return Part(what, rig, p => p.Attaches, "a hose or fitting of this rig") is { } loose
                    ? new BenchAction.TakeOff(loose)
                    : null;
            case "lift":
                var inches = what.Number();
                if (inches is < -60 or > 60)
                    what.Wrong("inches above the body's centre, from −60 to 60");
                return inches is >= -60 and <= 60 ? new BenchAction.Lift(decimal.Round(inches.Value, 3)) : null;
            case "tap":
                return what.YesNo() is { } open ? new BenchAction.DrawOff(open) : null;
            case "find":
                var finding = what.OneOf(FindingKind.Named, "a finding");
                return finding is not null && node.Required("stands")?.YesNo() is { } stands
                    ? new BenchAction.ReportFinding(finding, stands)
                    : null;
            case "verdict":
                return
                    what.ValueOf<Overall>(
                        t =>
                            t switch
                            {
                                "pass" => Overall.Pass,
                                "fail" => Overall.Fail,
                                "not-testable" => Overall.NotTestable,
                                _ => null,
                            },
                        "a verdict; pass, fail or not-testable"
                    )
                        is { } overall
                    ? new BenchAction.Conclude(overall)
                    : null;
            default:
                var wanted = what.OneOf(
                    t => TestItem.Named(t) is { } i && i.AppliesTo(rig.Body.Type) ? i : null,
                    "an item of this type"
                );
                var value = node.Required("value");
                if (wanted is null || value is null)
                    return null;
                var answer = value.Value.Value(wanted);
                return answer is null ? null : new BenchAction.Write(wanted, answer);
        }
    }

    private static PartId? Part(Node node, Rig rig, Func<Part, bool> fits, string what) =>
        node.ValueOf<PartId>(
            t => rig.Has(new(t)) && fits(rig[new(t)]) ? new PartId(t) : null,
            $"{what}; {string.Join(", ", rig.Parts.Where(fits).Select(p => p.Id.Value))}"
        );
}
