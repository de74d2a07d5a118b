namespace Mordel.Data.Audit;

/// <summary>Who does what is done in this scope, and what of it waits to be written down with the next save.</summary>
public sealed class WhoAsks
{
    private readonly List<(string What, string On, string Says)> waiting = [];

    /// <summary>Their account; null where it is Mordel itself.</summary>
    public Guid? AccountId { get; private set; }

    /// <summary>Their name.</summary>
    public string Name { get; private set; } = "Mordel";

    /// <summary>The network address they ask from; empty where it is none.</summary>
    public string From { get; private set; } = "";

    /// <summary>Says who it is.</summary>
    public void Is(Guid? accountId, string name, string from) => (AccountId, Name, From) = (accountId, name, from);

    /// <summary>Says something to be written down with the next save.</summary>
    public void Note(string what, string on, string says) => waiting.Add((what, on, says));

    /// <summary>What waits; it does not any more.</summary>
    public IReadOnlyList<(string What, string On, string Says)> Take()
    {
        var taken = waiting.ToList();
        waiting.Clear();
        return taken;
    }
}
