using System.Text;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;

namespace Mordel.Core.Serialization;

/// <summary>Prints a run sheet as text.</summary>
public static class RunSheetText
{
    private const string Defers =
        "Mordel is an aid. The local code, the authority's procedure, the maker's instructions and the licensed "
        + "person on site decide.";

    /// <summary>The run sheet as text.</summary>
    public static string Write(RunSheet sheet)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        var (procedure, kit) = (sheet.Procedure, sheet.Rig.Kit);
        var text = new StringBuilder();
        text.AppendLine($"{procedure.Title}  ({procedure.Id}, version {procedure.Version}, {kit.Name} kit)")
            .AppendLine(procedure.About);
        text.AppendLine($"Bring: {string.Join(", ", procedure.Bring.Prepend($"{kit.Name} kit"))}.").AppendLine(Defers);
        var number = 0;
        foreach (var stage in sheet.WholeRun)
        {
            text.AppendLine().AppendLine(stage.Title.ToUpperInvariant());
            foreach (var line in SheetLines.Arrange(stage))
            {
                if (line.Choices.IsEmpty)
                    Write(text, sheet, line.Step, $"{++number}. ", "");
                else
                    Write(text, sheet, line, ++number);
            }
        }

        return text.ToString();
    }

    private static void Write(StringBuilder text, RunSheet sheet, SheetChoice line, int number)
    {
        text.AppendLine($"{number}. {line.Title}");
        foreach (var step in line.Choices)
            text.AppendLine($"   - {step.When(sheet.Rig)}: {step.Title}.");
        foreach (var why in line.Choices.Select(s => s.Why).Distinct())
            text.AppendLine($"   Why: {why}");
        foreach (var caution in line.Choices.Select(s => s.Caution).OfType<string>().Distinct())
            text.AppendLine($"   Caution: {caution}");
    }

    private static string TitleOf(RunSheet sheet, string stepId) =>
        sheet.At(stepId) is >= 0 and var at ? sheet.Steps[at].Step.Title : stepId;

    private static void Write(StringBuilder text, RunSheet sheet, Step step, string bullet, string indent)
    {
        text.AppendLine($"{indent}{bullet}{(step.When(sheet.Rig) is { } when ? $"{when}: " : "")}{step.Title}");
        var inner = indent + "   ";
        foreach (var act in step.Acts)
            text.AppendLine($"{inner}- {act.For(sheet.Rig).Say}");
        if (step.Watch is { } watch)
            text.AppendLine($"{inner}Watch: {watch}");
        if (Asked(step.Asks) is { } asked)
            text.AppendLine($"{inner}Write down: {asked}");
        if (step.Capture is { } capture)
            text.AppendLine(
                $"{inner}{(capture.Provisional ? "Note" : "Record")}: "
                    + $"{capture.Item.Name}{Limit(sheet, capture)}{(capture.MayBePassed ? " (if asked for)" : "")}"
            );
        if (step.Holds && sheet.Rules.HoldSeconds > 0)
            text.AppendLine($"{inner}Hold: watch the needle for {sheet.Rules.HoldSeconds} s.");
        text.AppendLine($"{inner}Why: {step.Why}");
        if (step.Caution is { } caution)
            text.AppendLine($"{inner}Caution: {caution}");
        foreach (var offer in step.Offers)
            Write(text, sheet, offer, "If SO2 is to be shown, first: ", inner);
        foreach (var sight in step.Sights)
            Write(text, sheet, sight, inner);
    }

    private static string Word(Answer given) =>
        (given.Item.Kind == ItemKind.TightOrLeaks, given.Good) switch
        {
            (true, true) => "tight",
            (true, false) => "leaks",
            (_, true) => "yes",
            _ => "no",
        };

    private static void Write(StringBuilder text, RunSheet sheet, Sight sight, string inner)
    {
        text.AppendLine($"{inner}? {sight.Seen}: {sight.Means}");
        foreach (var branch in sight.Branch)
            Write(text, sheet, branch, "> ", inner + "  ");
        foreach (var given in sight.Gives)
            text.AppendLine($"{inner}  Record: {given.Item.Name} {Word(given)}.");
        var then = sight.Leads switch
        {
            LeadsTo.Repeat => $"set the rig back and repeat from \"{TitleOf(sheet, sight.Again!)}\"",
            LeadsTo.NotTestable => "not testable; close up",
            LeadsTo.CloseUp => "close up; the test ends here",
            LeadsTo.BeginAgain => "begin the whole test again",
            _ => sight.Takes switch
            {
                TakesValue.ZeroOnDial => "record 0; go on",
                TakesValue.NumberHeld => "record the number noted before; go on",
                _ => "go on",
            },
        };
        text.AppendLine($"{inner}  Then: {then}.{(sight.Remark is { } r ? $" Remark: \"{r}\"" : "")}");
    }

    // A gate names what happens below its limit in its sights; here stands the number.
    private static string Limit(RunSheet sheet, Capture capture) =>
        sheet.Rules.For(capture.Item)?.LimitText is not { } limit
            ? ""
            : $", {limit}{(capture.MustMeetToGoOn ? ", or the test does not go on" : "")}";

    private static string? Asked(Question question) =>
        question switch
        {
            Question.Permission => "who gave permission, and when.",
            Question.Identity => "the serial number, if it is another.",
            Question.KitZero => "where the needle stands, if it is not at zero.",
            Question.Arrival => "SO1 and SO2 as found: open, partly, closed; each cock that stood open.",
            Question.BeforeRestoring => "who was asked.",
            Question.Leaving => "how it is left: on, off and drained, or as found.",
            Question.Departure => "SO1 and SO2 as left: open, partly, closed; each cock that is left open.",
            _ => null,
        };
}
