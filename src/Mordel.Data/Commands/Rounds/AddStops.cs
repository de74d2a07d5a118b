using Microsoft.EntityFrameworkCore;

namespace Mordel.Data.Commands.Rounds;

/// <summary>What came of putting many into a round.</summary>
/// <param name="Added">How many are in it now that were not.</param>
/// <param name="Skipped">Those that stay out, with the reason.</param>
public sealed record AddedStops(int Added, IReadOnlyList<string> Skipped);

/// <summary>Puts a set of assemblies into a tester's round of a day.</summary>
public sealed class AddStops(Store store, AddStop add, TimeProvider clock)
{
    private const int Most = 40;

    /// <summary>Puts them in, each behind the one before; what is planned for somebody already is left out.</summary>
    public async Task<Reply<AddedStops>> With(
        IReadOnlyCollection<Guid> assemblies,
        NewStop stop,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(assemblies);
        ArgumentNullException.ThrowIfNull(stop);
        if (assemblies.Count == 0)
            return Reply<AddedStops>.Refused("Mark the assemblies that go into the round.");
        if (assemblies.Count > Most)
            return Reply<AddedStops>.Refused($"A round of more than {Most} stops is none. Mark fewer.");
        if (stop.Day < clock.Today())
            return Reply<AddedStops>.Refused("That day is over. Choose one that lies ahead.");
        var today = clock.Today();
        var planned = await (
            from s in store.Stops
            where assemblies.Contains(s.AssemblyId) && s.Day >= today
            join a in store.Assemblies on s.AssemblyId equals a.Id
            select new
            {
                a.Id,
                a.Tag,
                s.Day,
            }
        ).ToListAsync(cancel);
        var (added, skipped) = (0, new List<string>());
        foreach (var id in assemblies)
        {
            if (planned.Find(p => p.Id == id) is { } there)
            {
                skipped.Add($"{there.Tag} is in a round already, on {there.Day:d MMM}.");
                continue;
            }

            var reply = await add.With(id, stop, cancel);
            if (reply.Why is not null)
                return reply.NotDoneFor<AddedStops>();
            added++;
        }

        return new AddedStops(added, skipped);
    }
}
