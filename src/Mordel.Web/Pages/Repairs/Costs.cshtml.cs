using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Repairs;

/// <summary>What is assumed, where somebody has changed it; everything else comes from what is known.</summary>
public sealed class ChangedAssumptions
{
    public decimal? Labour { get; set; }
    public decimal? Travel { get; set; }
    public decimal? Kit { get; set; }
    public int? KitDays { get; set; }
    public bool? KitIsMade { get; set; }
    public decimal? Assembly { get; set; }
    public int? Clean { get; set; }
    public int? KitMinutes { get; set; }
    public int? Replace { get; set; }
    public int? CleanFails { get; set; }
    public int? KitFails { get; set; }
    public int? NewFails { get; set; }
    public int? Years { get; set; }

    /// <summary>What holds where nothing, or something that cannot be, was given.</summary>
    public CostAssumptions Over(CostAssumptions known)
    {
        ArgumentNullException.ThrowIfNull(known);
        return known with
        {
            LabourHour = Money(Labour, known.LabourHour),
            Travel = Money(Travel, known.Travel),
            KitPrice = Money(Kit, known.KitPrice),
            KitDays = Whole(KitDays, 0, 365, known.KitDays),
            KitIsMade = KitIsMade ?? known.KitIsMade,
            AssemblyPrice = Money(Assembly, known.AssemblyPrice),
            CleanMinutes = Whole(Clean, 1, 1_000, known.CleanMinutes),
            KitMinutes = Whole(KitMinutes, 1, 1_000, known.KitMinutes),
            ReplaceMinutes = Whole(Replace, 1, 2_000, known.ReplaceMinutes),
            CleanFails = Chance(CleanFails, known.CleanFails),
            KitFails = Chance(KitFails, known.KitFails),
            NewFails = Chance(NewFails, known.NewFails),
            Years = Whole(Years, 1, 30, known.Years),
        };
    }

    private static decimal Money(decimal? given, decimal known) => given is >= 0 and <= 1_000_000 ? given.Value : known;

    private static int Whole(int? given, int least, int most, int known) =>
        given is { } n && n >= least && n <= most ? n : known;

    private static double Chance(int? given, double known) => given is >= 0 and <= 100 ? given.Value / 100.0 : known;
}

/// <summary>Clean, kit or replace: what each costs now and over the coming years, for the owner on one page.</summary>
public sealed class CostsModel(RepairList list, PartsList parts, TimeProvider clock) : PageModel
{
    private const double DaysInYear = 365.25;

    public RepairFile Job { get; private set; } = null!;
    public CostAssumptions Assumed { get; private set; } = new();
    public CostComparison Compared { get; private set; } = null!;

    /// <summary>Where the assumptions come from, a sentence each.</summary>
    public IReadOnlyList<string> Known { get; private set; } = [];

    /// <summary>Whether a body is cracked or altered: then nothing else is sound.</summary>
    public bool MustReplace =>
        Job.State.Openings.SelectMany(o => o.Parts).Any(p => p.Part.Id == "body" && p.Found is { IsEmpty: false });

    public async Task<IActionResult> OnGet(Guid id, [FromQuery] ChangedAssumptions changed, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(changed);
        if (await list.Of(id, cancel) is not { } job)
            return NotFound();
        Job = job;
        Assumed = changed.Over(await FromWhatIsKnown(cancel));
        Compared = RepairCosts.Compare(Assumed);
        return Page();
    }

    /// <summary>What can be changed: its name, what it is called, what is assumed, and the most it may be.</summary>
    public IEnumerable<(string Name, string Label, string Value, int Most)> Fields
    {
        get
        {
            const int Money = 1_000_000;
            var s = Assumed;
            static string Of(double chance) => (chance * 100).ToString("0", CultureInfo.InvariantCulture);
            static string Whole(int number) => number.ToString(CultureInfo.InvariantCulture);
            static string Sum(decimal money) => money.ToString("0.##", CultureInfo.InvariantCulture);
            return
            [
                ("labour", "An hour’s work", Sum(s.LabourHour), Money),
                ("travel", "A visit’s way", Sum(s.Travel), Money),
                ("kit", "The kit", Sum(s.KitPrice), Money),
                ("kitDays", "Days until it is there", Whole(s.KitDays), 365),
                ("assembly", "A new assembly", Sum(s.AssemblyPrice), Money),
                ("clean", "Minutes to clean", Whole(s.CleanMinutes), 1_000),
                ("kitMinutes", "Minutes to put a kit in", Whole(s.KitMinutes), 1_000),
                ("replace", "Minutes to replace", Whole(s.ReplaceMinutes), 2_000),
                ("cleanFails", "Of 100 cleaned fail in a year", Of(s.CleanFails), 100),
                ("kitFails", "Of 100 with a kit", Of(s.KitFails), 100),
                ("newFails", "Of 100 new ones", Of(s.NewFails), 100),
                ("years", "Years looked at", Whole(s.Years), 30),
            ];
        }
    }

    /// <summary>How wide a bar is, of a hundred.</summary>
    public string Wide(decimal money) =>
        (100 * money / Math.Max(1, Compared.Options.Max(o => o.Total))).ToString("0.#", CultureInfo.InvariantCulture);

    private async Task<CostAssumptions> FromWhatIsKnown(CancellationToken cancel)
    {
        var a = Job.Row.Assembly!;
        var at = Job
            .State.Openings.SelectMany(o => o.Parts)
            .Where(p => p.Found is { IsEmpty: false })
            .Select(p => p.Of)
            .OfType<PartId>()
            .ToHashSet();
        var fitting = await parts.Fitting(a, User.Id(), cancel);
        var kit = fitting.FirstOrDefault(l => l.Item.Part is { } part && at.Contains(new PartId(part)))
            ?? fitting.FirstOrDefault(l => l.Item.Part is { } p && p != SparePart.Whole);
        var whole = fitting.FirstOrDefault(l => l.Item.Part == SparePart.Whole);
        var repeats = (await list.OfAssembly(a.Id, cancel)).Count(r =>
            r.Row.Id != Job.Row.Id
            && r.State.Openings.SelectMany(o => o.Parts).Any(p => p.Of is { } of && at.Contains(of) && !p.Acts.IsEmpty)
        );
        var age = (clock.Today().DayNumber - a.InstalledOn.DayNumber) / DaysInYear;
        var wantsPart = Job
            .State.Openings.SelectMany(o => o.Parts)
            .Any(p => p.Found?.Any(f => f.Best == RepairAct.Replaced) == true);
        var known = new CostAssumptions().With(age, repeats, (a.ChanceToFail ?? 0) / 100.0, wantsPart);
        Known =
        [
            $"It was put in {age:0.#} years ago.",
            repeats == 0
                ? "The same part has not been put right before."
                : $"The same part has been put right {(repeats == 1 ? "once" : $"{repeats} times")} before.",
            a.ChanceToFail is { } chance
                ? $"By its readings {(chance < 1 ? "less than 1" : chance)} in 100 such fail at the next test."
                : "Its readings tell no trend yet.",
            kit is null
                ? "No kit for it is in the parts list: its price is a guess."
                : $"The kit is {kit.Item.Name}, {kit.Item.SupplierNumber}: {kit.Van} in the van, "
                    + $"{kit.Store} in the store.",
            .. wantsPart ? new[] { "What was found asks for a new part: cleaned alone, most will fail again." } : [],
            whole is null
                ? "No price of a new one is in the parts list: it is a guess."
                : $"The supplier’s number of a new one is {whole.Item.SupplierNumber}.",
        ];
        return known with
        {
            KitPrice = kit?.Item.Price ?? known.KitPrice,
            KitDays = kit is null or { Van: > 0 } or { Store: > 0 } ? 0 : kit.Item.LeadDays,
            AssemblyPrice = whole?.Item.Price ?? known.AssemblyPrice,
        };
    }
}
