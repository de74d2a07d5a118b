using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.KitsAndPeople;

/// <summary>A kit: its calibrations with their papers, and what it means that one of them found it wrong.</summary>
public sealed class KitModel(KitPage kits, Calibrate calibrate, ChangeList changes, TimeProvider clock) : PageModel
{
    public KitView Kit { get; private set; } = null!;
    public DateOnly Today => clock.Today();

    /// <summary>The calibration whose consequences are shown; null where none found the gauge wrong.</summary>
    public CalibrationRow? Found { get; private set; }
    public KitDoubt? Doubt { get; private set; }

    /// <summary>How many tests were asked for again just now.</summary>
    public int? Asked { get; private set; }
    public IReadOnlyList<ChangeRow> Changes { get; private set; } = [];

    public async Task<IActionResult> OnGet(Guid id, Guid? calibration, int? asked, CancellationToken cancel)
    {
        if (await kits.Of(id, cancel) is not { } kit)
            return NotFound();
        (Kit, Asked) = (kit, asked);
        Found = kit.Calibrations.FirstOrDefault(c => c.Id == calibration)
            ?? kit.Calibrations.FirstOrDefault(c => Math.Abs(c.FoundHigh ?? 0) > kit.Kit.Accuracy);
        Doubt = Found is null ? null : await kits.Doubt(kit, Found, cancel);
        Changes = await changes.Of([id], cancel);
        return Page();
    }

    public async Task<IActionResult> OnPost(
        Guid id,
        NewCalibration calibration,
        IFormFile? scan,
        CancellationToken cancel
    ) =>
        await this.Answer(
            await calibrate.With(id, calibration, await scan.AsPaper(cancel), new(User.Name()), cancel),
            _ => $"/kits-and-people/kits/{id}",
            () => OnGet(id, null, null, cancel)
        );

    /// <summary>Asks for the tests again that are in doubt.</summary>
    public async Task<IActionResult> OnPostAgain(Guid id, Guid calibration, CancellationToken cancel) =>
        await this.Answer(
            await calibrate.TestAgain(id, calibration, new(User.Name()), cancel),
            asked => $"/kits-and-people/kits/{id}?calibration={calibration}&asked={asked}",
            () => OnGet(id, calibration, null, cancel)
        );
}
