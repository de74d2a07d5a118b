using Mordel.Core.Views;

namespace Mordel.Data.Commands.Field;

/// <summary>A line of facts: what it is, and what it says.</summary>
public sealed record AboardFact(string Name, string Says);

/// <summary>A stop with all that a test, a repair and a diagnosis at it need.</summary>
public sealed record AboardStop
{
    public required Guid Id { get; init; }
    public required DateOnly Day { get; init; }
    public required int Order { get; init; }
    public required string At { get; init; }
    public required string Window { get; init; }
    public required string State { get; init; }

    /// <summary>
    /// The run: the one that is open, or the id that one begun on a device gets; null where no test can be made.
    /// </summary>
    public Guid? Run { get; init; }
    public string? Outcome { get; init; }
    public required string Place { get; init; }
    public required string Address { get; init; }
    public required string What { get; init; }
    public required Guid Assembly { get; init; }
    public required string Tag { get; init; }
    public required IReadOnlyList<AboardFact> Facts { get; init; }

    /// <summary>What to bring: kit and what its sheet needs.</summary>
    public IReadOnlyList<string> Bring { get; init; } = [];
    public required IReadOnlyList<string> Mind { get; init; }
    public required string Drawing { get; init; }
    public required IReadOnlyList<string> Colours { get; init; }

    /// <summary>
    /// Why a test could not be begun, or not be signed, as things stand; null where nothing is known.
    /// </summary>
    public string? WhyNot { get; init; }

    /// <summary><c>mordel.run-setup/1</c> in its complete form; null where no test can be made.</summary>
    public string? Setup { get; init; }

    /// <summary>Whether the run is open on the server already.</summary>
    public bool IsBegun => State == "running";

    /// <summary>The pass to begin it with, and the test after a repair.</summary>
    public string? Pass { get; init; }
    public IReadOnlyList<string> Log { get; init; } = [];

    /// <summary>The verdict on the test before, as <c>mordel.verdict/1</c>; empty where there is none.</summary>
    public string Previous { get; init; } = "";

    /// <summary>What a board begins with; null where there is no atlas.</summary>
    public string? Board { get; init; }
    public string? Atlas { get; init; }
    public required RepairPlaceFile Repair { get; init; }
}

/// <summary>What a tester takes along.</summary>
public sealed record Aboard(
    DateTimeOffset MadeAt,
    Guid Tester,
    string Name,
    IReadOnlyList<string> Warnings,
    IReadOnlyList<AboardStop> Stops
);
