using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>The branches that a list can be of.</summary>
/// <param name="All">All of them, by name; empty in a house without branches.</param>
/// <param name="Own">The asker's own; null for who works for all.</param>
public sealed record BranchFilter(IReadOnlyList<DueChoice> All, string? Own)
{
    /// <summary>What stands in an address for all branches, where one's own would be shown.</summary>
    public const string Everything = "all";

    /// <summary>A house without branches.</summary>
    public static BranchFilter None { get; } = new([], null);

    /// <summary>The branches as they were read.</summary>
    /// <param name="read">By name, with the asker's own among them.</param>
    internal static BranchFilter Of(IReadOnlyList<(Guid Id, string Name, bool IsOwn)> read) =>
        new(
            [.. read.Select(b => new DueChoice($"{b.Id}", b.Name))],
            read.Where(b => b.IsOwn).Select(b => $"{b.Id}").FirstOrDefault()
        );

    /// <summary>What is shown: what was asked for, else one's own; null for all.</summary>
    /// <param name="asked">As it stands in the address.</param>
    public string? Shown(string? asked) =>
        asked is null ? Own
        : Id(asked) is null ? Nothing
        : asked;

    /// <summary>What stands in an address for no branch.</summary>
    public string? Nothing => Own is null ? null : Everything;

    /// <summary>What one is called; null for all of them.</summary>
    public string? Name(string? shown) => All.FirstOrDefault(b => b.Value == shown)?.Name;

    /// <summary>A page's address for a branch; for one's own, or for all, where none is said.</summary>
    public static string At(string page, string? branch) => branch is null ? page : $"{page}?branch={branch}";

    /// <summary>The branch that stands in an address; null for all of them.</summary>
    public static Guid? Id(string? said) => Guid.TryParse(said, out var id) ? id : null;
}

/// <summary>What of the register belongs to a branch.</summary>
public static class BranchRows
{
    /// <summary>Assemblies in the districts of a branch; all of them where none is said.</summary>
    public static IQueryable<AssemblyRow> OfBranch(this IQueryable<AssemblyRow> rows, Store store, string? branch) =>
        BranchFilter.Id(branch) is { } id
            ? rows.Where(a => store.BranchDistricts.Any(d => d.BranchId == id && d.District == a.Place!.District))
            : rows;
}
