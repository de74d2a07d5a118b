using System.Collections.Immutable;
using static Mordel.Core.Register.FieldKind;

namespace Mordel.Core.Register;

/// <summary>The fields of a place, its owner and its authority.</summary>
public static class PlaceFields
{
    /// <summary>The name of the place.</summary>
    public static RegisterField Place { get; } =
        new("place", FieldOf.Place, "Place")
        {
            IsWanted = true,
            Heads =
            [
                "place",
                "site",
                "sitename",
                "facility",
                "facilityname",
                "premises",
                "building",
                "property",
                "locationname",
            ],
        };

    /// <summary>Its address.</summary>
    public static RegisterField Address { get; } =
        new("address", FieldOf.Place, "Address")
        {
            Most = 200,
            IsWanted = true,
            Heads =
            [
                "address",
                "siteaddress",
                "serviceaddress",
                "street",
                "streetaddress",
                "premisesaddress",
                "facilityaddress",
            ],
        };

    /// <summary>The part of the town.</summary>
    public static RegisterField District { get; } =
        new("district", FieldOf.Place, "District")
        {
            IsForMany = true,
            Heads = ["district", "area", "zone", "town", "suburb", "city", "route", "quarter"],
        };

    /// <summary>Metres east of the zero stone.</summary>
    public static RegisterField East { get; } = Metres("east", "Metres east of the zero stone", "east", "easting", "x");

    /// <summary>Metres north of it.</summary>
    public static RegisterField North { get; } =
        Metres("north", "Metres north of the zero stone", "north", "northing", "y");

    /// <summary>Whom to ask for.</summary>
    public static RegisterField Contact { get; } =
        new("contact", FieldOf.Place, "Whom to ask for")
        {
            Heads = ["contact", "contactname", "contactperson", "sitecontact", "askfor", "whomtoaskfor", "attention"],
        };

    /// <summary>The way in.</summary>
    public static RegisterField Access { get; } =
        new("way in", FieldOf.Place, "Way in")
        {
            Most = 200,
            Heads = ["wayin", "access", "accessnotes", "gatecode", "keys", "sitenotes", "instructions"],
        };

    /// <summary>Where letters to whoever is there go.</summary>
    public static RegisterField OccupantMail { get; } =
        new("occupant mail", FieldOf.Place, "E-mail of whoever is there")
        {
            Heads = ["occupantmail", "occupantemail", "tenantemail", "siteemail", "contactemail"],
        };

    /// <summary>The owner's name.</summary>
    public static RegisterField Owner { get; } =
        new("owner", FieldOf.Owner, "Owner")
        {
            IsWanted = true,
            Heads =
            [
                "owner",
                "ownername",
                "customer",
                "customername",
                "client",
                "company",
                "accountname",
                "companyname",
            ],
        };

    /// <summary>The owner's address.</summary>
    public static RegisterField OwnerAddress { get; } =
        new("owner address", FieldOf.Owner, "Owner’s address")
        {
            Most = 200,
            Heads = ["owneraddress", "mailingaddress", "billingaddress", "customeraddress", "postaladdress"],
        };

    /// <summary>The owner's telephone.</summary>
    public static RegisterField OwnerPhone { get; } =
        new("owner telephone", FieldOf.Owner, "Owner’s telephone")
        {
            Most = 40,
            Heads =
            [
                "ownertelephone",
                "ownerphone",
                "phone",
                "telephone",
                "tel",
                "phonenumber",
                "customerphone",
                "mobile",
            ],
        };

    /// <summary>The owner's address for letters by mail.</summary>
    public static RegisterField OwnerMail { get; } =
        new("owner mail", FieldOf.Owner, "Owner’s e-mail")
        {
            Heads = ["ownermail", "owneremail", "email", "mail", "emailaddress", "customeremail"],
        };

    /// <summary>The language of letters to the owner.</summary>
    public static RegisterField OwnerLanguage { get; } =
        new("owner language", FieldOf.Owner, "Language of letters")
        {
            Kind = Choice,
            Choices =
            [
                new("en", "English", ["en", "english", "englisch", "eng"]),
                new("de", "Deutsch", ["de", "deutsch", "german", "ger", "deu"]),
            ],
            Heads = ["ownerlanguage", "language", "lang", "correspondencelanguage"],
        };

    /// <summary>The authority's name.</summary>
    public static RegisterField Authority { get; } =
        new("authority", FieldOf.Authority, "Authority")
        {
            IsWanted = true,
            Heads =
            [
                "authority",
                "waterauthority",
                "watersupplier",
                "supplier",
                "utility",
                "purveyor",
                "waterpurveyor",
                "watersystem",
            ],
        };

    /// <summary>The rules it works by.</summary>
    public static RegisterField Rules { get; } =
        new("rules", FieldOf.Authority, "Rules")
        {
            Kind = Words,
            Most = 60,
            Heads = ["rules", "ruleprofile", "profile"],
        };

    private static RegisterField Metres(string id, string label, params ImmutableArray<string> heads) =>
        new(id, FieldOf.Place, label)
        {
            Kind = Whole,
            Range = (-500_000, 500_000),
            Heads = heads,
        };
}
