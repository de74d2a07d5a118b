using System.Collections.Concurrent;
using System.IO.Compression;
using System.Text.Json;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Procedure = Mordel.Core.Procedures.Procedure;

namespace Mordel.DemoData;

/// <summary>A marked attempt of the demo's class, as it is kept.</summary>
/// <param name="Recording">The recording.</param>
/// <param name="Procedure">The school.</param>
/// <param name="Marks">The mark sheet.</param>
/// <param name="Seconds">How long it took at the bench.</param>
/// <param name="Percent">The marks.</param>
/// <param name="Passed">Whether they were enough.</param>
/// <param name="Lost">Titles of the marks that were lost, a line each.</param>
public sealed record MarkedAttempt(
    string Recording,
    string Procedure,
    string Marks,
    int Seconds,
    int Percent,
    bool Passed,
    string Lost
);

/// <summary>A test of the town's years before Mordel, as a ledger has it.</summary>
/// <param name="Outcome">How it ended.</param>
/// <param name="Values">What was read and remarked, by field.</param>
public sealed record PastTest(string Outcome, Dictionary<string, string> Values);

/// <summary>
/// What the simulated tester and the learners of the town did, performed on the water once and shipped: each visit and
/// each attempt under a key that says everything it hangs on. What is not found is performed; a test performs some
/// afresh and compares. <c>dotnet run -c Release --project bench/Mordel.Bench -- past FILE</c> makes the file anew.
/// </summary>
public sealed class PerformedPast(bool anew = false)
{
    private const string Resource = "past.json.br";

    // When visits begin as they are kept; each is moved to its own hour.
    private static readonly DateTimeOffset Beginning = new(2030, 1, 1, 0, 0, 0, TimeSpan.Zero);

    private readonly Lazy<ShippedPast> shipped = new(() => anew ? new([], [], []) : Read());
    private readonly ConcurrentDictionary<string, string[]> logs = new(StringComparer.Ordinal);
    private readonly ConcurrentDictionary<string, PastTest> tests = new(StringComparer.Ordinal);
    private readonly ConcurrentDictionary<string, MarkedAttempt> attempts = new(StringComparer.Ordinal);

    private int performed;

    private sealed record ShippedPast(
        Dictionary<string, string[]> Logs,
        Dictionary<string, MarkedAttempt> Attempts,
        Dictionary<string, PastTest> Tests
    );

    /// <summary>The visits that were found in what was shipped.</summary>
    public ConcurrentBag<(PlannedVisit Visit, Procedure Procedure, Profile Profile)> Found { get; } = [];

    /// <summary>Those of the years before Mordel that were.</summary>
    public ConcurrentBag<(PlannedVisit Visit, Procedure Procedure, Profile Profile)> FoundElsewhere { get; } = [];

    /// <summary>How many visits and attempts had to be performed.</summary>
    public int Performed => performed;

    /// <summary>The log that a visit leaves.</summary>
    public RunLog Log(PlannedVisit visit, Procedure procedure, Profile profile)
    {
        ArgumentNullException.ThrowIfNull(visit);
        var key = visit.Key(procedure, profile);
        var isShipped = shipped.Value.Logs.TryGetValue(key, out var lines);
        if (isShipped)
            Found.Add((visit, procedure, profile));
        if (isShipped || logs.TryGetValue(key, out lines))
            return RunLog.Empty.With(lines!.Select(l => Shifted(l, visit.Start - Beginning)));
        Interlocked.Increment(ref performed);
        var log = visit.Perform(procedure, profile);
        var back = Beginning - visit.Start;
        logs[key] = [.. log.Entries.Select(e => EntryFormat.Write(e with { At = e.At + back }))];
        return log;
    }

    /// <summary>What a visit of the years before Mordel found, as a ledger has it.</summary>
    public PastTest Elsewhere(PlannedVisit visit, Procedure procedure, Profile profile)
    {
        ArgumentNullException.ThrowIfNull(visit);
        var key = visit.Key(procedure, profile);
        if (shipped.Value.Tests.TryGetValue(key, out var kept))
        {
            FoundElsewhere.Add((visit, procedure, profile));
            return kept;
        }

        return tests.GetOrAdd(key, _ =>
        {
            Interlocked.Increment(ref performed);
            return visit.Ledger(procedure, profile);
        });
    }

    /// <summary>An attempt, as it was marked; played and marked when it was not shipped.</summary>
    public MarkedAttempt Attempt(string key, Func<MarkedAttempt> play)
    {
        ArgumentNullException.ThrowIfNull(play);
        if (shipped.Value.Attempts.TryGetValue(key, out var kept))
            return kept;
        return attempts.GetOrAdd(key, _ =>
        {
            Interlocked.Increment(ref performed);
            return play();
        });
    }

    /// <summary>Writes down what was performed.</summary>
    public void Save(string path)
    {
        using var file = File.Create(path);
        using var packed = new BrotliStream(file, CompressionLevel.SmallestSize);
        JsonSerializer.Serialize(
            packed,
            new ShippedPast(
                logs.OrderBy(l => l.Key, StringComparer.Ordinal).ToDictionary(),
                attempts.OrderBy(a => a.Key, StringComparer.Ordinal).ToDictionary(),
                tests.OrderBy(t => t.Key, StringComparer.Ordinal).ToDictionary()
            )
        );
    }

    private static Entry Shifted(string line, TimeSpan by)
    {
        var entry = EntryFormat.Read(Node.Root(line, [])!.Value)!;
        return entry with { At = entry.At + by };
    }

    private static ShippedPast Read()
    {
        using var resource = typeof(PerformedPast).Assembly.GetManifestResourceStream(Resource);
        if (resource is null)
            return new([], [], []);
        using var plain = new BrotliStream(resource, CompressionMode.Decompress);
        return JsonSerializer.Deserialize<ShippedPast>(plain)!;
    }
}
