using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Data.Commands;
using Mordel.Data.Lists;

namespace Mordel.Web.Tests;

/// <summary>The invented town as it is when nobody has touched it.</summary>
public class DemoTownTests
{
    [Fact]
    public async Task The_town_has_forty_places_about_sixty_assemblies_and_three_years_of_tests_whose_seals_hold()
    {
        await using var fresh = new Town();
        var (places, assemblies, least) = await fresh.InStore(async s => (await s.Places.CountAsync(), await s.Assemblies.CountAsync(),
            await s.Assemblies.MinAsync(a => s.Runs.Count(r => r.AssemblyId == a.Id && r.SignedAt != null))));
        Assert.Equal(40, places);
        Assert.InRange(assemblies, 55, 65);
        Assert.True(least >= 3, $"an assembly has {least} tests");
        await using var scope = fresh.Services.CreateAsyncScope();
        var (find, check) = (scope.ServiceProvider.GetRequiredService<FindRun>(), scope.ServiceProvider.GetRequiredService<CheckSeal>());
        foreach (var id in await fresh.InStore(s => s.Runs.Where(r => r.SignedAt != null && r.StopId == null).OrderBy(r => r.Id).Select(r => r.Id).Take(40).ToListAsync()))
            Assert.True(check.Holds((await find.For(id, new(Guid.Empty, true), CancellationToken.None))!));
    }

    [Fact]
    public async Task The_same_seed_gives_the_same_town()
    {
        await using var fresh = new Town();
        await using var other = new Town();
        static Task<List<string>> Serials(Host host) => host.InStore(s => s.Assemblies.OrderBy(a => a.Tag).Select(a => a.Tag + a.Serial + a.Flow).ToListAsync());
        Assert.Equal(await Serials(fresh), await Serials(other));
    }
}
