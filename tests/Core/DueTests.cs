using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;

namespace Mordel.Core.Tests;

/// <summary>What is owed: one test at a time, with its reason, never lost by what happens.</summary>
public class DueTests
{
    private static readonly DateOnly Installed = new(2020, 3, 1);

    private static readonly DueFacts Plain = new(AssemblyTypes.DC, "low", null, null, Installed);

    private static readonly Profile Rules = BuiltInProfiles.PsidStandard;

    private static readonly Gen<Season?> Seasons = One<Season?>(
        null,
        Season.Between(4, 15, 10, 15),
        Season.Between(11, 1, 3, 31),
        Season.Between(2, 29, 9, 1)
    );

    private static readonly Gen<DueFacts> AnyFacts = Gen.Select(
        One([.. AssemblyTypes.All.Select(t => t.Type)]),
        One("high", "low"),
        One<string?>(null, "residential", "irrigation"),
        Seasons,
        Gen.Int[0, 400],
        (type, hazard, use, season, day) => new DueFacts(type, hazard, use, season, Installed.AddDays(day))
    );

    private static readonly Gen<DueEvent> AnyEvent = Gen.Select(
        Gen.Int[0, 8],
        Gen.Int[400, 4000],
        Gen.Int[1, 500],
        (kind, at, more) =>
        {
            var day = Installed.AddDays(at);
            return kind switch
            {
                0 or 1 or 2 => new DueEvent.Tested(day, true),
                3 => new DueEvent.Tested(day, false),
                4 => new DueEvent.Repaired(day),
                5 => new DueEvent.Relocated(day),
                6 => new DueEvent.Incident(day),
                7 => new DueEvent.Announced(day, day.AddDays(more)),
                8 => new DueEvent.Doubted(day),
                _ => (DueEvent)new DueEvent.PutBack(day),
            };
        }
    );

    private static readonly Gen<Profile> AnyRules = Gen.Select(
        Gen.Int[1, 36],
        Gen.Int[1, 60],
        Gen.Int[0, 40],
        Gen.Int[0, 30],
        Gen.Int[0, 45],
        Gen.Int[1, 24],
        (months, retest, grace, after, start, high) =>
            Rules with
            {
                IntervalMonths = months,
                RetestDays = retest,
                GraceDays = grace,
                EventDays = after,
                StartUpDays = start,
                Intervals = [new(high, hazard: "high"), new(24, "residential", "low")],
            }
    );

    private static Gen<T> One<T>(params T[] of) => Gen.Int[0, of.Length - 1].Select(i => of[i]);

    private static Obligation? Owed(DueFacts facts, params DueEvent[] events) =>
        DueEngine.Owed(facts, events, [Rules], new(2026, 11, 1));

    [Fact]
    public void A_passed_test_is_followed_by_another_after_the_interval()
    {
        var owed = Owed(Plain, new DueEvent.Tested(new(2026, 3, 4), true))!;
        Assert.Equal((DueCause.Interval, new DateOnly(2027, 3, 4)), (owed.Cause, owed.Day));
        Assert.Equal("Passed on 4 Mar 2026; every 12 months for a DC on a low hazard.", owed.Why);
    }

    [Fact]
    public void What_was_installed_and_never_tested_is_owed_since_then()
    {
        var owed = Owed(Plain)!;
        Assert.Equal((DueCause.Installed, Installed.AddDays(10)), (owed.Cause, owed.Day));
        Assert.True(owed.IsOverdue(new(2026, 11, 1)));
    }

    [Fact]
    public void A_failure_sets_the_deadline_that_its_report_prints()
    {
        DueEvent.Tested passed = new(new(2025, 9, 1), true),
            first = new(new(2026, 5, 1), false);
        Assert.Equal(new DateOnly(2026, 5, 31), Owed(Plain, passed, first)!.Day);
        var again = Owed(Plain, passed, first, new DueEvent.Tested(new(2026, 5, 20), false))!;
        Assert.Equal((DueCause.Failed, new DateOnly(2026, 6, 19)), (again.Cause, again.Day));
        Assert.Equal(
            new DateOnly(2027, 6, 2),
            Owed(Plain, first, new DueEvent.Repaired(new(2026, 5, 25)), new DueEvent.Tested(new(2026, 6, 2), true))!.Day
        );
    }

    [Fact]
    public void A_test_that_came_to_no_result_leaves_what_was_owed()
    {
        DueEvent.Tested passed = new(new(2025, 9, 1), true);
        var owed = Owed(Plain, passed, new DueEvent.NotFinished(new(2026, 8, 20)))!;
        Assert.Equal((DueCause.Interval, new DateOnly(2026, 9, 1)), (owed.Cause, owed.Day));
        Assert.Equal(DueCause.NotFinished, Owed(Plain, passed, new DueEvent.NotFinished(new(2026, 2, 1)))!.Cause);
    }

    [Fact]
    public void Class_of_use_hazard_and_type_choose_the_interval_the_first_that_fits()
    {
        var rules = Rules with
        {
            Intervals = [new(6, "hospital"), new(24, "residential", "low"), new(6, null, "high", AssemblyTypes.RP)],
        };
        DateOnly After(DueFacts facts) =>
            DueEngine.Owed(facts, [new DueEvent.Tested(new(2026, 1, 10), true)], [rules], new(2026, 2, 1))!.Day;
        Assert.Equal(new(2027, 1, 10), After(Plain));
        Assert.Equal(new(2028, 1, 10), After(Plain with { Use = "residential" }));
        Assert.Equal(new(2026, 7, 10), After(Plain with { Use = "hospital" }));
        Assert.Equal(new(2026, 7, 10), After(Plain with { Type = AssemblyTypes.RP, Hazard = "high" }));
        Assert.Equal(new(2027, 1, 10), After(Plain with { Type = AssemblyTypes.PVB, Hazard = "high" }));
    }

    [Theory]
    // Tested when it was put on: next spring, by its own anniversary.
    [InlineData("2026-04-20", "2027-04-20", DueCause.Interval)]
    // Tested a week before the season, as part of putting it on.
    [InlineData("2026-04-08", "2027-05-15", DueCause.StartUp)]
    // Tested in summer: the next start-up comes before the year is over.
    [InlineData("2026-08-01", "2027-05-15", DueCause.StartUp)]
    // Tested in December while it was drained.
    [InlineData("2026-12-01", "2027-05-15", DueCause.StartUp)]
    public void A_seasonal_line_is_tested_when_it_is_put_on(string passed, string due, DueCause cause)
    {
        var garden = Plain with { Type = AssemblyTypes.PVB, Season = Season.Parse("04-15..10-15") };
        var owed = DueEngine.Owed(
            garden,
            [new DueEvent.Tested(DateOnly.Parse(passed), true)],
            [Rules],
            DateOnly.Parse(passed)
        )!;
        Assert.Equal((cause, DateOnly.Parse(due)), (owed.Cause, owed.Day));
    }

    [Fact]
    public void A_retest_of_a_drained_line_waits_until_it_is_put_on()
    {
        var garden = Plain with { Season = Season.Parse("04-15..10-15") };
        var owed = Owed(
            garden,
            new DueEvent.Tested(new(2026, 4, 20), true),
            new DueEvent.Tested(new(2026, 10, 1), false)
        )!;
        Assert.Equal((DueCause.Failed, new DateOnly(2027, 4, 15)), (owed.Cause, owed.Day));
    }

    [Fact]
    public void What_is_laid_up_owes_nothing_and_owes_a_test_on_the_day_it_is_put_back()
    {
        DueEvent[] past = [new DueEvent.Tested(new(2026, 1, 5), true), new DueEvent.LaidUp(new(2026, 2, 1))];
        Assert.Null(Owed(Plain, past));
        var back = Owed(Plain, [.. past, new DueEvent.PutBack(new(2026, 6, 1))])!;
        Assert.Equal((DueCause.PutBack, new DateOnly(2026, 6, 1)), (back.Cause, back.Day));
        Assert.Null(
            Owed(Plain, [.. past, new DueEvent.Removed(new(2026, 3, 1)), new DueEvent.PutBack(new(2026, 6, 1))])
        );
    }

    [Fact]
    public void The_authoritys_list_stands_until_a_test_is_passed()
    {
        DueEvent.Announced said = new(new(2026, 9, 1), new(2026, 12, 31));
        Assert.Equal(new DateOnly(2026, 12, 31), Owed(Plain, said)!.Day);
        Assert.Equal(new DateOnly(2027, 10, 2), Owed(Plain, said, new DueEvent.Tested(new(2026, 10, 2), true))!.Day);
    }

    [Fact]
    public void New_rules_move_the_day_from_the_day_they_are_in_force_and_never_into_the_past()
    {
        var stricter = Rules with { Version = 2, IntervalMonths = 6, InForceFrom = new(2027, 1, 1) };
        DueEvent[] passed = [new DueEvent.Tested(new(2026, 4, 1), true)];
        DateOnly On(DateOnly today) => DueEngine.Owed(Plain, passed, [stricter, Rules], today)!.Day;
        Assert.Equal(new(2027, 1, 1), On(new(2026, 11, 1)));
        Assert.Equal(new(2026, 10, 1), On(new(2027, 1, 1)));
        var later = Rules with { Version = 2, IntervalMonths = 24, InForceFrom = new(2027, 1, 1) };
        Assert.Equal(new(2028, 4, 1), DueEngine.Owed(Plain, passed, [later, Rules], new(2026, 11, 1))!.Day);
    }

    [Fact]
    public void Whatever_happens_exactly_one_test_is_owed_with_its_reason() =>
        Gen.Select(AnyFacts, AnyEvent.List[0, 12], AnyRules, Gen.Int[0, 4500])
            .Sample(
                (facts, events, rules, at) =>
                {
                    var today = Installed.AddDays(at);
                    var owed = DueEngine.Owed(facts, events, [rules], today)!;
                    Assert.True(owed.Until >= owed.Day);
                    Assert.EndsWith(".", owed.Why);
                    Assert.NotEmpty(owed.Then);
                    // The order in which things are told does not matter where their days differ.
                    if (events.Select(e => e.Day).Distinct().Count() == events.Count)
                        Assert.Equal(owed, DueEngine.Owed(facts, events.AsEnumerable().Reverse(), [rules], today));
                },
                iter: 5000
            );

    [Fact]
    public void Only_a_test_moves_the_day_back_in_the_calendar() =>
        Gen.Select(AnyFacts, AnyEvent.List[0, 10], AnyRules, AnyEvent)
            .Sample(
                (facts, events, rules, more) =>
                {
                    // Another list of the authority's replaces the one before; that is what it is for.
                    if (more is DueEvent.Tested or DueEvent.Announced)
                        return;
                    var today = Installed.AddDays(4500);
                    var last = events.Append(more).Max(e => e.Day);
                    var then = more switch
                    {
                        DueEvent.Repaired => new DueEvent.Repaired(last),
                        DueEvent.Relocated => new DueEvent.Relocated(last),
                        DueEvent.Incident => new DueEvent.Incident(last),
                        _ => (DueEvent)new DueEvent.PutBack(last),
                    };
                    var before = DueEngine.Owed(facts, events, [rules], today)!;
                    var after = DueEngine.Owed(facts, [.. events, then], [rules], today)!;
                    Assert.True(after.Day <= before.Day, $"{before} became {after} by {then}");
                },
                iter: 5000
            );

    [Fact]
    public void After_a_passed_test_the_next_one_lies_ahead_of_it_and_within_the_interval_or_the_next_start_up() =>
        Gen.Select(AnyFacts, AnyEvent.List[0, 10], AnyRules)
            .Sample(
                (facts, events, rules) =>
                {
                    var day = events.Select(e => e.Day).Append(facts.InstalledOn).Max();
                    var owed = DueEngine.Owed(facts, [.. events, new DueEvent.Tested(day, true)], [rules], day)!;
                    Assert.True(owed.Day > day);
                    var months = rules.MonthsFor(facts.Type, facts.Hazard, facts.Use);
                    var latest = day.AddMonths(months);
                    if (facts.Season is { } season)
                        latest = season
                            .StartFrom(season.StartFrom(day.AddDays(1)).AddDays(DueEngine.StartUpBefore + 1))
                            .AddDays(rules.StartUpDays);
                    Assert.True(owed.Day <= latest, $"{owed} after a pass on {day:o}, at the latest {latest:o}");
                },
                iter: 5000
            );

    [Fact]
    public void Laying_up_and_putting_back_loses_no_deadline() =>
        Gen.Select(AnyFacts, AnyEvent.List[0, 8], AnyRules)
            .Sample(
                (facts, events, rules) =>
                {
                    var day = events.Select(e => e.Day).Append(facts.InstalledOn).Max();
                    var today = day.AddDays(30);
                    DueEvent[] away = [.. events, new DueEvent.LaidUp(day.AddDays(5))];
                    Assert.Null(DueEngine.Owed(facts, away, [rules], today));
                    var back = DueEngine.Owed(facts, [.. away, new DueEvent.PutBack(day.AddDays(20))], [rules], today)!;
                    Assert.True(
                        back.Day <= DueEngine.Owed(facts, events, [rules], today)!.Day || facts.Season is not null
                    );
                    Assert.NotEmpty(back.Why);
                },
                iter: 2000
            );

    [Fact]
    public void New_rules_never_lose_what_is_owed() =>
        Gen.Select(AnyFacts, AnyEvent.List[0, 8], AnyRules, AnyRules, Gen.Int[400, 4500], Gen.Int[-800, 800])
            .Sample(
                (facts, events, old, rules, at, later) =>
                {
                    var today = Installed.AddDays(at);
                    var next = rules with { Version = 2, InForceFrom = today.AddDays(later) };
                    var owed = DueEngine.Owed(facts, events, [old, next], today);
                    Assert.NotNull(owed);
                    // On the day they come into force they alone say it.
                    Assert.Equal(
                        DueEngine.Owed(facts, events, [next], next.InForceFrom),
                        DueEngine.Owed(facts, events, [old, next], next.InForceFrom)
                    );
                },
                iter: 2000
            );

    [Fact]
    public void A_season_is_read_as_it_was_written_and_begins_once_a_year() =>
        Gen.Select(Gen.Int[1, 12], Gen.Int[1, 28], Gen.Int[1, 12], Gen.Int[1, 28], Gen.Int[0, 3000])
            .Sample(
                (m1, d1, m2, d2, at) =>
                {
                    var season = Season.Between(m1, d1, m2, d2);
                    Assert.Equal(season, Season.Parse(season.ToString()));
                    var day = Installed.AddDays(at);
                    var start = season.StartFrom(day);
                    Assert.InRange(start.DayNumber - day.DayNumber, 0, 366);
                    Assert.True(season.Includes(start));
                    Assert.Equal(season.StartFrom(start.AddDays(1)), start.AddYears(1));
                },
                iter: 2000
            );

    [Theory]
    [InlineData("")]
    [InlineData("04-15")]
    [InlineData("04-31..10-15")]
    [InlineData("4-15..10-15..")]
    public void What_is_no_season_is_not_read(string text) => Assert.Null(Season.Parse(text));

    [Fact]
    public void Intervals_grace_and_start_up_are_kept_with_the_profile()
    {
        var rules = Rules with
        {
            GraceDays = 14,
            EventDays = 5,
            StartUpDays = 21,
            KeepYears = 10,
            Intervals = [new(6, "hospital", "high", AssemblyTypes.RP), new(24)],
        };
        var read = ProfileFormat.Read(ProfileFormat.Write(rules), out var errors);
        Assert.Empty(errors);
        Assert.Equal(rules, read);
    }

    [Fact]
    public void Intervals_are_read_as_an_office_writes_them_and_written_as_they_are_read()
    {
        string[] uses = ["medical", "residential"];
        const string text = "6 RP high medical\n24 low residential\n9 PVB\n3";
        var read = IntervalText.Read(text, uses, out var wrong)!.Value;
        Assert.Null(wrong);
        Assert.Equal(text, IntervalText.Write(read));
        Assert.Equal("6 months for RP, high hazard, medical", IntervalText.Says(read[0]));
        foreach (var bad in new[] { "RP 6", "0 RP", "121", "6 tap", "6 RP DC", "6 high low" })
        {
            Assert.Null(IntervalText.Read(bad, uses, out wrong));
            Assert.EndsWith(".", wrong);
        }
    }

    [Fact]
    public void A_profile_that_says_nothing_of_them_is_written_as_it_always_was() =>
        Assert.DoesNotContain("graceDays", ProfileFormat.Write(Rules), StringComparison.Ordinal);
}
