using Microsoft.EntityFrameworkCore;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;

namespace Mordel.Data.Lists;

/// <summary>A version of a profile that is kept and cannot be read: it hides none of the others.</summary>
/// <param name="ProfileId">The profile.</param>
/// <param name="Version">The version.</param>
/// <param name="Why">What is wrong with it.</param>
public sealed record UnreadableProfile(string ProfileId, int Version, string Why);

/// <summary>
/// The profiles there are: those that come with Mordel and those that this installation has made of them, in all their
/// versions.
/// </summary>
public sealed class ProfileList(Store store)
{
    private List<Profile>? all;

    /// <summary>Versions that are kept and cannot be read; known once <see cref="All"/> has been asked.</summary>
    public IReadOnlyList<UnreadableProfile> Unreadable { get; private set; } = [];

    /// <summary>
    /// Every version of every profile that can be read; one that a later version has followed is in force until the day
    /// before.
    /// </summary>
    public async Task<IReadOnlyList<Profile>> All(CancellationToken cancel)
    {
        if (all is not null)
            return all;
        var (made, unreadable) = (new List<Profile>(), new List<UnreadableProfile>());
        foreach (
            var row in await store
                .Profiles.AsNoTracking()
                .OrderBy(p => p.ProfileId)
                .ThenBy(p => p.Version)
                .ToListAsync(cancel)
        )
        {
            if (
                ProfileFormat.ReadKept(row.Json, out var errors) is { } profile
                && profile.Id == row.ProfileId
                && profile.Version == row.Version
            )
                made.Add(profile);
            else
                unreadable.Add(
                    new(
                        row.ProfileId,
                        row.Version,
                        string.Join("; ", errors.Take(3).DefaultIfEmpty(new("", "it is another profile's")))
                    )
                );
        }

        for (var i = 0; i + 1 < made.Count; i++)
            if (made[i + 1].Id == made[i].Id)
                made[i] = made[i] with { InForceUntil = made[i + 1].InForceFrom.AddDays(-1) };
        Unreadable = unreadable;
        return all = [.. BuiltInProfiles.All, .. made];
    }

    /// <summary>One version, or null.</summary>
    public async Task<Profile?> Version(string id, int version, CancellationToken cancel) =>
        BuiltInProfiles.All.FirstOrDefault(p => p.Id == id && p.Version == version)
        ?? (await All(cancel)).FirstOrDefault(p => p.Id == id && p.Version == version);

    /// <summary>The version in force on a day; before the first begins, the first.</summary>
    public async Task<Profile?> On(string id, DateOnly day, CancellationToken cancel) =>
        BuiltInProfiles.Named(id)
        ?? (
            (await All(cancel)).Where(p => p.Id == id).OrderBy(p => p.Version).ToList() is { Count: > 0 } versions
                ? versions.LastOrDefault(p => p.InForceOn(day)) ?? versions[0]
                : null
        );

    /// <summary>Each profile once, in the version in force on a day: what other documents may name.</summary>
    public async Task<IReadOnlyList<Profile>> InForce(DateOnly day, CancellationToken cancel)
    {
        var named = new List<Profile>();
        foreach (var id in (await All(cancel)).Select(p => p.Id).Distinct())
            named.Add((await On(id, day, cancel))!);
        return named;
    }
}
