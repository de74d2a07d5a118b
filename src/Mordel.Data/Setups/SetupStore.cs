using System.Collections.Concurrent;
using Mordel.Core.Procedures;
using Mordel.Core.Rules;
using Mordel.Core.Serialization;

namespace Mordel.Data.Setups;

/// <summary>
/// The profiles and run sheets of setups, read once and shared: their texts never change, since their names are the
/// hashes of their contents. Bounded; when it is full it begins anew.
/// </summary>
public sealed class SetupStore : ISetupParts
{
    private const int Most = 400;

    private readonly ConcurrentDictionary<string, string> texts = new(StringComparer.Ordinal);
    private readonly ConcurrentDictionary<string, Profile?> profiles = new(StringComparer.Ordinal);
    private readonly ConcurrentDictionary<string, RunSheet?> sheets = new(StringComparer.Ordinal);

    /// <summary>Whether a text is here.</summary>
    public bool Has(string hash) => texts.ContainsKey(hash);

    /// <summary>Puts a text here; one whose hash is another's is not taken.</summary>
    /// <returns>Whether it was what its name says.</returns>
    public bool Put(string hash, string text)
    {
        if (ContentHash.Compute(text) != hash)
            return false;
        if (texts.Count >= Most)
        {
            texts.Clear();
            profiles.Clear();
            sheets.Clear();
        }

        texts[hash] = text;
        return true;
    }

    /// <inheritdoc/>
    public string? Text(string hash) => texts.GetValueOrDefault(hash);

    /// <inheritdoc/>
    public Profile? Profile(string hash) =>
        Text(hash) is { } text ? profiles.GetOrAdd(hash, _ => ProfileFormat.ReadKept(text, out var _)) : null;

    /// <inheritdoc/>
    public RunSheet? Sheet(string hash, Setup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        if (Text(hash) is not { } text)
            return null;
        var (body, rules) = (setup.Body, setup.Rules);
        // The same sheet under other limits, or on a body with other fittings, is another sheet.
        var key =
            $"{hash} {body.Type} {body.Name} {body.Features} {setup.Rig.Kit.Name} {rules.ProcedureId} "
            + $"{rules.GetHashCode()}";
        return sheets.GetOrAdd(key, _ => RunSheetReader.ReadKept(text, setup)) is { } sheet && sheet.Rules == rules
            ? sheet
            : RunSheetReader.ReadKept(text, setup);
    }
}
