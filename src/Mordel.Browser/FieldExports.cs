using System.Collections.Immutable;
using System.Globalization;
using System.Runtime.InteropServices.JavaScript;
using System.Runtime.Versioning;
using System.Text.Json;
using Mordel.Core.Serialization;
using Mordel.Core.Views;

namespace Mordel.Browser;

/// <summary>
/// The runs and repairs of a round on this device: the same views as the server's, from the setup that was taken along
/// and the log of the device. What is wrong with an input comes back as <c>{"faults":["place: what"]}</c>.
/// </summary>
[SupportedOSPlatform("browser")]
public static partial class FieldExports
{
    private const int LongestRepair = 2_000;

    private static readonly Dictionary<string, DeviceRun> Runs = [];

    /// <summary>Opens a run, anew where it is open; answers nothing, or what is wrong with its setup.</summary>
    /// <param name="run">Its id.</param>
    /// <param name="setup">Its setup in the complete form.</param>
    /// <param name="begunAt">When it was begun on this device; empty where the setup says it.</param>
    [JSExport]
    public static string Open(string run, string setup, string begunAt)
    {
        DateTimeOffset? begun =
            begunAt.Length == 0 ? null : DateTimeOffset.Parse(begunAt, CultureInfo.InvariantCulture);
        if (DeviceRun.Open(setup, begun, out var errors) is not { } opened)
            return PageExports.Wrong(errors);
        Runs[run] = opened;
        return "";
    }

    /// <summary>Takes entries in; answers nothing, or what is wrong with them.</summary>
    [JSExport]
    public static string Take(string run, string batch) =>
        Runs[run].Take(batch) is { IsEmpty: false } errors ? PageExports.Wrong(errors) : "";

    /// <summary>What the run screen shows.</summary>
    [JSExport]
    public static string View(string run, bool isSealed) =>
        JsonSerializer.Serialize(Runs[run].View(isSealed), ViewsJson.Border.RunView);

    /// <summary>A number weighed before it is taken; what is empty was not said.</summary>
    [JSExport]
    public static string Weigh(string run, string step, string value, string shown, string speed)
    {
        static string? Said(string text) => text.Length == 0 ? null : text;
        var on = Runs[run];
        return
            new Weighing(step, Said(value), Said(shown), Said(speed)).On(on.Setup.Plan, on.State, out var errors)
                is { } weighed
            ? JsonSerializer.Serialize(weighed, ViewsJson.Border.WeighedView)
            : PageExports.Wrong(errors);
    }

    /// <summary>The verdict, and what is asked before it is signed.</summary>
    /// <param name="run">The run.</param>
    /// <param name="previous">The verdict on the test before; empty where there is none.</param>
    /// <param name="minutes">How far this device's clock is from UTC.</param>
    [JSExport]
    public static string Verdict(string run, string previous, int minutes) =>
        JsonSerializer.Serialize(
            Runs[run].Verdict(previous, TimeSpan.FromMinutes(minutes)),
            ViewsJson.Border.VerdictView
        );

    /// <summary>What the run has seen and read, as evidence: its procedure, and lines of a board's log.</summary>
    [JSExport]
    public static string Seen(string run) =>
        JsonText.Object(json =>
        {
            json.WriteString("procedure", Runs[run].Setup.Plan.Procedure.Id);
            json.WriteStrings("seen", Runs[run].Seen);
        });

    /// <summary>The screen of a repair at the assembly of a run.</summary>
    /// <param name="run">The run.</param>
    /// <param name="place">What was taken along for it.</param>
    /// <param name="batch">Its entries, as they are sent; empty for none.</param>
    /// <param name="today">The day here.</param>
    [JSExport]
    public static string Repair(string run, string place, string batch, string today)
    {
        ImmutableArray<InputError> errors = [];
        var log = batch.Length == 0 ? [] : RepairEntryFormat.ReadBatch(batch, "", out errors, LongestRepair);
        if (!errors.IsEmpty)
            return PageExports.Wrong(errors);
        var taken = JsonSerializer.Deserialize(place, ViewsJson.Border.RepairPlaceFile)!;
        return JsonSerializer.Serialize(
            taken.View(Runs[run].Setup.Assembly.Parts, log, DateOnly.Parse(today, CultureInfo.InvariantCulture)),
            ViewsJson.Border.RepairView
        );
    }
}
