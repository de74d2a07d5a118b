using System.Collections.Concurrent;

namespace Mordel.Data.Processes;

/// <summary>
/// What the processes of one installation tell each other: that something waits, that a session has ended, what a gauge
/// reads. Nothing depends on its arriving: whoever missed it looks by itself after a while. A process that is alone has
/// nobody to tell.
/// </summary>
public class Neighbours
{
    private readonly ConcurrentDictionary<string, Action<string>> hearers = new(StringComparer.Ordinal);

    /// <summary>Says what is done when another process tells something of a kind.</summary>
    /// <param name="what">The kind: a word without spaces.</param>
    /// <param name="does">Called with the rest; must neither wait nor throw.</param>
    public void Hear(string what, Action<string> does) => hearers[what] = does;

    /// <summary>The same for what is told of by its id alone.</summary>
    public void HearOf(string what, Action<Guid> does) => Hear(what, says =>
        {
            if (Guid.TryParse(says, out var id))
                does(id);
        });

    /// <summary>Tells the others of something by its id.</summary>
    public void TellOf(string what, Guid id) => Tell(what, id.ToString("N"));

    /// <summary>Tells the others, and waits for nothing.</summary>
    /// <param name="what">The kind: a word without spaces.</param>
    /// <param name="says">The rest; a few thousand signs at most.</param>
    public virtual void Tell(string what, string says = "") { }

    /// <summary>Listens to the others and tells them what waits, until it is called off.</summary>
    public virtual Task Run(CancellationToken stopping) => Task.CompletedTask;

    /// <summary>Another process has told something.</summary>
    protected void Heard(string what, string says)
    {
        if (hearers.TryGetValue(what, out var does))
            does(says);
    }

    /// <summary>Some of what was told may have been missed.</summary>
    protected void Missed()
    {
        foreach (var (what, does) in hearers)
            if (what.StartsWith(Bell.Rings, StringComparison.Ordinal))
                does("");
    }
}
