using Mordel.Core.Notices;
using Mordel.Core.Register;

namespace Mordel.Data.Rows;

/// <summary>An authority and the profile it works by.</summary>
public sealed class AuthorityRow
{
    public Guid Id { get; set; }
    public required string Name { get; set; }
    public required string ProfileId { get; set; }

    /// <summary>The way it takes reports, one of <see cref="OutboxWays"/>; null where it takes none.</summary>
    public string? ReportsBy { get; set; }

    /// <summary>The address of that way.</summary>
    public string? ReportsTo { get; set; }

    /// <summary>The forms it takes them in, some of <see cref="ReportForms"/>, a space between; null for those that the
    /// way takes.</summary>
    public string? ReportsAs { get; set; }

    /// <summary>The key with which its service is told who calls, hidden; null where it asks for none.</summary>
    public string? ReportsKey { get; set; }

    /// <summary>The last ruling of its service that is known here.</summary>
    public long RulingsSeen { get; set; }

    /// <summary>Where it is told at once of a failure on a high hazard, by mail; null where it is not.</summary>
    public string? AlertsTo { get; set; }

    /// <summary>The rules by which what is owed there was last worked out; null where it never was.</summary>
    public string? DueBy { get; set; }
}

/// <summary>One version of a profile that this installation has made; never changed once it is there.</summary>
public sealed class ProfileRow
{
    public Guid Id { get; set; }
    public required string ProfileId { get; set; }
    public int Version { get; set; }

    /// <summary>The profile as <c>mordel.profile/1</c>.</summary>
    public required string Json { get; set; }
    public DateTimeOffset MadeAt { get; set; }
    public required string MadeBy { get; set; }
}

/// <summary>Who owns an assembly and gets its reports.</summary>
public sealed class OwnerRow
{
    public Guid Id { get; set; }
    public required string Name { get; set; }
    public required string Address { get; set; }
    public required string Phone { get; set; }

    /// <summary>Where letters go by mail; empty where it is not known.</summary>
    public string Mail { get; set; } = "";

    /// <summary>The language of letters, <c>en</c>; empty where nobody has said.</summary>
    public string Language { get; set; } = "";
}

/// <summary>A place with one or more assemblies.</summary>
public sealed class PlaceRow
{
    public Guid Id { get; set; }
    public Guid OwnerId { get; set; }
    public OwnerRow? Owner { get; set; }
    public required string Name { get; set; }
    public required string Address { get; set; }
    public required string District { get; set; }

    /// <summary>Metres east and north of the town's zero stone.</summary>
    public int East { get; set; }
    public int North { get; set; }
    public required string Contact { get; set; }
    public required string Access { get; set; }

    /// <summary>Where letters to whoever is there go, beside the owner; empty where nobody has said.</summary>
    public string OccupantMail { get; set; } = "";
    public List<AssemblyRow> Assemblies { get; } = [];
}

/// <summary>An assembly as it is kept in the register.</summary>
public sealed class AssemblyRow
{
    public Guid Id { get; set; }
    public Guid PlaceId { get; set; }
    public PlaceRow? Place { get; set; }
    public Guid AuthorityId { get; set; }
    public AuthorityRow? Authority { get; set; }

    /// <summary>The firm's own number on its tag.</summary>
    public required string Tag { get; set; }
    public required string Type { get; set; }
    public required string Make { get; set; }
    public required string Model { get; set; }
    public required string Size { get; set; }
    public required string Serial
    {
        get;
        set => (field, SerialKey) = (value, SerialKeys.Of(value));
    }

    /// <summary>What serials that are alike have in common; follows the serial.</summary>
    public string SerialKey { get; private set; } = "";

    /// <summary>Works the key out of the serial once more.</summary>
    public void KeepSerialKey() => SerialKey = SerialKeys.Of(Serial);

    /// <summary><c>LeftToRight</c>, <c>RightToLeft</c>, <c>Upward</c> or <c>Downward</c>.</summary>
    public required string Flow { get; set; }
    public required string Location { get; set; }
    public required string Serves { get; set; }

    /// <summary><c>high</c> or <c>low</c>.</summary>
    public required string Hazard { get; set; }

    /// <summary><c>containment</c> or <c>isolation</c>.</summary>
    public required string Protection { get; set; }
    public bool FireLine { get; set; }

    /// <summary>The body where the type has more than one: <c>four-cock</c> or <c>three-tap</c>.</summary>
    public string? Body { get; set; }

    /// <summary>A strainer stands in the pipe behind SO1.</summary>
    public bool Strainer { get; set; }

    /// <summary>The cocks carry fittings already.</summary>
    public bool FittedCocks { get; set; }

    /// <summary>It stands in a confined space.</summary>
    public bool ConfinedSpace { get; set; }

    /// <summary>A fire line's bypass runs around it.</summary>
    public bool BypassLine { get; set; }

    /// <summary>Diameter of an RP's relief port in millimetres, where it is known.</summary>
    public decimal? ReliefPort { get; set; }
    public DateOnly InstalledOn { get; set; }
    public required string HowToFind { get; set; }

    /// <summary>The assembly that this one replaced.</summary>
    public Guid? ReplacesId { get; set; }

    /// <summary>The day on which another serial number was found in its place.</summary>
    public DateOnly? ReplacedOn { get; set; }

    /// <summary>The entry that stands where this one was entered twice; null where it stands itself.</summary>
    public Guid? MergedIntoId { get; set; }

    /// <summary>The class of use; null where nobody has said.</summary>
    public string? Use { get; set; }

    /// <summary>When a seasonal line is in use, <c>04-15..10-15</c>; null where it is all year.</summary>
    public string? Season { get; set; }

    /// <summary>When its water may be off, <c>06:00..07:30</c>; null where working hours will do.</summary>
    public string? WaterOff { get; set; }

    /// <summary>
    /// Why no test can be made for the time being, one of <see cref="StuckReasons"/>; null where it can.
    /// </summary>
    public string? Stuck { get; set; }
    public string? StuckNote { get; set; }
    public DateOnly? StuckSince { get; set; }

    /// <summary>Projection of the sealed runs.</summary>
    public DateOnly? LastTestOn { get; set; }
    public string? LastOutcome { get; set; }

    /// <summary>Projection of the last test that was brought in from elsewhere.</summary>
    public DateOnly? BroughtOn { get; set; }
    public string? BroughtOutcome { get; set; }

    /// <summary>
    /// Projection of what is owed: by when, to which day it is let pass, what asks for it, why, and what follows. All
    /// null where nothing is owed.
    /// </summary>
    public DateOnly? NextDue { get; set; }
    public DateOnly? DueUntil { get; set; }
    public string? DueCause { get; set; }
    public string? DueWhy { get; set; }
    public string? DueThen { get; set; }

    /// <summary>Projection of what happened to it, one of <see cref="AssemblyStates"/>.</summary>
    public string State { get; set; } = AssemblyStates.InService;

    /// <summary>The chance that the next test fails, in percent; null where there are too few tests to say.</summary>
    public int? ChanceToFail { get; set; }

    /// <summary>The part that it will most likely fail by, <c>cv1</c>.</summary>
    public string? LikelyPart { get; set; }
}

/// <summary>A stop of a tester's round.</summary>
public sealed class StopRow
{
    public Guid Id { get; set; }
    public DateOnly Day { get; set; }
    public Guid TesterId { get; set; }
    public int Order { get; set; }
    public Guid AssemblyId { get; set; }
    public AssemblyRow? Assembly { get; set; }

    /// <summary>When the water may be shut off.</summary>
    public TimeOnly WindowFrom { get; set; }
    public TimeOnly WindowUntil { get; set; }
    public int Minutes { get; set; }

    /// <summary>When the work is planned to begin; null where nobody has planned the hour.</summary>
    public TimeOnly? PlannedAt { get; set; }

    /// <summary>How often its day, tester or hour has changed, and when last: calendars follow it.</summary>
    public int Sequence { get; set; }
    public DateTimeOffset? ChangedAt { get; set; }

    /// <summary>What owner and occupant were told last; null where they were told nothing.</summary>
    public DateOnly? ToldDay { get; set; }
    public TimeOnly? ToldFrom { get; set; }
    public TimeOnly? ToldUntil { get; set; }

    /// <summary>The day of the visit of which they were reminded; null where they were not.</summary>
    public DateOnly? RemindedOf { get; set; }

    /// <summary>What can be told of it as it stands.</summary>
    public VisitPromise Promise() => VisitPromise.Of(Day, WindowFrom, WindowUntil, PlannedAt, Minutes);

    /// <summary>What was told of it last; null where nothing was.</summary>
    public VisitPromise? Told() =>
        this is { ToldDay: { } day, ToldFrom: { } from, ToldUntil: { } until } ? new(day, from, until) : null;

    /// <summary>Writes down that it was told as it stands.</summary>
    public void RememberTold()
    {
        var promise = Promise();
        (ToldDay, ToldFrom, ToldUntil) = (promise.Day, promise.From, promise.Until);
    }

    /// <summary>When the tester is to be there, or the window opens.</summary>
    public TimeOnly From => PlannedAt ?? WindowFrom;

    /// <summary>The kind of visit, <see cref="Seasonal"/>; null for an ordinary test.</summary>
    public string? Visit { get; set; }

    /// <summary>A seasonal line is put on or off: charged, tested, and left as agreed.</summary>
    public const string Seasonal = "seasonal";

    /// <summary>Whether it is such a visit.</summary>
    public bool IsSeasonal => Visit == Seasonal;
    public string? Special { get; set; }
}

/// <summary>How a make and model is built, so that the right bench sheets are offered for it.</summary>
public sealed class ModelBuildRow
{
    public required string Make { get; set; }
    public required string Model { get; set; }

    /// <summary>The family of its checks or its inlet; null where nobody has said.</summary>
    public string? Family { get; set; }

    /// <summary>The family of its relief valve; null where it has none of its own.</summary>
    public string? Relief { get; set; }
    public DateTimeOffset SaidAt { get; set; }
    public required string SaidBy { get; set; }
}
