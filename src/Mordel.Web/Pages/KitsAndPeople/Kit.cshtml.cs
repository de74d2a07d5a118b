using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.KitsAndPeople;

/// <summary>
/// A kit: how it reads over time, who has it when, its calibrations with their papers, and what it means that one of
/// them found it wrong.
/// </summary>
public sealed class KitModel(
    KitPage kits,
    KitsAndPeopleList people,
    BranchList branches,
    Calibrate calibrate,
    CompareKits compare,
    LendKit lend,
    ChangeList changes,
    TimeProvider clock
) : PageModel
{
    /// <summary>What a mark of the drawing is.</summary>
    public static readonly IReadOnlyList<(KitPointKind Kind, string Says)> Marks =
    [
        (KitPointKind.Calibration, "found at a calibration, and set"),
        (KitPointKind.Comparison, "beside another kit"),
        (KitPointKind.Zero, "both ports open to air"),
    ];

    public KitView Kit { get; private set; } = null!;
    public DateOnly Today => clock.Today();

    /// <summary>The calibration whose consequences are shown; null where none found the gauge wrong.</summary>
    public CalibrationRow? Found { get; private set; }
    public KitDoubt? Doubt { get; private set; }

    /// <summary>The branch that has it; null where none does.</summary>
    public BranchOf? Branch { get; private set; }

    /// <summary>How many tests were asked for again just now.</summary>
    public int? Asked { get; private set; }
    public IReadOnlyList<ChangeRow> Changes { get; private set; } = [];

    /// <summary>The form that stands open, since something is wrong in it; empty for none.</summary>
    public string Opened { get; private set; } = "";

    /// <summary>The kits it can be compared with.</summary>
    public IReadOnlyList<KitRow> OtherKits { get; private set; } = [];

    /// <summary>Who may get it.</summary>
    public IReadOnlyList<Data.Rows.Account> Testers { get; private set; } = [];

    /// <summary>A comparison as it was typed; null where none was.</summary>
    public NewComparison? Comparison { get; private set; }

    public async Task<IActionResult> OnGet(Guid id, Guid? calibration, int? asked, CancellationToken cancel)
    {
        if (await kits.Of(id, cancel) is not { } kit)
            return NotFound();
        (Kit, Asked) = (kit, asked);
        Branch = await branches.OfKit(id, User.Id(), cancel);
        Found = kit.Calibrations.FirstOrDefault(c => c.Id == calibration)
            ?? kit.Calibrations.FirstOrDefault(c => Math.Abs(c.FoundHigh ?? 0) > kit.Kit.Accuracy);
        Doubt = Found is null ? null : await kits.Doubt(kit, Found, cancel);
        Changes = await changes.Of([id], cancel);
        OtherKits = [.. (await kits.All(cancel)).Where(k => k.Id != id)];
        Testers = [.. (await people.In(Roles.Tester, cancel)).Where(t => t.Id != kit.Kit.KeeperId)];
        return Page();
    }

    public async Task<IActionResult> OnPost(
        Guid id,
        NewCalibration calibration,
        IFormFile? scan,
        CancellationToken cancel
    ) =>
        await Answer(
            "calibrate",
            await calibrate.With(id, calibration, await scan.AsPaper(cancel), new(User.Name()), cancel),
            id,
            cancel
        );

    /// <summary>Keeps a comparison with another kit.</summary>
    public async Task<IActionResult> OnPostCompare(Guid id, NewComparison comparison, CancellationToken cancel)
    {
        Comparison = comparison;
        return await Answer("compare", await compare.With(id, comparison, new(User.Name()), cancel), id, cancel);
    }

    /// <summary>Lends it for some days.</summary>
    public async Task<IActionResult> OnPostLend(
        Guid id,
        Guid toId,
        DateOnly? from,
        DateOnly? until,
        CancellationToken cancel
    ) => await Answer("lend", await lend.With(id, toId, from, until, new(User.Name()), cancel), id, cancel);

    /// <summary>It is back sooner.</summary>
    public async Task<IActionResult> OnPostBack(Guid id, Guid loan, CancellationToken cancel) =>
        await Answer("", await lend.Back(id, loan, new(User.Name()), cancel), id, cancel);

    /// <summary>Asks for the tests again that are in doubt.</summary>
    public async Task<IActionResult> OnPostAgain(Guid id, Guid calibration, CancellationToken cancel) =>
        await this.Answer(
            await calibrate.TestAgain(id, calibration, new(User.Name()), cancel),
            asked => $"/kits-and-people/kits/{id}?calibration={calibration}&asked={asked}",
            () => OnGet(id, calibration, null, cancel)
        );

    /// <summary>A reading of the comparison as it was typed.</summary>
    public string? Typed(string field, int at) =>
        (field == "one" ? Comparison?.One : Comparison?.Other)?.ElementAtOrDefault(at) is { } read
            ? read.ToString(CultureInfo.InvariantCulture)
            : null;

    private async Task<IActionResult> Answer(string form, Reply<Guid> reply, Guid id, CancellationToken cancel) =>
        await this.Answer(
            reply,
            _ => $"/kits-and-people/kits/{id}",
            () =>
            {
                Opened = form;
                return OnGet(id, null, null, cancel);
            }
        );
}
