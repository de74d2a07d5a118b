using System.Collections.Immutable;
using Mordel.Core.Procedures;
using Mordel.Core.Procedures.DoubleCheck;

namespace Mordel.Core.Catalogue;

/// <summary>The procedures that this version can guide. A new school is one file under Procedures and one line here.</summary>
public static class SchoolCatalogue
{
    /// <summary>All of them.</summary>
    public static ImmutableArray<Procedure> All { get; } = [SightTubeSchool.Procedure];

    /// <summary>The procedure with this name, or null.</summary>
    public static Procedure? Named(string? id) => All.FirstOrDefault(p => p.Id == id);
}
