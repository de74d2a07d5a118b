using System.Runtime.CompilerServices;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>Pages of the register by where the page before ended.</summary>
public static class Keyset
{
    private const int Batch = 500;

    /// <summary>The ids behind a line, in an order.</summary>
    /// <param name="rows">What is shown.</param>
    /// <param name="order">The order.</param>
    /// <param name="after">Where the page before ended; null for the first.</param>
    public static IQueryable<Guid> Of(IQueryable<AssemblyRow> rows, RegisterOrder order, string? after)
    {
        var tag = after is { Length: > 11 } && order != RegisterOrder.Tag ? after[11..] : after ?? "";
        var day = after is { Length: > 11 } ? Days.Read(after[..10]) : null;
        return order switch
        {
            // What owes nothing is not in this order.
            RegisterOrder.Due => rows.Where(a =>
                    a.NextDue != null
                    && (day == null || a.NextDue > day || (a.NextDue == day && a.Tag.CompareTo(tag) > 0))
                )
                .OrderBy(a => a.NextDue)
                .ThenBy(a => a.Tag)
                .Select(a => a.Id),
            // What was never tested comes first.
            RegisterOrder.LastTest => rows.Where(a =>
                    after == null
                    || (day == null && (a.LastTestOn != null || a.Tag.CompareTo(tag) > 0))
                    || a.LastTestOn > day
                    || (a.LastTestOn == day && a.Tag.CompareTo(tag) > 0)
                )
                .OrderBy(a => a.LastTestOn)
                .ThenBy(a => a.Tag)
                .Select(a => a.Id),
            _ => rows.Where(a => a.Tag.CompareTo(tag) > 0).OrderBy(a => a.Tag).Select(a => a.Id),
        };
    }

    /// <summary>Where a page ends with a line.</summary>
    public static string After(AssemblyRow line, RegisterOrder order)
    {
        static string Day(DateOnly? day) => day is { } on ? Days.Write(on) : "----------";
        return order switch
        {
            RegisterOrder.Due => $"{Day(line.NextDue)} {line.Tag}",
            RegisterOrder.LastTest => $"{Day(line.LastTestOn)} {line.Tag}",
            _ => line.Tag,
        };
    }

    /// <summary>All rows by their tags, some at a time.</summary>
    public static async IAsyncEnumerable<List<AssemblyRow>> Batches(
        this IQueryable<AssemblyRow> rows,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        for (var after = ""; ; )
        {
            var batch = await rows.Where(a => a.Tag.CompareTo(after) > 0)
                .OrderBy(a => a.Tag)
                .Take(Batch)
                .ToListAsync(cancel);
            if (batch.Count == 0)
                yield break;
            yield return batch;
            after = batch[^1].Tag;
        }
    }
}
