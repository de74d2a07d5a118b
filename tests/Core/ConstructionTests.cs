using Mordel.Core.Catalogue;

namespace Mordel.Core.Tests;

/// <summary>How assemblies are built inside, as the catalogue has it.</summary>
public class ConstructionTests
{
    [Fact]
    public void What_comes_out_goes_back_and_nothing_else()
    {
        Assert.All(ConstructionFamily.All, f => Assert.Equal(f.Out.OrderBy(p => p.Value), f.In.OrderBy(p => p.Value)));
        Assert.All(ConstructionFamily.All, f => Assert.Equal(f.Out.Length, f.Out.Distinct().Count()));
        Assert.All(ConstructionFamily.All, f => Assert.Same(f, ConstructionFamily.Named(f.Id)));
        Assert.Null(ConstructionFamily.Named("nailed"));
    }

    [Fact]
    public void Every_check_relief_and_inlet_of_every_body_can_be_reached_in_some_family_of_its_type()
    {
        foreach (var body in Bodies.All)
        {
            var reached = ConstructionFamily.Of(body.Type).SelectMany(f => f.OutOf(body)).ToHashSet();
            Assert.All(
                body.Parts.Where(p => p.Kind is Rigs.PartKind.Check or Rigs.PartKind.Relief or Rigs.PartKind.Inlet),
                p => Assert.Contains(p.Id, reached)
            );
            // A family of a type reaches something in each of its bodies.
            Assert.All(ConstructionFamily.Of(body.Type), f => Assert.NotEmpty(f.OutOf(body)));
        }
    }

    [Theory]
    [InlineData("caged-cartridge", "cv2 cv1", "cv1 cv2")]
    [InlineData("cam-arm-sleeve", "cv1 cv2", "cv2 cv1")]
    [InlineData("in-line-stack", "cv1 cv2", "cv2 cv1")]
    [InlineData("tower-check", "cv1 cv2", "cv2 cv1")]
    public void The_order_of_the_checks_belongs_to_the_family(string id, string comeOut, string goIn)
    {
        var family = ConstructionFamily.Named(id)!;
        string Checks(IEnumerable<Rigs.PartId> parts) =>
            string.Join(' ', parts.Where(p => p.Value.StartsWith("cv", StringComparison.Ordinal)));
        Assert.Equal((comeOut, goIn), (Checks(family.Out), Checks(family.In)));
    }
}
