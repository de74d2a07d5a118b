using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Catalogue;
using Mordel.Core.Forecasts;
using Mordel.Core.Register;
using Mordel.Core.Repairs;
using Mordel.Core.Reports;
using Mordel.Data;
using Mordel.Data.Commands.Assemblies;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Web.Application;
using PassportOf = Mordel.Data.Lists.Passport;

namespace Mordel.Web.Pages.Register;

/// <summary>An assembly's passport: data, drawing, tests, readings against limits.</summary>
public sealed class PassportModel(
    PassportOf passport,
    KitsAndPeopleList people,
    DiagnosisList diagnoses,
    ModelBuilds builds,
    RepairList repairs,
    ChangeList changes,
    ProfileList profiles,
    SayHowBuilt say,
    AddStop add,
    NoticeList notices,
    BranchList branches,
    KeepNotices keep,
    Installation installation,
    TimeProvider clock
) : PageModel
{
    public PassportView View { get; private set; } = null!;
    public string? Chart { get; private set; }
    public IReadOnlyList<Data.Rows.Account> Testers { get; private set; } = [];

    /// <summary>The bench sheets of its make and model.</summary>
    public IReadOnlyList<BenchSheet> Sheets { get; private set; } = [];
    public IReadOnlyList<DiagnosisLine> Diagnoses { get; private set; } = [];

    /// <summary>Its repairs, the last first.</summary>
    public IReadOnlyList<RepairFile> Repairs { get; private set; } = [];

    /// <summary>Its tests that were brought in from elsewhere, the last first.</summary>
    public IReadOnlyList<BroughtTest> Brought { get; private set; } = [];

    /// <summary>Who changed what of it, of its place and its owner; the desk's.</summary>
    public IReadOnlyList<ChangeRow> Changes { get; private set; } = [];

    /// <summary>What was told about it; the desk's.</summary>
    public IReadOnlyList<(NoticeRow Notice, OutboxRow? Letter)> Told { get; private set; } = [];

    /// <summary>The branch that looks after it, for the desk; null where none does.</summary>
    public BranchOf? Branch { get; private set; }

    /// <summary>Whether who looks changes what the register says of it.</summary>
    public bool MayChange => User.IsAtTheDesk() && User.MayChange(Branch);

    /// <summary>A link to the owner's page, made just now: it is shown this once.</summary>
    public string? OwnerLink { get; private set; }

    /// <summary>Entries that were found to be this one.</summary>
    public IReadOnlyList<(MergeRow Merge, string Tag)> Merges { get; private set; } = [];

    /// <summary>A repair that no test has followed; null where there is none.</summary>
    public RepairFile? Untested =>
        Repairs.FirstOrDefault(r =>
            r.Row.ClosedAt is not null && !View.Tests.Reports.Any(t => t.RunId == r.Row.RetestId)
        );
    public DateOnly Today => clock.Today();

    /// <summary>What the next readings will most likely be; null where there are too few tests to say.</summary>
    public IReadOnlyList<(string Name, ItemForecast? Forecast)> Forecasts { get; private set; } = [];

    /// <summary>When the next test is due; one that is overdue is made today.</summary>
    public DateOnly NextTest => View.Assembly.NextDue is { } due && due > Today ? due : Today;

    /// <summary>The two readings that tell most about a type over the years.</summary>
    public IReadOnlyList<(string Name, string Item)> Columns => [.. Type.Charted.Select(c => (c.Name, c.Item.Id))];

    private TypeFacts Type => AssemblyTypes.Parse(View.Assembly.Type).Facts();

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (await passport.Of(id, cancel) is not { } view)
            return NotFound();
        View = view;
        if (User.IsAtTheDesk())
        {
            Branch = await branches.OfAssembly(id, User.Id(), cancel);
            var sends = User.Sends(await branches.For(User.Id(), cancel), null);
            Testers = await people.In(Roles.Tester, cancel, sends);
        }

        Diagnoses = await diagnoses.OfAssembly(id, cancel);
        Sheets = await builds.Of(view.Assembly, cancel);
        Repairs = await repairs.OfAssembly(id, cancel);
        Brought = await changes.Brought(id, cancel);
        Merges = await changes.Merges(id, cancel);
        if (User.IsAtTheDesk())
            (Told, Changes) = (
                await notices.Of(id, cancel),
                await changes.Of([id, view.Assembly.PlaceId, view.Assembly.Place!.OwnerId], cancel)
            );
        Forecasts = [.. Type.Charted.Select(c => (c.Name, ItemForecast.Of(Sound, c.Item)))];
        var rules = (await profiles.On(view.Assembly.Authority!.ProfileId, Today, cancel))?.For(
            AssemblyTypes.Parse(view.Assembly.Type)
        );
        Chart = new PassportChart(Type, [.. Sound], Brought, rules).Draw(
            [.. Forecasts.Select(f => f.Forecast)],
            NextTest
        );
        return Page();
    }

    public async Task<IActionResult> OnPost(Guid id, NewStop stop, CancellationToken cancel)
    {
        if (!User.IsAtTheDesk())
            return Forbid();
        return await this.Answer(await add.With(id, stop, cancel), _ => "/", () => OnGet(id, cancel));
    }

    /// <summary>Makes a link to the owner's page.</summary>
    public async Task<IActionResult> OnPostOwnerLink(Guid id, CancellationToken cancel)
    {
        if (!User.IsAtTheDesk())
            return Forbid();
        if (await OnGet(id, cancel) is not PageResult)
            return NotFound();
        var link = await keep.OwnerLink(View.Assembly.Place!.OwnerId, new(User.Name()), cancel);
        if (link.Why is not null)
            return NotFound();
        OwnerLink = $"{installation.Address}/owner/{link.Value}";
        return Page();
    }

    /// <summary>Ends every link of the owner.</summary>
    public async Task<IActionResult> OnPostEndLinks(Guid id, CancellationToken cancel)
    {
        if (!User.IsAtTheDesk())
            return Forbid();
        if (await OnGet(id, cancel) is not PageResult)
            return NotFound();
        return await this.Answer(
            await keep.EndLinks(View.Assembly.Place!.OwnerId, cancel),
            _ => $"/register/{id}#told",
            () => Task.CompletedTask
        );
    }

    /// <summary>Says how its make and model is built.</summary>
    public async Task<IActionResult> OnPostBuilt(Guid id, string? family, string? relief, CancellationToken cancel) =>
        User.IsAtTheDesk()
            ? await this.Answer(
                await say.Of(id, family, relief, User.Name(), cancel),
                _ => $"/register/{id}",
                () => OnGet(id, cancel)
            )
            : Forbid();

    /// <summary>Whether each point of the first line has a limit of its own.</summary>
    public bool OwnLimits => Type.FirstCheckAboveRelief is not null;

    /// <summary>What was read of one of the two columns.</summary>
    public string? Value(SealedRun run, int column)
    {
        ArgumentNullException.ThrowIfNull(run);
        return run.Verdict.Items.FirstOrDefault(i => i.Item.Id == Columns[column].Item)?.Value?.ToString();
    }

    /// <summary>
    /// The outcome of the last test; broken when its seal is, or when the chain does not end where it should.
    /// </summary>
    public string? LastOutcome =>
        View.Tests switch
        {
            { ChainTrouble.Count: > 0 } => SealedReport.BrokenOutcome,
            { Reports: [var last, ..] } => last.Outcome,
            _ => null,
        };

    /// <summary>What was said of a test that was brought in, beside the two readings that have a column.</summary>
    public string Besides(IReadOnlyDictionary<string, string> said)
    {
        ArgumentNullException.ThrowIfNull(said);
        return string.Join(
            ", ",
            said.Where(v => v.Key != TestFields.Tester.Id && Columns.All(c => c.Item != v.Key))
                .Select(v =>
                    v.Key == TestFields.Remarks.Id
                        ? v.Value
                        : $"{RegisterFields.Named(v.Key)?.Label ?? v.Key} {v.Value}"
                )
        );
    }

    private IEnumerable<SealedRun> Sound =>
        View.Tests.Reports.Where(r => r.Holds).Select(r => r.Run).OfType<SealedRun>();
}
