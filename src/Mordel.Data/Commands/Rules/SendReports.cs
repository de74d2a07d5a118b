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
        if (way == OutboxWays.Service && before != address)
            authority.RulingsSeen = 0;
        await store.SaveChangesAsync(cancel);
        return authority.Id;
    }
}
