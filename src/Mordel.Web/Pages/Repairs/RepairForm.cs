using System.Security.Cryptography;
using System.Text;
using Mordel.Core.Collections;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;

namespace Mordel.Web.Pages.Repairs;

/// <summary>What a form of the repair page sends: one entry of the log, and what goes with it.</summary>
public sealed class RepairForm
{
    private const int LongestText = 500;

    /// <summary>What it is: <c>done</c>, <c>inspected</c> and so on.</summary>
    public string? Kind { get; set; }

    /// <summary>The entry's id, given where it was entered; what is sent twice stands once.</summary>
    public Guid? Entry { get; set; }

    /// <summary>When it was entered, by that device's clock.</summary>
    public DateTimeOffset? At { get; set; }
    public string? Step { get; set; }
    public string? Says { get; set; }
    public string? Sheet { get; set; }
    public string? Part { get; set; }
    public int? Opening { get; set; }
    public string[] Found { get; set; } = [];
    public string? Act { get; set; }
    public string? Who { get; set; }
    public string? Text { get; set; }
    public DateOnly? Due { get; set; }
    public string? Order { get; set; }
    public Guid? Item { get; set; }
    public int? Count { get; set; }
    public Guid? Of { get; set; }

    /// <summary>What it says; null where something lacks.</summary>
    /// <param name="lacks">What lacks, in a sentence.</param>
    public RepairBody? Body(out string lacks)
    {
        lacks = "That cannot be entered here. Reload the page.";
        switch (Kind)
        {
            case "agreed":
                lacks = "Say who allowed it.";
                return Words(Who) is { } who ? new RepairBody.Agreed(who) : null;
            case "done":
                return (Words(Step), Words(Says)) is ({ } step, { } says) ? new RepairBody.Done(step, says) : null;
            case "opened":
                return Words(Sheet) is { } sheet
                    ? new RepairBody.CoverOpened(sheet, Words(Part) is { } under ? new PartId(under) : null)
                    : null;
            case "inspected":
                return (Opening, Words(Part)) is ({ } o1, { } p1)
                    ? new RepairBody.Inspected(o1, p1, [.. Found.Distinct()])
                    : null;
            case "acted":
                lacks = "Say what was done.";
                return (Opening, Words(Part), Inspections.Act(Act)) is ({ } o2, { } p2, { } act)
                    ? new RepairBody.Acted(o2, p2, act)
                    : null;
            case "stopgap":
                lacks = "Say until when it may stay so, which part is ordered and who was told.";
                return
                    (Opening, Words(Part), Due, Words(Order), Words(Who))
                        is ({ } o3, { } p3, { } due, { } order, { } told)
                    ? new RepairBody.Stopgap(o3, p3, due, order, told)
                    : null;
            case "used":
                lacks = "Say which part was used, and how many.";
                return (Words(Text), Count) is ({ } name, >= 1 and <= 99)
                    ? new RepairBody.PartUsed(name, Count.Value, Item)
                    : null;
            case "note":
                lacks = "Write the note first.";
                return Words(Text) is { } text ? new RepairBody.Noted(text) : null;
            case "left-off":
                lacks = "Say why it is broken off.";
                return Words(Text) is { } reason ? new RepairBody.LeftOff(reason) : null;
            case "settled":
                lacks = "Say how it was put right.";
                return (Of, Words(Text)) is ({ } of, { } how) ? new RepairBody.Settled(new(of), how) : null;
            case "taken-back":
                return Of is { } back ? new RepairBody.TookBack(new(back)) : null;
            default:
                return null;
        }
    }

    /// <summary>
    /// The id of an entry that another brings with it: the same each time, so that both stand once however often they
    /// are sent.
    /// </summary>
    public static EntryId With(EntryId entry, string what)
    {
        var hash = SHA256.HashData(Encoding.UTF8.GetBytes($"{entry} {what}"));
        return new(new Guid(hash.AsSpan(0, 16)));
    }

    private static string? Words(string? text) =>
        text?.Trim() is { Length: > 0 and <= LongestText } words && !words.Any(char.IsControl) ? words : null;
}
