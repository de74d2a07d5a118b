using System.Diagnostics.Metrics;

namespace Mordel.Data;

/// <summary>What is counted of the work done here, for whoever watches: nothing about anybody.</summary>
public static class Measures
{
    /// <summary>Under which name it is found.</summary>
    public const string Name = "Mordel";

    private static readonly Meter Meter = new(Name);

    /// <summary>Entries that were kept.</summary>
    public static readonly Counter<long> Entries = Meter.CreateCounter<long>("mordel.entries", "{entry}");

    /// <summary>Seals that were made, of reports and of amendments.</summary>
    public static readonly Counter<long> Seals = Meter.CreateCounter<long>("mordel.seals", "{seal}");

    /// <summary>How long a run takes to be loaded and played, in seconds.</summary>
    public static readonly Histogram<double> Replays = Meter.CreateHistogram<double>("mordel.replay.duration", "s");

    /// <summary>Reports and letters that were handed over, by what came of it.</summary>
    public static readonly Counter<long> Deliveries = Meter.CreateCounter<long>("mordel.deliveries", "{delivery}");

    /// <summary>Sign-ins, by whether somebody came in.</summary>
    public static readonly Counter<long> SignIns = Meter.CreateCounter<long>("mordel.sign_ins", "{try}");

    /// <summary>Backups and checks of all seals, by what came of it.</summary>
    public static readonly Counter<long> Upkeep = Meter.CreateCounter<long>("mordel.upkeep", "{time}");

    /// <summary>Counts one more, of a kind.</summary>
    public static void One(this Counter<long> counter, string of)
    {
        ArgumentNullException.ThrowIfNull(counter);
        counter.Add(1, new KeyValuePair<string, object?>("of", of));
    }
}
