using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>The bodies of all types, part by part in flow order (handbook chapter 1).</summary>
public static class Bodies
{
    /// <summary>All of them; the first of a type is its usual one.</summary>
    public static ImmutableArray<AssemblyBody> All { get; } = [.. AssemblyTypes.All.SelectMany(t => t.Bodies)];

    /// <summary>The names of the bodies that a type can have.</summary>
    public static ImmutableArray<string> Choices(AssemblyType type) => [.. type.Facts().Bodies.Select(b => b.Name)];

    /// <summary>
    /// The body of a type, by name where the type has more than one; the usual one when the name is not known.
    /// </summary>
    public static AssemblyBody Find(AssemblyType type, string? name = null, BodyFeatures features = default)
    {
        var body = All.FirstOrDefault(b => b.Type == type && b.Name == name) ?? All.First(b => b.Type == type);
        return features.Strainer ? WithStrainer(body) with { Features = features } : body with { Features = features };
    }

    // Behind SO1, so that it can be opened and cleaned once SO1 is shut and the pressure is off.
    private static AssemblyBody WithStrainer(AssemblyBody body)
    {
        var strainer = new Part(Parts.Strainer, PartKind.Strainer, "strainer", Opening.Full);
        var at = body.Parts.IndexOf(body.Parts.First(p => p.Id == Parts.So1)) + 1;
        return body with { Parts = body.Parts.Insert(at, strainer) };
    }
}
