using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Dues;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Units;

namespace Mordel.Core.Runs;

/// <summary>
/// Everything that a run is judged and reported with, as it was when the run began. It is kept with the run and covered
/// by its seal: replay, verdict, report and verification read it and the log, and nothing that may change later.
/// </summary>
public sealed record RunSetup
{
    /// <summary>The run.</summary>
    public required Guid Run { get; init; }

    /// <summary>The stop of a round that it was begun from; null where there was none.</summary>
    public Guid? Stop { get; init; }

    /// <summary>The report's number, unique in the installation.</summary>
    public required string Number { get; init; }

    /// <summary>When the run began, by the server's clock.</summary>
    public required DateTimeOffset BegunAt { get; init; }

    /// <summary>
    /// When it was written down, where that was not at the beginning: taken over once more, or added to a run of an
    /// earlier form; else null.
    /// </summary>
    public DateTimeOffset? WrittenDownAt { get; init; }

    /// <summary>The assembly.</summary>
    public required AssemblyFacts Assembly { get; init; }

    /// <summary>Where it stands, whose it is, and who asks for the test.</summary>
    public required PlaceFacts Place { get; init; }

    /// <summary>The kit.</summary>
    public required KitFacts Kit { get; init; }

    /// <summary>The tester.</summary>
    public required TesterFacts Tester { get; init; }

    /// <summary>The rules, in full.</summary>
    public required Profile Profile { get; init; }

    /// <summary>The run sheet as written out, with the version of its school.</summary>
    public required RunSheet Sheet { get; init; }

    /// <summary>Whether it is a visit at which a seasonal line is put on or off.</summary>
    public bool IsSeasonal => Sheet.Setup.Seasonal;

    /// <summary>The repair that this test follows; null where it follows none.</summary>
    public RepairFacts? Repair { get; init; }

    /// <summary>What whoever owns or uses the place agreed to beforehand; null where nobody did.</summary>
    public GivenConsent? Consent { get; init; }

    /// <summary>What the run is made with.</summary>
    public RunPlan Plan =>
        field ??= new(Sheet, Profile, Kit.Accuracy, Kit.Resolution, Kit.FullScale)
        {
            ReliefPort = Assembly.ReliefPort,
            UsualLeaving = UsualLeaving,
            Consent = Consent,
        };

    // A line is put on a little before its season.
    private Leaving? UsualLeaving =>
        !IsSeasonal || Assembly.Season is not { } season ? null
        : season.Includes(DateOnly.FromDateTime(BegunAt.UtcDateTime).AddDays(DueEngine.StartUpBefore))
        || season.Includes(DateOnly.FromDateTime(BegunAt.UtcDateTime))
            ? Leaving.InService
        : Leaving.Drained;
}

/// <summary>A permission that was given before the visit, on the owner's page.</summary>
/// <param name="Name">Who gave it, as typed there.</param>
/// <param name="At">When.</param>
/// <param name="Day">For which day.</param>
/// <param name="From">From when the water may be off, by the clock of the place.</param>
/// <param name="Until">Until when.</param>
public sealed record GivenConsent(string Name, DateTimeOffset At, DateOnly Day, TimeOnly From, TimeOnly Until)
{
    /// <summary>The longest name, in characters.</summary>
    public const int LongestName = 120;

    /// <summary>What it is for: <c>3 Jun 2030, 10:00 to 11:30</c>.</summary>
    public string For => $"{Day:d MMM yyyy}, {From:HH:mm} to {Until:HH:mm}";
}

/// <summary>An assembly as the register had it.</summary>
public sealed record AssemblyFacts
{
    /// <summary>Its place in the register.</summary>
    public required Guid Id { get; init; }

    /// <summary>The firm's own number on its tag.</summary>
    public required string Tag { get; init; }

    /// <summary>The type.</summary>
    public required AssemblyType Type { get; init; }

    /// <summary>The body where the type has more than one: <c>four-cock</c>; else null.</summary>
    public string? Body { get; init; }

    /// <summary>What it has beside the usual.</summary>
    public BodyFeatures Features { get; init; }

    /// <summary>Who made it, as the register has it.</summary>
    public required string Make { get; init; }

    /// <summary>The maker's model.</summary>
    public required string Model { get; init; }

    /// <summary>Nominal size with its unit, as the register has it: <c>1 in</c>.</summary>
    public required string Size { get; init; }

    /// <summary>The number stamped on it.</summary>
    public required string Serial { get; init; }

    /// <summary>How it lies.</summary>
    public required FlowDirection Flow { get; init; }

    /// <summary>Where at the place it stands.</summary>
    public required string Location { get; init; }

    /// <summary>What it feeds.</summary>
    public required string Serves { get; init; }

    /// <summary><c>high</c> or <c>low</c>.</summary>
    public required string Hazard { get; init; }

    /// <summary><c>containment</c> or <c>isolation</c>.</summary>
    public required string Protection { get; init; }

    /// <summary>The class of use; null where nobody has said.</summary>
    public string? Use { get; init; }

    /// <summary>When a seasonal line is in use; null where it is all year.</summary>
    public Season? Season { get; init; }

    /// <summary>What of it decides when it is tested next.</summary>
    public DueFacts Due => new(Type, Hazard, Use, Season, InstalledOn);

    /// <summary>Whether it feeds a fire system.</summary>
    public bool FireLine { get; init; }

    /// <summary>Diameter of an RP's relief port, where it is known.</summary>
    public Length? ReliefPort { get; init; }

    /// <summary>The day it was put in.</summary>
    public required DateOnly InstalledOn { get; init; }

    /// <summary>Its parts.</summary>
    public AssemblyBody Parts => Bodies.Find(Type, Body, Features);
}

/// <summary>Where an assembly stands, whose it is, and who asks for the test.</summary>
/// <param name="Name">The place.</param>
/// <param name="Address">Street.</param>
/// <param name="District">Part of the town.</param>
/// <param name="Owner">The owner's name.</param>
/// <param name="OwnerAddress">The owner's address.</param>
/// <param name="OwnerPhone">The owner's telephone.</param>
/// <param name="Contact">Whom to ask for at the place.</param>
/// <param name="Authority">The authority.</param>
public sealed record PlaceFacts(
    string Name,
    string Address,
    string District,
    string Owner,
    string OwnerAddress,
    string OwnerPhone,
    string Contact,
    string Authority
)
{
    /// <summary>Whom to ask for, without the telephone number behind the name.</summary>
    public static string NameIn(string contact)
    {
        ArgumentNullException.ThrowIfNull(contact);
        return contact.Split(',')[0].Trim();
    }
}

/// <summary>A kit with its calibration.</summary>
public sealed record KitFacts
{
    /// <summary>Its place among the kits.</summary>
    public required Guid Id { get; init; }

    /// <summary>Its plumbing.</summary>
    public required Kit Kit { get; init; }

    /// <summary>Who made its gauge.</summary>
    public required string Make { get; init; }

    /// <summary>The maker's model.</summary>
    public required string Model { get; init; }

    /// <summary>The number on its gauge.</summary>
    public required string Serial { get; init; }

    /// <summary>The smallest step of its gauge; gives the unit it reads in.</summary>
    public required Differential Resolution { get; init; }

    /// <summary>How good its gauge is, either side.</summary>
    public required Differential Accuracy { get; init; }

    /// <summary>The end of its scale.</summary>
    public required Differential FullScale { get; init; }

    /// <summary>The day of its last calibration.</summary>
    public required DateOnly CalibratedOn { get; init; }

    /// <summary>Who calibrated it.</summary>
    public required string CalibratedBy { get; init; }

    /// <summary>The last day on which that calibration counts.</summary>
    public required DateOnly CalibrationDue { get; init; }

    /// <summary>The unit it reads in.</summary>
    public DifferentialUnit Unit => Resolution.Unit;

    /// <summary>Why its readings do not count on a day; null when they do.</summary>
    public string? Unfit(DateOnly day) =>
        CalibrationDue < day ? $"Kit {Serial} has been out of calibration since {CalibrationDue:d MMMM yyyy}."
        : CalibratedOn > day ? $"Kit {Serial} has a calibration date in the future."
        : null;
}

/// <summary>A tester.</summary>
/// <param name="Id">The account.</param>
/// <param name="Name">The full name.</param>
/// <param name="Certificate">The certificate that covered the type when the run began; null while there was
/// none.</param>
public sealed record TesterFacts(Guid Id, string Name, CertificateFacts? Certificate);

/// <summary>A tester's certificate.</summary>
/// <param name="Number">Its number.</param>
/// <param name="IssuedBy">Who issued it.</param>
/// <param name="Types">The types it covers.</param>
/// <param name="From">First day.</param>
/// <param name="Until">Last day.</param>
public sealed record CertificateFacts(
    string Number,
    string IssuedBy,
    EquatableArray<AssemblyType> Types,
    DateOnly From,
    DateOnly Until
)
{
    /// <summary>The authority that takes it, by its name; null where all do.</summary>
    public string? Authority { get; init; }

    /// <summary>Its class, in the words of who issued it; null where it has none.</summary>
    public string? Class { get; init; }
}
