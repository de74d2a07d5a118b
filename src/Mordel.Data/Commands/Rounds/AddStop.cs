using Microsoft.EntityFrameworkCore;
using Mordel.Core.Units;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Rounds;

/// <summary>What is typed when an assembly is put into a round.</summary>
public sealed record NewStop(Guid TesterId, DateOnly? Day, TimeOnly? From, TimeOnly? Until, string? Special);

/// <summary>Puts an assembly into a tester's round of a day, behind what is already in it.</summary>
public sealed class AddStop(Store store)
{
    public async Task<Reply<Guid>> With(Guid assemblyId, NewStop stop, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var day = fields.Day("day", stop.Day, "Day");
        fields.That(
            "from",
            stop.From is not null && stop.Until > stop.From,
            "Say from when until when the water may be off."
        );
        await using var transaction = await store.BeginWriting(cancel);
        fields.That(
            "day",
            !await store.Stops.AnyAsync(
                s =>
                    s.TesterId == stop.TesterId
                    && s.Day == day
                    && s.AssemblyId == assemblyId
                    && s.WindowFrom == stop.From,
                cancel
            ),
            "This assembly is already in that round."
        );
        fields.That("testerId", await store.Users.AnyAsync(u => u.Id == stop.TesterId, cancel), "Choose a tester.");
        fields.That(
            "day",
            await store.Assemblies.AnyAsync(a => a.Id == assemblyId, cancel),
            "There is no such assembly."
        );
        fields.That("special", (stop.Special?.Length ?? 0) <= 200, "What is special may have 200 characters.");
        if (fields.Any)
            return fields;
        var order = await store.Stops.CountAsync(s => s.TesterId == stop.TesterId && s.Day == day, cancel) + 1;
        var row = new StopRow
        {
            Id = Guid.CreateVersion7(),
            Day = day,
            TesterId = stop.TesterId,
            Order = order,
            AssemblyId = assemblyId,
            WindowFrom = stop.From!.Value,
            WindowUntil = stop.Until!.Value,
            Minutes = 25,
            Special = string.IsNullOrWhiteSpace(stop.Special) ? null : stop.Special.Trim(),
        };
        store.Stops.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }
}
