using System.Runtime.InteropServices.JavaScript;
using System.Runtime.Versioning;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;

namespace Mordel.Browser;

/// <summary>
/// The core as a page's script sees it. Text goes in and out in the published formats; what is wrong with an input
/// comes back as
/// <c>{"errors":["place: what"]}</c>. The same code as on the server, so the same numbers.
/// </summary>
[SupportedOSPlatform("browser")]
public static partial class PageExports
{
    private static WaterModel? water;

    /// <summary>A test record in, a verdict out.</summary>
    [JSExport]
    public static string Evaluate(string record) =>
        TestRecordFormat.Read(record, out var errors) is { } read ? VerdictFormat.Write(read.Judge()) : Wrong(errors);

    /// <summary>A scenario in, an outcome out.</summary>
    /// <param name="scenario">The scenario.</param>
    /// <param name="every">Simulated seconds between two points of the needle's way; 0 leaves it out.</param>
    [JSExport]
    public static string Simulate(string scenario, double every) =>
        ScenarioFormat.Read(scenario, out var errors) is { } read ? OutcomeFormat.Perform(read, every) : Wrong(errors);

    /// <summary>Begins a rig whose water a page lets run: a scenario, of which the tester's part is not used.</summary>
    /// <returns>Empty, or what is wrong.</returns>
    [JSExport]
    public static string Begin(string scenario)
    {
        if (ScenarioFormat.Read(scenario, out var errors) is not { } read)
            return Wrong(errors);
        water = new(read.Situation);
        return "";
    }

    /// <summary>Turns a valve, 0 to 1; answers why not, or nothing.</summary>
    [JSExport]
    public static string Turn(string part, double to) =>
        Make(new Move.Turn(new(part), new(Math.Round((decimal)Math.Clamp(to, 0, 1), 6))));

    /// <summary>Connects a hose or fitting; answers why not, or nothing.</summary>
    [JSExport]
    public static string Connect(string item, string to) => Make(new Move.Connect(new(item), new(to)));

    /// <summary>Takes a hose or fitting off; answers why not, or nothing.</summary>
    [JSExport]
    public static string TakeOff(string item) => Make(new Move.TakeOff(new(item)));

    /// <summary>Lets the water run and answers the needle, psid.</summary>
    [JSExport]
    public static double Run(double seconds)
    {
        water!.Run(Math.Clamp(seconds, 0, 3600));
        return water.Needle;
    }

    /// <summary>
    /// All that the water is made of at this moment: the same numbers on every machine, to the last bit.
    /// </summary>
    [JSExport]
    public static double[] Numbers() => water!.Moment().Numbers;

    private static string Make(Move move)
    {
        var moved = water!.Rig.Apply(move);
        if (moved.Refusal is { } why)
            return why;
        water.Set(moved.State);
        return "";
    }

    internal static string Wrong(IEnumerable<InputError> errors) =>
        JsonText.Object(json => json.WriteStrings("faults", errors.Select(f => f.ToString())));
}
