using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Outside;
using Mordel.Core.Procedures;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.Data.Lists;

/// <summary>How far a stop is.</summary>
public enum StopState
{
    /// <summary>Not begun.</summary>
    Open,

    /// <summary>A run is open.</summary>
    Running,

    /// <summary>Signed.</summary>
    Signed,
}

/// <summary>A stop in a list.</summary>
/// <param name="Stop">With assembly, place and owner.</param>
/// <param name="State">How far it is.</param>
/// <param name="RunId">Its run; null while none is begun.</param>
/// <param name="Outcome">The outcome once it is signed; <c>seal-broken</c> where the seal does not hold.</param>
/// <param name="NotEntered">How many facts of its report nobody entered.</param>
public sealed record StopLine(StopRow Stop, StopState State, Guid? RunId, string? Outcome, int NotEntered)
{
    /// <summary>What the owner answered last; null where nobody did.</summary>
    public ConsentRow? Consent { get; init; }

    /// <summary>Minutes on the road from the stop before; null where that is not known, or it is the first.</summary>
    public int? Road { get; init; }

    public AssemblyRow Assembly => Stop.Assembly!;
    public PlaceRow Place => Stop.Assembly!.Place!;
}

/// <summary>A tester's day.</summary>
public sealed record TodayView(
    DateOnly Day,
    Account? Tester,
    IReadOnlyList<StopLine> Stops,
    StopLine? Next,
    KitRow? Kit,
    IReadOnlyList<string> Bring,
    IReadOnlyList<string> Warnings
);

/// <summary>A tester's day in one line, for a desk with many of them.</summary>
/// <param name="Tester">Who.</param>
/// <param name="Stops">How many stops.</param>
/// <param name="Signed">How many of them are signed.</param>
/// <param name="Next">The place of the next stop; null when none is left.</param>
/// <param name="Warnings">What stands in the way.</param>
public sealed record RoundLine(Account Tester, int Stops, int Signed, string? Next, IReadOnlyList<string> Warnings);

/// <summary>Lists testers' stops of a day, in order, with what stands in the way.</summary>
public sealed class TodayList(Store store, ProfileList profiles, StopLines lines, ITravelTimes? travel = null)
{
    private const int SoonDays = 30;

    /// <summary>One tester's day.</summary>
    public async Task<TodayView> For(Guid testerId, DateOnly day, CancellationToken cancel) =>
        (
            await Days(await store.Users.AsNoTracking().Where(u => u.Id == testerId).ToListAsync(cancel), day, cancel)
        ).SingleOrDefault(new TodayView(day, null, [], null, null, [], []));

    /// <summary>The day of each of these testers, in their order.</summary>
    public async Task<IReadOnlyList<TodayView>> Days(
        IReadOnlyCollection<Account> testers,
        DateOnly day,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(testers);
        var ids = testers.Select(t => t.Id).ToList();
        var stops = (await lines.Of(store.Stops.Where(s => ids.Contains(s.TesterId) && s.Day == day), cancel)).ToLookup(
            l => l.Stop.TesterId
        );
        var (kits, certificates) = await Papers(ids, day, cancel);
        var days = new List<TodayView>();
        foreach (var tester in testers)
        {
            var mine = await OnTheRoad([.. stops[tester.Id]], cancel);
            var next = mine.Find(l => l.State == StopState.Running) ?? mine.Find(l => l.State == StopState.Open);
            var kit = kits.Best(tester.Id, day);
            days.Add(
                new(
                    day,
                    tester,
                    mine,
                    next,
                    kit,
                    next is null ? [] : await Bring(next, day, cancel),
                    Warnings(
                        tester,
                        mine.Select(l => (l.Assembly.Type, l.Assembly.Authority!.Name)),
                        kit,
                        kit is null ? null : kits.Loan(kit.Id, day),
                        certificates[tester.Id],
                        day
                    )
                )
            );
        }

        return days;
    }

    /// <summary>The day of each of these testers in one line: the same questions, however many there are.</summary>
    public async Task<IReadOnlyList<RoundLine>> Lines(
        IReadOnlyCollection<Account> testers,
        DateOnly day,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(testers);
        var stops = (
            await (
                from s in store.Stops
                where s.Day == day
                join r in store.Runs on s.Id equals r.StopId into begun
                from run in begun.DefaultIfEmpty()
                orderby s.Order
                select new
                {
                    s.TesterId,
                    s.Assembly!.Type,
                    Authority = s.Assembly.Authority!.Name,
                    Place = s.Assembly.Place!.Name,
                    Run = run == null ? (Guid?)null : run.Id,
                    Signed = run != null && run.SignedAt != null,
                }
            )
                .AsNoTracking()
                .ToListAsync(cancel)
        ).ToLookup(s => s.TesterId);
        // Taking the signature out of a run's row does not open it again. Asked for by itself: beside each stop a
        // server would read all seals that there are.
        var open = stops.SelectMany(s => s).Where(s => !s.Signed).Select(s => s.Run).OfType<Guid>().ToList();
        var sealedAllTheSame = await store
            .Seals.Where(s => open.Contains(s.RunId))
            .Select(s => (Guid?)s.RunId)
            .ToHashSetAsync(cancel);
        bool IsSigned(bool signed, Guid? run) => signed || (run is not null && sealedAllTheSame.Contains(run));
        var (kits, certificates) = await Papers([.. testers.Select(t => t.Id)], day, cancel);
        return
        [
            .. from t in testers
            let kit = kits.Best(t.Id, day)
            select new RoundLine(
                t,
                stops[t.Id].Count(),
                stops[t.Id].Count(s => IsSigned(s.Signed, s.Run)),
                stops[t.Id].FirstOrDefault(s => !IsSigned(s.Signed, s.Run))?.Place,
                Warnings(
                    t,
                    stops[t.Id].Select(s => (s.Type, s.Authority)),
                    kit,
                    kit is null ? null : kits.Loan(kit.Id, day),
                    certificates[t.Id],
                    day
                )
            ),
        ];
    }

    // What each of these testers tests with: kits in hand, certificates by whose they are.
    private async Task<(KitsInHand Kits, ILookup<Guid, CertificateRow> Certificates)> Papers(
        List<Guid> ids,
        DateOnly day,
        CancellationToken cancel
    ) =>
        (
            await KitsInHand.On(store, ids, day, cancel),
            (await TesterRights.Certificates(store, ids, cancel)).ToLookup(c => c.AccountId)
        );

    private async Task<List<StopLine>> OnTheRoad(List<StopLine> lines, CancellationToken cancel)
    {
        for (var i = 1; travel is not null && i < lines.Count; i++)
        {
            var (before, here) = (lines[i - 1], lines[i]);
            lines[i] = here with
            {
                Road = await travel.Minutes(
                    At(before.Place),
                    At(here.Place),
                    before.Stop.PlannedAt?.AddMinutes(before.Stop.Minutes) ?? before.Stop.WindowUntil,
                    cancel
                ),
            };
        }

        return lines;
    }

    private static MapPoint At(PlaceRow place) => new(place.East, place.North);

    private async Task<List<string>> Bring(StopLine next, DateOnly day, CancellationToken cancel)
    {
        if (await profiles.On(next.Assembly.Authority!.ProfileId, day, cancel) is not { } profile)
            return [];
        var procedure = SchoolCatalogue.Named(profile.For(AssemblyTypes.Parse(next.Assembly.Type))?.ProcedureId);
        return procedure is null ? [] : BringTo(procedure.Bring, next.Stop.IsSeasonal);
    }

    /// <summary>What a test by a procedure needs beside the kit.</summary>
    public static List<string> BringTo(IEnumerable<string> procedure, bool seasonal) =>
        [.. procedure, .. seasonal ? (string[])["spare plugs"] : []];

    private static List<string> Warnings(
        Account tester,
        IEnumerable<(string Type, string Authority)> tests,
        KitRow? kit,
        LoanRow? loan,
        IEnumerable<CertificateRow> certificates,
        DateOnly day
    )
    {
        var warnings = new List<string>();
        if (kit is null)
            warnings.Add("No kit assigned. A test needs one that is in calibration.");
        else if (kit.CalibrationDue < day)
            warnings.Add(
                $"Kit {kit.Serial} has been out of calibration since {Day(kit.CalibrationDue)}. Tests made with it "
                    + $"cannot be signed."
            );
        else if (kit.CalibrationDue.DayNumber - day.DayNumber <= SoonDays)
            warnings.Add(
                $"Kit {kit.Serial}: calibration is due in {Days(kit.CalibrationDue, day)}, on "
                    + $"{Day(kit.CalibrationDue)}."
            );
        if (loan is not null)
            warnings.Add($"Kit {kit!.Serial} is lent to {tester.FullName} until {Day(loan.Until)}.");
        List<CertificateFacts> all = [.. certificates.Select(SetupWriter.Facts)];
        foreach (var (type, authority) in tests.Distinct())
        {
            var right = SigningRights.Of(tester.FullName, all, AssemblyTypes.Parse(type), authority, day);
            if (right.Why is { } why)
                warnings.Add($"{why} Such a test cannot be signed.");
            else if (right.With!.Until.DayNumber - day.DayNumber <= SoonDays)
                warnings.Add(
                    $"Certificate {right.With.Number} ends in {Days(right.With.Until, day)}, on "
                        + $"{Day(right.With.Until)}."
                );
        }

        return [.. warnings.Distinct()];
    }

    private static string Day(DateOnly day) => day.ToString("d MMMM yyyy");

    private static string Days(DateOnly until, DateOnly from) =>
        until.DayNumber - from.DayNumber is var n && n == 1 ? "1 day" : $"{n} days";
}
