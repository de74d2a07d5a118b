using Microsoft.EntityFrameworkCore;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>What is typed when two kits were read on one rig.</summary>
/// <param name="OtherId">The other kit.</param>
/// <param name="On">The day.</param>
/// <param name="Where">On which rig.</param>
/// <param name="One">What the kit showed, reading by reading.</param>
/// <param name="Other">What the other showed at the same moments.</param>
public sealed record NewComparison(
    Guid OtherId,
    DateOnly? On,
    string? Where,
    IReadOnlyList<decimal?>? One,
    IReadOnlyList<decimal?>? Other
);

/// <summary>Keeps what two kits showed on one rig.</summary>
public sealed class CompareKits(Store store, ChangeLog log, TimeProvider clock)
{
    /// <summary>Keeps it; it stands with both.</summary>
    public async Task<Reply<Guid>> With(Guid kitId, NewComparison comparison, Author author, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(comparison);
        var fields = new FieldErrors();
        var pairs = Pairs(comparison, fields);
        var row = new ComparisonRow
        {
            Id = Guid.CreateVersion7(),
            OneId = kitId,
            OtherId = comparison.OtherId,
            On = fields.Day("on", comparison.On, "The day"),
            Where = fields.Text("where", comparison.Where, "On which rig"),
            Pairs = KitComparison.Write(pairs),
            At = clock.Now(),
            By = author.By,
        };
        fields.That("on", row.On <= clock.Today(), "A comparison lies behind: keep it when it is done.");
        fields.That("otherId", kitId != comparison.OtherId, "A kit agrees with itself: choose another.");
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Kits.FirstOrDefaultAsync(k => k.Id == kitId, cancel) is not { } one)
            return Reply<Guid>.NotFound("There is no such kit.");
        var other = await store.Kits.FirstOrDefaultAsync(k => k.Id == comparison.OtherId, cancel);
        fields.That("otherId", other is not null, "Choose the other kit.");
        foreach (var (kit, read) in new[] { (one, pairs.Select(p => p.One)), (other, pairs.Select(p => p.Other)) })
            fields.That(
                "one",
                kit is null || read.All(r => Math.Abs(r) <= kit.FullScale),
                $"The gauge of {kit?.Serial} ends at {kit?.FullScale} {kit?.Unit}."
            );
        if (fields.Any)
            return fields;
        store.Comparisons.Add(row);
        foreach (var (kit, beside) in new[] { (one, other!), (other!, one) })
            log.Write(author, Things.Kit, kit.Id, "compared", "", $"with {beside.Serial}, {row.On:d MMM yyyy}");
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    private static List<KitPair> Pairs(NewComparison comparison, FieldErrors fields)
    {
        var (one, other) = (comparison.One ?? [], comparison.Other ?? []);
        var pairs = new List<KitPair>();
        for (var i = 0; i < Math.Min(Math.Max(one.Count, other.Count), KitComparison.Most); i++)
        {
            var (a, b) = (one.ElementAtOrDefault(i), other.ElementAtOrDefault(i));
            if (a is { } x && b is { } y)
                pairs.Add(new(x, y));
            fields.That("one", a.HasValue == b.HasValue, $"Reading {i + 1} lacks what one of the two showed.");
        }

        fields.That("one", pairs.Count > 0, "Type what both showed, at least once.");
        return pairs;
    }
}
