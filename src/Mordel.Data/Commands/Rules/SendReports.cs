using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Rules;

/// <summary>Says how an authority takes reports.</summary>
public sealed class SendReports(Store store, ChangeLog log, ISecretBox? secrets = null)
{
    /// <summary>The most characters of a key.</summary>
    public const int LongestKey = 500;

    /// <summary>Reports signed from now on go there; what waits keeps the address that it was written with.</summary>
    /// <param name="authorityId">The authority.</param>
    /// <param name="by">One of <see cref="OutboxWays"/>; null or empty for none.</param>
    /// <param name="to">The address.</param>
    /// <param name="forms">Some of <see cref="ReportForms"/>; by a service it is one.</param>
    /// <param name="author">Who says so.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> To(
        Guid authorityId,
        string? by,
        string? to,
        IReadOnlyCollection<string> forms,
        Author author,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(forms);
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
                Uri.TryCreate(address, UriKind.Absolute, out var uri)
                    && (uri.Scheme is "https" or "simulated" || (uri.Scheme == "http" && uri.IsLoopback)),
                "The address of a service begins with https://."
            );
        fields.That(
            "forms",
            forms.All(f => ReportForms.All.Contains(f)),
            $"Reports go as {string.Join(", ", ReportForms.All)}."
        );
        var some = ReportForms.All.Where(f => forms.Contains(f)).ToList();
        fields.That("forms", way is null || some.Count > 0, "Choose at least one form for reports.");
        fields.That(
            "forms",
            way != OutboxWays.Service || some.Count <= 1,
            "A service takes a report in one form: choose it."
        );
        if (fields.Any)
            return fields;
        var form = way is null ? null : string.Join(' ', some);
        static string Said(string? by, string? to, string? form) =>
            by is null ? "" : $"by {by} to {to}{(form is null ? "" : $" as {form}")}";
        var before = authority!.ReportsTo;
        log.Write(
            author,
            Things.Authority,
            authorityId,
            "reports",
            Said(authority!.ReportsBy, authority.ReportsTo, authority.ReportsAs),
            Said(way, address, form)
        );
        (authority.ReportsBy, authority.ReportsTo, authority.ReportsAs) = (way, address, form);
        if (before != address)
            (authority.RulingsSeen, authority.ReportsKey) = (0, null);
        await store.SaveChangesAsync(cancel);
        return authority.Id;
    }

    /// <summary>
    /// Sets the key by which an authority's service knows who calls; it goes with every call, and is never shown again.
    /// </summary>
    /// <param name="authorityId">The authority.</param>
    /// <param name="key">The key; empty where the service asks for none.</param>
    /// <param name="author">Who says so.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> WithKey(Guid authorityId, string? key, Author author, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var authority = await store.Authorities.FirstOrDefaultAsync(a => a.Id == authorityId, cancel);
        fields.That("authorityId", authority is not null, "There is no such authority.");
        fields.That(
            "authorityId",
            authority is null or { ReportsBy: OutboxWays.Service },
            "Only a service asks who calls: say first that reports go by a service."
        );
        var typed = key?.Trim() ?? "";
        fields.That(
            "key",
            typed.Length <= LongestKey && typed.All(c => c is > ' ' and <= '~'),
            $"A key is up to {LongestKey} letters, digits and signs without a space."
        );
        fields.That("key", typed.Length == 0 || secrets is not null, "This installation cannot keep keys.");
        if (fields.Any)
            return fields;
        static string Said(string? kept) => kept is null ? "none" : "a key";
        var hidden = typed.Length == 0 ? null : secrets!.Hide(typed);
        log.Write(
            author,
            Things.Authority,
            authorityId,
            "key of the service",
            Said(authority!.ReportsKey),
            hidden is not null && authority.ReportsKey is not null ? "another key" : Said(hidden)
        );
        authority.ReportsKey = hidden;
        await store.SaveChangesAsync(cancel);
        return authority.Id;
    }
}
