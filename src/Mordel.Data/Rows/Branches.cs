namespace Mordel.Data.Rows;

/// <summary>
/// A branch of a large house: some people, some kits and some districts. It is a filter of lists, and says who changes
/// what; it keeps nothing from anybody's sight.
/// </summary>
public sealed class BranchRow
{
    public Guid Id { get; set; }
    public required string Name { get; set; }
}

/// <summary>A district of the register that a branch looks after; each belongs to one branch at most.</summary>
public sealed class BranchDistrictRow
{
    public required string District { get; set; }
    public Guid BranchId { get; set; }
    public BranchRow? Branch { get; set; }
}

/// <summary>Somebody who works for a branch; each for one at most.</summary>
public sealed class BranchPersonRow
{
    public Guid AccountId { get; set; }
    public Guid BranchId { get; set; }
    public BranchRow? Branch { get; set; }
}

/// <summary>A kit that belongs to a branch; each to one at most.</summary>
public sealed class BranchKitRow
{
    public Guid KitId { get; set; }
    public Guid BranchId { get; set; }
    public BranchRow? Branch { get; set; }
}
