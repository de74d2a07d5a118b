using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Xunit;

namespace Mordel.Core.Tests;

/// <summary>A repair, from permission to the test after it: what its log leads to.</summary>
public class RepairTests
{
    private static readonly DateTimeOffset Noon = new(2031, 4, 2, 12, 0, 0, TimeSpan.Zero);

    private static AssemblyBody FourCock => Bodies.Find(AssemblyTypes.RP, "four-cock");

    // Every body with every way in which its type may be built, known or not.
    private static RepairPlan[] Plans { get; } =
    [
        .. from body in Bodies.All
        from known in (BenchSheet?[])[null, .. BenchSheets.All.Where(s => s.Family.Types.Contains(body.Type))]
        select new RepairPlan(body, [.. BenchSheets.For(body, known is null ? [] : [known])]),
    ];

    private sealed class Hand(RepairPlan plan)
    {
        public List<RepairEntry> Log { get; } = [];
        public RepairState State => RepairReplay.Run(plan, Log);

        public RepairState Enter(RepairBody body)
        {
            Log.Add(new(new(Guid.NewGuid()), Noon.AddMinutes(Log.Count), "Ines", body));
            return State;
        }

        // Goes on one thing at a time; at each part a die says what is found and what is done.
        public void Work(Random die, int most)
        {
            for (var i = 0; i < most && State.Stage != RepairStage.Retest; i++)
                Enter(Next(State, die));
        }

        public static RepairBody Next(RepairState state, Random die)
        {
            switch (state.Stage)
            {
                case RepairStage.Choose when state.Openings.Length > 2:
                case RepairStage.Choose when state.Openings.Length > 0 && die.Next(3) == 0:
                    return new RepairBody.Done(RepairPlan.CloseUp, "Close");
                case RepairStage.Choose:
                    var choice = state.Plan.Choices[die.Next(state.Plan.Choices.Length)];
                    return new RepairBody.CoverOpened(choice.Sheet, choice.Part);
                case RepairStage.Inspect:
                    var look = state.Now!.Parts.First(p => p.Found is null);
                    return new RepairBody.Inspected(
                        state.Now.Number,
                        look.Part.Id,
                        die.Next(3) == 0 ? [look.LookFor[die.Next(look.LookFor.Length)].Id] : []
                    );
                case RepairStage.Do:
                    var part = state.Now!.Parts.First(p => p.WantsAct);
                    if (part.WantsFollowUp)
                        return new RepairBody.Stopgap(
                            state.Now.Number,
                            part.Part.Id,
                            new(2031, 5, 2),
                            "a new disc",
                            "Ane Kolb"
                        );
                    var acts = Inspections.Acts(part.Part);
                    return new RepairBody.Acted(state.Now.Number, part.Part.Id, acts[die.Next(acts.Length)]);
                default:
                    return state.Steps[0].Key == RepairPlan.Permission
                        ? new RepairBody.Agreed("Ane Kolb")
                        : new RepairBody.Done(state.Steps[0].Key, state.Steps[0].Step.Does);
            }
        }
    }

    [Fact]
    public void Whatever_is_opened_found_and_done_the_body_is_closed_one_cover_at_a_time_and_tested() =>
        Gen.Select(Gen.Int[0, Plans.Length - 1], Gen.Int)
            .Sample(
                (which, seed) =>
                {
                    var hand = new Hand(Plans[which]);
                    var die = new Random(seed);
                    for (var i = 0; i < 400 && hand.State.Stage != RepairStage.Retest; i++)
                    {
                        hand.Enter(Hand.Next(hand.State, die));
                        Assert.True(hand.State.Openings.Count(o => !o.IsClosed) <= 1);
                    }

                    var state = hand.State;
                    Assert.Equal(RepairStage.Retest, state.Stage);
                    Assert.All(state.Openings, o => Assert.True(o.IsClosed));
                    // Whatever holds for a while only has its follow-up, with its day.
                    var stopgaps = state
                        .Openings.SelectMany(o => o.Parts)
                        .Count(p => p.Acts is [.., RepairAct.Turned or RepairAct.Left]);
                    Assert.Equal(stopgaps, state.FollowUps.Count(f => f.How is null));
                },
                iter: 100
            );

    [Fact]
    public void Each_entry_taken_back_leads_to_where_it_was_made() =>
        Gen.Select(Gen.Int[0, Plans.Length - 1], Gen.Int, Gen.Int[1, 60])
            .Sample(
                (which, seed, many) =>
                {
                    var hand = new Hand(Plans[which]);
                    hand.Work(new(seed), many);
                    if (hand.State.Stage == RepairStage.Retest)
                        return;
                    var before = hand.State;
                    var next = Hand.Next(before, new(seed + 1));
                    hand.Enter(next);
                    hand.Enter(new RepairBody.TookBack(hand.Log[^1].Id));
                    var after = hand.State;
                    Assert.Equal(before.Stage, after.Stage);
                    Assert.Equal(before.Steps.Select(s => s.Key), after.Steps.Select(s => s.Key));
                    Assert.Equal(RepairSummary.Found(before).AsEnumerable(), RepairSummary.Found(after));
                    Assert.Equal(RepairSummary.Done(before).AsEnumerable(), RepairSummary.Done(after));
                },
                iter: 100
            );

    [Fact]
    public void The_order_in_which_entries_of_a_stage_arrive_changes_nothing() =>
        Gen.Int.Sample(
            seed =>
            {
                var hand = new Hand(Plans[0]);
                hand.Work(new(seed), 5);
                var shuffled = hand.Log.OrderBy(e => HashCode.Combine(e.Id, seed)).ToList();
                Assert.Equal(hand.State.Stage, RepairReplay.Run(Plans[0], shuffled).Stage);
            },
            iter: 50
        );

    [Fact]
    public void A_body_is_relieved_by_every_cock_behind_SO1_and_never_by_one_before_it() => Assert.All(Plans, plan =>
        {
            var live = plan
                .Body.Parts.TakeWhile(p => p.Id != Parts.So1)
                .Where(p => p.Kind == PartKind.Cock)
                .Select(p => p.Label)
                .ToList();
            var opens = plan.Prepare.Single(s => s.Step.Does.StartsWith("Open ", StringComparison.Ordinal));
            Assert.All(live, label => Assert.DoesNotContain(label, opens.Step.Does, StringComparison.Ordinal));
            Assert.All(live, label => Assert.Contains($"Not {label}", opens.Step.Caution!, StringComparison.Ordinal));
            Assert.All(plan.Closing, s =>
                Assert.All(live, l => Assert.DoesNotContain(l, s.Step.Does, StringComparison.Ordinal))
            );
        });

    [Fact]
    public void What_nobody_has_said_how_it_is_built_has_a_plain_sheet_for_each_part_that_opens() =>
        Assert.All(Bodies.All, body =>
        {
            var sheets = BenchSheets.For(body, []);
            Assert.Equal(
                Evidence.Openable(body).Select(p => p.Value).Order(),
                sheets.SelectMany(s => s.Family.OutOf(body)).Select(p => p.Value).Distinct().Order()
            );
            Assert.All(sheets, s => Assert.Contains("maker", s.Looks, StringComparison.Ordinal));
        });

    [Fact]
    public void Nothing_is_greased_whose_sheet_says_never_and_only_what_has_a_disc_is_turned() =>
        Assert.All(BenchSheets.All.Concat(PlainSheets.All).SelectMany(s => s.Parts), part =>
        {
            var acts = Inspections.Acts(part);
            Assert.Equal(part.Grease != Grease.Never, acts.Contains(RepairAct.Greased));
            Assert.Equal(
                part.Form is PartForm.Disc or PartForm.Module or PartForm.Poppet,
                acts.Contains(RepairAct.Turned)
            );
        });

    // Handbook chapter 5, "What is inspected, found, done".
    [Theory]
    [InlineData(PartForm.Disc, "cut", RepairAct.Replaced)]
    [InlineData(PartForm.Disc, "grit", RepairAct.Cleaned)]
    [InlineData(PartForm.Washer, "wrong-way-round", RepairAct.SetRight)]
    [InlineData(PartForm.Seat, "nicked", RepairAct.Replaced)]
    [InlineData(PartForm.Spring, "wrong-place", RepairAct.SetRight)]
    [InlineData(PartForm.ORing, "flat", RepairAct.Replaced)]
    [InlineData(PartForm.Diaphragm, "torn", RepairAct.Replaced)]
    [InlineData(PartForm.Hose, "blocked", RepairAct.Brushed)]
    [InlineData(PartForm.Cap, "grease-packed", RepairAct.Cleaned)]
    [InlineData(PartForm.Strainer, "blocked", RepairAct.Brushed)]
    public void Each_part_has_what_is_looked_for_and_usually_done(PartForm form, string found, RepairAct best) =>
        Assert.Equal(best, Inspections.LookFor(form).Single(f => f.Id == found).Best);

    [Fact]
    public void What_lies_on_a_disc_is_evidence_and_a_part_is_clean_once_all_of_it_was_looked_at()
    {
        var hand = new Hand(new(FourCock, [ScrewCapPoppetSheet.Sheet, PlainSheets.Relief]));
        hand.Work(new(1), 5);
        var state = hand.Enter(new RepairBody.CoverOpened("screw-cap-poppet", Parts.Cv1));
        while (state.Stage == RepairStage.Open)
            state = hand.Enter(new RepairBody.Done(state.Steps[0].Key, "x"));
        Assert.Empty(RepairEvidence.Of(state));
        foreach (var part in state.Now!.Parts)
            state = hand.Enter(new RepairBody.Inspected(1, part.Part.Id, []));
        Assert.Equal(OpenedFinding.Clean, Assert.Single(RepairEvidence.Of(state)).Lay);
        state = hand.Enter(new RepairBody.Inspected(1, "disc", ["grit"]));
        var seen = Assert.Single(RepairEvidence.Of(state));
        Assert.Equal((Parts.Cv1, OpenedFinding.Debris), (seen.Part, seen.Lay));
        Assert.Equal(["CV1, seal disc: grit or debris"], RepairSummary.Found(state).AsEnumerable());
    }

    [Fact]
    public void Only_what_the_water_would_show_counts_as_evidence_and_every_such_word_can_be_kept() =>
        Assert.All(Enum.GetValues<PartForm>(), form =>
        {
            foreach (var finding in Inspections.LookFor(form))
                if (RepairEvidence.Lay(form, finding.Id) is { } lay)
                {
                    var of = lay is OpenedFinding.DiaphragmTorn or OpenedFinding.SensingBlocked ? "rv" : "cv1";
                    Assert.NotNull(ObservationFormat.Opened(FourCock, of, lay.Name(), ""));
                }
        });

    [Fact]
    public void A_stopgap_is_named_with_its_day_until_it_is_settled()
    {
        var hand = new Hand(new(FourCock, [ScrewCapPoppetSheet.Sheet]));
        hand.Work(new(1), 5);
        var state = hand.Enter(new RepairBody.CoverOpened("screw-cap-poppet", Parts.Cv1));
        while (state.Stage == RepairStage.Open)
            state = hand.Enter(new RepairBody.Done(state.Steps[0].Key, "x"));
        foreach (var part in state.Now!.Parts)
            state = hand.Enter(new RepairBody.Inspected(1, part.Part.Id, part.Part.Id == "disc" ? ["cut"] : []));
        state = hand.Enter(new RepairBody.Acted(1, "disc", RepairAct.Turned));
        Assert.Equal(RepairStage.Do, state.Stage);
        state = hand.Enter(new RepairBody.Stopgap(1, "disc", new(2031, 5, 2), "a CV1 kit", "Ane Kolb"));
        Assert.Equal(RepairStage.Assemble, state.Stage);
        var next = Assert.Single(state.FollowUps);
        Assert.Equal(
            "CV1: seal disc turned, to be put right by 2 May 2031; ordered: a CV1 kit; told: Ane Kolb",
            RepairSummary.Stopgap(next)
        );
        Assert.Equal(["CV1, seal disc: turned, a stopgap until 2 May 2031"], RepairSummary.Done(state).AsEnumerable());
        state = hand.Enter(new RepairBody.Settled(next.Id, "new disc"));
        Assert.Equal("new disc", Assert.Single(state.FollowUps).How);
    }

    [Theory]
    [InlineData(false, RepairAct.Turned, true)]
    [InlineData(true, RepairAct.Turned, false)]
    [InlineData(true, RepairAct.Left, true)]
    [InlineData(false, RepairAct.Replaced, false)]
    public void A_turned_disc_is_a_stopgap_unless_the_firm_says_otherwise(bool holds, RepairAct act, bool wants)
    {
        var part = new OpenedPart(ScrewCapPoppetSheet.Sheet.Part("disc"), Parts.Cv1)
        {
            Found = [.. Inspections.LookFor(PartForm.Disc).Where(f => f.Id == "cut")],
            Acts = [act],
            TurnedHolds = holds,
        };
        Assert.Equal(wants, part.WantsFollowUp);
        Assert.Equal(wants, part.WantsAct);
    }

    [Fact]
    public void Every_entry_comes_back_from_its_written_form() =>
        Gen.Select(Gen.Int[0, Plans.Length - 1], Gen.Int)
            .Sample(
                (which, seed) =>
                {
                    var hand = new Hand(Plans[which]);
                    hand.Work(new(seed), 120);
                    hand.Enter(new RepairBody.PartUsed("a “kit”\n", 2, Guid.NewGuid()));
                    hand.Enter(new RepairBody.Pictured(new string('a', 64), "CV1"));
                    hand.Enter(new RepairBody.LeftOff("rain"));
                    hand.Enter(new RepairBody.TookBack(hand.Log[^1].Id));
                    foreach (var body in hand.Log.Select(e => e.Body))
                        Assert.Equal(body, RepairEntryFormat.Read(RepairEntryFormat.Write(body)));
                },
                iter: 100
            );

    [Theory]
    [InlineData("")]
    [InlineData("{}")]
    [InlineData("{\"kind\":\"done\"}")]
    [InlineData("{\"kind\":\"acted\",\"opening\":0,\"part\":\"disc\",\"act\":\"cleaned\"}")]
    [InlineData("{\"kind\":\"acted\",\"opening\":1,\"part\":\"disc\",\"act\":\"licked\"}")]
    [InlineData(
        "{\"kind\":\"stopgap\",\"opening\":1,\"part\":\"disc\",\"due\":\"soon\",\"order\":\"x\",\"told\":\"y\"}"
    )]
    public void What_cannot_be_understood_is_no_entry(string json) => Assert.Null(RepairEntryFormat.Read(json));
}
