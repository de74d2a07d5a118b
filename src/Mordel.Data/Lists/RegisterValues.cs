using System.Collections.Frozen;
using System.Globalization;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>What a row holds for a field of the register, as text, and how it is set.</summary>
/// <typeparam name="T">The row.</typeparam>
/// <param name="Get">As it is kept; empty where there is nothing.</param>
/// <param name="Set">Sets a cleaned value.</param>
public sealed record ValueOf<T>(Func<T, string> Get, Action<T, string> Set);

/// <summary>The values of the register's fields in its rows; what has no place in a row is in no form.</summary>
public static class RegisterValues
{
    /// <summary>Those of assemblies.</summary>
    public static FrozenDictionary<RegisterField, ValueOf<AssemblyRow>> OfAssembly { get; } =
        new Dictionary<RegisterField, ValueOf<AssemblyRow>>
        {
            [AssemblyFields.Tag] = new(a => a.Tag, (a, v) => a.Tag = v),
            [AssemblyFields.Serial] = new(a => a.Serial, (a, v) => a.Serial = v),
            [AssemblyFields.Type] = new(a => a.Type, (a, v) => a.Type = v),
            [AssemblyFields.Body] = new(a => a.Body ?? "", (a, v) => a.Body = Words(v)),
            [AssemblyFields.Make] = new(a => a.Make, (a, v) => a.Make = v),
            [AssemblyFields.Model] = new(a => a.Model, (a, v) => a.Model = v),
            [AssemblyFields.Size] = new(a => a.Size, (a, v) => a.Size = v),
            [AssemblyFields.Flow] = new(a => a.Flow, (a, v) => a.Flow = v.Length > 0 ? v : a.Flow),
            [AssemblyFields.Location] = new(a => a.Location, (a, v) => a.Location = v),
            [AssemblyFields.Serves] = new(a => a.Serves, (a, v) => a.Serves = v),
            [AssemblyFields.Use] = new(a => a.Use ?? "", (a, v) => a.Use = Words(v)),
            [AssemblyFields.Hazard] = new(a => a.Hazard, (a, v) => a.Hazard = v.Length > 0 ? v : a.Hazard),
            [AssemblyFields.Protection] = new(
                a => a.Protection,
                (a, v) => a.Protection = v.Length > 0 ? v : a.Protection
            ),
            [AssemblyFields.FireLine] = new(a => YesNo(a.FireLine), (a, v) => a.FireLine = v == "yes"),
            [AssemblyFields.Strainer] = new(a => YesNo(a.Strainer), (a, v) => a.Strainer = v == "yes"),
            [AssemblyFields.FittedCocks] = new(a => YesNo(a.FittedCocks), (a, v) => a.FittedCocks = v == "yes"),
            [AssemblyFields.ConfinedSpace] = new(a => YesNo(a.ConfinedSpace), (a, v) => a.ConfinedSpace = v == "yes"),
            [AssemblyFields.BypassLine] = new(a => YesNo(a.BypassLine), (a, v) => a.BypassLine = v == "yes"),
            [AssemblyFields.ReliefPort] = new(
                a => a.ReliefPort?.ToString("0.###", CultureInfo.InvariantCulture) ?? "",
                (a, v) => a.ReliefPort = v.Length > 0 ? decimal.Parse(v, CultureInfo.InvariantCulture) : null
            ),
            [LifeFields.Installed] = new(
                a => Days.Write(a.InstalledOn),
                (a, v) => a.InstalledOn = Days.Read(v) ?? a.InstalledOn
            ),
            [LifeFields.InSeason] = new(a => a.Season ?? "", (a, v) => a.Season = Words(v)),
            [LifeFields.WaterOff] = new(a => a.WaterOff ?? "", (a, v) => a.WaterOff = Words(v)),
            [LifeFields.Find] = new(a => a.HowToFind, (a, v) => a.HowToFind = v),
        }.ToFrozenDictionary();

    /// <summary>Those of places.</summary>
    public static FrozenDictionary<RegisterField, ValueOf<PlaceRow>> OfPlace { get; } =
        new Dictionary<RegisterField, ValueOf<PlaceRow>>
        {
            [PlaceFields.Place] = new(p => p.Name, (p, v) => p.Name = v),
            [PlaceFields.Address] = new(p => p.Address, (p, v) => p.Address = v),
            [PlaceFields.District] = new(p => p.District, (p, v) => p.District = v),
            [PlaceFields.East] = new(p => Whole(p.East), (p, v) => p.East = Whole(v)),
            [PlaceFields.North] = new(p => Whole(p.North), (p, v) => p.North = Whole(v)),
            [PlaceFields.Contact] = new(p => p.Contact, (p, v) => p.Contact = v),
            [PlaceFields.Access] = new(p => p.Access, (p, v) => p.Access = v),
            [PlaceFields.OccupantMail] = new(p => p.OccupantMail, (p, v) => p.OccupantMail = v),
        }.ToFrozenDictionary();

    /// <summary>Those of owners.</summary>
    public static FrozenDictionary<RegisterField, ValueOf<OwnerRow>> OfOwner { get; } =
        new Dictionary<RegisterField, ValueOf<OwnerRow>>
        {
            [PlaceFields.Owner] = new(o => o.Name, (o, v) => o.Name = v),
            [PlaceFields.OwnerAddress] = new(o => o.Address, (o, v) => o.Address = v),
            [PlaceFields.OwnerPhone] = new(o => o.Phone, (o, v) => o.Phone = v),
            [PlaceFields.OwnerMail] = new(o => o.Mail, (o, v) => o.Mail = v),
            [PlaceFields.OwnerLanguage] = new(o => o.Language, (o, v) => o.Language = v),
        }.ToFrozenDictionary();

    /// <summary>Those of authorities.</summary>
    public static FrozenDictionary<RegisterField, ValueOf<AuthorityRow>> OfAuthority { get; } =
        new Dictionary<RegisterField, ValueOf<AuthorityRow>>
        {
            [PlaceFields.Authority] = new(a => a.Name, (a, v) => a.Name = v),
            [PlaceFields.Rules] = new(a => a.ProfileId, (a, v) => a.ProfileId = v),
        }.ToFrozenDictionary();

    /// <summary>What an assembly with all that belongs to it holds for a field; null where none holds it.</summary>
    public static string? Of(AssemblyRow assembly, RegisterField field)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        ArgumentNullException.ThrowIfNull(field);
        return OfAssembly.TryGetValue(field, out var a) ? a.Get(assembly)
            : OfPlace.TryGetValue(field, out var p) && assembly.Place is { } place ? p.Get(place)
            : OfOwner.TryGetValue(field, out var o) && assembly.Place?.Owner is { } owner ? o.Get(owner)
            : OfAuthority.TryGetValue(field, out var y) && assembly.Authority is { } authority ? y.Get(authority)
            : null;
    }

    private static string? Words(string value) => value.Length > 0 ? value : null;

    private static string YesNo(bool yes) => yes ? "yes" : "no";

    private static string Whole(int number) => number.ToString(CultureInfo.InvariantCulture);

    private static int Whole(string number) => number.Length > 0 ? int.Parse(number, CultureInfo.InvariantCulture) : 0;
}
