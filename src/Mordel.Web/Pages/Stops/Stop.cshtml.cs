using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Seals;
using Mordel.Data.Setups;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Stops;

/// <summary>One stop: everything needed at the door, and the way into the run.</summary>
public sealed class StopModel(FindStop find, BeginRun begin, SealReader seals, TesterRights rights, TimeProvider clock)
    : PageModel
{
    public StopLine Line { get; private set; } = null!;

    /// <summary>The last sealed test, checked.</summary>
    public LastSealed? Last { get; private set; }
    public bool Mine => Line.Stop.TesterId == User.Id();

    /// <summary>Why a test could not be signed as things stand; null where nothing is known against it.</summary>
    public string? WhyNotSigned { get; private set; }

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel) =>
        await Load(id, cancel) ? Page() : NotFound();

    public async Task<IActionResult> OnPost(Guid id, bool unsigned, CancellationToken cancel)
    {
        if (!await Load(id, cancel))
            return NotFound();
        return await this.Answer(await begin.For(id, User.Id(), unsigned, cancel), run => $"/runs/{run}");
    }

    private async Task<bool> Load(Guid id, CancellationToken cancel)
    {
        if (await find.For(id, User.Asker(), cancel) is not { } line)
            return false;
        Line = line;
        if (Mine && line.State == StopState.Open)
            WhyNotSigned = await rights.WhyNot(User.Id(), line.Assembly.Id, clock.Today(), cancel);
        Last = (await seals.LastOf([line.Assembly.Id], cancel)).GetValueOrDefault(line.Assembly.Id);
        return true;
    }
}
