using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Units;

namespace Mordel.Core.Tests;

/// <summary>What two profiles say differently is found, whatever it is, and nothing else is.</summary>
public class RuleComparisonTests
{
    // A change each, with the words by which it is named.
    private static readonly (string What, Func<Profile, Profile> Change)[] Changes =
    [
        ("Months between tests", p => p with { IntervalMonths = p.IntervalMonths == 6 ? 7 : 6 }),
        ("Days to mend and test again", p => p with { RetestDays = p.RetestDays + 1 }),
        ("Days of grace", p => p with { GraceDays = p.GraceDays + 1 }),
        ("Days to test after an event", p => p with { EventDays = p.EventDays + 1 }),
        ("Days to test after a start-up", p => p with { StartUpDays = p.StartUpDays + 1 }),
        ("Years that reports are kept", p => p with { KeepYears = p.KeepYears + 1 }),
        ("Other intervals", p => p with { Intervals = [.. p.Intervals, new(6 + p.Intervals.Length, "medical")] }),
        ("Title of the report", p => p with { Words = p.Words with { Title = $"{p.Words.Title}x" } }),
        ("Declared with the signature", p => p with { Words = p.Words with { Declaration = $"{p.Words.Title}y" } }),
        ("On the report, pass", p =>
            p with
            {
                Words = p.Words with { Names = [new("pass", $"{p.Words.For("pass")}z")] },
            }
        ),
        ("On the report, CV1 differential", p =>
            p with
            {
                Words = p.Words with { Names = [new("check-1", $"{p.Words.For("check-1")}z")] },
            }
        ),
        ("Watch over a still needle", p => First(p, s => s with { HoldSeconds = s.HoldSeconds + 1 })),
        ("CV2 at rest above the relief’s point", p =>
            First(p, s => s with { RestAboveReliefIsTight = !s.RestAboveReliefIsTight })
        ),
        (StepVariant.FlushDownAndUp.Title, p =>
            First(p, s => s with { Variants = s.Variants.IsEmpty ? [StepVariant.FlushDownAndUp] : [] })
        ),
        (TestItem.Check2.Name, p =>
            First(p, s =>
                s with
                {
                    Items =
                    [
                        .. s.Items.Select(r =>
                            r.Item == TestItem.Check2
                                ? new ItemRule(
                                    r.Item,
                                    Requirement.Required,
                                    new Criterion.AtLeast(
                                        Differential.Psid(
                                            1.5m
                                                + (
                                                    r.Criteria.OfType<Criterion.AtLeast>()
                                                        .FirstOrDefault()
                                                        ?.Limit.Amount
                                                    ?? 0m
                                                )
                                        )
                                    )
                                )
                                : r
                        ),
                    ],
                }
            )
        ),
        (TestItem.Shutoff2.Name, p =>
            First(p, s =>
                s with
                {
                    Items = s.For(TestItem.Shutoff2) is null
                        ? [.. s.Items, new ItemRule(TestItem.Shutoff2, Requirement.Recorded)]
                        : [.. s.Items.Where(r => r.Item != TestItem.Shutoff2)],
                }
            )
        ),
    ];

    private static Profile First(Profile profile, Func<SchoolRules, SchoolRules> change) =>
        profile with
        {
            Schools = [.. profile.Schools.Select((s, i) => i == 0 ? change(s) : s)],
        };

    [Fact]
    public void Every_change_is_named_and_nothing_that_was_not_changed()
    {
        Gen.Int[0, Changes.Length - 1]
            .Array[0, 4]
            .Sample(
                picked =>
                {
                    var one = BuiltInProfiles.PsidStandard;
                    var chosen = picked.Distinct().Select(i => Changes[i]).ToList();
                    var other = chosen.Aggregate(one, (p, c) => c.Change(p)) with { Id = "own", Name = "Own" };
                    var named = ProfileDifference.Between(one, other).Select(d => d.What).ToHashSet();
                    // Of the two that set names the later one stands.
                    var wanted = chosen.Select(c => c.What).ToList();
                    if (
                        wanted.FindAll(w => w.StartsWith("On the report", StringComparison.Ordinal)) is { Count: 2 } two
                    )
                        wanted.Remove(two[0]);
                    Assert.Equal(wanted.Order(), named.Order());
                    // Seen from the other side the same things differ.
                    Assert.Equal(named, [.. ProfileDifference.Between(other, one).Select(d => d.What)]);
                    // And what was changed comes back as it was written.
                    Assert.Equal(other, ProfileFormat.Read(ProfileFormat.Write(other), out var errors));
                    Assert.Empty(errors);
                },
                iter: Cases.Of(4000)
            );
    }

    [Fact]
    public void A_profile_differs_from_no_version_of_itself_that_says_the_same()
    {
        foreach (var profile in BuiltInProfiles.All)
            Assert.Empty(ProfileDifference.Between(profile, profile with { Version = 9, Name = "Ninth" }));
    }

    [Fact]
    public void What_one_of_them_does_not_have_is_told_with_a_dash()
    {
        var told = ProfileDifference.Between(BuiltInProfiles.PsidStandard, BuiltInProfiles.PsidCheckFirst);
        Assert.Contains(new("rp-relief-first", "Relief opening point", "required, at least 2.0 psid", "–"), told);
        Assert.Contains(told, d => d is { Where: "rp-check-first", What: "SO2", One: "–" });
        Assert.DoesNotContain(told, d => d.Where == "pvb-inlet-first");
    }

    [Theory]
    [InlineData("""{"title":""}""", "words.title")]
    [InlineData("""{"title":" Report"}""", "words.title")]
    [InlineData("""{"declaration":"a\nb"}""", "words.declaration")]
    [InlineData("""{"names":[{"of":"perhaps","name":"May be"}]}""", "words.names[0].name")]
    [InlineData("""{"names":[{"of":"pass","name":"A"},{"of":"pass","name":"B"}]}""", "words.names[1]")]
    [InlineData("""{"names":[{"of":"pass"}]}""", "words.names[0].name")]
    public void Words_of_a_form_that_cannot_stand_are_refused_with_their_place(string words, string place)
    {
        var json = ProfileFormat
            .Write(BuiltInProfiles.PsidStandard)
            .Replace("\"schools\"", $"\"words\":{words},\"schools\"", StringComparison.Ordinal);
        Assert.Null(ProfileFormat.Read(json, out var errors));
        Assert.Contains(errors, e => e.Place == place);
    }

    [Fact]
    public void Two_kits_agree_when_they_are_no_farther_apart_than_both_are_good_for()
    {
        Gen.Select(Gen.Int[-150, 150], Gen.Int[-150, 150], Gen.Bool)
            .Sample(
                (a, b, metric) =>
                {
                    var other = metric ? DifferentialUnit.Kpa : DifferentialUnit.Psid;
                    Verdicts.KitPair[] pairs = [new(a / 10m, b / 10m), new(a / 10m + 1m, b / 10m)];
                    Assert.Equal(pairs, Verdicts.KitComparison.Read(Verdicts.KitComparison.Write(pairs)));
                    var apart = Verdicts.KitComparison.Apart(pairs, DifferentialUnit.Psid, other);
                    var expected = (a / 10m) + 0.5m - new Differential(b / 10m, other).In(DifferentialUnit.Psid);
                    Assert.True(Math.Abs(apart.Amount - expected) <= 0.0005m);
                    Assert.Equal(
                        Math.Abs(apart.Amount) <= 0.5m,
                        Verdicts.KitComparison.Agree(apart, Differential.Psid(0.2m), Differential.Psid(0.3m))
                    );
                },
                iter: Cases.Of(2000)
            );
    }
}
