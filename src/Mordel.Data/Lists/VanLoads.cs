using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Planning;
using Mordel.Core.Repairs;
using Mordel.Core.Schools;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>What a tester loads for a day.</summary>
/// <param name="Kits">The kits, by kind and number.</param>
/// <param name="Bring">What the run sheets ask for.</param>
/// <param name="Parts">Parts that may be wanted.</param>
/// <param name="WaysIn">Keys and ways in, a place each.</param>
public sealed record VanLoad(
    IReadOnlyList<string> Kits,
    IReadOnlyList<string> Bring,
    IReadOnlyList<Carried> Parts,
    IReadOnlyList<string> WaysIn
);

/// <summary>What goes into each van for proposed rounds.</summary>
public sealed class VanLoads(Store store, ProfileList profiles, PartsList parts)
{
    /// <summary>By the tester's id in the problem.</summary>
    public async Task<IReadOnlyDictionary<string, VanLoad>> Of(
        ProposalView view,
        DateOnly day,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(view);
        var routes = view.Plan.Routes.Where(r => r.Day == day).ToList();
        var ids = routes.SelectMany(r => r.Visits).Select(v => Guid.Parse(v.Stop)).ToList();
        var assemblies = await store
            .Assemblies.AsNoTracking()
            .Include(a => a.Place)
            .Include(a => a.Authority)
            .Where(a => ids.Contains(a.Id))
            .ToDictionaryAsync(a => a.Id.ToString(), cancel);
        var sheets = new Dictionary<(string, string), IReadOnlyList<string>>();
        var all = new Dictionary<string, VanLoad>();
        foreach (var route in routes)
        {
            var there = route
                .Visits.Where(v => assemblies.ContainsKey(v.Stop))
                .Select(v => assemblies[v.Stop])
                .ToList();
            var bring = new List<string>();
            foreach (var (profile, type) in there.Select(a => (a.Authority!.ProfileId, a.Type)).Distinct())
            {
                if (!sheets.TryGetValue((profile, type), out var asked))
                    sheets[(profile, type)] = asked = await Asked(profile, type, day, cancel);
                bring.AddRange(asked);
            }

            all[route.Tester] = new(
                [
                    .. view
                        .Problem.Tester(route.Tester)!
                        .Kits.Where(k => k.IsThere(day))
                        .Select(k => $"{k.Kind} kit {k.Serial}"),
                ],
                [.. bring.Distinct()],
                await parts.ToCarry(Guid.Parse(route.Tester), there, day, cancel),
                [
                    .. there
                        .Where(a => a.Place!.Access.Length > 0)
                        .Select(a => $"{a.Place!.Name}: {a.Place.Access}")
                        .Distinct(),
                ]
            );
        }

        return all;
    }

    private async Task<IReadOnlyList<string>> Asked(string profile, string type, DateOnly day, CancellationToken cancel)
    {
        var rules = await profiles.On(profile, day, cancel);
        return SchoolCatalogue.Named(rules?.For(AssemblyTypes.Parse(type))?.ProcedureId) is { } school
            ? [.. school.Bring]
            : [];
    }
}
