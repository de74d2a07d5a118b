using System.Collections.Immutable;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Xunit;

namespace Mordel.Core.Tests;

/// <summary>What is kept of a diagnosis, and what the bench follows through it.</summary>
public class DiagnosisLogTests
{
    private static Atlas AtlasOf(AssemblyBody body) =>
        AtlasFormat.Read(File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "atlases", Atlas.FileOf(body))));

    public static TheoryData<string> Names => [.. Bodies.All.Select(Atlas.NameOf)];

    public static TheoryData<string> SomeNames => [.. Cases.Rows(Bodies.All.Select(Atlas.NameOf), nameof(Robot))];

    private static AssemblyBody Named(string name) => Bodies.All.First(b => Atlas.NameOf(b) == name);

    private static IEnumerable<Observed> Everything(AssemblyBody body)
    {
        foreach (var look in ServiceLooks.For(body))
        {
            foreach (var state in look.CanShow)
                yield return new Observed.PortSeen(look.Id, state) { Place = "here" };
            if (!look.CanShow.IsEmpty)
                yield return new Observed.Unsure(look.Id) { Place = "here" };
        }

        foreach (var part in Evidence.Openable(body))
        foreach (var found in FoundNames.In(body.Parts.First(p => p.Id == part).Kind))
            yield return new Observed.PartOpened(part, found) { Place = "here" };
        yield return new Observed.LineRead(52) { Place = "here" };
        yield return new Observed.SightMet("cv1.read", Observed.SightMet.None) { Place = "here" };
        yield return new Observed.ItemRead(TestItem.Check1, ItemValue.Of(1.20m, DifferentialUnit.Psid))
        {
            Place = "here",
        };
        yield return new Observed.ItemRead(TestItem.Shutoff2, new ItemValue.NotShown()) { Place = "here" };
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void Whatever_is_observed_comes_back_from_its_line_as_it_was(string name)
    {
        var body = Named(name);
        foreach (var observed in Everything(body))
        {
            var line = ObservationFormat.Write(observed);
            Assert.Equal(observed, ObservationFormat.Read(line, body, "here"));
            Assert.NotEqual("", Diagnosing.Line(observed));
            Assert.NotEqual("", Diagnosing.Sentence(observed, body, null));
        }
    }

    [Theory]
    [InlineData("")]
    [InlineData("[]")]
    [InlineData("{}")]
    [InlineData("""{"look":"in-service","outlet":"stops"}""")]
    [InlineData("""{"look":"in-service"}""")]
    [InlineData("""{"part":"ai","found":"clean"}""")]
    [InlineData("""{"part":"cv1","found":"diaphragm-torn"}""")]
    [InlineData("""{"item":"check-9","value":1}""")]
    [InlineData("""{"item":"check-1","value":"tight"}""")]
    [InlineData("""{"look":"line-pressure","unsure":true}""")]
    public void A_line_that_is_no_observation_of_the_body_is_none(string line) =>
        Assert.Null(ObservationFormat.Read(line, ReducedPressureZone.FourCock, ""));

    [Theory]
    [MemberData(nameof(Names))]
    public void An_imagined_assembly_can_be_set_on_the_simulated_rig_with_all_that_is_true_of_it(string name)
    {
        var body = Named(name);
        var school = AtlasOf(body).Schools[0].Id;
        foreach (var faults in AtlasCase.Sets(body))
        foreach (var draw in new[] { 0, 3, 11 })
        {
            var drawn = new AtlasCase(body, faults, draw).Situation(Kit.FiveValve);
            var read = ScenarioFormat.Read(ScenarioFormat.Write(drawn, school), out var errors)?.Situation;
            Assert.Empty(errors);
            Assert.Equal(body.Name, read!.Rig.Body.Name);
            Assert.Equal(drawn.SiteBehind, read.SiteBehind);
            Assert.Equal(drawn.Supply.Psi, read.Supply.Psi, 0.001);
            Assert.Equal(drawn.Supply.Swing, read.Supply.Swing, 0.001);
            Assert.Equal(drawn.Sizes.Small, read.Sizes.Small, 0.001);
            Assert.Equal(drawn.Seed, read.Seed);
            foreach (var range in body.Type.Facts().Drawn)
                Assert.Equal(drawn.Springs[range.Part], read.Springs[range.Part], 0.001);
            // Only a leak has a size.
            (PartId, FaultKind, LeakSize?, double)[] Said(Situation of) =>
                [
                    .. of.Faults.Select(f =>
                        (f.Part, f.Kind, f.Kind == FaultKind.Leaks ? f.Size : (LeakSize?)null, Math.Round(f.By, 3))
                    ),
                ];
            Assert.Equal(Said(drawn), Said(read));
        }
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void The_imagined_assembly_shows_what_was_seen_wherever_its_fault_explains_it(string name)
    {
        var (body, atlas) = (Named(name), AtlasOf(Named(name)));
        foreach (var shown in atlas.Rows.Where(r => atlas.Sets[r.Set].Faults.Length == 1).Where((_, i) => i % 41 == 0))
        {
            var evidence = new Evidence(
                body,
                [
                    .. atlas.PortLooks.Zip(shown.Outlets, (look, seen) =>
                        (Observed)new Observed.PortSeen(look, seen) { Place = "" }
                    ),
                    new Observed.LineRead(shown.Supply) { Place = "" },
                ]
            );
            var diagnosed = Diagnosing.Of(atlas, evidence);
            foreach (var hypothesis in diagnosed.Hypotheses)
            {
                var imagined = ImaginedCase.Of(atlas, diagnosed, hypothesis);
                Assert.Equal(hypothesis.Faults, imagined.Case.Faults);
                // It is the case that the row was made of.
                var springs = imagined.Case.Situation(Kit.FiveValve).Springs;
                foreach (var (part, kept) in Atlas.SpringsOf(body).Zip(atlas.Rows[hypothesis.Row].Springs))
                    Assert.Equal(kept, springs[part], 0.01);
                for (var o = 0; o < atlas.PortLooks.Length; o++)
                    Assert.Equal(ServiceLooks.Words(atlas.Rows[hypothesis.Row].Outlets[o]), imagined.Shows[o]);
            }
        }
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void The_last_reading_of_a_sound_assembly_tells_its_spring_where_the_school_reads_it(string name)
    {
        var atlas = AtlasOf(Named(name));
        var told = 0;
        for (var s = 0; s < atlas.Schools.Length; s++)
            foreach (var item in atlas.Schools[s].Items.Where(i => i.Kind == ItemKind.Differential))
            foreach (var row in atlas.Rows.Where(r => atlas.Sets[r.Set].Faults.IsEmpty && r.Schools[s] is not null))
            {
                var read = row.Schools[s]!.Items[atlas.Schools[s].Items.IndexOf(item)];
                if (atlas.SpringBy(atlas.Schools[s].Id, item, read) is not { } spring)
                    continue;
                told++;
                var kept = row.Springs[Atlas.SpringsOf(atlas.Body).IndexOf(Atlas.SpringOf(item))];
                Assert.InRange(spring, kept - 0.8, kept + 0.8);
            }

        Assert.True(told > 20);
        Assert.Null(atlas.SpringBy("no-such-school", TestItem.Check1, 2));
    }

    [Theory]
    [MemberData(nameof(Names))]
    public void A_board_that_goes_on_elsewhere_says_what_this_one_says(string name)
    {
        var (body, atlas) = (Named(name), AtlasOf(Named(name)));
        var learned = Learning.From(
            body,
            [new(Guid.NewGuid(), "a", Parts.Cv1, OpenedFinding.Debris), new(Guid.NewGuid(), "b", Parts.Cv1, default)],
            "a"
        );
        var part = Evidence.Openable(body)[0];
        foreach (var by in Enum.GetValues<Doer>())
        foreach (var order in Enum.GetValues<LookOrder>())
        {
            var evidence = new Evidence(body, [new Observed.PartOpened(part, OpenedFinding.Debris) { Place = "" }])
            {
                By = by,
                Procedure = atlas.Schools[^1].Id,
                Springs = Evidence.Openable(body).Take(1).ToImmutableDictionary(p => p, _ => 2.25),
            };
            var here = Diagnosing.Of(atlas, evidence, learned.Rates, order);
            using var there = JsonDocument.Parse(
                BoardFormat.Answer(atlas, BoardFormat.WriteLog(evidence, learned.Rates, order))
            );
            Assert.Equal(
                here.Hypotheses.Take(5).Select(h => (int)Math.Round(100 * h.Weight)),
                there
                    .RootElement.GetProperty("hypotheses")
                    .EnumerateArray()
                    .Select(h => h.GetProperty("percent").GetInt32())
            );
            Assert.Equal(
                here.Next.Select(n => n.Title),
                there.RootElement.GetProperty("next").EnumerateArray().Select(n => n.GetProperty("title").GetString())
            );
            // Whoever stands there can answer each look that is no step of a test.
            foreach (var (look, asked) in here.Next.Zip(there.RootElement.GetProperty("next").EnumerateArray()))
                Assert.Equal(look.Tool == LookTool.Gauge, asked.GetProperty("answers").GetArrayLength() == 0);
        }
    }

    [Theory]
    [InlineData("")]
    [InlineData("[]")]
    [InlineData("{}")]
    [InlineData("{\"type\":\"RP\",\"body\":7}")]
    [InlineData("{\"type\":\"ZZ\",\"body\":\"x\"}")]
    [InlineData("{\"type\":\"DC\",\"body\":\"DC\",\"seen\":[1]}")]
    [InlineData(
        "{\"type\":\"DC\",\"body\":\"DC\",\"seen\":[],\"by\":\"Nobody\",\"springs\":{},\"rates\":[],\"order\":\"Best\"}"
    )]
    public void A_log_that_is_no_boards_is_refused_and_not_guessed_at(string log) =>
        Assert.Throws<FormatException>(() => BoardFormat.Answer(AtlasOf(Named("DC")), log));

    [Theory]
    [InlineData("cv1.read", "cv1.read")]
    [InlineData("cv1.read@2", "cv1.read")]
    [InlineData("cv1.read/never-stops/cv1.bleed@3", "cv1.read/never-stops/cv1.bleed")]
    public void The_path_of_a_step_is_its_key_without_the_attempt(string key, string path) =>
        Assert.Equal(path, PlannedStep.PathOf(key));

    [Trait("Turn", "1")]
    [Theory]
    [MemberData(nameof(SomeNames))]
    public void Who_follows_the_next_look_alone_finds_most_single_faults_without_opening_the_body(string name)
    {
        var body = Named(name);
        var (atlas, maker) = (AtlasOf(body), new AtlasMaker(body));
        var (found, tried, opened) = (0, 0, 0);
        for (var i = 0; i < Cases.Of(96); i++)
        {
            // Cases that the atlas does not have.
            var set = Robot.Draw(atlas, pair: false, Cases.Seed + i);
            var one = new AtlasCase(body, atlas.Sets[set], i, 77_777 + Cases.Seed);
            var row = maker.Row(set, one);
            if (atlas.Sets[set].Faults[0].IsOutside || maker.Without(one).Any(r => row.LooksLike(r, 0)))
                continue;
            var search = Robot.Search(atlas, row, atlas.Sets[set], i);
            tried++;
            found += search.Place == 0 ? 1 : 0;
            opened += search.OpenedBody ? 1 : 0;
            Assert.InRange(search.Looks, 1, 12);
            // The same eyes see the same again.
            Assert.Equal(search.Last.Next.Length, Robot.Search(atlas, row, atlas.Sets[set], i).Last.Next.Length);
        }

        // 97 to 100 of 100 are found (bench/README.md); two more may not be in few, and as chance has it in many.
        Assert.True(found >= tried - 2 - (tried / 16), $"{found} of {tried} found first, sample {Cases.Seed}");
        Assert.True(opened <= 1 + (tried / 2), $"{opened} of {tried} opened, sample {Cases.Seed}");
    }
}
