using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;

namespace Mordel.Core.Serialization;

/// <summary>
/// Writes a run sheet as <c>mordel.procedure/1</c>: all that a replay of a run needs, so that it can be read back
/// (<see cref="RunSheetReader"/>) whatever the school looks like by then.
/// </summary>
public static class RunSheetFormat
{
    /// <summary>Format name and version of the JSON form.</summary>
    public const string Name = "mordel.procedure/1";

    /// <summary>The program as JSON.</summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="indented">Whether for people to read: laid out, with the limit of the rules beside each number. The
    /// canonical form, on one line, is neither.</param>
    public static string Json(RunSheet sheet, bool indented = true)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        var (procedure, rig) = (sheet.Procedure, sheet.Rig);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options with { Indented = indented }))
        {
            json.WriteStartObject();
            json.WriteString("format", Name);
            json.WriteString("procedure", procedure.Id);
            json.WriteNumber("version", procedure.Version);
            json.WriteString("title", procedure.Title);
            json.WriteString("about", procedure.About);
            json.WriteString("type", procedure.Type.ToString());
            json.WriteStrings("bring", procedure.Bring);
            if (procedure.StillWaterShowsSo1)
                json.WriteBoolean("stillWaterShowsSo1", true);
            json.WriteString("kit", rig.Kit.Name);
            json.WriteString("body", rig.Body.Name);
            json.WriteNumber("holdSeconds", sheet.Rules.HoldSeconds);
            json.WriteStartArray("stages");
            foreach (var stage in sheet.WholeRun)
            {
                json.WriteStartObject();
                json.WriteString("stage", stage.Id);
                json.WriteString("title", stage.Title);
                json.WriteString("kind", Id(stage.Kind));
                Write(json, rig, indented ? sheet.Rules : null, "steps", stage.Steps);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(stream.ToArray());
    }

    private static void Write(
        Utf8JsonWriter json,
        Rig rig,
        SchoolRules? limits,
        string name,
        ImmutableArray<Step> steps
    )
    {
        json.WriteStartArray(name);
        foreach (var step in steps)
            Write(json, rig, limits, step);
        json.WriteEndArray();
    }

    private static void Write(Utf8JsonWriter json, Rig rig, SchoolRules? limits, Step step)
    {
        json.WriteStartObject();
        json.WriteString("step", step.Id);
        json.WriteString("title", step.Title);
        json.WriteStartArray("instructions");
        foreach (var instruction in step.Acts.Select(a => a.For(rig)))
        {
            json.WriteStartObject();
            json.WriteString("say", instruction.Say);
            json.WriteStartArray("moves");
            foreach (var move in instruction.Moves)
                Write(json, move);
            json.WriteEndArray();
            json.WriteEndObject();
        }

        json.WriteEndArray();
        if (!step.OnlyIf.IsEmpty)
        {
            json.WriteStartArray("onlyIf");
            foreach (var found in step.OnlyIf)
            {
                json.WriteStartObject();
                json.WriteStrings(found.WhenLeft ? "left" : "found", found.Parts.Select(p => p.Value));
                json.WriteStrings("standing", found.ValvePositions.Select(EntryFormat.Name));
                json.WriteEndObject();
            }

            json.WriteEndArray();
        }

        if (step.Watch is { } watch)
            json.WriteString("watch", watch);
        if (step.Asks != Question.None)
            json.WriteString("asks", Id(step.Asks));
        if (step.Capture is { } capture)
            Write(json, capture, limits?.For(capture.Item)?.LimitText);
        json.WriteString("why", step.Why);
        if (step.Caution is { } caution)
            json.WriteString("caution", caution);
        if (step.Holds)
            json.WriteBoolean("holds", true);
        if (step.MustAnswer)
            json.WriteBoolean("mustAnswer", true);
        if (!step.Needs.IsEmpty)
        {
            json.WriteStartArray("needs");
            foreach (var need in step.Needs)
                Write(json, need);
            json.WriteEndArray();
        }

        if (!step.Offers.IsEmpty)
            Write(json, rig, limits, "offers", step.Offers);
        if (!step.Sights.IsEmpty)
        {
            json.WriteStartArray("sights");
            foreach (var sight in step.Sights)
                Write(json, rig, limits, sight);
            json.WriteEndArray();
        }

        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Capture capture, string? limit)
    {
        json.WriteString(capture.Provisional ? "note" : "record", capture.Item.Id);
        if (limit is not null)
            json.WriteString("limit", limit);
        if (capture.OneHose)
            json.WriteBoolean("oneHose", true);
        if (capture.MustMeetToGoOn)
            json.WriteBoolean("mustMeetToGoOn", true);
        if (capture.MayBePassed)
            json.WriteBoolean("mayBePassed", true);
        if (capture.WhenLow is { } low)
            json.WriteString("whenLow", low.Id);
        if (capture.RemarkWhenLow is { } remark)
            json.WriteString("remarkWhenLow", remark);
    }

    private static void Write(Utf8JsonWriter json, Rig rig, SchoolRules? limits, Sight sight)
    {
        json.WriteStartObject();
        json.WriteString("sight", sight.Id);
        json.WriteString("seen", sight.Seen);
        json.WriteString("means", sight.Means);
        if (!sight.Findings.IsEmpty)
            json.WriteStrings("findings", sight.Findings.Select(f => f.Id));
        if (sight.Good)
            json.WriteBoolean("good", true);
        if (!sight.Gives.IsEmpty)
        {
            json.WriteStartObject("gives");
            foreach (var given in sight.Gives)
                json.WriteBoolean(given.Item.Id, given.Good);
            json.WriteEndObject();
        }

        if (sight.FailsAlone)
            json.WriteBoolean("failsAlone", true);
        if (sight.SitePushesBack)
            json.WriteBoolean("sitePushesBack", true);
        if (sight.Remark is { } remark)
            json.WriteString("remark", remark);
        if (!sight.Skips.IsEmpty)
            json.WriteStrings("skips", sight.Skips);
        if (sight.Takes != TakesValue.Nothing)
            json.WriteString("takes", sight.Takes == TakesValue.ZeroOnDial ? "zero" : "noted");
        if (sight.Item is { } item)
            json.WriteString("item", item.Id);
        json.WriteString("leads", Id(sight.Leads));
        if (sight.Again is { } again)
            json.WriteString("again", again);
        if (!sight.Branch.IsEmpty)
            Write(json, rig, limits, "steps", sight.Branch);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Move move)
    {
        json.WriteStartObject();
        switch (move)
        {
            case Move.Turn t:
                json.WriteString("turn", t.Part.Value);
                json.WriteNumber("to", t.To.Fraction);
                if (t.Slowly)
                    json.WriteBoolean("slowly", true);
                break;
            case Move.Connect c:
                json.WriteString("connect", c.Item.Value);
                json.WriteString("to", c.To.Value);
                break;
            case Move.TakeOff o:
                json.WriteString("takeOff", o.Item.Value);
                if (o.IfThere)
                    json.WriteBoolean("ifThere", true);
                break;
            case Move.Hold h:
                json.WriteString("holdGaugeLevelWith", h.Level.With.Value);
                break;
            default:
                throw new InvalidOperationException("A sheet lifts the gauge to no height of its own.");
        }

        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Condition need)
    {
        json.WriteStartObject();
        switch (need)
        {
            case Condition.ValveClosed c:
                json.WriteString("closed", c.Part.Value);
                break;
            case Condition.ValveOpen o:
                json.WriteString("open", o.Part.Value);
                break;
            case Condition.Coupled o:
                json.WriteString("on", o.Item.Value);
                json.WriteString("outlet", o.Outlet.Value);
                break;
            case Condition.Uncoupled o:
                json.WriteString("off", o.Item.Value);
                break;
            case Condition.GaugeHeldAt h:
                json.WriteString("gaugeLevelWith", h.Level.Value);
                break;
            case Condition.SidePurged p:
                json.WriteString("purged", p.Side == Side.High ? "high" : "low");
                break;
            default:
                throw new InvalidOperationException("Unknown condition.");
        }

        json.WriteEndObject();
    }

    internal static string Id(StageKind kind) =>
        kind switch
        {
            StageKind.Before => "before",
            StageKind.Prepare => "prepare",
            StageKind.Test => "test",
            _ => "finish",
        };

    internal static string Id(LeadsTo leads) =>
        leads switch
        {
            LeadsTo.Repeat => "repeat",
            LeadsTo.NotTestable => "not-testable",
            LeadsTo.CloseUp => "close-up",
            LeadsTo.BeginAgain => "begin-again",
            _ => "go-on",
        };

    internal static string Id(Question question) =>
        question switch
        {
            Question.Permission => "permission",
            Question.Identity => "identity",
            Question.Arrival => "as-found",
            Question.BeforeRestoring => "restoring",
            Question.Departure => "as-left",
            Question.Leaving => "leave",
            Question.KitZero => "kit-zero",
            _ => "",
        };
}
