using System.Collections.Immutable;
using System.Security.Claims;

namespace Mordel.Web.Application;

/// <summary>A room of the application, and who has it.</summary>
/// <param name="Name">What the bar says.</param>
/// <param name="Href">Where it is.</param>
/// <param name="Policy">Who has it, one of <see cref="Policies"/>; null for everybody who is signed in.</param>
/// <param name="Folders">The folders of its pages.</param>
/// <param name="Key">The letter that leads there after g; null where none does.</param>
/// <param name="InTheFoot">Whether it stands in the foot of every page: seldom gone to, and the bar is full.</param>
public sealed record RoomEntry(
    string Name,
    string Href,
    string? Policy,
    ImmutableArray<string> Folders,
    char? Key = null,
    bool InTheFoot = false
)
{
    /// <summary>Whether somebody has this room.</summary>
    public bool IsFor(ClaimsPrincipal who) => Policies.RolesOf(Policy).Any(who.IsInRole);
}

/// <summary>The rooms there are: what the bar offers is what the server lets in.</summary>
public static class Rooms
{
    /// <summary>The day's round.</summary>
    public static RoomEntry Today { get; } =
        new("Today", "/", Policies.Field, ["/Stops", "/Runs", "/Reports", "/Programs", "/Field"], 't');

    /// <summary>What is owed, and the office's work on the register.</summary>
    public static RoomEntry Due { get; } = new("Due", "/due", Policies.Desk, ["/Due", "/Imports", "/Office"], 'u');

    /// <summary>Who goes where, and when.</summary>
    public static RoomEntry Rounds { get; } = new("Rounds", "/rounds", Policies.Desk, ["/Rounds"], 'n');

    /// <summary>Owners, places, assemblies.</summary>
    public static RoomEntry Register { get; } = new("Register", "/register", Policies.Field, ["/Register"], 'r');

    /// <summary>What is wrong with an assembly, and putting it right.</summary>
    public static RoomEntry ItDrips { get; } =
        new("It drips", "/diagnoses", Policies.Field, ["/Diagnoses", "/Repairs", "/Spares"], 'd');

    /// <summary>Classes at the bench, for who teaches.</summary>
    public static RoomEntry Classes { get; } = new("Classes", "/classes", Policies.Teach, ["/Classes"], 'c');

    /// <summary>The classroom without water.</summary>
    public static RoomEntry Bench { get; } = new("Bench", "/bench", null, ["/Bench"], 'b');

    /// <summary>The run sheets of every school, and how bodies come apart.</summary>
    public static RoomEntry Sheets { get; } = new("Sheets", "/run-sheets", null, ["/RunSheets", "/BenchSheets"], 's');

    /// <summary>The rules of each authority.</summary>
    public static RoomEntry Rules { get; } = new("Rules", "/rules", Policies.Desk, ["/Rules"]);

    /// <summary>What leaves the house.</summary>
    public static RoomEntry Outbox { get; } = new("Outbox", "/outbox", Policies.Desk, ["/Outbox", "/Notices"], 'o');

    /// <summary>Kits, certificates, people.</summary>
    public static RoomEntry KitsAndPeople { get; } =
        new("Kits & people", "/kits-and-people", Policies.Desk, ["/KitsAndPeople"]);

    /// <summary>What all the tests say.</summary>
    public static RoomEntry Standing { get; } = new("Standing", "/standing", Policies.Desk, ["/Standing"]);

    /// <summary>How the installation is: backups, seals, who did what.</summary>
    public static RoomEntry Installation { get; } =
        new("Installation", "/installation", Policies.Own, ["/Upkeep"], InTheFoot: true);

    /// <summary>All of them, in the order of the bar.</summary>
    public static ImmutableArray<RoomEntry> All { get; } =
    [
        Today,
        Due,
        Rounds,
        Register,
        ItDrips,
        Classes,
        Bench,
        Sheets,
        Rules,
        Outbox,
        KitsAndPeople,
        Standing,
        Installation,
    ];

    /// <summary>The rooms that somebody has.</summary>
    public static IEnumerable<RoomEntry> OpenTo(ClaimsPrincipal who) => All.Where(r => r.IsFor(who));
}
