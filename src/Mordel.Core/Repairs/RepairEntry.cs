using Mordel.Core.Collections;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;

namespace Mordel.Core.Repairs;

/// <summary>What an entry of a repair's log says.</summary>
public abstract record RepairBody
{
    private RepairBody() { }

    /// <summary>Somebody allowed that the water is shut off.</summary>
    /// <param name="Who">Their name or office.</param>
    public sealed record Agreed(string Who) : RepairBody;

    /// <summary>A step was done.</summary>
    /// <param name="Step">Its key, see <see cref="RepairPlan"/>.</param>
    /// <param name="Says">The sentence that stood there, so that the log can be read without the sheet.</param>
    public sealed record Done(string Step, string Says) : RepairBody;

    /// <summary>A cover is to be opened.</summary>
    /// <param name="Sheet">The bench sheet, or <see cref="OutsideSheet.Id"/> for what needs no opening.</param>
    /// <param name="Part">The part under that cover; null where all come out together.</param>
    public sealed record CoverOpened(string Sheet, PartId? Part) : RepairBody;

    /// <summary>A part was looked at.</summary>
    /// <param name="Opening">The opening, from 1.</param>
    /// <param name="Part">The part's name on its sheet.</param>
    /// <param name="Found">What was found, by <see cref="PartFinding.Id"/>; empty when it is in order.</param>
    public sealed record Inspected(int Opening, string Part, EquatableArray<string> Found) : RepairBody;

    /// <summary>Something was done to a part.</summary>
    /// <param name="Opening">The opening, from 1.</param>
    /// <param name="Part">The part's name on its sheet.</param>
    /// <param name="Act">What.</param>
    public sealed record Acted(int Opening, string Part, RepairAct Act) : RepairBody;

    /// <summary>A part was used up.</summary>
    /// <param name="Name">What it is called.</param>
    /// <param name="Count">How many.</param>
    /// <param name="Item">The item of the parts list; null where it is not in it.</param>
    public sealed record PartUsed(string Name, int Count, Guid? Item) : RepairBody;

    /// <summary>A picture was taken.</summary>
    /// <param name="Photo">SHA-256 of the picture as it is kept, in hexadecimal.</param>
    /// <param name="Of">What it shows.</param>
    public sealed record Pictured(string Photo, string Of) : RepairBody;

    /// <summary>A note.</summary>
    /// <param name="Text">Its words.</param>
    public sealed record Noted(string Text) : RepairBody;

    /// <summary>
    /// What was done holds for a while only: a follow-up with its day, the part that is ordered, and who was told.
    /// </summary>
    /// <param name="Opening">The opening, from 1.</param>
    /// <param name="Part">The part's name on its sheet.</param>
    /// <param name="Due">By when it is to be put right.</param>
    /// <param name="Order">What is to be ordered.</param>
    /// <param name="Told">Who of the owner's was told.</param>
    public sealed record Stopgap(int Opening, string Part, DateOnly Due, string Order, string Told) : RepairBody;

    /// <summary>A follow-up is settled.</summary>
    /// <param name="Of">The entry that opened it.</param>
    /// <param name="How">What was done.</param>
    public sealed record Settled(EntryId Of, string How) : RepairBody;

    /// <summary>The repair is broken off for today.</summary>
    /// <param name="Reason">Why.</param>
    public sealed record LeftOff(string Reason) : RepairBody;

    /// <summary>An earlier entry is taken back. It stays in the log.</summary>
    /// <param name="Of">The entry.</param>
    public sealed record TookBack(EntryId Of) : RepairBody;
}

/// <summary>One entry of a repair's log: never changed, never taken out.</summary>
/// <param name="Id">Given where it was entered, so that what is sent twice stands once.</param>
/// <param name="At">When it was entered, by that device's clock.</param>
/// <param name="By">Who entered it.</param>
/// <param name="Body">What it says.</param>
public sealed record RepairEntry(EntryId Id, DateTimeOffset At, string By, RepairBody Body);
