using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;

namespace Mordel.Data.Setups;

/// <summary>Something kept that cannot be read: the sentence says what, for the person and for the alarm.</summary>
public sealed class DamagedException(string message) : Exception(message);

/// <summary>Reads and keeps setups; fetches the texts that they share.</summary>
public sealed class SetupReader(Store store, SetupStore shelf)
{
    /// <summary>Where profiles and sheets are found once <see cref="Fetch"/> has been asked for them.</summary>
    public ISetupParts Parts => shelf;

    /// <summary>A setup from its canonical text.</summary>
    /// <exception cref="DamagedException">It cannot be read, or a text that it names is gone or not what its name
    /// says.</exception>
    public async Task<RunSetup> Read(string setup, CancellationToken cancel)
    {
        await Fetch([setup], cancel);
        return RunSetupFormat.Read(setup, shelf, out var errors)
            ?? throw new DamagedException($"What the run was made with cannot be read: {string.Join("; ", errors)}.");
    }

    /// <summary>Fetches the texts that these documents name by hash.</summary>
    public Task Fetch(IEnumerable<string> documents, CancellationToken cancel) =>
        FetchNamed(documents.SelectMany(HashesIn), cancel);

    /// <summary>Fetches the texts with these hashes.</summary>
    public async Task FetchNamed(IEnumerable<string> hashes, CancellationToken cancel)
    {
        var wanted = hashes.Where(h => !shelf.Has(h)).Distinct().ToList();
        if (wanted.Count == 0)
            return;
        foreach (
            var row in await store.KeptTexts.AsNoTracking().Where(t => wanted.Contains(t.Hash)).ToListAsync(cancel)
        )
            if (Packed.Unpack(row.Text) is { } text)
                shelf.Put(row.Hash, text);
    }

    /// <summary>Keeps the texts that a setup names, those that are not there yet; saved with the rest.</summary>
    public async Task Keep(RunSetup setup, CancellationToken cancel)
    {
        foreach (var text in new[] { RunSetupFormat.ProfileText(setup), RunSetupFormat.SheetText(setup) })
        {
            var hash = ContentHash.Compute(text);
            if (
                store.KeptTexts.Local.Any(t => t.Hash == hash)
                || await store.KeptTexts.AnyAsync(t => t.Hash == hash, cancel)
            )
                continue;
            store.KeptTexts.Add(new KeptTextRow { Hash = hash, Text = Packed.Pack(text) });
            shelf.Put(hash, text);
        }
    }

    // Where a setup, or a record that holds one, names profile and sheet.
    private static IEnumerable<string> HashesIn(string document)
    {
        var hashes = new List<string>();
        try
        {
            var reader = new Utf8JsonReader(
                System.Text.Encoding.UTF8.GetBytes(document),
                new JsonReaderOptions { MaxDepth = Node.DeepestKept }
            );
            while (reader.Read())
            {
                if (
                    reader.TokenType != JsonTokenType.PropertyName
                    || !reader.ValueTextEquals("sha256")
                    || !reader.Read()
                    || reader.TokenType != JsonTokenType.String
                )
                    continue;
                if (reader.GetString() is { } hash && ContentHash.IsHash(hash))
                    hashes.Add(hash);
            }
        }
        catch (Exception e) when (e is JsonException or InvalidOperationException)
        {
            // Whoever reads the document itself says what is wrong with it.
        }

        return hashes;
    }
}
