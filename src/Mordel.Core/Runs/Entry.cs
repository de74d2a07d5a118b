using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Units;

namespace Mordel.Core.Runs;

/// <summary>What somebody was asked about.</summary>
public enum Matter
{
    /// <summary>Whether the water may be shut off.</summary>
    Permission,

    /// <summary>Whether it may be restored.</summary>
    Restoring,
}

/// <summary>What a tester explains because it looks unlikely.</summary>
public enum Oddity
{
    /// <summary>The test was faster than hands and water can be, or readings have no time between them.</summary>
    Pace,
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

    /// <summary>
    /// The answer to a step that asks for something other than a differential: a line pressure, a clearance, yes or no.
    /// </summary>
    /// <param name="Step">The step's key.</param>
    /// <param name="Item">The item it answers.</param>
    /// <param name="Value">The answer.</param>
    public sealed record Answered(string Step, TestItem Item, Verdicts.ItemValue Value) : EntryBody;

    /// <summary>A step that the sheet offers is taken up before the step that offers it.</summary>
    /// <param name="Step">The key of the step that offers it.</param>
    /// <param name="Offer">The id of the offered step.</param>
    public sealed record TookOffer(string Step, string Offer) : EntryBody;

    /// <summary>Somebody was asked and agreed.</summary>
    /// <param name="About">To what.</param>
    /// <param name="Who">Their name or office.</param>
    public sealed record Agreed(Matter About, string Who) : EntryBody;

    /// <summary>The tester explains what looks unlikely.</summary>
    /// <param name="About">What is explained.</param>
    /// <param name="Text">The explanation.</param>
    public sealed record Explained(Oddity About, string Text) : EntryBody;

    /// <summary>
    /// The needle was seen passing a number on its way to the one that will be taken: the two give its speed.
    /// </summary>
    /// <param name="Step">The step's key.</param>
    /// <param name="Reading">The number it passed.</param>
    public sealed record Glimpsed(string Step, Reading Reading) : EntryBody;

    /// <summary>The watch over a still needle was started.</summary>
    /// <param name="Step">The step's key.</param>
    /// <param name="Reading">Where the needle stood; null where nothing is read.</param>
    public sealed record HoldStarted(string Step, Reading? Reading) : EntryBody;

    /// <summary>The needle was looked at while it is watched.</summary>
    /// <param name="Step">The step's key.</param>
    /// <param name="Reading">Where it stood.</param>
    public sealed record HoldWatched(string Step, Reading Reading) : EntryBody;

    /// <summary>The watch was ended.</summary>
    /// <param name="Step">The step's key.</param>
    /// <param name="Reading">Where the needle stood; null where nothing is read.</param>
    /// <param name="Reason">Why it was cut short; null when it ran its time.</param>
    public sealed record HoldEnded(string Step, Reading? Reading, string? Reason) : EntryBody;

    /// <summary>How far the gauge's centre was from its level: negative is low.</summary>
    /// <param name="Offset">The distance; null when it is not known.</param>
    public sealed record GaugeOffset(Length? Offset) : EntryBody;

    /// <summary>The needle did not stand at zero with both ports open to air.</summary>
    /// <param name="Reading">Where it stood.</param>
    public sealed record KitZero(Reading Reading) : EntryBody;

    /// <summary>
    /// Something was mended; the whole test begins again and what was read before is kept as the set before the repair.
    /// </summary>
    /// <param name="Part">What was mended; null when it is no single part.</param>
    /// <param name="Text">What was done.</param>
    public sealed record Mended(PartId? Part, string Text) : EntryBody;

    /// <summary>The test is broken off for today: close up, continue another time.</summary>
    /// <param name="Reason">Why.</param>
    public sealed record Paused(string Reason) : EntryBody;

    /// <summary>The test that was broken off is taken up again, from the beginning.</summary>
    public sealed record Resumed : EntryBody;

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
    public sealed record AsFound(PartId Part, ValvePosition Position) : EntryBody;

    /// <summary>It was agreed how the line is to be left.</summary>
    /// <param name="How">How.</param>
    public sealed record ToBeLeft(Leaving How) : EntryBody;

    /// <summary>How a shutoff stands on leaving.</summary>
    public sealed record AsLeft(PartId Part, ValvePosition Position) : EntryBody;

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
/// One line of a run's log. The order of a log is by <paramref name="Tick"/> (one more than the largest its device had
/// seen), then by id: clocks of different devices need not agree.
/// </summary>
/// <param name="Id">Identity.</param>
/// <param name="Tick">Place in the order, from 1.</param>
/// <param name="At">When it was entered, by the device's clock.</param>
/// <param name="Body">What it says.</param>
public sealed record Entry(EntryId Id, long Tick, DateTimeOffset At, EntryBody Body);
