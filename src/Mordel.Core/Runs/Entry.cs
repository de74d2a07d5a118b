using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Units;

namespace Mordel.Core.Runs;

/// <summary>Where a shutoff stands when the tester comes or goes.</summary>
public enum Standing
{
    /// <summary>Fully open.</summary>
    Open,

    /// <summary>Closed.</summary>
    Closed,

    /// <summary>In between.</summary>
    Partly,
}

/// <summary>What an entry says.</summary>
public abstract record EntryBody
{
    private EntryBody() { }

    /// <summary>A step was done.</summary>
    /// <param name="Step">The step's key.</param>
    public sealed record Done(string Step) : EntryBody;

    /// <summary>A number was taken at a step that asks for one.</summary>
    /// <param name="Step">The step's key.</param>
    /// <param name="Reading">The number.</param>
    public sealed record Taken(string Step, Reading Reading) : EntryBody;

    /// <summary>One of the step's sights was seen.</summary>
    /// <param name="Step">The step's key.</param>
    /// <param name="Sight">The sight's id.</param>
    public sealed record Saw(string Step, string Sight) : EntryBody;

    /// <summary>An earlier reading was written wrongly. The first value is kept beside the new one.</summary>
    /// <param name="Of">The entry that is corrected.</param>
    /// <param name="Reading">The right number.</param>
    /// <param name="Reason">Why.</param>
    public sealed record Corrected(EntryId Of, Reading Reading, string Reason) : EntryBody;

    /// <summary>An earlier entry is taken back. It stays in the log.</summary>
    /// <param name="Of">The entry.</param>
    public sealed record TookBack(EntryId Of) : EntryBody;

    /// <summary>The test is repeated from a step.</summary>
    /// <param name="Step">The step's id in the sequence.</param>
    public sealed record WentBack(string Step) : EntryBody;

    /// <summary>Words: something else seen, a remark while working.</summary>
    /// <param name="Step">The step's key at that moment.</param>
    /// <param name="Text">The words.</param>
    public sealed record Noted(string Step, string Text) : EntryBody;

    /// <summary>Something found about a part or the place.</summary>
    /// <param name="Part">The part; null when it is about the place or the papers.</param>
    /// <param name="Text">The words.</param>
    public sealed record Found(PartId? Part, string Text) : EntryBody;

    /// <summary>How a shutoff stood on arrival.</summary>
    public sealed record AsFound(PartId Part, Standing Standing) : EntryBody;

    /// <summary>How a shutoff stands on leaving.</summary>
    public sealed record AsLeft(PartId Part, Standing Standing) : EntryBody;

    /// <summary>The serial number on the assembly is not the one on the order.</summary>
    /// <param name="Serial">What the plate says.</param>
    /// <param name="Replaced">True: it is another assembly. False: the record was wrong.</param>
    public sealed record SerialDiffers(string Serial, bool Replaced) : EntryBody;

    /// <summary>The static pressure, where it was read.</summary>
    public sealed record LineRead(LinePressure Pressure) : EntryBody;

    /// <summary>The test ends without a result.</summary>
    /// <param name="Reason">Why.</param>
    public sealed record Stopped(string Reason) : EntryBody;

    /// <summary>The remarks for the report, as the tester wants them.</summary>
    /// <param name="Text">All of them.</param>
    public sealed record Remarks(string Text) : EntryBody;

    /// <summary>A result copied from an older paper record, not from a guided run.</summary>
    /// <param name="Item">The item.</param>
    /// <param name="Value">The value.</param>
    public sealed record Transcribed(TestItem Item, Verdicts.ItemValue Value) : EntryBody;
}

/// <summary>The identity of an entry, made where it was entered.</summary>
/// <param name="Value">Never empty.</param>
public readonly record struct EntryId(Guid Value)
{
    /// <inheritdoc/>
    public override string ToString() => Value.ToString("D");
}

/// <summary>
/// One line of a run's log. The order of a log is by <paramref name="Tick"/> (one more than the largest its device had seen), then by id:
/// clocks of different devices need not agree.
/// </summary>
/// <param name="Id">Identity.</param>
/// <param name="Tick">Place in the order, from 1.</param>
/// <param name="At">When it was entered, by the device's clock.</param>
/// <param name="Body">What it says.</param>
public sealed record Entry(EntryId Id, long Tick, DateTimeOffset At, EntryBody Body);
