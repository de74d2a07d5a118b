using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>What a line of a file becomes where the register has nothing of it.</summary>
internal static class NewRows
{
    /// <summary>What stands where a file says nothing of it.</summary>
    public const string NoOwner = "Owner not known",
        NoPlace = "Place not known",
        NoAuthority = "Authority not known";

    /// <summary>Why no assembly can be so; null when it can.</summary>
    public static LineRemark? WhyNot(ImportLine line, AssemblyRow? existing = null)
    {
        var type = AssemblyTypes.Named(line[AssemblyFields.Type] ?? existing?.Type)!.Value.Facts();
        if (
            line[AssemblyFields.Body] is { } body
            && (!type.HasChoiceOfBodies || type.Bodies.All(b => b.Name != body))
            && (existing is null || existing.Body != body)
        )
            return new("", $"A {type.Type} has no body {body}.");
        return (line[AssemblyFields.Hazard] ?? existing?.Hazard) == "high" && type.NeverOnHighHazard is { } unfit
            ? new("", unfit)
            : null;
    }

    /// <summary>The hazard of a line that says none: what the type is made for.</summary>
    public static string HazardOf(ImportLine line) =>
        AssemblyTypes.Parse(line[AssemblyFields.Type]!).Facts().Has(Core.Rigs.Parts.Relief) ? "high" : "low";

    /// <summary>An assembly of a line; its place and authority are the caller's.</summary>
    public static AssemblyRow Assembly(ImportLine line, string tag, DateOnly today)
    {
        var type = AssemblyTypes.Parse(line[AssemblyFields.Type]!).Facts();
        string Words(RegisterField field) => line[field] ?? "";
        return new()
        {
            Id = Guid.CreateVersion7(),
            Tag = tag,
            Serial = line[AssemblyFields.Serial]!,
            Type = type.Type.Name,
            Body = type.HasChoiceOfBodies ? line[AssemblyFields.Body] ?? type.Bodies[0].Name : null,
            Make = Words(AssemblyFields.Make),
            Model = Words(AssemblyFields.Model),
            Size = Words(AssemblyFields.Size),
            Flow = line[AssemblyFields.Flow] ?? (type.IsVacuumBreaker ? "Upward" : "LeftToRight"),
            Location = Words(AssemblyFields.Location),
            Serves = Words(AssemblyFields.Serves),
            Use = line[AssemblyFields.Use],
            Hazard = line[AssemblyFields.Hazard] ?? HazardOf(line),
            Protection = line[AssemblyFields.Protection] ?? "containment",
            FireLine = line[AssemblyFields.FireLine] == "yes",
            Strainer = line[AssemblyFields.Strainer] == "yes",
            ConfinedSpace = line[AssemblyFields.ConfinedSpace] == "yes",
            WaterOff = line[LifeFields.WaterOff],
            FittedCocks = line[AssemblyFields.FittedCocks] == "yes",
            BypassLine = line[AssemblyFields.BypassLine] == "yes" && line[AssemblyFields.FireLine] == "yes",
            ReliefPort = line[AssemblyFields.ReliefPort] is { } port
                ? decimal.Parse(port, System.Globalization.CultureInfo.InvariantCulture)
                : null,
            InstalledOn = Days.Read(line[LifeFields.Installed]) ?? Days.Read(line[TestFields.TestDay]) ?? today,
            Season = line[LifeFields.InSeason],
            HowToFind = line[LifeFields.Find] ?? Words(PlaceFields.Access),
        };
    }

    /// <summary>A place of a line.</summary>
    public static PlaceRow Place(ImportLine line, Guid ownerId)
    {
        var (name, address) = PlaceOf(line);
        int Metres(RegisterField field) =>
            int.TryParse(line[field], System.Globalization.CultureInfo.InvariantCulture, out var m) ? m : 0;
        return new()
        {
            Id = Guid.CreateVersion7(),
            OwnerId = ownerId,
            Name = name,
            Address = address,
            District = line[PlaceFields.District] ?? "",
            East = Metres(PlaceFields.East),
            North = Metres(PlaceFields.North),
            Contact = line[PlaceFields.Contact] ?? "",
            Access = line[PlaceFields.Access] ?? "",
            OccupantMail = line[PlaceFields.OccupantMail] ?? "",
        };
    }

    /// <summary>Name and address of a line's place; the one stands for the other where it is missing.</summary>
    public static (string Name, string Address) PlaceOf(ImportLine line)
    {
        var (name, address) = (line[PlaceFields.Place], line[PlaceFields.Address]);
        return (name ?? address ?? NoPlace, address ?? "");
    }

    /// <summary>Name and address of a line's owner.</summary>
    public static (string Name, string Address) OwnerOf(ImportLine line) =>
        (line[PlaceFields.Owner] ?? NoOwner, line[PlaceFields.OwnerAddress] ?? "");
}
