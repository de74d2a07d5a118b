using System.Collections.Concurrent;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;

namespace Mordel.Core.Diagnosis;

/// <summary>What a school's sheet calls its steps and sights.</summary>
public static class SheetWords
{
    private static readonly ConcurrentDictionary<
        string,
        Dictionary<string, (string Title, Dictionary<string, string> Seen)>
    > Known = new();

    /// <summary>The title of a step; its key where the school has no such step.</summary>
    public static string Title(string procedure, string key) =>
        Of(procedure).TryGetValue(key, out var step) ? step.Title : key;

    /// <summary>What is seen, in the field's words.</summary>
    public static string Seen(string procedure, string key, string sight) =>
        sight == Observed.SightMet.None ? "nothing odd"
        : sight == Observed.SightMet.NotReached ? "the test ended before it"
        : Of(procedure).TryGetValue(key, out var step) && step.Seen.TryGetValue(sight, out var seen) ? seen
        : sight;

    private static Dictionary<string, (string Title, Dictionary<string, string> Seen)> Of(string procedure) =>
        Known.GetOrAdd(procedure, Write);

    private static Dictionary<string, (string, Dictionary<string, string>)> Write(string id)
    {
        var steps = new Dictionary<string, (string, Dictionary<string, string>)>();
        if (SchoolCatalogue.Named(id) is { } procedure)
            foreach (var profile in BuiltInProfiles.All.Where(p => p.School(id) is not null))
            foreach (var (path, step) in SchoolCatalogue.Sheet(procedure, Kit.FiveValve, profile).EveryStep())
                steps.TryAdd(path, (step.Title, step.Sights.ToDictionary(x => x.Id, x => x.Seen)));
        return steps;
    }
}
