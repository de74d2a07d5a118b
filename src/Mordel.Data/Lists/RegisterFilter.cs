using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>In which order the register is shown.</summary>
public enum RegisterOrder
{
    /// <summary>By tag.</summary>
    Tag,

    /// <summary>By what is due first.</summary>
    Due,

    /// <summary>By the last test, the oldest first.</summary>
    LastTest,
}

/// <summary>A piece of the map, in metres from the zero stone.</summary>
public readonly record struct MapArea(int West, int South, int East, int North)
{
    // Metres from the zero stone: further than any place is kept.
    private const int Furthest = 1_000_000;

    /// <summary>Reads <c>-800,-200,400,900</c>; null where it is none.</summary>
    public static MapArea? Parse(string? text)
    {
        var parts = (text ?? "").Split(',');
        var numbers = new int[4];
        if (parts.Length != 4)
            return null;
        for (var i = 0; i < 4; i++)
            if (
                !int.TryParse(parts[i], System.Globalization.CultureInfo.InvariantCulture, out numbers[i])
                || Math.Abs((long)numbers[i]) > Furthest
            )
                return null;
        return numbers[0] < numbers[2] && numbers[1] < numbers[3]
            ? new(numbers[0], numbers[1], numbers[2], numbers[3])
            : null;
    }

    /// <summary>As it is read.</summary>
    public override string ToString() =>
        string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{West},{South},{East},{North}");
}

/// <summary>Which assemblies of the register are shown.</summary>
public sealed record RegisterFilter
{
    public string? Type { get; init; }
    public string? Hazard { get; init; }
    public Guid? Authority { get; init; }
    public string? District { get; init; }

    /// <summary>Of the last sealed test.</summary>
    public string? Outcome { get; init; }

    /// <summary><c>overdue</c>, <c>month</c> or <c>nothing</c>.</summary>
    public string? Due { get; init; }
    public string? Use { get; init; }
    public Guid? Owner { get; init; }
    public Guid? Place { get; init; }

    /// <summary>How it is built inside, a construction family.</summary>
    public string? Family { get; init; }

    /// <summary>One of <see cref="AssemblyStates"/>.</summary>
    public string? State { get; init; }

    /// <summary>A piece of the map.</summary>
    public string? Area { get; init; }

    /// <summary>A branch's id; anything else for all of them.</summary>
    public string? Branch { get; init; }

    /// <summary>Whether anything is left out.</summary>
    public bool IsNothing => BranchFilter.Id(Branch) is null && this with { Branch = null } == new RegisterFilter();

    /// <summary>What it leaves.</summary>
    public IQueryable<AssemblyRow> Of(Store store, DateOnly today)
    {
        ArgumentNullException.ThrowIfNull(store);
        // What was replaced or entered twice is found from the passport of what stands, or where it is asked for.
        var rows = State is AssemblyStates.Replaced or AssemblyStates.Merged
            ? store.Assemblies.AsQueryable()
            : store.Assemblies.Where(a => a.ReplacedOn == null);
        rows = rows.OfBranch(store, Branch);
        if (Type is not null)
            rows = rows.Where(a => a.Type == Type);
        if (Hazard is not null)
            rows = rows.Where(a => a.Hazard == Hazard);
        if (Authority is not null)
            rows = rows.Where(a => a.AuthorityId == Authority);
        if (District is not null)
            rows = rows.Where(a => a.Place!.District == District);
        if (Outcome is not null)
            rows =
                Outcome == "none" ? rows.Where(a => a.LastOutcome == null) : rows.Where(a => a.LastOutcome == Outcome);
        if (Use is not null)
            rows = rows.Where(a => a.Use == Use);
        if (Owner is not null)
            rows = rows.Where(a => a.Place!.OwnerId == Owner);
        if (Place is not null)
            rows = rows.Where(a => a.PlaceId == Place);
        if (Family is not null)
            rows = rows.Where(a =>
                store.ModelBuilds.Any(b => b.Make == a.Make && b.Model == a.Model && b.Family == Family)
            );
        if (State is not null)
            rows = rows.Where(a => a.State == State);
        var month = today.AddDays(31);
        rows = Due switch
        {
            "overdue" => rows.Where(a => a.NextDue < today),
            "month" => rows.Where(a => a.NextDue >= today && a.NextDue < month),
            "nothing" => rows.Where(a => a.NextDue == null),
            _ => rows,
        };
        if (MapArea.Parse(Area) is { } area)
            rows = rows.Where(a =>
                a.Place!.East >= area.West
                && a.Place.East < area.East
                && a.Place.North >= area.South
                && a.Place.North < area.North
            );
        return rows;
    }
}
