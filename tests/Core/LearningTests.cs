using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Xunit;

namespace Mordel.Core.Tests;

/// <summary>What repairs find moves the rates, and does not swing them.</summary>
public class LearningTests
{
    private static readonly AssemblyBody Rp = Bodies.Find(AssemblyTypes.RP, "four-cock");

    private static RepairFinding Found(string family, string part, OpenedFinding lay) =>
        new(Guid.NewGuid(), family, new(part), lay);

    private static double Rate(LearnedRates rates, PartId part, string kind) =>
        rates.Rates.First(r => r.Fault.Part == part && r.Fault.Kind == kind).Rate;

    [Theory]
    [InlineData("cv1", OpenedFinding.Debris, "leaks")]
    [InlineData("cv2", OpenedFinding.SeatNicked, "leaks")]
    [InlineData("cv1", OpenedFinding.SpringBroken, "spring-weak")]
    [InlineData("rv", OpenedFinding.DiaphragmTorn, "leaks")]
    [InlineData("rv", OpenedFinding.SensingBlocked, "stuck-closed")]
    [InlineData("rv", OpenedFinding.StemBound, "stuck-closed")]
    [InlineData("cv2", OpenedFinding.Clean, null)]
    public void What_lies_in_a_part_bears_witness_to_the_fault_it_is_likeliest_with(
        string part,
        OpenedFinding lay,
        string? fault
    ) => Assert.Equal(fault, Learning.FaultOf(Rp, new(part), lay)?.Kind);

    [Fact]
    public void Repairs_say_which_part_it_is_and_not_how_often_anything_is_wrong()
    {
        var random = new Random(20431 + Cases.Seed);
        foreach (var body in Bodies.All)
            for (var round = 0; round < 60; round++)
            {
                var openable = Evidence.Openable(body);
                var findings = Enumerable
                    .Range(0, random.Next(0, 400))
                    .Select(_ =>
                        Found(
                            $"make {random.Next(3)}",
                            openable[random.Next(openable.Length)].Value,
                            (OpenedFinding)random.Next(10)
                        )
                    )
                    .ToList();
                foreach (var family in new[] { null, "make 1", "never seen" })
                {
                    var learned = Learning.From(body, findings, family);
                    Assert.All(learned.Rates, r => Assert.InRange(r.Rate, 0.0001, 0.9));
                    double Sum(Func<LearnedFault, double> of) =>
                        learned.Faults.Where(f => openable.Contains(f.Shipped.Fault.Part)).Sum(of);
                    Assert.Equal(Sum(f => f.Shipped.Rate), Sum(f => f.Rate), 6);
                    Assert.All(learned.Faults.Where(f => !openable.Contains(f.Shipped.Fault.Part)), f =>
                        Assert.Equal(f.Shipped.Rate, f.Rate)
                    );
                    Assert.All(learned.Faults, f => Assert.InRange(f.Found, 0, learned.Repairs));
                }
            }
    }

    [Fact]
    public void A_firms_first_hundred_repairs_move_the_rates_and_the_evidence_still_decides()
    {
        var findings = Enumerable.Range(0, 100).Select(_ => Found("a", "rv", OpenedFinding.DiaphragmTorn)).ToList();
        var learned = Learning.From(Rp, findings, "a");
        Assert.Equal(100, learned.Repairs);
        Assert.InRange(Rate(learned, Parts.Relief, "leaks"), 0.15, 0.45);
        Assert.InRange(Rate(learned, Parts.Cv1, "leaks"), 0.03, 0.15);
        var atlas = AtlasFormat.Read(
            File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "atlases", Atlas.FileOf(Rp)))
        );
        Observed Saw(string look, PortState seen) => new Observed.PortSeen(look, seen) { Place = "" };
        var evidence = new Evidence(
            Rp,
            [Saw("in-service", PortState.Runs), Saw("so2-closed", PortState.Still), Saw("tc4-opened", PortState.Stops)]
        );
        Assert.Equal(
            new PartFault(Parts.Cv1, FaultKind.Leaks),
            Assert.Single(Diagnosing.Of(atlas, evidence, learned.Rates).Hypotheses[0].Faults.Faults)
        );
        // Without evidence the house's own past leads.
        var before = Diagnosing.Of(atlas, new Evidence(Rp, []), learned.Rates).Hypotheses;
        double Weight(PartId part) => before.First(h => h.Faults.Faults is [var one] && one.Part == part).Weight;
        Assert.True(Weight(Parts.Relief) > Weight(Parts.Cv1));
    }

    [Fact]
    public void A_family_counts_on_top_of_the_others_and_nothing_counts_twice()
    {
        var own = Enumerable.Range(0, 40).Select(_ => Found("own", "cv2", OpenedFinding.Debris)).ToList();
        var others = Enumerable.Range(0, 40).Select(_ => Found("other", "cv1", OpenedFinding.Debris)).ToList();
        var alone = Learning.From(Rp, own, "own");
        Assert.Equal(Learning.From(Rp, own, null).Rates.Select(r => r.Rate), alone.Rates.Select(r => r.Rate));
        var both = Learning.From(Rp, [.. own, .. others], "own");
        Assert.Equal(40, both.Repairs);
        Assert.True(Rate(both, Parts.Cv2, "leaks") > Rate(both, Parts.Cv1, "leaks") * 0.8);
        Assert.True(Rate(both, Parts.Cv1, "leaks") > Rate(alone, Parts.Cv1, "leaks"));
        // What was found twice in one opening is one repair.
        var once = own[0];
        Assert.Equal(1, Learning.From(Rp, [once, once with { Lay = OpenedFinding.DiscCut }], "own").Repairs);
    }
}
