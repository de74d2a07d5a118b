using Microsoft.EntityFrameworkCore;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.DemoData;

/// <summary>
/// Fills an empty database with the invented town: people, kits, places, assemblies, three years of tests and the day's
/// rounds. The same seed and day give the same town. Simulated throughout, and labelled so on the screen.
/// </summary>
public sealed class DemoTown(Store store, SealMaker maker, SetupReader setups, TimeProvider clock)
{
    private const int Seed = 20417;

    /// <summary>Fills the database when it is empty, and sees that there is a round for today.</summary>
    public async Task Prepare(CancellationToken cancel)
    {
        if (!await store.Places.AnyAsync(cancel))
            await Fill(cancel);
        var day = clock.Today();
        if (!await store.Stops.AnyAsync(s => s.Day == day, cancel))
            await new DemoRound(store, clock).Plan(day, cancel);
    }

    private async Task Fill(CancellationToken cancel)
    {
        var today = clock.Today();
        var chance = new SeededChance(Seed);
        var people = new DemoPeople(store, chance, clock);
        var history = new DemoHistory(store, maker, setups, clock, chance, people);
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        await people.Add(today, cancel);
        var assemblies = new DemoRegister(store, chance).Add(today);
        await store.SaveChangesAsync(cancel);
        await history.Make([.. assemblies.SelectMany(a => history.Past(a, today))], cancel);
        await new DemoRound(store, clock).Plan(today, cancel);
        await history.Make(await history.Morning(today, cancel), cancel);
        await people.AddClass(cancel);
        await transaction.CommitAsync(cancel);
    }
}
