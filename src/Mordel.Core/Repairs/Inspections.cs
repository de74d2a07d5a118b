using System.Collections.Immutable;

namespace Mordel.Core.Repairs;

/// <summary>What was done to a part.</summary>
public enum RepairAct
{
    /// <summary>Washed or wiped clean.</summary>
    Cleaned,

    /// <summary>Brushed where it lies.</summary>
    Brushed,

    /// <summary>Set right: turned the right way round, flattened, put in its own place.</summary>
    SetRight,

    /// <summary>A disc turned over: a stopgap until the part comes.</summary>
    Turned,

    /// <summary>Given a thin film of food-grade silicone grease.</summary>
    Greased,

    /// <summary>Replaced by a new one.</summary>
    Replaced,

    /// <summary>Left as it is: nothing was put right.</summary>
    Left,
}

/// <summary>Something that may be found at a part.</summary>
/// <param name="Id">Its name in files.</param>
/// <param name="Words">In words.</param>
/// <param name="Means">What this means, in a sentence.</param>
/// <param name="Best">What is usually done about it.</param>
public sealed record PartFinding(string Id, string Words, string Means, RepairAct Best);

/// <summary>What is looked for at a part, and what may be done (handbook chapter 5, "What is inspected").</summary>
public static class Inspections
{
    private static readonly PartFinding Grit = new(
        "grit",
        "grit or debris",
        "Debris holds it open. Usually all that is wrong: wash it off and look where it came from.",
        RepairAct.Cleaned
    );

    private static readonly PartFinding Cut = new(
        "cut",
        "cut",
        "Water finds its way along a cut. A new one; the old one turned over is a stopgap.",
        RepairAct.Replaced
    );

    private static readonly PartFinding Dented = new(
        "dented",
        "dented or pressed in deep",
        "A deep ring no longer seals when the seat is moved by a hair. A new one; turned over it is a stopgap.",
        RepairAct.Replaced
    );

    private static readonly PartFinding Swollen = new(
        "swollen",
        "swollen",
        "The rubber has taken up something: find out what runs through, then a new one.",
        RepairAct.Replaced
    );

    private static readonly PartFinding CrackedBeneath = new(
        "cracked-beneath",
        "cracks beneath it",
        "Frost or water hammer. Look at the body too.",
        RepairAct.Replaced
    );

    private static readonly PartFinding Nicked = new(
        "nicked",
        "nicked or cracked",
        "A fingernail catches where a fingertip slides over. Only a new seat seals, with its O-ring.",
        RepairAct.Replaced
    );

    private static readonly PartFinding Corroded = new(
        "corroded",
        "corroded",
        "It will bind before long. Scrape with something softer than the metal, soak in vinegar, or replace.",
        RepairAct.Cleaned
    );

    private static readonly PartFinding PackedBore = new(
        "grease-packed",
        "grease packed in its bore",
        "Grease stops the water escaping through the stem’s holes: the check then moves late or hangs. Clear the "
            + "holes, leave it dry.",
        RepairAct.Cleaned
    );

    private static readonly PartFinding Binding = new(
        "binding",
        "binds",
        "A binding stem throttles the flow or holds the check open. It must move freely before it goes back.",
        RepairAct.Cleaned
    );

    private static readonly PartFinding Broken = new(
        "broken",
        "broken",
        "Nothing pushes it shut. A new one of the same check, never the other’s.",
        RepairAct.Replaced
    );

    private static readonly PartFinding Weak = new(
        "weak",
        "weak or set",
        "It holds less than it should; the reading says how much. A new one.",
        RepairAct.Replaced
    );

    private static readonly PartFinding WrongPlace = new(
        "wrong-place",
        "the other check’s",
        "Somebody has swapped them. Put each where it belongs: the stiff one is CV1’s on an RP.",
        RepairAct.SetRight
    );

    private static readonly PartFinding WrongWay = new(
        "wrong-way-round",
        "lies the wrong way round",
        "It cannot seal so. Turn it the way that the sheet says.",
        RepairAct.SetRight
    );

    private static readonly PartFinding Bent = new(
        "bent",
        "bent",
        "The disc can spin under it. Flatten it or take a new one.",
        RepairAct.SetRight
    );

    private static readonly PartFinding Flat = new(
        "flat",
        "flat or hardened",
        "It has lost its spring and will weep. A new one.",
        RepairAct.Replaced
    );

    private static readonly PartFinding Torn = new(
        "torn",
        "torn or holed",
        "Supply gets behind it: the relief runs or does not open in time. A new one, the right way round.",
        RepairAct.Replaced
    );

    private static readonly PartFinding WornFold = new(
        "worn-fold",
        "worn at the fold",
        "It will tear there next. A new one now saves the next visit.",
        RepairAct.Replaced
    );

    private static readonly PartFinding Blocked = new(
        "blocked",
        "blocked",
        "What cannot pass is not felt. Brush or blow it free; it may be all that is wrong.",
        RepairAct.Brushed
    );

    private static readonly PartFinding Cracked = new(
        "cracked",
        "cracked",
        "Frost or a blow. It will go on under pressure: a new one.",
        RepairAct.Replaced
    );

    private static readonly PartFinding Nest = new(
        "nest",
        "insects or a nest",
        "It keeps the inlet from opening or closing. Clean it out.",
        RepairAct.Cleaned
    );

    private static readonly PartFinding WillNotClose = new(
        "will-not-close",
        "will not close",
        "Exercise it, clear it; one that stays open spoils every test.",
        RepairAct.Cleaned
    );

    private static readonly PartFinding Handle = new("handle", "handle broken", "A new one.", RepairAct.Replaced);

    private static readonly PartFinding Missing = new(
        "missing",
        "parts missing or altered",
        "It is no longer the assembly that was approved: replace the assembly.",
        RepairAct.Left
    );

    /// <summary>What may be found at a part, the commonest first; nothing where it is only out of the way.</summary>
    public static ImmutableArray<PartFinding> LookFor(PartForm form) =>
        form switch
        {
            PartForm.Disc => [Grit, Cut, Dented, Swollen, CrackedBeneath],
            PartForm.Washer => [Bent, WrongWay],
            PartForm.Seat => [Grit, Nicked],
            PartForm.Spring => [Broken, Weak, Corroded, WrongPlace],
            PartForm.ORing or PartForm.Gasket => [Cut, Flat],
            PartForm.Stem => [Binding, Corroded, PackedBore],
            PartForm.Poppet => [Grit, Binding, Corroded, PackedBore, Cut],
            PartForm.Module => [Grit, Cut, Dented, Nicked, Broken, Weak, Binding, Swollen],
            PartForm.Diaphragm => [Torn, WornFold, WrongWay],
            PartForm.Piston => [Grit, Binding, Corroded],
            PartForm.Hose => [Blocked, Cracked],
            PartForm.Cap or PartForm.Cover or PartForm.Bonnet => [PackedBore, Corroded, Cracked],
            PartForm.Canopy => [Nest, Cracked],
            PartForm.Float => [Grit, Binding, Cracked, Cut],
            PartForm.Strainer => [Blocked],
            PartForm.Shutoff or PartForm.Cock => [WillNotClose, Handle, Cracked],
            PartForm.Body => [Cracked, Missing],
            _ => [],
        };

    /// <summary>What may be done to a part: grease only where its sheet has it, turning only a disc.</summary>
    public static ImmutableArray<RepairAct> Acts(BenchPart part)
    {
        ArgumentNullException.ThrowIfNull(part);
        var turns = part.Form is PartForm.Disc or PartForm.Module or PartForm.Poppet;
        return
        [
            RepairAct.Cleaned,
            RepairAct.Brushed,
            RepairAct.SetRight,
            .. turns ? new[] { RepairAct.Turned } : [],
            .. part.Grease == Grease.Never ? [] : new[] { RepairAct.Greased },
            RepairAct.Replaced,
            RepairAct.Left,
        ];
    }

    /// <summary>The name of an act in files.</summary>
    public static string Id(this RepairAct act) => act == RepairAct.SetRight ? "set-right" : Words(act);

    /// <summary>An act in a word.</summary>
    public static string Words(this RepairAct act) =>
        act switch
        {
            RepairAct.Cleaned => "cleaned",
            RepairAct.Brushed => "brushed",
            RepairAct.SetRight => "set right",
            RepairAct.Turned => "turned",
            RepairAct.Greased => "greased",
            RepairAct.Replaced => "replaced",
            _ => "left",
        };

    /// <summary>By its name in files; null when there is none.</summary>
    public static RepairAct? Act(string? id)
    {
        foreach (var act in Enum.GetValues<RepairAct>())
            if (act.Id() == id)
                return act;
        return null;
    }
}
