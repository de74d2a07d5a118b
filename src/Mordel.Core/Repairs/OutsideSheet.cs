using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>What can be put right without opening the body: shutoffs, cocks, strainer, the body.</summary>
public static class OutsideSheet
{
    /// <summary>Its name in files.</summary>
    public const string Id = "outside";

    /// <summary>The parts that are looked at.</summary>
    public static IReadOnlyList<BenchPart> Of(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return
        [
            .. body
                .Parts.Select(p => (p, Form: FormOf(p)))
                .Where(p => p.Form is not null)
                .Select(p => new BenchPart(p.p.Id.Value, p.p.Label, p.Form!.Value) { Of = p.p.Id }),
            new("body", "body", PartForm.Body),
        ];
    }

    private static PartForm? FormOf(Part part) =>
        part.Kind switch
        {
            PartKind.Shutoff => PartForm.Shutoff,
            PartKind.Cock => PartForm.Cock,
            PartKind.Strainer => PartForm.Strainer,
            _ => null,
        };
}
