using Mordel.Data.Accounts;
using Mordel.Data.Audit;

namespace Mordel.Web.SigningIn;

/// <summary>
/// Wrong tries to show who one is, counted and written down. What rests is neither counted on nor written: nobody fills
/// the log by trying.
/// </summary>
public sealed class WrongTries(SignInTries tries, AuditLog audit)
{
    /// <summary>Whether a try is not even looked at.</summary>
    /// <param name="name">The name, as it is compared, or what else is tried at.</param>
    /// <param name="address">The network address; empty where it does not matter.</param>
    /// <param name="device">The device, where the name's owner was here before; null for a strange one.</param>
    public Task<bool> Rests(string name, string address = "", string? device = null) =>
        tries.Rests(name, address, device);

    /// <summary>A try was wrong.</summary>
    /// <param name="name">As above.</param>
    /// <param name="on">Whose account; empty where it is nobody's.</param>
    /// <param name="says">The rest, in words.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <param name="address">As above.</param>
    /// <param name="device">As above.</param>
    public async Task Note(
        string name,
        string on,
        string says,
        CancellationToken cancel,
        string address = "",
        string? device = null
    )
    {
        if (!await tries.Rests(name, address, device, cancel))
            await audit.Write(
                await tries.Wrong(name, address, device, cancel) ? AuditKinds.LockedOut : AuditKinds.SignInFailed,
                on,
                says,
                cancel
            );
    }

    /// <summary>Somebody has come in: what was tried on that device is forgotten.</summary>
    public Task Right(string name, string? device) => tries.Right(name, device);
}
