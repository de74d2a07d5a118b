using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Serialization;
using Mordel.Data.Seals;
using Mordel.DemoData;

namespace Mordel.Web.Tests;

/// <summary>The invented town as it is when nobody has touched it.</summary>
public sealed class UntouchedTown() : Host(demo: true)
{
    /// <summary>What its assemblies are.</summary>
    public Task<List<string>> Assemblies() => Town.Assemblies(this);
}

/// <summary>What the town is, and that it is the same each time it is made.</summary>
[Collection("town")]
public class DemoTownTests(UntouchedTown fresh, Town town) : IClassFixture<UntouchedTown>
{
    [Fact]
    public async Task The_town_has_forty_places_about_sixty_assemblies_and_three_years_of_tests_whose_seals_hold()
    {
        var (places, assemblies, least) = await fresh.InStore(async s =>
            (
                await s.Places.CountAsync(),
                await s.Assemblies.CountAsync(),
                await s
                    .Assemblies.Where(a => a.Tag.CompareTo("F-2") < 0)
                    .MinAsync(a => s.Runs.Count(r => r.AssemblyId == a.Id && r.SignedAt != null))
            )
        );
        Assert.Equal(40, places);
        Assert.InRange(assemblies, 55, 65);
        Assert.True(least >= 3, $"an assembly has {least} tests");
        await using var scope = fresh.Services.CreateAsyncScope();
        var checked_ = await scope
            .ServiceProvider.GetRequiredService<InstallationCheck>()
            .All(_ => Task.CompletedTask, CancellationToken.None);
        Assert.Equal((true, 0), (checked_.Holds, checked_.JudgedOtherwise));
        Assert.True(checked_.Runs > 3 * assemblies - 60, $"{checked_.Runs} sealed runs");
    }

    // The past is shipped; whoever changes the water, the schools or the town makes it anew: bench/README.md says how.
    [Fact]
    public async Task What_is_shipped_of_the_towns_past_is_what_the_water_gives_today()
    {
        await fresh.Assemblies();
        var past = fresh.Services.GetRequiredService<PerformedPast>();
        Assert.True(past.Performed <= 2, $"{past.Performed} visits or attempts are not in what is shipped");
        var found = past.Found.OrderBy(f => f.Visit.Seed).ToList();
        Assert.True(found.Count > 150, $"{found.Count} visits were found");
        var every = Environment.GetEnvironmentVariable("MORDEL_THOROUGH") == "1" ? 1 : 30;
        var from = Random.Shared.Next(every);
        foreach (var (visit, procedure, profile) in found.Where((_, i) => i % every == from))
            Assert.Equal(
                visit.Perform(procedure, profile).Entries.Select(EntryFormat.Write),
                past.Log(visit, procedure, profile).Entries.Select(EntryFormat.Write)
            );
    }

    [Fact]
    public async Task The_same_seed_gives_the_same_town()
    {
        var made = await fresh.Assemblies();
        Assert.NotEmpty(made);
        Assert.Equal(made, town.AsMade);
    }
}
