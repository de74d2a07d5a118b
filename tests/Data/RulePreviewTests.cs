using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>What a change of rules would do is shown before it is made, and is what it does.</summary>
public sealed class RulePreviewTests : IAsyncLifetime, IAsyncDisposable
{
    private const int Assemblies = 60,
        Rounds = 12;

    private static readonly Author Wilma = new("Wilma");
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync() => await hamlet.Filled(AssemblyTypes.DC);

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private DateOnly Today => hamlet.Clock.Today();

    private Task<RuleEffect> Look(Profile wished, string from, Action<Guid, DateOnly?>? each = null) =>
        hamlet.With<RuleEffect, RulePreview>(p => p.Of(wished, from, each, default));

    private async Task<Profile> Make(Profile wished)
    {
        var made = await hamlet.With<Reply<Profile>, MakeProfile>(m => m.From(wished, Wilma, default));
        Assert.Empty(made.Errors);
        return made.Value!;
    }

    // The rules of the hamlet's authority as a copy of its own.
    private async Task<Profile> Own()
    {
        var from = await hamlet.InStore(s => s.Authorities.Select(a => a.ProfileId).SingleAsync());
        var own = await Make(
            BuiltInProfiles.Named(from)! with
            {
                Id = "own",
                InForceFrom = Today,
                InForceUntil = null,
            }
        );
        var board = await hamlet.InStore(s => s.Authorities.Select(a => a.Id).SingleAsync());
        await hamlet.With<Reply<Guid>, MakeProfile>(m => m.Assign(board, "own", Wilma, default));
        return own;
    }

    // Assemblies with years of tests, failures, moves, seasons and lists of the authority behind them.
    private Task<int> Crowd(Random chance) =>
        hamlet.InStore(async s =>
        {
            var like = await s.Assemblies.AsNoTracking().OrderBy(a => a.Tag).FirstAsync();
            string?[] uses = [null, "residential", "medical", "irrigation"];
            for (var i = 0; i < Assemblies; i++)
            {
                var row = new AssemblyRow
                {
                    Id = Guid.NewGuid(),
                    PlaceId = like.PlaceId,
                    AuthorityId = like.AuthorityId,
                    Tag = $"P-{i:D3}",
                    Type = chance.Next(2) == 0 ? "DC" : "RP",
                    Make = like.Make,
                    Model = like.Model,
                    Size = like.Size,
                    Serial = $"P{i:D5}",
                    Flow = like.Flow,
                    Location = "",
                    HowToFind = "",
                    Serves = "a tap",
                    Hazard = chance.Next(2) == 0 ? "high" : "low",
                    Protection = like.Protection,
                    InstalledOn = Today.AddDays(-chance.Next(100, 3000)),
                    Use = uses[chance.Next(uses.Length)],
                    Season = chance.Next(5) == 0 ? "04-01/10-15" : null,
                };
                s.Assemblies.Add(row);
                for (var n = chance.Next(4); n > 0; n--)
                    s.BroughtTests.Add(
                        new()
                        {
                            Id = Guid.NewGuid(),
                            AssemblyId = row.Id,
                            Day = Today.AddDays(-chance.Next(0, 1200)),
                            Outcome = chance.Next(4) == 0 ? "fail" : "pass",
                            Values = "{}",
                            Source = "a list",
                            By = "Wilma",
                        }
                    );
                if (chance.Next(3) == 0)
                    s.AssemblyEvents.Add(
                        new()
                        {
                            Id = Guid.NewGuid(),
                            AssemblyId = row.Id,
                            Kind = chance.Next(2) == 0 ? "moved" : "laid up",
                            Day = Today.AddDays(-chance.Next(0, 400)),
                            By = "Wilma",
                            At = hamlet.Clock.GetUtcNow(),
                        }
                    );
            }

            return await s.SaveChangesAsync();
        });

    [Fact]
    public async Task What_is_shown_is_what_happens_when_the_rules_come_into_force()
    {
        var chance = new Random(20417);
        var own = await Own();
        await Crowd(chance);
        for (var round = 0; round < Rounds; round++)
        {
            var wished = own with
            {
                Version = own.Version + 1,
                InForceFrom = Today.AddDays(chance.Next(1, 60)),
                IntervalMonths = chance.Next(3, 30),
                RetestDays = chance.Next(5, 60),
                GraceDays = chance.Next(0, 40),
                EventDays = chance.Next(0, 60),
                StartUpDays = chance.Next(0, 60),
                Intervals =
                    chance.Next(2) == 0
                        ? []
                        : IntervalText
                            .Read("6 RP high\n24 low residential", ["residential", "medical", "irrigation"], out _)!
                            .Value,
            };
            var shown = new Dictionary<Guid, DateOnly?>();
            var effect = await Look(wished, "own", (id, day) => shown[id] = day);
            own = await Make(wished);
            hamlet.Clock.Offset += TimeSpan.FromDays(own.InForceFrom.DayNumber - Today.DayNumber);
            await hamlet.With<int, DueProjection>(d => d.Refresh(default));
            var happened = await hamlet.InStore(s => s.Assemblies.ToDictionaryAsync(a => a.Id, a => a.NextDue));
            Assert.Equal(happened.Count, effect.Assemblies);
            Assert.All(happened, a => Assert.Equal(a.Value, shown[a.Key]));
            Assert.Equal(Math.Min(effect.Earlier + effect.Later, RulePreview.Shown), effect.Moved.Count);
        }
    }

    [Fact]
    public async Task A_stricter_limit_tells_which_tests_of_this_year_would_read_otherwise_and_changes_none()
    {
        var run = await hamlet.Signed();
        var from = await hamlet.InStore(s => s.Authorities.Select(a => a.ProfileId).SingleAsync());
        var profile = BuiltInProfiles.Named(from)!;
        var same = await Look(profile with { Id = "copy", InForceFrom = Today }, from);
        Assert.Equal((1, 0, 0), (same.Weighed, same.Otherwise.Count, same.BecomeDue));
        Profile Stricter(decimal limit) =>
            profile with
            {
                Id = "strict",
                InForceFrom = Today,
                Schools =
                [
                    .. profile.Schools.Select(s =>
                        s.Type != AssemblyTypes.DC
                            ? s
                            : s with
                            {
                                Items =
                                [
                                    .. s.Items.Select(i =>
                                        i.Item == TestItem.Check1
                                            ? new(
                                                i.Item,
                                                i.Requirement,
                                                [new Criterion.AtLeast(new(limit, DifferentialUnit.Psid), false)]
                                            )
                                            : i
                                    ),
                                ],
                            }
                    ),
                ],
            };
        var effect = await Look(Stricter(9), from);
        var line = Assert.Single(effect.Otherwise);
        Assert.Equal((run, Overall.Pass, Overall.Fail), (line.Run, line.Now, line.Then));
        Assert.Empty((await Look(Stricter(0.5m), from)).Otherwise);
        Assert.Equal("pass", (await hamlet.Report(run))!.Outcome);
        Assert.False(await hamlet.InStore(s => s.Profiles.AnyAsync()));
    }
}
