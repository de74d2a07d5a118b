using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using Mordel.Core.Notices;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;

namespace Mordel.Data.Outbox;

/// <summary>One assembly in a letter.</summary>
/// <param name="Assembly">With place, owner and authority.</param>
public sealed record LetterItem(AssemblyRow Assembly)
{
    /// <summary>The visit, where it is about one.</summary>
    public StopRow? Stop { get; init; }

    /// <summary>What is told of the visit, and what was told before.</summary>
    public VisitPromise? Promise { get; init; }
    public VisitPromise? Was { get; init; }

    /// <summary>Who comes.</summary>
    public string Tester { get; init; } = "";

    /// <summary>The report, and what the test found.</summary>
    public string Report { get; init; } = "";
    public string Why { get; init; } = "";
}

/// <summary>Sets letters out of what they are about.</summary>
public sealed class NoticeLetters(NoticeTemplates templates, INoticeSetter setter, Installation installation)
{
    /// <summary>A letter to somebody about some assemblies.</summary>
    public async Task<DraftLetter> Set(
        NoticeKind kind,
        Recipient to,
        IReadOnlyList<LetterItem> items,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(to);
        ArgumentNullException.ThrowIfNull(items);
        var facts = Facts(to, items);
        var template = await templates.For(kind, items[0].Assembly.Authority!.ProfileId, to.Language, cancel);
        SetNotice set;
        try
        {
            set = setter.Set(template, facts);
        }
        catch (FormatException)
        {
            // Own words that cannot be set any more keep nobody from being told.
            set = setter.Set(BuiltInNotices.Of(kind, to.Language), facts);
        }

        var entry = NoticeKinds.Of(kind);
        return new(
            entry,
            to,
            set,
            [.. items.Select(i => (i.Assembly.Id, i.Stop?.Id))],
            $"notice/{entry.Id}/{to.Id:N}/{Sign(items)}"
        );
    }

    // The same news of the same things is the same letter.
    private static string Sign(IReadOnlyList<LetterItem> items)
    {
        var news = new StringBuilder();
        foreach (var item in items.OrderBy(i => i.Assembly.Id))
            news.Append(
                CultureInfo.InvariantCulture,
                $"{item.Assembly.Id:N} {item.Stop?.Id:N} {item.Stop?.Sequence} {item.Promise} {item.Was} {item.Report}"
            );
        if (items.All(i => i.Stop is null && i.Report.Length == 0))
            foreach (var item in items.OrderBy(i => i.Assembly.Id))
                news.Append(CultureInfo.InvariantCulture, $" {item.Assembly.NextDue:yyyy-MM-dd}");
        return ContentHash.Compute(news.ToString())[..16];
    }

    /// <summary>What a letter can say.</summary>
    public NoticeFacts Facts(Recipient to, IReadOnlyList<LetterItem> items)
    {
        ArgumentNullException.ThrowIfNull(to);
        ArgumentNullException.ThrowIfNull(items);
        var language = NoticeLanguages.Of(to.Language);
        string Day(DateOnly? day) => day is { } d ? language.Day(d) : "";
        var places = items.Select(i => i.Assembly.Place!).DistinctBy(p => p.Id).ToList();
        var promises = items.Select(i => i.Promise).OfType<VisitPromise>().ToList();
        var before = items.Select(i => i.Was).OfType<VisitPromise>().ToList();
        return new(
            new Dictionary<string, string>
            {
                ["to"] = to.Name,
                ["firm"] = installation.Firm,
                ["phone"] = installation.FirmPhone,
                ["place"] = language.Places(places[0].Name, places.Count),
                ["address"] = places is [var one] ? Joined(one.Address, one.District) : "",
                ["authority"] = items[0].Assembly.Authority!.Name,
                ["day"] = Day(promises.FirstOrDefault()?.Day),
                ["from"] = promises.Count > 0 ? Clock(promises.Min(p => p.From)) : "",
                ["until"] = promises.Count > 0 ? Clock(promises.Max(p => p.Until)) : "",
                ["tester"] = string.Join(", ", items.Select(i => i.Tester).Where(t => t.Length > 0).Distinct()),
                ["was_day"] = Day(before.FirstOrDefault()?.Day),
                ["was_from"] = before.Count > 0 ? Clock(before.Min(p => p.From)) : "",
                ["was_until"] = before.Count > 0 ? Clock(before.Max(p => p.Until)) : "",
                ["fire_line"] = items.Any(i => i.Assembly.FireLine) ? "yes" : "",
                ["high_hazard"] = items.Any(i => i.Assembly.Hazard == "high") ? "yes" : "",
                ["page"] = to.Purpose is null ? "" : LetterRow.Page,
            }.ToImmutableSortedDictionary(),
            [.. items.Select(i => Of(i, Day))]
        );
    }

    private static ImmutableSortedDictionary<string, string> Of(LetterItem item, Func<DateOnly?, string> day)
    {
        var a = item.Assembly;
        return new Dictionary<string, string>
        {
            ["what"] = Joined($"{a.Type} {a.Size}".Trim(), a.Location),
            ["tag"] = a.Tag,
            ["type"] = a.Type,
            ["size"] = a.Size,
            ["serial"] = a.Serial,
            ["stands"] = a.Location,
            ["serves"] = a.Serves,
            ["place"] = a.Place!.Name,
            ["hazard"] = a.Hazard,
            ["from"] = item.Promise is { } p ? Clock(p.From) : "",
            ["until"] = item.Promise is { } q ? Clock(q.Until) : "",
            ["minutes"] = item.Stop?.Minutes.ToString(CultureInfo.InvariantCulture) ?? "",
            ["due"] = day(a.NextDue),
            ["why"] = item.Why.Length > 0 ? item.Why : a.DueWhy ?? "",
            ["then"] = a.DueThen ?? "",
            ["report"] = item.Report,
            ["next_due"] = day(a.NextDue),
        }.ToImmutableSortedDictionary();
    }

    private static string Joined(params string[] parts) => string.Join(", ", parts.Where(p => p.Length > 0));

    private static string Clock(TimeOnly at) => at.ToString("HH:mm", CultureInfo.InvariantCulture);
}
