namespace Mordel.Data.Rows;

/// <summary>When and from where a tester works, and what he or she is trained for beside testing.</summary>
public sealed class WorkingHoursRow
{
    /// <summary>What one can be trained for, as it is kept and as it is asked for.</summary>
    public const string ConfinedSpace = "confined space",
        FireLine = "fire line";

    /// <summary>All of it.</summary>
    public static readonly string[] AllSkills = [ConfinedSpace, FireLine];

    /// <summary>The tester's account.</summary>
    public Guid AccountId { get; set; }
    public TimeOnly From { get; set; } = new(7, 30);
    public TimeOnly Until { get; set; } = new(16, 30);

    /// <summary>Where the day begins and ends, metres east and north of the zero stone.</summary>
    public int East { get; set; }
    public int North { get; set; }

    /// <summary>How long the meal is, in minutes; 0 where there is none.</summary>
    public int LunchMinutes { get; set; } = 30;

    /// <summary>Some of <see cref="AllSkills"/>, separated by commas.</summary>
    public string Skills { get; set; } = "";
}

/// <summary>How far proposed rounds are.</summary>
public static class ProposalStates
{
    /// <summary>They are being looked for.</summary>
    public const string Looking = "looking";

    /// <summary>They can be looked at, changed and accepted.</summary>
    public const string Proposed = "proposed";

    /// <summary>They are the testers' rounds.</summary>
    public const string Accepted = "accepted";

    /// <summary>They were put away.</summary>
    public const string Dropped = "dropped";
}

/// <summary>Rounds that were proposed for some days.</summary>
public sealed class ProposalRow
{
    public Guid Id { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }

    /// <summary>One of <see cref="ProposalStates"/>.</summary>
    public required string State { get; set; }
    public DateOnly FirstDay { get; set; }
    public DateOnly LastDay { get; set; }

    /// <summary>How many stops are to be planned, and how many are left out of the last step.</summary>
    public int Stops { get; set; }
    public int LeftOut { get; set; }

    /// <summary>What is to be planned, as <c>mordel.plan/1</c>, without what is settled on the way.</summary>
    public required string Problem { get; set; }

    /// <summary>What went wrong, for a person; null where nothing did.</summary>
    public string? Says { get; set; }
    public DateTimeOffset? AcceptedAt { get; set; }
    public string? AcceptedBy { get; set; }
    public List<ProposalStepRow> Steps { get; } = [];
}

/// <summary>One step of a proposal: what was found or changed by hand. The last one stands.</summary>
public sealed class ProposalStepRow
{
    public Guid ProposalId { get; set; }
    public int Number { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>What was done, in a few words.</summary>
    public required string Says { get; set; }

    /// <summary>What is settled by hand, by stop: as in <c>mordel.plan/1</c>, in an object.</summary>
    public required string Pins { get; set; }

    /// <summary>The rounds, as <c>mordel.planned/1</c>.</summary>
    public required string Plan { get; set; }
}
