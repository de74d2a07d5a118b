using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Xunit;

namespace Mordel.Core.Tests;

/// <summary>Both trees and the tables of handbook chapter 4: the diagnosis ends where they say.</summary>
public class DiagnosisTests
{
    private static readonly Dictionary<string, Lazy<Atlas>> Shelf = Bodies.All.ToDictionary(
        Atlas.NameOf,
        b => new Lazy<Atlas>(() =>
            AtlasFormat.Read(File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "atlases", Atlas.FileOf(b))))
        )
    );

    private static Atlas Of(AssemblyBody body) => Shelf[Atlas.NameOf(body)].Value;

    private static Diagnosed Diagnose(string looks, string type = "RP") =>
        Weighed(
            $$"""
            {"format":"mordel.evidence/1","assembly":{"type":"{{type}}"},"looks":[{{string.Join(
                ",",
                looks.Split(' ').Select(l => l.Split('=')).Select(l => $$"""{"look":"{{l[0]}}","outlet":"{{l[1]}}"}""")
            )}}]}
            """
        );

    private static Diagnosed Weighed(string json, ImmutableArray<FaultRate>? rates = null)
    {
        var evidence = EvidenceFormat.Read(json, out var errors);
        Assert.Empty(errors);
        return Diagnosing.Of(Of(evidence!.Body), evidence, rates);
    }

    [Theory]
    // Shut first.
    [InlineData("in-service=drips so2-closed=stops", "cv2 leaks")]
    [InlineData("in-service=runs so2-closed=stops", "cv2 leaks")]
    [InlineData("in-service=drips so2-closed=still tc4-opened=stops", "cv1 leaks")]
    [InlineData("in-service=runs so2-closed=still tc4-opened=stops", "cv1 leaks")]
    [InlineData("in-service=drips so2-closed=still tc4-opened=still", "rv leaks")]
    [InlineData("in-service=runs so2-closed=still tc4-opened=still", "rv leaks")]
    // Flow first.
    [InlineData("in-service=drips tap-opened=stops", "cv1 leaks")]
    [InlineData("in-service=runs tap-opened=stops", "cv1 leaks")]
    [InlineData("in-service=drips tap-opened=still", "rv leaks")]
    [InlineData("in-service=runs tap-opened=still", "rv leaks")]
    // Spells with nothing wrong inside.
    [InlineData("in-service=spits", "supply swings")]
    public void A_relief_that_drips_in_service_is_traced_as_both_orders_teach(string looks, string names) =>
        Assert.Equal(names, Diagnose(looks).Hypotheses[0].Faults.ToString());

    [Fact]
    public void A_drip_that_only_lessens_with_a_flow_is_check_one_and_relief_together()
    {
        var both = new FaultSet([new(Parts.Cv1, "leaks"), new(Parts.Relief, "leaks")]);
        foreach (
            var looks in new[] { "in-service=runs so2-closed=still tc4-opened=less", "in-service=runs tap-opened=less" }
        )
            Assert.Contains(both, Diagnose(looks).Hypotheses.Take(2).Select(h => h.Faults));
    }

    [Fact]
    public void The_order_without_a_closed_so2_cannot_rule_out_check_two_and_asks_for_it()
    {
        var before = Diagnose("in-service=runs tap-opened=still");
        Assert.Equal("rv leaks", before.Hypotheses[0].Faults.ToString());
        var next = Diagnosing.Of(Of(before.Evidence.Body), before.Evidence, null, LookOrder.FlowFirst).Next[0];
        Assert.Equal(ServiceLooks.So2Closed, next.Id);
        var after = Diagnose("in-service=runs tap-opened=still so2-closed=stops");
        Assert.True(after.Hypotheses[0].Faults.Has(Parts.Cv2, "leaks"), after.Hypotheses[0].Faults.ToString());
    }

    [Fact]
    public void A_chosen_order_is_followed_look_by_look()
    {
        foreach (
            var (order, looks) in new[]
            {
                (LookOrder.ShutFirst, new[] { "in-service", "so2-closed", "tc4-opened" }),
                (LookOrder.FlowFirst, ["in-service", "tap-opened", "so2-closed"]),
            }
        )
        {
            var evidence = new Evidence(ReducedPressureZone.FourCock, []);
            foreach (var look in looks)
            {
                var next = Diagnosing.Of(Of(evidence.Body), evidence, null, order).Next[0];
                Assert.Equal(look, next.Id);
                var seen = look == "in-service" ? PortState.Runs : PortState.Still;
                evidence = evidence with
                {
                    Observations = evidence.Observations.Add(new Observed.PortSeen(look, seen) { Place = look }),
                };
            }
        }
    }

    // A fault on the water, tested by a school to its end; the run as evidence; what stands first.
    private static Diagnosed AfterATest(
        Procedure procedure,
        string faults,
        SitePipes site = default,
        Springs? springs = null,
        double supply = 62
    )
    {
        var rig = new Rig(SchoolCatalogue.BodyOf(procedure), Kit.FiveValve);
        var profile = BuiltInProfiles.All.First(p => p.School(procedure.Id) is not null);
        var wrong = faults
            .Split('+', StringSplitOptions.RemoveEmptyEntries)
            .Select(f => f.Trim().Split(' '))
            .Select(f => new Fault(
                f[0] == "kit" ? Parts.Gauge : new(f[0]),
                FaultCatalogue.All.First(k => k.Id == f[1]).Kind,
                f.Length > 2 ? Enum.Parse<LeakSize>(f[2], ignoreCase: true) : LeakSize.Small
            ));
        var test = new Scenario(
            new()
            {
                Rig = rig,
                Springs = springs ?? Springs.Healthy(procedure.Type),
                Supply = new(supply),
                SiteBehind = site,
                Faults = [.. wrong],
            },
            procedure,
            profile
        ).Perform();
        var evidence = RunEvidence.Of(test.Plan, test.State);
        // Whoever tests a vacuum breaker has its canopy before the eyes; what shows there is evidence too.
        if (procedure.Type.Facts().IsVacuumBreaker)
            evidence = evidence with
            {
                Observations = evidence.Observations.Insert(
                    0,
                    new Observed.PortSeen(ServiceLooks.InService, PortState.Dry) { Place = "in-service" }
                ),
            };
        return Diagnosing.Of(Of(rig.Body), evidence);
    }

    private static readonly SitePipes Open = new(SitePlumbing.OpenOutlet),
        Below = new(SitePlumbing.OpenOutlet, -18),
        Pushing = new(SitePlumbing.OwnPressure, 0, 70);

    public static TheoryData<string, string, string, string> Rows =>
        new()
        {
            // DC, sight tube and draw-down.
            { "dc-sight-tube", "cv1 leaks", "", "cv1 leaks" },
            { "dc-sight-tube", "cv2 leaks", "", "cv2 leaks" },
            { "dc-sight-tube", "so1 leaks", "", "so1 leaks" },
            { "dc-sight-tube", "so2 leaks", "open", "so2 leaks" },
            { "dc-sight-tube", "so2 leaks", "pushing", "so2 leaks" },
            { "dc-sight-tube", "tc3 blocked", "", "tc3 blocked" },
            { "dc-draw-down", "cv1 leaks", "", "cv1 leaks" },
            { "dc-draw-down", "cv2 leaks", "", "cv2 leaks" },
            { "dc-draw-down", "so1 leaks", "", "so1 leaks" },
            { "dc-draw-down", "so2 leaks", "open", "so2 leaks" },
            // PVB and SVB.
            { "pvb-inlet-first", "cv1 leaks", "below", "cv1 leaks" },
            { "pvb-inlet-first", "ai stuck-closed", "below", "ai stuck-closed" },
            { "pvb-inlet-first", "ai hangs", "below", "ai hangs" },
            { "pvb-inlet-first", "so1 leaks", "below", "so1 leaks" },
            { "pvb-inlet-first", "so2 leaks", "below", "so2 leaks" },
            { "svb-check-first", "cv1 leaks", "", "cv1 leaks" },
            { "svb-check-first", "so1 leaks", "", "so1 leaks" },
            { "svb-static-first", "so2 leaks", "open", "so2 leaks" },
            // RP.
            { "rp-relief-first", "cv1 leaks", "", "cv1 leaks" },
            { "rp-relief-first", "cv1 leaks weep", "", "cv1 leaks" },
            { "rp-relief-first", "rv leaks", "", "rv leaks" },
            { "rp-relief-first", "cv2 leaks", "", "cv2 leaks" },
            { "rp-relief-first", "so2 leaks", "open", "so2 leaks" },
            { "rp-relief-first", "rv stuck-closed", "", "rv stuck-closed" },
            { "rp-relief-first", "cv1 leaks + rv stuck-closed", "", "cv1 leaks + rv stuck-closed" },
            { "rp-relief-first", "kit hoses-swapped", "", "kit hoses-swapped" },
            { "rp-check-first", "cv2 leaks", "", "cv2 leaks" },
            { "rp-isolation-first", "cv2 leaks", "", "cv2 leaks" },
            { "rp-isolation-first", "so1 leaks", "", "so1 leaks" },
        };

    [Theory]
    [MemberData(nameof(Rows))]
    public void What_a_test_shows_of_one_fault_names_that_fault_first(
        string school,
        string faults,
        string site,
        string names
    )
    {
        var procedure = SchoolCatalogue.Named(school)!;
        var diagnosed = AfterATest(
            procedure,
            faults,
            site switch
            {
                "open" => Open,
                "below" => Below,
                "pushing" => Pushing,
                _ => default,
            }
        );
        Assert.True(
            names == diagnosed.Hypotheses[0].Faults.ToString(),
            string.Join("; ", diagnosed.Hypotheses.Take(3).Select(h => $"{h.Weight:0.00} {h.Faults}"))
                + " after "
                + string.Join(", ", diagnosed.Evidence.Observations.Select(Diagnosing.Line))
        );
    }

    [Theory]
    [InlineData("rp-relief-first", "rv", 1.2)]
    [InlineData("rp-relief-first", "cv1", 4.1)]
    [InlineData("dc-sight-tube", "cv1", 0.7)]
    [InlineData("dc-sight-tube", "cv2", 0.6)]
    [InlineData("pvb-inlet-first", "ai", 0.6)]
    public void A_reading_below_its_limit_names_the_spring(string school, string part, double psid)
    {
        var procedure = SchoolCatalogue.Named(school)!;
        var springs = Springs.Healthy(procedure.Type).With(new(part), psid);
        Assert.Equal(
            $"{part} spring-weak",
            AfterATest(procedure, "", default, springs).Hypotheses[0].Faults.ToString()
        );
    }

    [Fact]
    public void A_sound_assembly_is_said_to_be_sound()
    {
        foreach (var procedure in SchoolCatalogue.All)
        {
            var diagnosed = AfterATest(procedure, "");
            Assert.True(diagnosed.Hypotheses[0].Faults.Faults.IsEmpty, procedure.Id);
            Assert.Empty(diagnosed.Contradictions);
        }
    }

    [Fact]
    public void What_was_found_on_opening_is_nearly_certain()
    {
        var before = Diagnose("in-service=drips tap-opened=still");
        Assert.Equal("rv leaks", before.Hypotheses[0].Faults.ToString());
        var after = Weighed(
            """
            {"format":"mordel.evidence/1","assembly":{"type":"RP"},
             "looks":[{"look":"in-service","outlet":"drips"}],
             "opened":[{"part":"cv1","found":"clean"},{"part":"rv","found":"diaphragm-torn"}]}
            """,
            null
        );
        Assert.Equal("rv leaks", after.Hypotheses[0].Faults.ToString());
        Assert.True(after.Hypotheses[0].Weight > 0.6);
    }

    [Fact]
    public void Evidence_that_contradicts_itself_says_so_and_names_what_to_repeat()
    {
        // All that a sound assembly shows, and one number that no sound one has beside it.
        var diagnosed = Weighed(
            """
            {"format":"mordel.evidence/1","assembly":{"type":"RP"},"procedure":"rp-relief-first","kit":"five-valve",
             "looks":[{"look":"in-service","outlet":"runs"},{"look":"so2-closed","outlet":"still"},
                      {"look":"tc4-opened","outlet":"still"},{"look":"so1-closed","outlet":"stops"}],
             "sights":[{"step":"hook.so2","sight":"none"},{"step":"rv.feed","sight":"none"}],
             "results":{"relief-opening":{"value":2.6,"unit":"psid"},"check-1":{"value":7.4,"unit":"psid"}}}
            """,
            null
        );
        var wrong = Assert.Single(diagnosed.Contradictions);
        Assert.Contains("Look at it again", wrong.Says, StringComparison.Ordinal);
    }

    [Fact]
    public void Weights_sum_to_one_and_are_never_nan_whatever_was_seen()
    {
        var lot = new Random(Cases.Seed);
        foreach (var body in Bodies.All)
            for (var i = 0; i < 12; i++)
            {
                var observations = ImmutableArray.CreateBuilder<Observed>();
                for (var n = lot.Next(30); n > 0; n--)
                    observations.Add(Anything(body, lot));
                var evidence = new Evidence(body, observations.ToImmutable())
                {
                    Procedure = SchoolCatalogue.All.First(p => p.Type == body.Type).Id,
                };
                var diagnosed = Diagnosing.Of(Of(body), evidence);
                Assert.InRange(diagnosed.Hypotheses.Sum(h => h.Weight) + diagnosed.Nothing, 0.999, 1.001);
                Assert.All(diagnosed.Hypotheses, h => Assert.InRange(h.Weight, 0, 1));
                Assert.All(diagnosed.Next, n => Assert.True(n.Gain >= 0 && !double.IsNaN(n.Gain)));
            }
    }

    private static Observed Anything(AssemblyBody body, Random lot)
    {
        var looks = ServiceLooks.For(body).Where(l => !l.CanShow.IsEmpty).ToList();
        var parts = Evidence.Openable(body);
        return lot.Next(3) switch
        {
            0 when looks.Count > 0 && looks[lot.Next(looks.Count)] is var look => new Observed.PortSeen(
                look.Id,
                look.CanShow[lot.Next(look.CanShow.Length)]
            )
            {
                Place = "x",
            },
            1 => new Observed.PartOpened(parts[lot.Next(parts.Length)], (OpenedFinding)lot.Next(7)) { Place = "x" },
            _ => new Observed.LineRead(lot.Next(0, 300)) { Place = "x" },
        };
    }

    [Fact]
    public void An_occupant_is_asked_nothing_that_needs_a_tool_or_shuts_anything()
    {
        foreach (var body in Bodies.All)
        {
            var evidence = new Evidence(body, []) { By = Doer.Occupant };
            Assert.All(Diagnosing.Of(Of(body), evidence).Next, n =>
                Assert.Equal((LookTool.None, Doer.Occupant), (n.Tool, n.By))
            );
        }
    }

    [Fact]
    public void A_flow_through_the_body_is_proposed_only_while_so2_is_shut()
    {
        Assert.DoesNotContain(Diagnose("in-service=runs").Next, n => n.Id == ServiceLooks.Tc4Opened);
        Assert.Contains(Diagnose("in-service=runs so2-closed=still").Next, n => n.Id == ServiceLooks.Tc4Opened);
    }

    [Fact]
    public void A_firms_first_hundred_repairs_move_the_rates_half_way_at_most()
    {
        var shipped = Rates.For(ReducedPressureZone.FourCock);
        var relief = new PartFault(Parts.Relief, "leaks");
        var always = Rates.With(shipped, new Dictionary<PartFault, int> { [relief] = 100 }, 100);
        var (before, after) = (shipped.First(r => r.Fault == relief).Rate, always.First(r => r.Fault == relief).Rate);
        Assert.Equal((before + 1) / 2, after, 6);
        Assert.All(always.Zip(shipped), p => Assert.True(p.First.Rate <= p.Second.Rate || p.First.Fault == relief));
        Assert.Equal(
            "rv leaks",
            Weighed(
                """
                {"format":"mordel.evidence/1","assembly":{"type":"RP"},
                 "looks":[{"look":"in-service","outlet":"drips"}]}
                """,
                always
            )
                .Hypotheses[0]
                .Faults.ToString()
        );
        Assert.All(shipped, r => Assert.NotEmpty(r.Why));
    }

    [Fact]
    public void The_atlas_is_what_the_model_does_today()
    {
        foreach (var body in Bodies.All)
        {
            var (atlas, maker) = (Of(body), new AtlasMaker(body));
            Assert.True(
                maker.Model() == atlas.Model,
                $"{Atlas.NameOf(body)}: the model has changed; make the atlas again: ./mordel atlas"
            );
            Assert.Equal(maker.Cases.Length, atlas.Rows.Length);
            var lot = new Random(Cases.Seed);
            for (var i = 0; i < Cases.Of(16); i++)
            {
                var at = lot.Next(atlas.Rows.Length);
                var (kept, fresh) = (atlas.Rows[at], maker.Row(at));
                Assert.True(kept.Set == fresh.Set && kept.LooksLike(fresh, 0), $"{Atlas.NameOf(body)}, row {at}");
            }

            Assert.InRange(AtlasFormat.Write(atlas).Length, 1, 1_000_000);
        }
    }

    [Fact]
    public void A_broken_atlas_is_refused_in_a_sentence()
    {
        var bytes = AtlasFormat.Write(Of(DoubleCheck.Body));
        foreach (
            var broken in new[] { [], bytes[..20], bytes[..(bytes.Length / 2)], [.. bytes[..40], .. new byte[400]] }
        )
            Assert.Contains(
                "./mordel atlas",
                Assert.Throws<FormatException>(() => AtlasFormat.Read(broken)).Message,
                StringComparison.Ordinal
            );
    }

    [Theory]
    [InlineData("""{"look":"sniffed","outlet":"dry"}""", "looks[0].look")]
    [InlineData("""{"look":"in-service","outlet":"stops"}""", "looks[0].outlet")]
    [InlineData("""{"look":"so2-closed","outlet":"drips"}""", "looks[0].outlet")]
    [InlineData("""{"look":"line-pressure","outlet":"dry"}""", "looks[0].outlet")]
    [InlineData("""{"look":"line-pressure","value":{"value":900,"unit":"psi"}}""", "looks[0].value.value")]
    public void A_look_or_an_outcome_that_is_none_is_refused_with_its_place(string look, string place)
    {
        var json = $$"""{"format":"mordel.evidence/1","assembly":{"type":"RP"},"looks":[{{look}}]}""";
        Assert.Null(EvidenceFormat.Read(json, out var errors));
        Assert.Contains(errors, e => e.Place == place);
    }

    [Theory]
    [InlineData("\"sights\":[{\"step\":\"hook.so2\",\"sight\":\"relief-runs\"}]", "sights")]
    [InlineData("\"results\":{\"check-1\":{\"value\":1,\"unit\":\"psid\"}}", "results")]
    [InlineData("\"opened\":[{\"part\":\"ai\",\"found\":\"clean\"}]", "opened[0].part")]
    [InlineData("\"opened\":[{\"part\":\"cv1\",\"found\":\"diaphragm-torn\"}]", "opened[0].found")]
    [InlineData("\"procedure\":\"dc-sight-tube\"", "procedure")]
    [InlineData("\"kit\":\"two-valve\",\"procedure\":\"rp-relief-first\"", "kit")]
    [InlineData(
        "\"kit\":\"five-valve\",\"procedure\":\"rp-relief-first\",\"sights\":[{\"step\":\"x\",\"sight\":\"y\"}]",
        "sights[0].step"
    )]
    [InlineData("\"wished\":1", "wished")]
    public void Bad_evidence_is_refused_with_its_place(string part, string place)
    {
        var json = $$"""{"format":"mordel.evidence/1","assembly":{"type":"RP"},{{part}}}""";
        Assert.Null(EvidenceFormat.Read(json, out var errors));
        Assert.Contains(errors, e => e.Place == place);
    }

    [Fact]
    public void Ten_thousand_observations_are_refused_with_how_many_are_taken()
    {
        var many = string.Join(",", Enumerable.Repeat("""{"look":"in-service","outlet":"runs"}""", 10_000));
        Assert.Null(
            EvidenceFormat.Read(
                $$"""{"format":"mordel.evidence/1","assembly":{"type":"RP"},"looks":[{{many}}]}""",
                out var errors
            )
        );
        Assert.Contains("10000", errors.Single().Says, StringComparison.Ordinal);
    }
}
