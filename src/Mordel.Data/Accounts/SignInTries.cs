using System.Collections.Concurrent;

namespace Mordel.Data.Accounts;

/// <summary>
/// Wrong tries to sign in, by name, by network address and by device. A name rests after some, but not for a device on
/// which its owner has signed in before: so a stranger who tries names keeps nobody out.
/// </summary>
public sealed class SignInTries(TimeProvider clock)
{
    /// <summary>How many wrong tries there may be within <see cref="Window"/>.</summary>
    public const int MostOfAName = 8,
        MostOfAnAddress = 40;

    /// <summary>Within which they are counted.</summary>
    public static readonly TimeSpan Window = TimeSpan.FromMinutes(5);

    private const int Kept = 20_000,
        LongestName = 120;
    private readonly ConcurrentDictionary<string, Tries> all = new(StringComparer.Ordinal);

    /// <summary>Whether a try is not even looked at.</summary>
    /// <param name="name">The name, as it is compared.</param>
    /// <param name="address">The network address.</param>
    /// <param name="knownDevice">The device, where the name's owner was here before; null for a strange one.</param>
    public bool Rests(string name, string address, string? knownDevice) =>
        knownDevice is null
            ? Of(NameKey(name)) >= MostOfAName || Of(AddressKey(address)) >= MostOfAnAddress
            : Of(DeviceKey(name, knownDevice)) >= MostOfAName;

    /// <summary>A try was wrong; answers whether it was the last before a rest.</summary>
    public bool Wrong(string name, string address, string? knownDevice)
    {
        if (knownDevice is not null)
            return Add(DeviceKey(name, knownDevice)) == MostOfAName;
        var ofTheName = Add(NameKey(name));
        return Add(AddressKey(address)) == MostOfAnAddress || ofTheName == MostOfAName;
    }

    /// <summary>Somebody has come in: what was tried on that device is forgotten.</summary>
    public void Right(string name, string? knownDevice)
    {
        if (knownDevice is not null)
            all.TryRemove(DeviceKey(name, knownDevice), out _);
    }

    private static string NameKey(string name) => $"n {Cut(name)}";

    private static string AddressKey(string address) => $"a {address}";

    private static string DeviceKey(string name, string device) => $"d {Cut(name)} {device}";

    private static string Cut(string name) => name.Length > LongestName ? name[..LongestName] : name;

    private int Of(string key) =>
        all.TryGetValue(key, out var tries) && clock.GetUtcNow() < tries.Until ? tries.Count : 0;

    private int Add(string key)
    {
        var now = clock.GetUtcNow();
        if (all.Count >= Kept)
            foreach (var (old, tries) in all)
                if (tries.Until <= now)
                    all.TryRemove(old, out _);
        // Whoever fills it with names of no end is met by the limit of an address.
        if (all.Count >= 2 * Kept)
            all.Clear();
        return all.AddOrUpdate(
            key,
            _ => new(1, now + Window),
            (_, before) => before.Until <= now ? new(1, now + Window) : before with { Count = before.Count + 1 }
        ).Count;
    }

    private sealed record Tries(int Count, DateTimeOffset Until);
}
