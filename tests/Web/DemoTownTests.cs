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
[Collection("second town")]
public class DemoTownTests(UntouchedTown fresh, Town town) : IClassFixture<UntouchedTown>
{
    [Fact]
    public async Task The_town_has_some_hundred_assemblies_with_six_years_of_tests_and_its_seals_hold()
    {
        var (places, assemblies, least, years) = await fresh.InStore(async s =>
            (
                await s.Places.CountAsync(),
                await s.Assemblies.CountAsync(),
                await s
                    .Assemblies.Where(a => a.Tag.CompareTo("F-2") < 0)
                    .MinAsync(a => s.Runs.Count(r => r.AssemblyId == a.Id && r.SignedAt != null)),
                await s.BroughtTests.Select(t => t.Day.Year).Distinct().CountAsync()
            )
        );
        Assert.InRange(places, 180, 200);
        Assert.InRange(assemblies, 250, 300);
        Assert.True(least >= 3, $"an assembly of the firm's own has {least} sealed tests");
        Assert.InRange(years, 6, 7);
        await using var scope = fresh.Services.CreateAsyncScope();
        var checked_ = await scope
            .ServiceProvider.GetRequiredService<InstallationCheck>()
            .All(_ => Task.CompletedTask, CancellationToken.None);
        Assert.Equal((true, 0), (checked_.Holds, checked_.JudgedOtherwise));
        Assert.True(checked_.Runs > 220, $"{checked_.Runs} sealed runs");
    }

    // The past is shipped; whoever changes the water, the schools or the town makes it anew: bench/README.md says how.
    [Trait("Turn", "2")]
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
        foreach (var (visit, procedure, profile) in past.FoundElsewhere.Where((_, i) => i % (4 * every) == from))
        {
            var (kept, test) = (past.Elsewhere(visit, procedure, profile), visit.Ledger(procedure, profile));
            Assert.Equal(test.Outcome, kept.Outcome);
            Assert.Equal(test.Values.OrderBy(v => v.Key), kept.Values.OrderBy(v => v.Key));
        }
    }

    [Fact]
    public async Task A_bad_delivery_grit_after_works_and_a_kit_that_drifts_show_in_what_was_read()
    {
        var (bad, others) = await fresh.InStore(async s =>
            (
                await s
                    .BroughtTests.Where(t => s.Assemblies.Any(a => a.Id == t.AssemblyId && a.Serial.StartsWith("T96-")))
                    .Select(t => t.Outcome)
                    .ToListAsync(),
                await s
                    .BroughtTests.Where(t =>
                        s.Assemblies.Any(a => a.Id == t.AssemblyId && !a.Serial.StartsWith("T96-"))
                    )
                    .Select(t => t.Outcome)
                    .ToListAsync()
            )
        );
        static double Failed(List<string> outcomes) => outcomes.Count(o => o == "fail") / (double)outcomes.Count;
        Assert.True(
            Failed(bad) > 5 * Failed(others),
            $"{Failed(bad):p0} of the bad delivery, {Failed(others):p0} else"
        );
        Assert.True(await fresh.InStore(s => s.Repairs.CountAsync()) > 8);
    }

    [Fact]
    public async Task The_same_seed_gives_the_same_town()
    {
        var made = await fresh.Assemblies();
        Assert.NotEmpty(made);
        Assert.Equal(made, town.AsMade);
    }
}
