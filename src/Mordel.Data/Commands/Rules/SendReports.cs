using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Rules;

/// <summary>Says how an authority takes reports.</summary>
public sealed class SendReports(Store store, ChangeLog log)
{
    /// <summary>Reports signed from now on go there; what waits keeps the address that it was written with.</summary>
    /// <param name="authorityId">The authority.</param>
    /// <param name="by">One of <see cref="OutboxWays"/>; null or empty for none.</param>
    /// <param name="to">The address.</param>
    /// <param name="author">Who says so.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> To(Guid authorityId, string? by, string? to, Author author, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var authority = await store.Authorities.FirstOrDefaultAsync(a => a.Id == authorityId, cancel);
        fields.That("authorityId", authority is not null, "There is no such authority.");
        var way = string.IsNullOrEmpty(by) ? null : fields.OneOf("by", by, "Reports go", OutboxWays.All);
        var address = way is null ? null : fields.Text("to", to, "The address for reports", 200);
        if (way == OutboxWays.Mail)
            fields.That("to", address!.Contains('@', StringComparison.Ordinal), "An address for mail has an @.");
        if (way == OutboxWays.Service)
            fields.That(
                "to",
                Uri.TryCreate(address, UriKind.Absolute, out var uri) && uri.Scheme is "https" or "simulated",
                "The address of a service begins with https://."
            );
        if (fields.Any)
            return fields;
        static string Said(string? by, string? to) => by is null ? "" : $"by {by} to {to}";
        log.Write(
            author,
            Things.Authority,
            authorityId,
            "reports",
            Said(authority!.ReportsBy, authority.ReportsTo),
            Said(way, address)
        );
        (authority.ReportsBy, authority.ReportsTo) = (way, address);
        await store.SaveChangesAsync(cancel);
        return authority.Id;
    }
}
