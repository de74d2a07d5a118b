using System.Runtime.InteropServices.JavaScript;
using System.Runtime.Versioning;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Core.Training;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;

namespace Mordel.Browser;

/// <summary>
/// The bench as a page's script sees it. Two benches stand side by side when runs are compared; the first word of each
/// call says which.
/// </summary>
[SupportedOSPlatform("browser")]
public static partial class BenchExports
{
    private static readonly BenchSession?[] Desks = new BenchSession?[2];
    private static readonly string[] Rigs = ["", ""];

    /// <summary>Sets a rig up; answers nothing, or what is wrong with its text.</summary>
    [JSExport]
    public static string Open(int desk, string rig, bool guided)
    {
        if (RecordingFormat.ReadRig(rig, out var errors) is not { } scenario)
            return PageExports.Wrong(errors);
        Desks[desk] = new(scenario, guided);
        Rigs[desk] = rig;
        return "";
    }

    /// <summary>The drawing and the order of the numbers.</summary>
    [JSExport]
    public static string Layout(int desk, string flow, bool open) =>
        BenchViews.Layout(
            At(desk),
            Enum.TryParse<FlowDirection>(flow, out var way) ? way : FlowDirection.LeftToRight,
            open
        );

    /// <summary>Lets time pass and answers the row of numbers.</summary>
    [JSExport]
    public static double[] Advance(int desk, int ticks)
    {
        At(desk).Advance(ticks);
        return At(desk).View.Row();
    }

    [JSExport]
    public static string Turn(int desk, string part, double to, int over) =>
        Do(desk, new BenchAction.Turn(new(part), new(Math.Round((decimal)Math.Clamp(to, 0, 1), 6)), over));

    [JSExport]
    public static string Connect(int desk, string item, string to) =>
        Do(desk, new BenchAction.Connect(new(item), new(to)));

    [JSExport]
    public static string TakeOff(int desk, string item) => Do(desk, new BenchAction.TakeOff(new(item)));

    [JSExport]
    public static string Lift(int desk, double inches) =>
        Do(desk, new BenchAction.Lift(Math.Round((decimal)Math.Clamp(inches, -60, 60), 2)));

    [JSExport]
    public static string Tap(int desk, bool open) => Do(desk, new BenchAction.DrawOff(open));

    /// <summary>Writes an answer on an exam's report: a number, tight, leaks, yes or no.</summary>
    [JSExport]
    public static string Write(int desk, string item, string value)
    {
        if (TestItem.Named(item) is not { } known)
            return $"There is no item {item}.";
        var unit = At(desk).Scenario.Plan.Resolution.Unit;
        if (known.Kind == ItemKind.Differential)
            return RecordingFormat.Typed(value) is { } amount
                ? Do(desk, new BenchAction.Write(known, ItemValue.Of(amount, unit)))
                : $"{known.Name}: a number is wanted, such as 1.8.";
        return Do(
            desk,
            new BenchAction.Write(
                known,
                known.Kind == ItemKind.TightOrLeaks
                    ? new ItemValue.Tightness(value == "tight")
                    : new ItemValue.YesNo(value == "yes")
            )
        );
    }

    [JSExport]
    public static string Find(int desk, string finding, bool stands) =>
        FindingKind.Named(finding) is { } kind
            ? Do(desk, new BenchAction.ReportFinding(kind, stands))
            : $"{finding} is no finding that a report can hold.";

    [JSExport]
    public static string Conclude(int desk, string verdict) =>
        Do(
            desk,
            new BenchAction.Conclude(
                verdict switch
                {
                    "pass" => Overall.Pass,
                    "fail" => Overall.Fail,
                    _ => Overall.NotTestable,
                }
            )
        );

    /// <summary>What carries each hose and fitting: <c>high-hose tc2</c>, a line each.</summary>
    [JSExport]
    public static string Connections(int desk) =>
        string.Join(
            '\n',
            At(desk)
                .Live.Rig.Connections.OrderBy(c => c.Key.Value, StringComparer.Ordinal)
                .Select(c => $"{c.Key} {c.Value}")
        );

    /// <summary>What has happened since the n-th happening, a line each.</summary>
    [JSExport]
    public static string Happened(int desk, int since, bool numbers) =>
        string.Join(
            '\n',
            At(desk).Live.EventLog.All.Skip(since).Select(e => Narrator.Say(e, At(desk).Live.Rig.Rig, numbers))
        );

    /// <summary>A number that is another whenever the sheet reads otherwise.</summary>
    [JSExport]
    public static int SheetVersion(int desk) => At(desk).Guide?.Version ?? 0;

    /// <summary>How the rig stands, in words.</summary>
    [JSExport]
    public static string Describe(int desk) => Narrator.Describe(At(desk).Live);

    [JSExport]
    public static void Back(int desk, int tick) => At(desk).Back(tick);

    [JSExport]
    public static void Seek(int desk, int tick) => At(desk).Seek(tick);

    [JSExport]
    public static string Sheet(int desk) => BenchViews.Sheet(At(desk));

    [JSExport]
    public static void Confirm(int desk) => At(desk).Guide?.Confirm();

    [JSExport]
    public static string Take(int desk, string value)
    {
        if (RecordingFormat.Typed(value) is not { } amount)
            return "Type a number, such as 1.8.";
        At(desk).Guide?.Take(amount);
        return "";
    }

    [JSExport]
    public static void See(int desk, string sight) => At(desk).Guide?.See(sight);

    /// <summary>Tries it otherwise: the n-th way that the sheet offers at this step.</summary>
    [JSExport]
    public static void Try(int desk, int which)
    {
        var bench = At(desk);
        if (
            bench.Guide?.State.Current is { } now
            && WhatIf.At(bench.Scenario.Procedure.Id, now.Step.Id).ElementAtOrDefault(which) is { } otherwise
        )
            bench.Try(otherwise);
    }

    /// <summary>What the water did when it was tried otherwise; empty until it has been watched.</summary>
    [JSExport]
    public static string Tried(int desk) => At(desk).Told ?? "";

    [JSExport]
    public static void StepBack(int desk) => At(desk).StepBack();

    /// <summary>Everything done so far, as a recording.</summary>
    [JSExport]
    public static string Recording(int desk) => RecordingFormat.Write(At(desk).Recording, Rigs[desk]);

    /// <summary>
    /// Puts a recording in: sets its rig up, to be played from the beginning. Answers its length in ticks, or −1 when
    /// it cannot be read.
    /// </summary>
    [JSExport]
    public static int Load(int desk, string recording, bool guided)
    {
        if (RecordingFormat.Read(recording, out _) is not { } read)
            return -1;
        Rigs[desk] = RecordingFormat.RigOf(recording);
        Desks[desk] = new(read.Scenario, guided);
        Desks[desk]!.Load(read);
        return read.End;
    }

    /// <summary>A careful tester's recording of the same rig as another recording's.</summary>
    [JSExport]
    public static string Careful(string recording) =>
        RecordingFormat.Read(recording, out _) is { } read
            ? RecordingFormat.Write(Demonstration.Record(read.Scenario), RecordingFormat.RigOf(recording))
            : "";

    /// <summary>Marks a recording.</summary>
    [JSExport]
    public static string Mark(string recording) =>
        RecordingFormat.Read(recording, out var errors) is { } read
            ? MarksFormat.Write(Marking.Mark(read))
            : PageExports.Wrong(errors);

    private static BenchSession At(int desk) => Desks[desk] ?? throw new InvalidOperationException("No rig is set up.");

    private static string Do(int desk, BenchAction action) => At(desk).Do(action) ?? "";
}
