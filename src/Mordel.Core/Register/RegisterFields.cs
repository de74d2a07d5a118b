using System.Collections.Immutable;

namespace Mordel.Core.Register;

/// <summary>All fields of the register, in the order of forms and files.</summary>
public static class RegisterFields
{
    /// <summary>All of them.</summary>
    public static ImmutableArray<RegisterField> All { get; } =
    [
        AssemblyFields.Tag,
        AssemblyFields.Serial,
        AssemblyFields.Type,
        AssemblyFields.Body,
        AssemblyFields.Make,
        AssemblyFields.Model,
        AssemblyFields.Size,
        AssemblyFields.Flow,
        AssemblyFields.Location,
        AssemblyFields.Serves,
        AssemblyFields.Use,
        AssemblyFields.Hazard,
        AssemblyFields.Protection,
        AssemblyFields.FireLine,
        AssemblyFields.Strainer,
        AssemblyFields.ConfinedSpace,
        AssemblyFields.FittedCocks,
        AssemblyFields.BypassLine,
        AssemblyFields.ReliefPort,
        LifeFields.Installed,
        LifeFields.InSeason,
        LifeFields.WaterOff,
        LifeFields.Find,
        LifeFields.ReplacedOn,
        LifeFields.Replaces,
        LifeFields.Events,
        LifeFields.Announced,
        PlaceFields.Place,
        PlaceFields.Address,
        PlaceFields.District,
        PlaceFields.East,
        PlaceFields.North,
        PlaceFields.Contact,
        PlaceFields.Access,
        PlaceFields.OccupantMail,
        PlaceFields.Owner,
        PlaceFields.OwnerAddress,
        PlaceFields.OwnerPhone,
        PlaceFields.OwnerMail,
        PlaceFields.OwnerLanguage,
        PlaceFields.Authority,
        PlaceFields.Rules,
        TestFields.TestDay,
        TestFields.Outcome,
        TestFields.Tester,
        TestFields.Certificate,
        TestFields.TestKit,
        .. TestFields.Readings,
        TestFields.Remarks,
        TestFields.Source,
    ];

    private static readonly ImmutableDictionary<string, RegisterField> ById = All.ToImmutableDictionary(f => f.Id);

    /// <summary>The field of a name; null where there is none.</summary>
    public static RegisterField? Named(string? id) => id is null ? null : ById.GetValueOrDefault(id);

    /// <summary>The fields of one thing.</summary>
    public static IEnumerable<RegisterField> OfA(FieldOf thing) => All.Where(f => f.Of == thing);
}
