using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>
/// What is done before a body is opened and after it is closed, whatever its family (handbook chapters 5 and 8).
/// </summary>
public static class ServiceStages
{
    /// <summary>
    /// The cocks that relieve a body: those behind SO1, the last one first. One before SO1 stays under the main's
    /// pressure and is never among them.
    /// </summary>
    /// <param name="body">The body.</param>
    public static IReadOnlyList<Part> Relieving(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return [.. body.Parts.SkipWhile(p => p.Id != Parts.So1).Where(p => p.Kind == PartKind.Cock).Reverse()];
    }

    /// <summary>Before it is opened.</summary>
    /// <param name="body">The body.</param>
    public static IReadOnlyList<BenchStep> Prepare(AssemblyBody body)
    {
        var relieving = string.Join(", ", Relieving(body).Select(p => p.Label));
        var live = body.Parts.TakeWhile(p => p.Id != Parts.So1).FirstOrDefault(p => p.Kind == PartKind.Cock);
        return
        [
            new("Tell the occupant and get permission; a fire line only under its own procedure")
            {
                Caution = "Processes, dialysis, boilers and cooling must not lose water unasked.",
            },
            new("Close SO2, then SO1, slowly") { Caution = "Sudden closing hammers pipes." },
            new($"Open {relieving} and wait until nothing runs")
            {
                Caution = live is null ? null : $"Not {live.Label}: it stays under the main’s pressure.",
                Why = "A cover is opened only when no water moves: a shutoff may leak.",
            },
            new("Clean the outside") { Why = "What falls in lies on a seat later." },
            new(
                "Lay out: adjustable, box, socket and combination wrenches, flat and cross-head drivers, hex keys, "
                    + "seat tool, toothbrush, rag, food-grade silicone grease"
            ),
        ];
    }

    /// <summary>After it is closed.</summary>
    /// <param name="body">The body.</param>
    public static IReadOnlyList<BenchStep> CloseUp(AssemblyBody body)
    {
        var relieving = Relieving(body);
        return
        [
            new($"Close {string.Join(", ", relieving.Reverse().Select(p => p.Label))}, before there is water"),
            new("Open SO1 slowly until the body is under pressure; look for leaks")
            {
                Caution = body.Type.Facts().Has(Parts.Relief)
                    ? "A short burst at the relief port is normal; keep clear of it."
                    : "Water leaves where air does: eyes and electrics out of its way.",
            },
            new($"Let the air out at {string.Join(", ", relieving.Reverse().Select(p => p.Label))}"),
            new("Open SO2 a little, wait, then fully; a tap downstream proves the flow")
            {
                Caution = "Nobody may be working downstream: ask first.",
            },
            new("Test it from the beginning") { Why = "A repair without a passed test leaves the assembly failed." },
        ];
    }
}
