using System.Collections.Immutable;
using Mordel.Core.Hydraulics;
using Mordel.Core.Simulation;

namespace Mordel.Core.Training;

/// <summary>
/// One bench: a rig under hands, or under a recording; a sheet beside it when it is guided; an experiment that the
/// bench performs itself and takes back again.
/// </summary>
public sealed class BenchSession
{
    private ImmutableArray<TimedAction> feed = [];
    private readonly List<string> refused = [];
    private int fed,
        began,
        watched;

    /// <summary>A bench.</summary>
    /// <param name="scenario">The rig.</param>
    /// <param name="guided">Whether the sheet is beside it.</param>
    /// <param name="budget">What may be spent on the water; null for as much as it takes.</param>
    public BenchSession(Scenario scenario, bool guided, WorkBudget? budget = null)
    {
        ArgumentNullException.ThrowIfNull(scenario);
        Scenario = scenario;
        Live = new(scenario.Situation, budget);
        View = new(Live);
        if (guided)
            Guide = new(scenario, Live);
    }

    /// <summary>The rig it was set up with.</summary>
    public Scenario Scenario { get; }

    /// <summary>The rig.</summary>
    public LiveRig Live { get; }

    /// <summary>What a screen shows of it.</summary>
    public BenchView View { get; }

    /// <summary>The sheet; null where there is none.</summary>
    public Guide? Guide { get; }

    /// <summary>The experiment under way; null while there is none.</summary>
    public WhatIf? Trying { get; private set; }

    /// <summary>What the water did in it, once it has been watched; null before.</summary>
    public string? Told { get; private set; }

    /// <summary>The longest that a bench runs.</summary>
    public bool IsOver => Live.Tick >= Recording.Longest || Live.Actions.Count >= Recording.Most;

    /// <summary>What has been done so far, to be kept.</summary>
    public Recording Recording => new(Scenario, [.. Live.Actions], Live.Tick);

    /// <summary>Does something; answers why not.</summary>
    public string? Do(BenchAction action)
    {
        if (IsOver)
            return "This bench has run its two hours. Hand in, or begin a new one.";
        var refusal = Live.Do(action);
        if (Trying is null)
            Guide?.Look();
        return refusal;
    }

    /// <summary>Why something of a recording could not be done, in its order.</summary>
    public IReadOnlyList<string> Refused => refused;

    /// <summary>
    /// Plays a recording to its end, with what is said to the sheet on the way, and does what is done at the end.
    /// </summary>
    /// <param name="recording">The recording, on this bench's rig.</param>
    /// <param name="words">What is said, in the order of its moments.</param>
    public void Play(Recording recording, IEnumerable<SheetWord> words)
    {
        ArgumentNullException.ThrowIfNull(words);
        Load(recording);
        foreach (var word in words)
        {
            Advance(word.At - Live.Tick);
            if (Guide is not null)
                word.To(Guide);
        }

        Advance(recording.End - Live.Tick);
        DoWhatIsDue();
        Guide?.Look();
    }

    private void DoWhatIsDue()
    {
        for (; fed < feed.Length && feed[fed].At <= Live.Tick; fed++)
            if (Live.Do(feed[fed].What) is { } why)
                refused.Add(why);
    }

    /// <summary>Lets time pass; what lies on a recording is done when its time comes.</summary>
    public void Advance(int ticks)
    {
        for (var i = 0; i < ticks && !IsOver; i++)
        {
            DoWhatIsDue();
            Live.Advance(1);
            if (Trying is null)
                Guide?.Look();
            else if (Told is null && Live.Tick >= watched)
                Told = Narrator.Tell(Live, began, Live.Tick);
        }
    }

    /// <summary>Puts a recording in, to be played from the beginning.</summary>
    public void Load(Recording recording)
    {
        ArgumentNullException.ThrowIfNull(recording);
        Live.Back(0);
        (feed, fed) = (recording.Actions, 0);
    }

    /// <summary>Goes to a moment of the recording, back or forth.</summary>
    public void Seek(int tick)
    {
        Live.Jump(tick, feed);
        fed = Live.Actions.Count;
        Advance(tick - Live.Tick);
    }

    /// <summary>Goes back to an earlier moment; what was done since is gone.</summary>
    public void Back(int tick)
    {
        Live.Back(Math.Clamp(tick, 0, Live.Tick));
        (Trying, Told, feed, fed) = (null, null, [], 0);
        Guide?.Back();
    }

    /// <summary>Tries it otherwise on this rig, from here.</summary>
    public void Try(WhatIf otherwise)
    {
        ArgumentNullException.ThrowIfNull(otherwise);
        (Trying, Told, began) = (otherwise, null, Live.Tick);
        watched = began + (otherwise.Seconds * Recording.PerSecond);
        // From the next tick on, so that what is taken back leaves nothing.
        (feed, fed) = ([.. otherwise.For(Live.Rig.Rig).Select(d => d with { At = d.At + began + 1 })], 0);
    }

    /// <summary>Takes the experiment back.</summary>
    public void StepBack()
    {
        if (Trying is not null)
            Back(began);
    }
}
