using Microsoft.EntityFrameworkCore;
using Mordel.Core.Formats;
using Mordel.Core.Rules;

namespace Mordel.Data.Lists;

/// <summary>The profiles there are: those that come with Mordel and those that this installation has made of them, in all their versions.</summary>
public sealed class ProfileBook(Store store)
{
    private List<Profile>? all;

    /// <summary>Every version of every profile; one that a later version has followed is in force until the day before.</summary>
    public async Task<IReadOnlyList<Profile>> All(CancellationToken cancel)
    {
        if (all is not null) return all;
        var made = (await store.Profiles.AsNoTracking().OrderBy(p => p.ProfileId).ThenBy(p => p.Version).Select(p => p.Json).ToListAsync(cancel))
            .Select(json => ProfileFormat.Read(json, out var faults) ?? throw new InvalidDataException($"A stored profile cannot be read: {string.Join("; ", faults)}")).ToList();
        for (var i = 0; i + 1 < made.Count; i++)
            if (made[i + 1].Id == made[i].Id) made[i] = made[i] with { InForceUntil = made[i + 1].InForceFrom.AddDays(-1) };
        return all = [.. BuiltInProfiles.All, .. made];
    }

    /// <summary>One version, or null.</summary>
    public async Task<Profile?> Version(string id, int version, CancellationToken cancel) =>
        BuiltInProfiles.All.FirstOrDefault(p => p.Id == id && p.Version == version) ?? (await All(cancel)).FirstOrDefault(p => p.Id == id && p.Version == version);

    /// <summary>The version in force on a day; before the first begins, the first.</summary>
    public async Task<Profile?> On(string id, DateOnly day, CancellationToken cancel) => BuiltInProfiles.Named(id)
        ?? ((await All(cancel)).Where(p => p.Id == id).OrderBy(p => p.Version).ToList() is { Count: > 0 } versions ? versions.LastOrDefault(p => p.InForceOn(day)) ?? versions[0] : null);
}
