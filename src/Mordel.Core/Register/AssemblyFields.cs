using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using static Mordel.Core.Register.FieldKind;

namespace Mordel.Core.Register;

/// <summary>The fields of an assembly.</summary>
public static class AssemblyFields
{
    /// <summary>The serial number, by which an assembly is known.</summary>
    public static RegisterField Serial { get; } =
        new("serial", FieldOf.Assembly, "Serial number")
        {
            Most = 60,
            IsWanted = true,
            Heads =
            [
                "serial",
                "serialnumber",
                "serialno",
                "serialnum",
                "sn",
                "serno",
                "assemblyserial",
                "deviceserial",
            ],
        };

    /// <summary>The type.</summary>
    public static RegisterField Type { get; } =
        new("type", FieldOf.Assembly, "Type")
        {
            Kind = Choice,
            IsWanted = true,
            Choices =
            [
                .. AssemblyTypes.All.Select(t => new FieldChoice(t.Type.Name, $"{t.Type}, {t.Title}", t.Spellings)),
            ],
            Heads = ["type", "devicetype", "assemblytype", "valvetype", "typeofdevice", "typeofassembly", "kind"],
        };

    /// <summary>The firm's number.</summary>
    public static RegisterField Tag { get; } =
        new("tag", FieldOf.Assembly, "Tag")
        {
            Most = 40,
            IsWanted = true,
            Heads =
            [
                "tag",
                "tagnumber",
                "tagno",
                "asset",
                "assetnumber",
                "assetid",
                "deviceid",
                "assemblyid",
                "ournumber",
            ],
        };

    /// <summary>The body, where the type has several.</summary>
    public static RegisterField Body { get; } =
        new("body", FieldOf.Assembly, "Body")
        {
            Kind = Choice,
            Choices = [.. Bodies.All.Select(b => b.Name).Distinct().Select(b => Of(b, RegisterField.Bare(b)))],
            Heads = ["body", "bodytype", "testcocks"],
            Hint = "Only where the type has more than one.",
        };

    /// <summary>The maker.</summary>
    public static RegisterField Make { get; } =
        new("make", FieldOf.Assembly, "Make")
        {
            IsForMany = true,
            Heads = ["make", "manufacturer", "maker", "mfr", "mfg", "brand", "madeby"],
        };

    /// <summary>The model.</summary>
    public static RegisterField Model { get; } =
        new("model", FieldOf.Assembly, "Model") { IsForMany = true, Heads = ["model", "modelnumber", "modelno"] };

    /// <summary>The nominal size.</summary>
    public static RegisterField Size { get; } =
        new("size", FieldOf.Assembly, "Size")
        {
            Kind = FieldKind.Size,
            Most = 20,
            Heads =
            [
                "size",
                "nominalsize",
                "diameter",
                "pipesize",
                "dn",
                "valvesize",
                "devicesize",
                "sizeinches",
                "sizein",
            ],
            Hint = "3/4 in, 2 in, DN 50",
        };

    /// <summary>How it lies.</summary>
    public static RegisterField Flow { get; } =
        new("flow", FieldOf.Assembly, "Flow, as one faces it")
        {
            Kind = Choice,
            Choices =
            [
                new("LeftToRight", "left to right", ["lefttoright", "ltor", "l2r", "horizontal", "right"]),
                new("RightToLeft", "right to left", ["righttoleft", "rtol", "r2l", "left"]),
                new("Upward", "upward", ["upward", "up", "verticalup", "flowup", "vertical"]),
                new("Downward", "downward", ["downward", "down", "verticaldown", "flowdown"]),
            ],
            Heads = ["flow", "flowdirection", "orientation", "direction"],
        };

    /// <summary>Where it stands.</summary>
    public static RegisterField Location { get; } =
        new("location", FieldOf.Assembly, "Where it stands")
        {
            Most = 200,
            Heads =
            [
                "location",
                "devicelocation",
                "assemblylocation",
                "locationonsite",
                "positiononsite",
                "whereitstands",
                "position",
                "room",
            ],
        };

    /// <summary>What it feeds.</summary>
    public static RegisterField Serves { get; } =
        new("serves", FieldOf.Assembly, "What it feeds")
        {
            Heads = ["serves", "feeds", "whatitfeeds", "service", "servicetype", "protects", "equipment"],
        };

    /// <summary>The class of use.</summary>
    public static RegisterField Use { get; } =
        new("use", FieldOf.Assembly, "Class of use")
        {
            Kind = Choice,
            IsForMany = true,
            Choices =
            [
                new("residential", "residential", ["residential", "domestic", "dwelling", "house", "home", "res"]),
                new("commercial", "commercial", ["commercial", "business", "office", "retail", "shop", "com"]),
                new("industrial", "industrial", ["industrial", "industry", "factory", "plant", "ind"]),
                new("medical", "medical", ["medical", "hospital", "clinic", "dental", "laboratory"]),
                new("school", "school", ["school", "education", "educational", "college"]),
                new("agricultural", "agricultural", ["agricultural", "agriculture", "farm", "farming"]),
                new("irrigation", "irrigation", ["irrigation", "irrig", "lawn", "landscape", "garden", "sprinkler"]),
                new("fire", "fire line", ["fire", "fireline", "fireprotection", "firesprinkler", "firesystem"]),
            ],
            Heads = ["use", "classofuse", "usage", "premisestype", "facilitytype", "propertytype", "customerclass"],
            Hint = "Decides the interval, where the rules ask for it.",
        };

    /// <summary>The hazard.</summary>
    public static RegisterField Hazard { get; } =
        new("hazard", FieldOf.Assembly, "Hazard")
        {
            Kind = Choice,
            IsForMany = true,
            Choices =
            [
                new(
                    "low",
                    "low",
                    ["low", "l", "lo", "nonhealth", "nonhealthhazard", "pollution", "pollutant", "minor"]
                ),
                new(
                    "high",
                    "high",
                    ["high", "h", "hi", "health", "healthhazard", "contamination", "contaminant", "severe"]
                ),
            ],
            Heads = ["hazard", "degreeofhazard", "hazardlevel", "hazardrating", "risk", "hazarddegree", "hazardtype"],
        };

    /// <summary>What it protects.</summary>
    public static RegisterField Protection { get; } =
        new("protection", FieldOf.Assembly, "What it protects")
        {
            Kind = Choice,
            IsForMany = true,
            Choices =
            [
                new(
                    "containment",
                    "the main, at the property line (containment)",
                    ["containment", "premise", "premises", "premiseisolation", "main", "meter"]
                ),
                new(
                    "isolation",
                    "the site, at a fixture (isolation)",
                    ["isolation", "internal", "fixture", "fixtureisolation", "site", "equipment"]
                ),
            ],
            Heads = ["protection", "protectiontype", "containmentisolation", "containmentorisolation", "application"],
        };

    /// <summary>Whether it stands in a fire line.</summary>
    public static RegisterField FireLine { get; } =
        YesOrNo("fire line", "It stands in a fire line", "fireline", "firelines", "fire", "fireservice");

    /// <summary>Whether a strainer stands behind SO1.</summary>
    public static RegisterField Strainer { get; } =
        YesOrNo("strainer", "A strainer stands behind SO1", "strainer", "strainerfitted");

    /// <summary>Whether it stands in a confined space.</summary>
    public static RegisterField ConfinedSpace { get; } =
        YesOrNo(
            "confined space",
            "It stands in a confined space: permit, gas test, attendant",
            "confinedspace",
            "confined",
            "permitspace"
        );

    /// <summary>Whether the cocks carry fittings.</summary>
    public static RegisterField FittedCocks { get; } =
        YesOrNo("fitted cocks", "The cocks carry fittings already", "fittedcocks");

    /// <summary>Whether a bypass runs around it.</summary>
    public static RegisterField BypassLine { get; } =
        YesOrNo("bypass line", "A fire line’s bypass runs around it", "bypassline", "bypass");

    /// <summary>The relief port.</summary>
    public static RegisterField ReliefPort { get; } =
        new("relief port", FieldOf.Assembly, "Relief port of an RP, mm across")
        {
            Kind = Millimetres,
            Range = (1, 500),
            Heads = ["reliefport", "reliefportmm", "reliefdiameter"],
        };

    private static FieldChoice Of(string value, params ImmutableArray<string> spellings) =>
        new(value, value, spellings);

    private static RegisterField YesOrNo(string id, string label, params ImmutableArray<string> heads) =>
        new(id, FieldOf.Assembly, label)
        {
            Kind = YesNo,
            IsForMany = true,
            Heads = heads,
        };
}
