using Mordel.Data.Processes;

namespace Mordel.Data.Accounts;

/// <summary>
/// Wrong tries to sign in, by name, by network address and by device. A name rests after some, but not for a device on
/// which its owner has signed in before: so a stranger who tries names keeps nobody out.
/// </summary>
public sealed class SignInTries(WindowCounts counts)
{
    /// <summary>How many wrong tries there may be within <see cref="Window"/>.</summary>
    public const int MostOfAName = 8,
        MostOfAnAddress = 40;

    /// <summary>Within which they are counted.</summary>
    public static readonly TimeSpan Window = TimeSpan.FromMinutes(5);

    private const int LongestName = 120;

    /// <summary>Whether a try is not even looked at.</summary>
    /// <param name="name">The name, as it is compared.</param>
    /// <param name="address">The network address.</param>
    /// <param name="knownDevice">The device, where the name's owner was here before; null for a strange one.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<bool> Rests(
        string name,
        string address,
        string? knownDevice,
        CancellationToken cancel = default
    ) =>
        knownDevice is null
            ? await counts.Of(NameKey(name), cancel) >= MostOfAName
                || await counts.Of(AddressKey(address), cancel) >= MostOfAnAddress
            : await counts.Of(DeviceKey(name, knownDevice), cancel) >= MostOfAName;

    /// <summary>A try was wrong; answers whether it was the last before a rest.</summary>
    public async Task<bool> Wrong(string name, string address, string? knownDevice, CancellationToken cancel = default)
    {
        if (knownDevice is not null)
            return await counts.Add(DeviceKey(name, knownDevice), Window, cancel) == MostOfAName;
        var ofTheName = await counts.Add(NameKey(name), Window, cancel);
        return await counts.Add(AddressKey(address), Window, cancel) == MostOfAnAddress || ofTheName == MostOfAName;
    }

    /// <summary>Somebody has come in: what was tried on that device is forgotten.</summary>
    public async Task Right(string name, string? knownDevice, CancellationToken cancel = default)
    {
        if (knownDevice is not null)
            await counts.Forget(DeviceKey(name, knownDevice), cancel);
    }

    private static string NameKey(string name) => $"n {Cut(name)}";

    private static string AddressKey(string address) => $"a {address}";

    private static string DeviceKey(string name, string device) => $"d {Cut(name)} {device}";

    // A server takes no sign without a shape.
    private static string Cut(string name) =>
        (name.Length > LongestName ? name[..LongestName] : name).Replace('\0', ' ');
}
