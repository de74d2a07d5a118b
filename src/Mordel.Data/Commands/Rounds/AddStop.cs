using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Planning;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Rounds;

/// <summary>What is typed when an assembly is put into a round.</summary>
/// <param name="TesterId">Whose round.</param>
/// <param name="Day">Of which day.</param>
/// <param name="From">From when the water may be off.</param>
/// <param name="Until">Until when.</param>
/// <param name="Special">What the tester should mind.</param>
/// <param name="Visit"><c>test</c>, <c>seasonal</c>, or null for what the assembly owes.</param>
public sealed record NewStop(
    Guid TesterId,
    DateOnly? Day,
    TimeOnly? From,
    TimeOnly? Until,
    string? Special,
    string? Visit = null
);

/// <summary>Puts an assembly into a tester's round of a day, behind what is already in it.</summary>
public sealed class AddStop(Store store, TesterRights rights)
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
        fields.That(
            "testerId",
            await store.Users.AnyAsync(u => u.Id == stop.TesterId && u.DismissedAt == null, cancel),
            "Choose a tester."
        );
        fields.Unless("testerId", await rights.WhyNot(stop.TesterId, assemblyId, day, cancel));
        var assembly = await store
            .Assemblies.Where(a => a.Id == assemblyId)
            .Select(a => new
            {
                a.DueCause,
                a.Type,
                a.Size,
                a.FireLine,
            })
            .FirstOrDefaultAsync(cancel);
        fields.That("day", assembly is not null, "There is no such assembly.");
        fields.That(
            "visit",
            stop.Visit is null or "" or "test" or StopRow.Seasonal,
            "A visit is a test, or a seasonal one."
        );
        fields.That("special", (stop.Special?.Length ?? 0) <= 200, "What is special may have 200 characters.");
        if (fields.Any)
            return fields;
        var seasonal =
            stop.Visit == StopRow.Seasonal
            || (string.IsNullOrEmpty(stop.Visit) && assembly!.DueCause == nameof(DueCause.StartUp));
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
            Minutes = TestMinutes.Of(AssemblyTypes.Parse(assembly!.Type), assembly.Size, seasonal, assembly.FireLine),
            Visit = seasonal ? StopRow.Seasonal : null,
            Special = string.IsNullOrWhiteSpace(stop.Special) ? null : stop.Special.Trim(),
        };
        store.Stops.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }
}
