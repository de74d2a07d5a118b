using Mordel.Core.Reports;

namespace Mordel.Data;

/// <summary>What the whole installation is.</summary>
/// <param name="Simulated">Whether its data are made up: reports say so.</param>
/// <param name="TurnedDiscHolds">
/// Whether a seal disc that was turned over is a repair here; else it is a stopgap, with a follow-up.
/// </param>
public sealed record Installation(bool Simulated, bool TurnedDiscHolds = false)
{
    /// <summary>The firm, as letters name it.</summary>
    public string Firm { get; init; } = "Your testers";

    /// <summary>Its telephone; empty where letters name none.</summary>
    public string FirmPhone { get; init; } = "";

    /// <summary>Where this installation is reached from outside: <c>https://tests.example</c>, without a slash at the
    /// end. Links in letters begin with it.</summary>
    public string Address { get; init; } = "http://localhost:5000";

    /// <summary>Where anybody can check a report.</summary>
    /// <param name="record">The hash of its record.</param>
    public CheckAddress CheckOf(string record) => new(Address, ReportCode.Of(record));
}
