using Mordel.Core.Catalogue;
using Mordel.Core.Collections;

namespace Mordel.Core.Rules;

/// <summary>Whether an item must be there for a verdict.</summary>
public enum Requirement
{
    /// <summary>Without it the test is incomplete; failing it fails the assembly.</summary>
    Required,

    /// <summary>Judged when it is there; never missed.</summary>
    Optional,

    /// <summary>Written down, not judged.</summary>
    Recorded,
}

/// <summary>
/// What a profile says about one item of one school. Valid by construction: what is judged has a criterion that its
/// answers can fail, what is only recorded has none.
/// </summary>
public sealed record ItemRule
{
    /// <summary>A rule.</summary>
    /// <param name="item">The item.</param>
    /// <param name="requirement">Whether it must be there.</param>
    /// <param name="criteria">All of them must be met.</param>
    /// <exception cref="ArgumentException">The criteria do not fit; <see cref="WhyNot"/> says how.</exception>
    public ItemRule(TestItem item, Requirement requirement, params EquatableArray<Criterion> criteria)
    {
        ArgumentNullException.ThrowIfNull(item);
        if (WhyNot(item, requirement, criteria) is { } why)
            throw new ArgumentException($"{item.Id}: {why}.", nameof(criteria));
        (Item, Requirement, Criteria) = (item, requirement, criteria);
    }

    /// <summary>The item.</summary>
    public TestItem Item { get; }

    /// <summary>Whether it must be there.</summary>
    public Requirement Requirement { get; }

    /// <summary>All of them must be met.</summary>
    public EquatableArray<Criterion> Criteria { get; }

    /// <summary>
    /// Whether the run sheet has a step for it though the verdict can do without; what is required is asked for in any
    /// case.
    /// </summary>
    public bool Asked
    {
        get;
        init => field = value && Requirement != Requirement.Required;
    }

    /// <summary>The limits in words: <c>at least 1.0 psid</c>; null where a number is measured against none.</summary>
    public string? LimitText =>
        string.Join(", ", Criteria.Where(c => c is not (Criterion.Tight or Criterion.Yes))) is { Length: > 0 } text
            ? text
            : null;

    /// <summary>Why a rule cannot be made, in words for whoever edits it; null when it can.</summary>
    public static string? WhyNot(TestItem item, Requirement requirement, EquatableArray<Criterion> criteria)
    {
        ArgumentNullException.ThrowIfNull(item);
        if (requirement == Requirement.Recorded)
            return criteria.IsEmpty ? null : "what is only recorded has no limit";
        if (criteria.IsEmpty)
            return "what is judged needs a limit that it can fail";
        if (criteria.FirstOrDefault(c => !c.Fits(item)) is { } unfit)
            return $"\"{unfit}\" cannot be asked of it";
        return criteria.Select(c => c.GetType()).Distinct().Count() == criteria.Length
            ? null
            : "the same demand stands twice";
    }
}
