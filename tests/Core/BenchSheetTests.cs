using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Xunit;

namespace Mordel.Core.Tests;

/// <summary>Bench sheets by construction family: what comes out, in which order, and what goes in.</summary>
public class BenchSheetTests
{
    public static TheoryData<string> Families => [.. BenchSheets.All.Concat(PlainSheets.All).Select(f => f.Id)];

    private static BenchSheet Named(string id) => BenchSheets.Named(id)!;

    private static int At(IReadOnlyList<BenchStep> steps, string part) =>
        steps.Select((s, i) => (s, i)).Single(x => x.s.Parts.Contains(part)).i;

    [Theory]
    [MemberData(nameof(Families))]
    public void Every_part_comes_out_once_and_goes_in_once(string id)
    {
        var family = Named(id);
        var parts = family.Parts.Select(p => p.Id).Order();
        Assert.Equal(parts, family.Out.SelectMany(s => s.Parts).Order());
        Assert.Equal(parts, family.In.SelectMany(s => s.Parts).Order());
        Assert.Equal(family.Parts.Select(p => p.Id), family.Out.SelectMany(s => s.Parts));
    }

    [Theory]
    [MemberData(nameof(Families))]
    public void No_step_handles_a_part_that_another_still_holds_and_none_is_shut_in_before_its_time(string id)
    {
        var family = Named(id);
        var (outOrder, inOrder) = (
            family.Out.SelectMany(s => s.Parts).ToList(),
            family.In.SelectMany(s => s.Parts).ToList()
        );
        foreach (var part in family.Parts)
        foreach (var holds in part.HeldBy)
        {
            Assert.Contains(family.Parts, p => p.Id == holds);
            Assert.True(outOrder.IndexOf(holds) < outOrder.IndexOf(part.Id), $"{part.Id} is still held by {holds}");
            Assert.True(inOrder.IndexOf(part.Id) < inOrder.IndexOf(holds), $"{holds} shuts {part.Id} out");
        }
    }

    [Theory]
    [MemberData(nameof(Families))]
    public void A_caution_stands_where_a_spring_pushes_out_and_in(string id)
    {
        var family = Named(id);
        foreach (var part in family.Parts.Where(p => p.IsSprung))
        {
            var (apart, together) = (family.Out[At(family.Out, part.Id)], family.In[At(family.In, part.Id)]);
            // Where cover and bolts are sprung together, one of the two steps says so.
            var near = family.Parts.Where(p => p.IsSprung).Select(p => family.Out[At(family.Out, p.Id)]);
            Assert.True(apart.Caution is not null || near.Any(s => s.Caution is not null), part.Id);
            var nearIn = family.Parts.Where(p => p.IsSprung).Select(p => family.In[At(family.In, p.Id)]);
            Assert.True(together.Caution is not null || nearIn.Any(s => s.Caution is not null), part.Id);
        }
    }

    // Handbook chapter 5: which check comes out first, and which goes in first.
    [Theory]
    [InlineData("caged-cartridge", "cv2", "cv1")]
    [InlineData("in-line-stack", "cv1", "cv2")]
    [InlineData("cam-arm-sleeve", "cv1", "cv2")]
    [InlineData("tower-check", "cv1", "cv2")]
    public void The_checks_come_out_and_go_in_as_the_family_is_built(string id, string firstOut, string firstIn)
    {
        var family = Named(id);
        var (lastOut, lastIn) = (firstOut == "cv1" ? "cv2" : "cv1", firstIn == "cv1" ? "cv2" : "cv1");
        Assert.True(At(family.Out, firstOut) < At(family.Out, lastOut));
        Assert.True(At(family.In, firstIn) < At(family.In, lastIn));
        Assert.NotNull(family.Part("cv1").NeverFor);
        Assert.NotNull(family.Part("cv2").NeverFor);
    }

    [Fact]
    public void Every_family_of_the_catalogue_has_a_sheet_and_both_say_the_same_order_of_the_checks()
    {
        Assert.Equal(ConstructionFamily.All.Select(f => f.Id), BenchSheets.All.Select(s => s.Id));
        foreach (
            var sheet in BenchSheets.All.Where(s => s.Parts.Any(p => p.Id == "cv1") && s.Parts.Any(p => p.Id == "cv2"))
        )
        {
            string[] Checks(IReadOnlyList<BenchStep> steps) =>
                [.. steps.SelectMany(s => s.Parts).Where(p => p is "cv1" or "cv2")];
            string[] Of(IEnumerable<PartId> parts) => [.. parts.Select(p => p.Value).Where(p => p is "cv1" or "cv2")];
            Assert.Equal(Of(sheet.Family.Out), Checks(sheet.Out));
            Assert.Equal(Of(sheet.Family.In), Checks(sheet.In));
        }
    }

    [Fact]
    public void The_cam_arm_goes_together_in_an_order_of_its_own() =>
        Assert.Equal(
            ["cv2", "cv1", "plate", "sleeve", "relief", "line", "tc3"],
            Named("cam-arm-sleeve").In.SelectMany(s => s.Parts)
        );

    [Theory]
    [InlineData("screw-cap-poppet")]
    [InlineData("caged-cartridge")]
    [InlineData("vacuum-breaker")]
    public void These_go_together_step_by_step_as_they_came_apart(string id)
    {
        var family = Named(id);
        Assert.Equal(
            family.Out.Reverse().Select(s => string.Join(' ', s.Parts.Order())),
            family.In.Select(s => string.Join(' ', s.Parts.Order()))
        );
    }

    [Theory]
    [MemberData(nameof(Families))]
    public void No_disc_and_no_stem_is_greased(string id) =>
        Assert.All(Named(id).Parts.Where(p => p.Form is PartForm.Disc or PartForm.Stem or PartForm.Poppet), p =>
            Assert.Equal(Grease.Never, p.Grease)
        );

    [Fact]
    public void A_body_is_relieved_behind_so1_and_never_at_a_live_cock()
    {
        string Of(AssemblyBody body) => string.Join(' ', ServiceStages.Relieving(body).Select(p => p.Id));
        Assert.Equal("tc4 tc3 tc2", Of(Bodies.Find(AssemblyTypes.RP, "four-cock")));
        Assert.Equal("t3 t2 t1", Of(Bodies.Find(AssemblyTypes.RP, "three-tap")));
        Assert.Equal("tc4 tc3 tc2", Of(Bodies.Find(AssemblyTypes.DC)));
        Assert.Equal("tc2 tc1", Of(Bodies.Find(AssemblyTypes.PVB)));
        foreach (var body in Bodies.All)
        {
            var live = body.Parts.TakeWhile(p => p.Id != Parts.So1).Where(p => p.Kind == PartKind.Cock).ToList();
            foreach (var step in ServiceStages.Prepare(body).Concat(ServiceStages.CloseUp(body)))
                Assert.All(live, p => Assert.DoesNotContain(p.Label, step.Does, StringComparison.Ordinal));
            Assert.All(live, p =>
                Assert.Contains(ServiceStages.Prepare(body), s =>
                    s.Caution?.Contains($"Not {p.Label}", StringComparison.Ordinal) == true
                )
            );
        }
    }

    [Theory]
    [MemberData(nameof(Families))]
    public void The_drawing_shows_every_part_once_and_the_one_at_hand_on_its_way(string id)
    {
        var family = Named(id);
        foreach (var isIn in new[] { false, true })
        {
            var steps = isIn ? family.In : family.Out;
            for (var step = 0; step < steps.Count; step++)
            {
                var svg = ExplodedRenderer.Draw(family, isIn, step);
                foreach (var part in family.Parts)
                    Assert.Single(System.Text.RegularExpressions.Regex.Matches(svg, $"data-part=\"{part.Id}\""));
                Assert.Equal(
                    steps[step].Parts.Length,
                    System.Text.RegularExpressions.Regex.Count(svg, isIn ? "now in" : "now out")
                );
                var gone = System.Text.RegularExpressions.Regex.Count(svg, "bench-part gone");
                var handled = steps.Take(step).Sum(s => s.Parts.Length);
                Assert.Equal(isIn ? family.Parts.Count - handled - steps[step].Parts.Length : handled, gone);
            }
        }
    }
}
