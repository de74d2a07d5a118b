using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>What is typed about a tester's working day.</summary>
public sealed record TypedHours(
    Guid AccountId,
    TimeOnly? From,
    TimeOnly? Until,
    int? East,
    int? North,
    int? LunchMinutes,
    string[]? Skills
);

/// <summary>Keeps when and from where a tester works, and what he or she is trained for.</summary>
public sealed class KeepWorkingHours(Store store, ChangeLog log)
{
    private const int Farthest = 500_000,
        LongestLunch = 120;

    /// <summary>Keeps it.</summary>
    public async Task<Reply<Guid>> With(TypedHours typed, Author author, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(typed);
        var fields = new FieldErrors();
        fields.That("from", typed.From is not null && typed.Until > typed.From, "Say from when until when the day is.");
        fields.That("lunchMinutes", typed.LunchMinutes is >= 0 and <= LongestLunch, "A meal has 0 to 120 minutes.");
        fields.That(
            "east",
            typed.East is >= -Farthest and <= Farthest && typed.North is >= -Farthest and <= Farthest,
            "Say where the day begins, in metres east and north of the zero stone."
        );
        var skills = typed.Skills ?? [];
        fields.That("skills", skills.All(WorkingHoursRow.AllSkills.Contains), "That is no training known here.");
        await using var transaction = await store.BeginWriting(cancel);
        fields.That("accountId", await store.Users.AnyAsync(u => u.Id == typed.AccountId, cancel), "Choose whose day.");
        if (fields.Any)
            return fields;
        var row = await store.WorkingHours.FirstOrDefaultAsync(h => h.AccountId == typed.AccountId, cancel);
        var was = row is null ? "" : Says(row);
        if (row is null)
            store.WorkingHours.Add(row = new() { AccountId = typed.AccountId });
        (row.From, row.Until, row.LunchMinutes) = (typed.From!.Value, typed.Until!.Value, typed.LunchMinutes!.Value);
        (row.East, row.North) = (typed.East!.Value, typed.North!.Value);
        row.Skills = string.Join(',', WorkingHoursRow.AllSkills.Where(skills.Contains));
        log.Write(author, Things.Person, row.AccountId, "working day", was, Says(row));
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.AccountId;
    }

    private static string Says(WorkingHoursRow row) =>
        FormattableString.Invariant(
            $"{row.From:HH:mm} to {row.Until:HH:mm} from {row.East}, {row.North}; meal {row.LunchMinutes} min"
        ) + (row.Skills.Length > 0 ? $"; {row.Skills}" : "");
}
