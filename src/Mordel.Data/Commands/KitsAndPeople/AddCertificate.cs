using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>What is typed when a certificate is added.</summary>
public sealed record NewCertificate(Guid AccountId, string? Number, string? IssuedBy, DateOnly? From, DateOnly? Until);

/// <summary>Adds a tester's certificate for all types.</summary>
public sealed class AddCertificate(Store store, ChangeLog log)
{
    public async Task<Reply<Guid>> With(NewCertificate certificate, Author author, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var row = new CertificateRow
        {
            Id = Guid.CreateVersion7(),
            AccountId = certificate.AccountId,
            Number = fields.Text("number", certificate.Number, "Certificate number", 60),
            Types = string.Join(' ', AssemblyTypes.Names),
            IssuedBy = fields.Text("issuedBy", certificate.IssuedBy, "Issuing body"),
            ValidFrom = fields.Day("from", certificate.From, "First day"),
            ValidUntil = fields.Day("until", certificate.Until, "Last day"),
        };
        fields.That("until", row.ValidUntil >= row.ValidFrom, "The last day lies before the first.");
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
        if (fields.Any)
            return fields;
        store.Certificates.Add(row);
        log.New(
            author,
            Things.Person,
            row.AccountId,
            $"certificate {row.Number} of {row.IssuedBy}, {row.ValidFrom:d MMM yyyy} to {row.ValidUntil:d MMM yyyy}"
        );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }
}
