using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>What is typed when a certificate is added.</summary>
/// <param name="AccountId">Whose it is.</param>
/// <param name="Number">Its number.</param>
/// <param name="IssuedBy">Who issued it.</param>
/// <param name="From">Its first day.</param>
/// <param name="Until">Its last day.</param>
public sealed record NewCertificate(Guid AccountId, string? Number, string? IssuedBy, DateOnly? From, DateOnly? Until)
{
    /// <summary>The types it covers; none for all.</summary>
    public IReadOnlyList<string>? Types { get; init; }

    /// <summary>The authority that alone takes it; null where all do.</summary>
    public Guid? AuthorityId { get; init; }

    /// <summary>Its class; empty where it has none.</summary>
    public string? Class { get; init; }
}

/// <summary>Adds a tester's certificate, and ends one before its time.</summary>
public sealed class AddCertificate(Store store, KeepPapers papers, ChangeLog log)
{
    private const int LongestClass = 40;

    /// <summary>Adds it.</summary>
    /// <param name="certificate">What was typed.</param>
    /// <param name="scan">The certificate as a file; null where there is none yet.</param>
    /// <param name="author">Who adds it.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> With(
        NewCertificate certificate,
        HandedPaper? scan,
        Author author,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(certificate);
        var fields = new FieldErrors();
        var types = certificate.Types is { Count: > 0 } some ? some : AssemblyTypes.Names;
        fields.That(
            "types",
            types.All(t => AssemblyTypes.Names.Contains(t)),
            $"A certificate is for {string.Join(", ", AssemblyTypes.Names)}."
        );
        var row = new CertificateRow
        {
            Id = Guid.CreateVersion7(),
            AccountId = certificate.AccountId,
            Number = fields.Text("number", certificate.Number, "Certificate number", 60),
            Types = string.Join(' ', AssemblyTypes.Names.Where(types.Contains)),
            IssuedBy = fields.Text("issuedBy", certificate.IssuedBy, "Issuing body"),
            ValidFrom = fields.Day("from", certificate.From, "First day"),
            ValidUntil = fields.Day("until", certificate.Until, "Last day"),
            AuthorityId = certificate.AuthorityId,
            Class = string.IsNullOrWhiteSpace(certificate.Class)
                ? ""
                : fields.Text("class", certificate.Class, "Class", LongestClass),
        };
        fields.That("until", row.ValidUntil >= row.ValidFrom, "The last day lies before the first.");
        fields.Unless("scan", scan is null ? null : KeepPapers.WhyNot(scan));
        await using var transaction = await store.BeginWriting(cancel);
        fields.That(
            "number",
            !await store.Certificates.AnyAsync(
                c => c.AccountId == row.AccountId && c.Number == row.Number && c.ValidUntil == row.ValidUntil,
                cancel
            ),
            $"Certificate {row.Number} is already there."
        );
        fields.That(
            "accountId",
            await store.Users.AnyAsync(u => u.Id == certificate.AccountId, cancel),
            "Choose whose certificate it is."
        );
        var authority = await store.Authorities.FirstOrDefaultAsync(a => a.Id == row.AuthorityId, cancel);
        fields.That("authorityId", row.AuthorityId is null || authority is not null, "There is no such authority.");
        if (fields.Any)
            return fields;
        if (scan is not null)
            row.PaperId = (await papers.Add(scan, row.AccountId, author, cancel)).Id;
        store.Certificates.Add(row);
        log.New(
            author,
            Things.Person,
            row.AccountId,
            $"certificate {row.Number} of {row.IssuedBy}, {row.ValidFrom:d MMM yyyy} to {row.ValidUntil:d MMM yyyy}"
                + (authority is null ? "" : $", for {authority.Name}")
        );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    /// <summary>Hands in the certificate itself, later than its data.</summary>
    public async Task<Reply<Guid>> Scan(Guid id, HandedPaper? scan, Author author, CancellationToken cancel)
    {
        if (scan is null)
            return Reply<Guid>.Refused("Choose the file.");
        if (KeepPapers.WhyNot(scan) is { } why)
            return Reply<Guid>.Refused(why);
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Certificates.FirstOrDefaultAsync(c => c.Id == id, cancel) is not { } row)
            return Reply<Guid>.NotFound("There is no such certificate.");
        row.PaperId = (await papers.Add(scan, row.AccountId, author, cancel)).Id;
        log.Write(author, Things.Person, row.AccountId, $"certificate {row.Number}", "", $"paper {scan.Name}");
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.AccountId;
    }

    /// <summary>Ends one before its time: withdrawn, or given back. What was signed with it stands.</summary>
    public async Task<Reply<Guid>> End(Guid id, DateOnly? lastDay, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Certificates.FirstOrDefaultAsync(c => c.Id == id, cancel) is not { } row)
            return Reply<Guid>.NotFound("There is no such certificate.");
        var fields = new FieldErrors();
        var last = fields.Day("lastDay", lastDay, "Last day");
        if (!fields.Any)
            fields.That(
                "lastDay",
                last >= row.ValidFrom && last < row.ValidUntil,
                $"The last day lies between {row.ValidFrom:d MMM yyyy} and {row.ValidUntil.AddDays(-1):d MMM yyyy}."
            );
        if (fields.Any)
            return fields;
        log.Write(
            author,
            Things.Person,
            row.AccountId,
            $"certificate {row.Number}, last day",
            $"{row.ValidUntil:d MMM yyyy}",
            $"{last:d MMM yyyy}"
        );
        row.ValidUntil = last;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.AccountId;
    }
}
