using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Data.Rows;

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
public sealed record StopLine(StopRow Stop, StopState State, Guid? RunId, string? Outcome, DateTimeOffset? SignedAt)
{
    public AssemblyRow Assembly => Stop.Assembly!;
    public PlaceRow Place => Stop.Assembly!.Place!;
}

/// <summary>A tester's day.</summary>
public sealed record TodayView(
    DateOnly Day, Account? Tester, IReadOnlyList<StopLine> Stops, StopLine? Next, KitRow? Kit, IReadOnlyList<string> Bring, IReadOnlyList<string> Warnings);

/// <summary>Lists a tester's stops of a day, in order, with what stands in the way.</summary>
public sealed class TodayList(Store store, ProfileBook profiles)
{
    private const int SoonDays = 30;

    /// <summary>The day.</summary>
    public async Task<TodayView> For(Guid testerId, DateOnly day, CancellationToken cancel)
    {
        var tester = await store.Users.AsNoTracking().FirstOrDefaultAsync(u => u.Id == testerId, cancel);
        var stops = await store.Stops.AsNoTracking().Include(s => s.Assembly!).ThenInclude(a => a.Place!).ThenInclude(p => p.Owner)
            .Include(s => s.Assembly!).ThenInclude(a => a.Authority)
            .Where(s => s.TesterId == testerId && s.Day == day).OrderBy(s => s.Order).ToListAsync(cancel);
        var ids = stops.Select(s => s.Id).ToList();
        var runs = await store.Runs.AsNoTracking().Where(r => r.StopId != null && ids.Contains(r.StopId.Value))
            .Select(r => new { r.Id, r.StopId, r.SignedAt, r.Outcome }).ToListAsync(cancel);
        var lines = stops.Select(s => runs.Find(r => r.StopId == s.Id) is { } run
            ? new StopLine(s, run.SignedAt is null ? StopState.Running : StopState.Signed, run.Id, run.Outcome, run.SignedAt)
            : new StopLine(s, StopState.Open, null, null, null)).ToList();
        var kit = await store.Kits.AsNoTracking().FirstOrDefaultAsync(k => k.KeeperId == testerId, cancel);
        var certificates = await store.Certificates.AsNoTracking().Where(c => c.AccountId == testerId).ToListAsync(cancel);
        var next = lines.Find(l => l.State == StopState.Running) ?? lines.Find(l => l.State == StopState.Open);
        return new(day, tester, lines, next, kit, next is null ? [] : await Bring(next, day, cancel), Warnings(lines, kit, certificates, day));
    }

    private async Task<List<string>> Bring(StopLine next, DateOnly day, CancellationToken cancel)
    {
        var profile = (await profiles.On(next.Assembly.Authority!.ProfileId, day, cancel))!;
        var procedure = SchoolCatalogue.Named(profile.For(Enum.Parse<Core.Rigs.AssemblyType>(next.Assembly.Type))?.ProcedureId);
        return procedure is null ? [] : [.. procedure.Bring];
    }

    private static List<string> Warnings(List<StopLine> lines, KitRow? kit, List<CertificateRow> certificates, DateOnly day)
    {
        var warnings = new List<string>();
        if (kit is null) warnings.Add("No kit assigned. A test needs one that is in calibration.");
        else if (kit.CalibrationDue < day) warnings.Add($"Kit {kit.Serial} has been out of calibration since {Day(kit.CalibrationDue)}. Tests made with it cannot be signed.");
        else if (kit.CalibrationDue.DayNumber - day.DayNumber <= SoonDays) warnings.Add($"Kit {kit.Serial}: calibration is due in {Days(kit.CalibrationDue, day)}, on {Day(kit.CalibrationDue)}.");
        foreach (var type in lines.Select(l => l.Assembly.Type).Distinct())
        {
            var covering = certificates.Where(c => c.Covers(type, day)).MaxBy(c => c.ValidUntil);
            if (covering is null) warnings.Add($"No valid certificate for a {type}: such a test cannot be signed.");
            else if (covering.ValidUntil.DayNumber - day.DayNumber <= SoonDays) warnings.Add($"Certificate {covering.Number} ends in {Days(covering.ValidUntil, day)}, on {Day(covering.ValidUntil)}.");
        }

        return warnings;
    }

    private static string Day(DateOnly day) => day.ToString("d MMMM yyyy");

    private static string Days(DateOnly until, DateOnly from) => until.DayNumber - from.DayNumber is var n && n == 1 ? "1 day" : $"{n} days";
}

/// <summary>Finds one stop for somebody who may see it.</summary>
public sealed class FindStop(Store store)
{
    /// <summary>The stop, or null when there is none or it is another's.</summary>
    public async Task<StopLine?> For(Guid stopId, Asker asker, CancellationToken cancel)
    {
        var stop = await store.Stops.AsNoTracking().Include(s => s.Assembly!).ThenInclude(a => a.Place!).ThenInclude(p => p.Owner)
            .Include(s => s.Assembly!).ThenInclude(a => a.Authority).FirstOrDefaultAsync(s => s.Id == stopId, cancel);
        if (stop is null || (stop.TesterId != asker.Id && !asker.SeesAll)) return null;
        var run = await store.Runs.AsNoTracking().FirstOrDefaultAsync(r => r.StopId == stopId, cancel);
        return new(stop, run is null ? StopState.Open : run.IsSealed ? StopState.Signed : StopState.Running, run?.Id, run?.Outcome, run?.SignedAt);
    }
}
