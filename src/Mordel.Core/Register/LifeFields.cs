using static Mordel.Core.Register.FieldKind;

namespace Mordel.Core.Register;

/// <summary>The fields of an assembly that say when it is there, and what happened to it.</summary>
public static class LifeFields
{
    /// <summary>When it was installed.</summary>
    public static RegisterField Installed { get; } =
        new("installed", FieldOf.Assembly, "Installed on")
        {
            Kind = Day,
            IsWanted = true,
            Heads =
            [
                "installed",
                "installedon",
                "installdate",
                "installationdate",
                "dateinstalled",
                "dateofinstallation",
            ],
        };

    /// <summary>When a seasonal line is in use.</summary>
    public static RegisterField InSeason { get; } =
        new("season", FieldOf.Assembly, "In use from and until")
        {
            Kind = FieldKind.Season,
            Most = 40,
            IsForMany = true,
            Heads = ["season", "seasonal", "inuse", "operatingseason"],
            Hint = "For seasonal lines: 15 April to 15 October. Empty: all year.",
        };

    /// <summary>The hours in which its water may be off.</summary>
    public static RegisterField WaterOff { get; } =
        new("water off", FieldOf.Assembly, "Water may be off")
        {
            Kind = FieldKind.Hours,
            Most = 40,
            IsForMany = true,
            Heads = ["wateroff", "shutoffwindow", "shutdownwindow", "wateroffhours", "testwindow"],
            Hint = "Where it has fixed hours: 06:00 to 07:30. Empty: in working hours.",
        };

    /// <summary>How to find it.</summary>
    public static RegisterField Find { get; } =
        new("how to find", FieldOf.Assembly, "How to find it")
        {
            Most = 300,
            Heads = ["howtofind", "directions", "locationnotes", "locationdetails", "devicenotes"],
        };

    /// <summary>What happened to it that moves what is owed.</summary>
    public static RegisterField Events { get; } =
        new("events", FieldOf.Assembly, "What happened")
        {
            Kind = FieldKind.Events,
            Most = 4000,
            IsTyped = false,
            Heads = ["events"],
        };

    /// <summary>The day on which another took its place.</summary>
    public static RegisterField ReplacedOn { get; } =
        new("replaced on", FieldOf.Assembly, "Replaced on")
        {
            Kind = Day,
            IsTyped = false,
            Heads = ["replacedon"],
        };

    /// <summary>The tag of the one that it replaced.</summary>
    public static RegisterField Replaces { get; } =
        new("replaces", FieldOf.Assembly, "Replaces")
        {
            Most = 80,
            IsTyped = false,
            Heads = ["replaces"],
        };

    /// <summary>When the authority's list wants it tested.</summary>
    public static RegisterField Announced { get; } =
        new("due announced", FieldOf.Assembly, "Due, by the authority’s list")
        {
            Kind = Day,
            IsTyped = false,
            Heads =
            [
                "dueannounced",
                "duedate",
                "nextdue",
                "nextduedate",
                "testdue",
                "testduedate",
                "nexttest",
                "nexttestdate",
                "due",
            ],
        };
}
