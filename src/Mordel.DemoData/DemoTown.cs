using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Data.Seals;

namespace Mordel.DemoData;

/// <summary>
/// Fills an empty database with the invented town: people, kits, places, assemblies, six years of tests and the day's
/// rounds. The same seed and day give the same town. Simulated throughout, and labelled so on the screen.
/// </summary>
public sealed class DemoTown(
    Store store,
    DemoPeople people,
    DemoRegister register,
    DemoTakenOver takenOver,
    DemoYears years,
    DemoHistory history,
    DemoRecords records,
    DemoRound round,
    DemoDiagnoses diagnoses,
    DemoRepairs repairs,
    DemoParts parts,
    DemoOffice office,
    DueProjection dues,
    ChanceProjection chances,
    TimeProvider clock
)
{
    /// <summary>Fills the database when it is empty, and sees that there is a round for today.</summary>
    public async Task Prepare(CancellationToken cancel)
    {
        if (!await store.Places.AnyAsync(cancel))
        {
            await Fill(cancel);
            await office.BringList(cancel);
            await office.AskForHours(cancel);
        }

        var day = clock.Today();
        if (!await store.Stops.AnyAsync(s => s.Day == day, cancel))
            await round.Plan(day, cancel);
    }

    private async Task Fill(CancellationToken cancel)
    {
        var today = clock.Today();
        await using var transaction = await store.BeginWriting(cancel);
        await people.Add(today, cancel);
        var assemblies = register.Add(today);
        var valves = takenOver.Add(register.Board, register.Valley, today);
        await store.SaveChangesAsync(cancel);
        List<PlannedVisit> own = [.. assemblies.SelectMany(a => history.Past(a, today))];
        var others = valves.SelectMany(v => years.Of(v, today)).ToLookup(v => DemoYears.IsElsewhere(v, today));
        var firsts = own.DistinctBy(v => v.Assembly).SelectMany((v, i) => years.OnPaper(v, i));
        years.BringIn(firsts, own: true, cancel);
        years.BringIn(others[true], own: false, cancel);
        List<PlannedVisit> visits = [.. own, .. others[false]];
        var all = assemblies.Concat(valves.Select(v => v.Row)).ToList();
        diagnoses.Add(visits);
        parts.Add(all, clock.Now().AddYears(-3));
        await store.SaveChangesAsync(cancel);
        await records.Make(visits, cancel);
        await dues.Write(all, cancel);
        await store.SaveChangesAsync(cancel);
        await round.Plan(today, cancel);
        var morning = await history.Morning(today, cancel);
        await records.Make(morning, cancel);
        await repairs.UnderWay(morning[1], clock.Now().AddMinutes(-45), cancel);
        await store.SaveChangesAsync(cancel);
        office.Add(assemblies, today);
        office.WorkingHours(people.Testers.Select(t => t.Account));
        DemoOffice.WaitForParts(valves, today);
        await store.SaveChangesAsync(cancel);
        await dues.Write(all, cancel);
        foreach (var assembly in assemblies)
            await chances.Write(assembly, today, cancel);
        people.AddValleyCertificate(register.Valley, today);
        people.AddCalibrations();
        await people.AddClass(cancel);
        people.AddComparisons(today);
        await dues.Refresh(cancel);
        await transaction.CommitAsync(cancel);
    }
}

/// <summary>What whoever hosts the demo can ask for.</summary>
public static class DemoServices
{
    private const int Seed = 20417;

    /// <summary>Adds the invented town; store, seals and clock are the host's.</summary>
    public static IServiceCollection AddDemoTown(this IServiceCollection services) =>
        services
            .AddScoped(_ => new SeededChance(Seed))
            .AddSingleton(_ => new PerformedPast())
            .AddScoped<DemoPeople>()
            .AddScoped<DemoRegister>()
            .AddScoped<DemoTakenOver>()
            .AddScoped<DemoYears>()
            .AddScoped<DemoHistory>()
            .AddScoped<DemoRecords>()
            .AddScoped<DemoRound>()
            .AddScoped<DemoDiagnoses>()
            .AddScoped<DemoRepairs>()
            .AddScoped<DemoParts>()
            .AddScoped<DemoOffice>()
            .AddScoped<DemoTown>();
}
