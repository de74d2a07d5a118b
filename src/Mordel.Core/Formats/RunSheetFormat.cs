using System.Text;
using System.Text.Json;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;

namespace Mordel.Core.Formats;

/// <summary>Prints a procedure, expanded for a kit, as a text run sheet or as JSON.</summary>
public static class RunSheetFormat
{
    /// <summary>Format name and version of the JSON form.</summary>
    public const string Name = "mordel.procedure/1";

    private const string Defers = "Mordel is an aid. The local code, the authority's procedure, the maker's instructions and the licensed person on site decide.";

    /// <summary>The run sheet as text.</summary>
    public static string Text(RunSheet sheet)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        var (procedure, rig, kit) = (sheet.Procedure, sheet.Setup.Rig, sheet.Setup.Rig.Kit);
        var text = new StringBuilder();
        text.AppendLine($"{procedure.Title}  ({procedure.Id}, {kit.Name} kit)").AppendLine(procedure.About);
        text.AppendLine($"Bring: {string.Join(", ", procedure.Bring.Prepend($"{kit.Name} kit"))}.").AppendLine(Defers);
        var number = 0;
        foreach (var stage in sheet.WholeRun)
        {
            text.AppendLine().AppendLine(stage.Title.ToUpperInvariant());
            foreach (var step in stage.Steps) WriteStep(text, sheet, step, $"{++number}. ", "");
        }

        return text.ToString();
    }

    private static string TitleOf(RunSheet sheet, string stepId) => sheet.At(stepId) is >= 0 and var at ? sheet.Steps[at].Step.Title : stepId;

    private static void WriteStep(StringBuilder text, RunSheet sheet, Step step, string bullet, string indent)
    {
        var rig = sheet.Setup.Rig;
        text.AppendLine($"{indent}{bullet}{step.Title}");
        var inner = indent + "   ";
        foreach (var act in step.Acts) text.AppendLine($"{inner}- {act.For(rig).Say}");
        if (step.Watch is { } watch) text.AppendLine($"{inner}Watch: {watch}");
        if (step.Capture is { } capture) text.AppendLine($"{inner}{(capture.Provisional ? "Note" : "Record")}: {capture.Item.Name}{(capture.MayBePassed ? " (if asked for)" : "")}");
        if (step.Holds && sheet.Setup.Rules.HoldSeconds > 0) text.AppendLine($"{inner}Hold: watch the needle for {sheet.Setup.Rules.HoldSeconds} s.");
        text.AppendLine($"{inner}Why: {step.Why}");
        if (step.Caution is { } caution) text.AppendLine($"{inner}Caution: {caution}");
        foreach (var sight in step.Sights)
        {
            text.AppendLine($"{inner}? {sight.Seen}: {sight.Means}");
            foreach (var branch in sight.Branch) WriteStep(text, sheet, branch, "> ", inner + "  ");
            foreach (var given in sight.Gives) text.AppendLine($"{inner}  Record: {given.Item.Name} {(given.Item.Kind == TestItem.Shutoff1.Kind ? given.Good ? "tight" : "leaks" : given.Good ? "yes" : "no")}.");
            var then = sight.Leads switch
            {
                LeadsTo.Repeat => $"set the rig back and repeat from \"{TitleOf(sheet, sight.Again!)}\"",
                LeadsTo.NotTestable => "not testable; close up",
                LeadsTo.CloseUp => "close up; the test ends here",
                LeadsTo.BeginAgain => "begin the whole test again",
                _ => sight.Takes switch { TakesValue.ZeroOnDial => "record 0; go on", TakesValue.NumberHeld => "record the number noted before; go on", _ => "go on" },
            };
            text.AppendLine($"{inner}  Then: {then}.{(sight.Remark is { } r ? $" Remark: \"{r}\"" : "")}");
        }
    }

    /// <summary>The program as JSON.</summary>
    public static string Json(RunSheet sheet)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        var (procedure, rig, kit) = (sheet.Procedure, sheet.Setup.Rig, sheet.Setup.Rig.Kit);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options with { Indented = true }))
        {
            json.WriteStartObject();
            json.WriteString("format", Name);
            json.WriteString("procedure", procedure.Id);
            json.WriteString("title", procedure.Title);
            json.WriteString("type", procedure.Type.ToString());
            json.WriteString("kit", kit.Name);
            json.WriteString("body", rig.Body.Name);
            json.WriteNumber("holdSeconds", sheet.Setup.Rules.HoldSeconds);
            json.WriteStartArray("stages");
            foreach (var stage in sheet.WholeRun)
            {
                json.WriteStartObject();
                json.WriteString("stage", stage.Id);
                json.WriteString("title", stage.Title);
                WriteSteps(json, rig, "steps", stage.Steps);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(stream.ToArray());
    }

    private static void WriteSteps(Utf8JsonWriter json, Rig rig, string name, IEnumerable<Step> steps)
    {
        json.WriteStartArray(name);
        foreach (var step in steps)
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
                foreach (var move in instruction.Moves) WriteMove(json, move);
                json.WriteEndArray();
                json.WriteEndObject();
            }

            json.WriteEndArray();
            if (step.Watch is { } watch) json.WriteString("watch", watch);
            if (step.Capture is { } capture) json.WriteString(capture.Provisional ? "note" : "record", capture.Item.Id);
            json.WriteString("why", step.Why);
            if (step.Caution is { } caution) json.WriteString("caution", caution);
            if (step.Holds) json.WriteBoolean("holds", true);
            if (!step.Sights.IsEmpty) WriteSights(json, rig, step);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteSights(Utf8JsonWriter json, Rig rig, Step step)
    {
        json.WriteStartArray("sights");
        foreach (var sight in step.Sights)
        {
            json.WriteStartObject();
            json.WriteString("sight", sight.Id);
            json.WriteString("seen", sight.Seen);
            json.WriteString("means", sight.Means);
            if (!sight.Findings.IsEmpty)
            {
                json.WriteStartArray("findings");
                foreach (var finding in sight.Findings) json.WriteStringValue(finding);
                json.WriteEndArray();
            }

            if (sight.Good) json.WriteBoolean("good", true);
            if (!sight.Gives.IsEmpty)
            {
                json.WriteStartObject("gives");
                foreach (var given in sight.Gives) json.WriteBoolean(given.Item.Id, given.Good);
                json.WriteEndObject();
            }

            if (sight.FailsAlone) json.WriteBoolean("failsAlone", true);
            if (sight.Remark is { } remark) json.WriteString("remark", remark);
            json.WriteString("leads", sight.Leads switch { LeadsTo.Repeat => "repeat", LeadsTo.NotTestable => "not-testable", LeadsTo.CloseUp => "close-up", LeadsTo.BeginAgain => "begin-again", _ => "go-on" });
            if (sight.Again is { } again) json.WriteString("again", again);
            if (!sight.Branch.IsEmpty) WriteSteps(json, rig, "steps", sight.Branch);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteMove(Utf8JsonWriter json, Move move)
    {
        json.WriteStartObject();
        switch (move)
        {
            case Move.Turn t:
                json.WriteString("turn", t.Part.Value);
                json.WriteNumber("to", t.To.Fraction);
                if (t.Slowly) json.WriteBoolean("slowly", true);
                break;
            case Move.Connect c:
                json.WriteString("connect", c.Item.Value);
                json.WriteString("to", c.To.Value);
                break;
            case Move.TakeOff o:
                json.WriteString("takeOff", o.Item.Value);
                break;
            case Move.Hold h:
                json.WriteString("holdGaugeLevelWith", h.Level.With.Value);
                break;
        }

        json.WriteEndObject();
    }
}
