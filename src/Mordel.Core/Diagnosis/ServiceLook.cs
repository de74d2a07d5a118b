using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>Who may do something.</summary>
public enum Doer
{
    /// <summary>Whoever lives or works there: no tool, nothing shut that others need, nothing opened.</summary>
    Occupant,

    /// <summary>A certified tester.</summary>
    Tester,

    /// <summary>Whoever may open the assembly.</summary>
    Repairer,
}

/// <summary>What must be at hand.</summary>
public enum LookTool
{
    /// <summary>Nothing.</summary>
    None,

    /// <summary>The test kit.</summary>
    Gauge,

    /// <summary>Tools that open the body.</summary>
    Wrench,
}

/// <summary>What the relief port, or a vacuum breaker's canopy, does.</summary>
public enum PortState
{
    /// <summary>Dry, in service.</summary>
    Dry,

    /// <summary>It drips, in service.</summary>
    Drips,

    /// <summary>It runs, in service.</summary>
    Runs,

    /// <summary>It comes in spells, in service.</summary>
    Spits,

    /// <summary>After an act: dry now.</summary>
    Stops,

    /// <summary>After an act: less.</summary>
    Less,

    /// <summary>After an act: as before.</summary>
    Still,

    /// <summary>After an act: more.</summary>
    More,
}

/// <summary>Something that a person can do and see in service, without the kit.</summary>
/// <param name="Id">Stable name: <c>so2-closed</c>.</param>
/// <param name="Title">What to do.</param>
/// <param name="Ask">What to see.</param>
/// <param name="Seconds">About how long it takes.</param>
public sealed record ServiceLook(string Id, string Title, string Ask, int Seconds)
{
    /// <summary>What was done, for a list of what was seen: <c>SO2 closed</c>.</summary>
    public required string Done { get; init; }

    /// <summary>What must be at hand.</summary>
    public LookTool Tool { get; init; }

    /// <summary>Who may do it.</summary>
    public Doer By { get; init; } = Doer.Tester;

    /// <summary>What to beware of; null when there is nothing.</summary>
    public string? Caution { get; init; }

    /// <summary>Whether the site is without water meanwhile.</summary>
    public bool ShutsOff { get; init; }

    /// <summary>The look that must have been made right before; null when none.</summary>
    public string? After { get; init; }

    /// <summary>The part that is touched on the drawing to come to it.</summary>
    public PartId Part { get; init; }

    /// <summary>Its possible answers, where it is about the outlet.</summary>
    public ImmutableArray<PortState> CanShow { get; init; } = [];

    /// <summary>The valves that are turned for it, from how they stand in service or after the look before.</summary>
    public ImmutableArray<(PartId Part, Opening To)> Turns { get; init; } = [];

    /// <summary>Whether a tap of the site is opened for it.</summary>
    public bool OpensTap { get; init; }

    /// <summary>Effort in words: <c>no tool, half a minute</c>.</summary>
    public string Effort => $"{ToolWords(Tool)}, {Time(Seconds)}";

    /// <summary>A tool in words.</summary>
    public static string ToolWords(LookTool tool) =>
        tool switch
        {
            LookTool.None => "no tool",
            LookTool.Gauge => "with the kit",
            _ => "with the cover off",
        };

    /// <summary>About how long something takes, in words.</summary>
    public static string Time(int seconds) =>
        seconds <= 45 ? "half a minute"
        : seconds < 90 ? "a minute"
        : FormattableString.Invariant($"{(seconds + 30) / 60} minutes");
}

/// <summary>The looks in service, in the order in which they are offered.</summary>
public static class ServiceLooks
{
    /// <summary>What shows when nobody touches anything.</summary>
    public const string InService = "in-service";

    /// <summary>A flow downstream greater than the leak.</summary>
    public const string TapOpened = "tap-opened";

    /// <summary>SO2 shut, nothing else.</summary>
    public const string So2Closed = "so2-closed";

    /// <summary>SO2 shut and the last cock opened: a flow through the body.</summary>
    public const string Tc4Opened = "tc4-opened";

    /// <summary>SO1 shut, nothing else.</summary>
    public const string So1Closed = "so1-closed";

    /// <summary>The static pressure of the main.</summary>
    public const string LinePressure = "line-pressure";

    private static readonly ImmutableArray<PortState> AtFirst =
    [
        PortState.Dry,
        PortState.Drips,
        PortState.Runs,
        PortState.Spits,
    ];
    private static readonly ImmutableArray<PortState> AfterAnAct =
    [
        PortState.Stops,
        PortState.Less,
        PortState.Still,
        PortState.More,
    ];

    /// <summary>The looks on a body: those about its relief port or canopy where it has one.</summary>
    public static ImmutableArray<ServiceLook> For(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        var port = PortOf(body);
        var line = new ServiceLook(
            LinePressure,
            $"Read the line pressure at {Label(body, body.SupplyCock)}",
            "What does it stand at?",
            180
        )
        {
            Done = "Line pressure",
            Tool = LookTool.Gauge,
            Part = body.SupplyCock,
        };
        if (port is not { } at)
            return [line];
        var from = Says(body);
        var last = body.Cocks[^1];
        var looks = ImmutableArray.CreateBuilder<ServiceLook>();
        looks.Add(
            new(InService, $"Look at the {from} for a minute, touch nothing", "What comes out?", 60)
            {
                Done = "In service",
                By = Doer.Occupant,
                Part = at,
                CanShow = AtFirst,
            }
        );
        looks.Add(
            new(TapOpened, "Open a large tap downstream, or run a zone", $"What does the {from} do now?", 60)
            {
                Done = "A large tap opened",
                By = Doer.Occupant,
                Part = Parts.Site,
                OpensTap = true,
                CanShow = AfterAnAct,
                Caution = "The flow must be greater than what is lost; shut the tap again afterwards.",
            }
        );
        looks.Add(
            new(So2Closed, "Close SO2, slowly", $"What does the {from} do now?", 90)
            {
                Done = "SO2 closed",
                ShutsOff = true,
                Part = Parts.So2,
                Turns = [(Parts.So2, Opening.Closed)],
                CanShow = AfterAnAct,
                Caution = "The site is without water while it is shut: ask first.",
            }
        );
        if (body.Type.Facts().Has(Parts.Relief))
            looks.Add(
                new(Tc4Opened, $"SO2 still shut: open {Label(body, last)} wide", $"What does the {from} do now?", 45)
                {
                    Done = $"SO2 closed, {Label(body, last)} opened",
                    ShutsOff = true,
                    After = So2Closed,
                    Part = last,
                    Turns = [(last, Opening.Full)],
                    CanShow = AfterAnAct,
                    Caution = $"Water under line pressure leaves {Label(body, last)}: stand clear, a bucket under it.",
                }
            );
        looks.Add(
            new(So1Closed, "Open SO2 again, then close SO1, slowly", $"What does the {from} do now?", 120)
            {
                Done = "SO1 closed",
                ShutsOff = true,
                Part = Parts.So1,
                Turns = [(Parts.So1, Opening.Closed)],
                CanShow = AfterAnAct,
                Caution = "The site is without water while it is shut: ask first.",
            }
        );
        looks.Add(line);
        return looks.ToImmutable();
    }

    /// <summary>The part whose outlet is looked at; null where a type has none.</summary>
    public static PartId? PortOf(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        var facts = body.Type.Facts();
        return facts.Has(Parts.Relief) ? Parts.Relief
            : facts.IsVacuumBreaker ? Parts.AirInlet
            : null;
    }

    /// <summary>What people call it.</summary>
    public static string Says(AssemblyBody body) => PortOf(body) == Parts.Relief ? "relief port" : "canopy";

    /// <summary>The name of an outlet's state in files.</summary>
    public static string Name(PortState outlet) => outlet.ToString().ToLowerInvariant();

    /// <summary>An outlet's state in words.</summary>
    public static string Words(PortState outlet) =>
        outlet switch
        {
            PortState.Dry => "It is dry",
            PortState.Drips => "It drips",
            PortState.Runs => "It runs",
            PortState.Spits => "It spits, in spells",
            PortState.Stops => "It stops",
            PortState.Less => "It becomes less",
            PortState.Still => "It goes on as before",
            _ => "It becomes more",
        };

    private static string Label(AssemblyBody body, PartId part) => body.Parts.First(p => p.Id == part).Label;
}
