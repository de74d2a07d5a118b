using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Register;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Units;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Rules;

/// <summary>A copy of a profile with other values, or the next version of the installation's own.</summary>
[Authorize(Policy = Policies.Desk)]
public sealed partial class ChangeModel(ProfileList book, MakeProfile make, RulePreview preview, TimeProvider clock)
    : PageModel
{
    private const int Decimals = 3;

    private readonly FieldErrors wanted = new();

    public Profile From { get; private set; } = null!;
    public bool IsCopy => BuiltInProfiles.Named(From.Id) is not null;
    public string Id { get; private set; } = "";
    public DateOnly Day { get; private set; }

    public async Task<IActionResult> OnGet(string id, int version, CancellationToken cancel)
    {
        if (await book.Version(id, version, cancel) is not { } from)
            return NotFound();
        (From, Id, Day) = (from, IsCopyOf(from) ? "" : from.Id, clock.Today().AddDays(IsCopyOf(from) ? 0 : 1));
        return Page();
    }

    public async Task<IActionResult> OnPost(string id, int version, CancellationToken cancel)
    {
        if (await book.Version(id, version, cancel) is not { } from)
            return NotFound();
        From = Wished(from);
        var made = wanted.Any
            ? wanted
            : await make.From(From with { Id = Id, InForceFrom = Day }, new(User.Name()), cancel);
        return await this.Answer(made, _ => "/rules");
    }

    /// <summary>What these rules would change; null where nobody has asked.</summary>
    public RuleEffect? Effect { get; private set; }

    /// <summary>Shows what these rules would change, and keeps nothing.</summary>
    public async Task<IActionResult> OnPostLook(string id, int version, CancellationToken cancel)
    {
        if (await book.Version(id, version, cancel) is not { } from)
            return NotFound();
        From = Wished(from);
        wanted.That("from", Day >= clock.Today(), "It comes into force today or later.");
        if (wanted.Any)
            return await this.Answer<Profile>(wanted, _ => "/rules");
        Effect = await preview.Of(
            From with
            {
                Id = Id.Length == 0 ? $"{from.Id}-copy" : Id,
                Version = from.Version + 1,
                InForceFrom = Day,
                InForceUntil = null,
            },
            from.Id,
            null,
            cancel
        );
        return Page();
    }

    private static bool IsCopyOf(Profile from) => BuiltInProfiles.Named(from.Id) is not null;

    /// <summary>What stands in a field: as it was typed, or as the profile has it.</summary>
    public string Shown(string field, string? current) => Field(field) ?? (IsPosted ? "" : current ?? "");

    /// <summary>Whether a box is ticked: as it was left, or as the profile has it.</summary>
    public bool Ticked(string field, bool current) => IsPosted ? Field(field) == "true" : current;

    /// <summary>An amount as it is typed.</summary>
    public static string? Typed(decimal? amount) => amount?.ToString(CultureInfo.InvariantCulture);

    /// <summary>By how much an item is asked to stay above another; null where it is not.</summary>
    public static decimal? Distance(ItemRule rule) =>
        rule.Criteria.OfType<Criterion.AtLeastAbove>().FirstOrDefault()?.Distance.Amount;

    /// <summary>The item above which another may be asked to stay in this school; null where there is none.</summary>
    public static TestItem? Above(SchoolRules school, ItemRule rule)
    {
        ArgumentNullException.ThrowIfNull(school);
        ArgumentNullException.ThrowIfNull(rule);
        if (rule.Item.Kind != ItemKind.Differential)
            return null;
        return rule.Criteria.OfType<Criterion.AtLeastAbove>().FirstOrDefault()?.Item
            ?? (
                rule.Item != TestItem.ReliefOpening && school.For(TestItem.ReliefOpening) is not null
                    ? TestItem.ReliefOpening
                    : null
            );
    }

    private bool IsPosted => Request.HasFormContentType;

    private Profile Wished(Profile source)
    {
        Id = IsCopyOf(source) ? (Field("short") ?? "").Trim() : source.Id;
        Day = DateOnly.TryParseExact(
            Field("from"),
            "yyyy-MM-dd",
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out var day
        )
            ? day
            : default;
        return source with
        {
            Name = Field("name")?.Trim() ?? "",
            IntervalMonths = (int)Number(
                "interval",
                "Months between tests",
                source.IntervalMonths,
                1,
                120,
                whole: true
            ),
            RetestDays = (int)Number("retest", "Days to mend and test again", source.RetestDays, 1, 3660, whole: true),
            GraceDays = (int)Number("grace", "Days of grace", source.GraceDays, 0, 365, whole: true),
            EventDays = (int)Number("event", "Days after an event", source.EventDays, 0, 365, whole: true),
            StartUpDays = (int)Number("startup", "Days after a start-up", source.StartUpDays, 0, 365, whole: true),
            KeepYears = (int)Number(
                "keep",
                "Years that reports are kept",
                source.KeepYears,
                0,
                Profile.LongestKept,
                whole: true
            ),
            Intervals = Intervals(source),
            Words = Words(source),
            Schools = [.. source.Schools.Select((s, i) => Wished(s, $"s{i}"))],
        };
    }

    private EquatableArray<TestInterval> Intervals(Profile source)
    {
        if (Field("intervals") is not { } text)
            return source.Intervals;
        var read = IntervalText.Read(text, [.. AssemblyFields.Use.Choices.Select(c => c.Value)], out var wrong);
        wanted.That("intervals", read is not null, $"Other intervals: {wrong}");
        return read ?? source.Intervals;
    }

    private SchoolRules Wished(SchoolRules school, string at)
    {
        EquatableArray<ItemRule> items =
        [
            .. Rows(school)
                .Where(r => !IsLeftOut(school, r.Item, at))
                .Select(r => Wished(school, r, $"{at}.{r.Item.Id}")),
        ];
        var voids = items
            .Where(r => r.Item.Kind == ItemKind.TightOrLeaks && Field($"{at}.{r.Item.Id}.voids") == "true")
            .ToList();
        foreach (var rule in voids.Where(r => r.Requirement == Requirement.Recorded))
            wanted.That(
                $"{at}.{rule.Item.Id}.req",
                false,
                $"{school.ProcedureId}: {rule.Item.Name}: what is only recorded cannot make the rest worth nothing."
            );
        return school with
        {
            Items = items,
            VoidsTheRest = [.. voids.Where(r => r.Requirement != Requirement.Recorded).Select(r => r.Item)],
            HoldSeconds = (int)Number(
                $"{at}.hold",
                $"{school.ProcedureId}: watch",
                school.HoldSeconds,
                0,
                SchoolRules.LongestHold,
                whole: true
            ),
            RestAboveReliefIsTight = Field($"{at}.rest") == "true",
            Variants = [.. StepVariant.LeftOpenBy(school.ProcedureId).Where(v => Field($"{at}.{v.Id}") == "true")],
        };
    }

    /// <summary>The word for an item that the profile leaves out.</summary>
    public const string NotAsked = "not asked";

    /// <summary>What an item can be.</summary>
    public static IEnumerable<string> Choices(SchoolRules school, TestItem item) =>
        SchoolFacts.CanBeLeftOut(school.ProcedureId, item)
            ? ["required", "optional", "recorded", NotAsked]
            : ["required", "optional", "recorded"];

    /// <summary>The school's items, and SO2 where the profile leaves it out now.</summary>
    public static IEnumerable<ItemRule> Rows(SchoolRules school)
    {
        ArgumentNullException.ThrowIfNull(school);
        return SchoolFacts.CanBeLeftOut(school.ProcedureId, TestItem.Shutoff2) && school.For(TestItem.Shutoff2) is null
            ? school.Items.Append(new(TestItem.Shutoff2, Requirement.Recorded))
            : school.Items;
    }

    private bool IsLeftOut(SchoolRules school, TestItem item, string at) =>
        SchoolFacts.CanBeLeftOut(school.ProcedureId, item) && Field($"{at}.{item.Id}.req") == NotAsked;

    // A demand that is left empty is not made; what is judged must keep one.
    private ItemRule Wished(SchoolRules school, ItemRule rule, string at)
    {
        var what = $"{school.ProcedureId}: {rule.Item.Name}";
        var requirement = Field($"{at}.req") switch
        {
            "required" => Requirement.Required,
            "optional" => Requirement.Optional,
            "recorded" => Requirement.Recorded,
            _ => rule.Requirement,
        };
        EquatableArray<Criterion> criteria =
            requirement == Requirement.Recorded ? [] : [.. Demands(school, rule, at, what)];
        if (ItemRule.WhyNot(rule.Item, requirement, criteria) is { } why)
        {
            wanted.That($"{at}.req", false, $"{what}: {why}.");
            return rule;
        }

        return new(rule.Item, requirement, criteria) { Asked = Field($"{at}.ask") == "true" };
    }

    private IEnumerable<Criterion> Demands(SchoolRules school, ItemRule rule, string at, string what)
    {
        var strict = Field($"{at}.strict") == "true";
        switch (rule.Item.Kind)
        {
            case ItemKind.Differential:
                if (Amount($"{at}.limit", what, 0, 1000) is { } limit)
                    yield return new Criterion.AtLeast(new(limit, school.Unit), strict);
                if (Above(school, rule) is { } other && Amount($"{at}.above", what, 0, 1000) is { } above)
                    yield return new Criterion.AtLeastAbove(other, new(above, school.Unit));
                break;
            case ItemKind.LinePressure:
                var line = school.Unit == DifferentialUnit.Psid ? LinePressureUnit.Psi : LinePressureUnit.Kpa;
                if (Amount($"{at}.limit", what, 0, LinePressure.Largest(line)) is { } pressure)
                    yield return new Criterion.LineAtLeast(new(pressure, line), strict);
                break;
            case ItemKind.Length:
                var unit = rule.Criteria.OfType<Criterion.Clearance>().FirstOrDefault()?.Floor.Unit
                    ?? (school.Unit == DifferentialUnit.Psid ? LengthUnit.Inch : LengthUnit.Millimetre);
                if (Amount($"{at}.floor", what, 0, 10_000) is { } floor)
                    yield return new Criterion.Clearance(new(floor, unit), Amount($"{at}.times", what, 0, 100) ?? 0m);
                break;
            case ItemKind.TightOrLeaks:
                yield return new Criterion.Tight();
                break;
            default:
                yield return new Criterion.Yes();
                break;
        }
    }

    private string? Field(string name) =>
        IsPosted && Request.Form.TryGetValue(name, out var value) ? value.ToString() : null;

    private decimal? Amount(string field, string what, decimal least, decimal most) =>
        string.IsNullOrWhiteSpace(Field(field)) ? null : Number(field, what, 0, least, most, whole: false);

    private decimal Number(string field, string what, decimal current, decimal least, decimal most, bool whole)
    {
        if (Field(field) is not { } text)
            return current;
        decimal? typed = decimal.TryParse(
            text.Replace(',', '.'),
            NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var number
        )
            ? number
            : null;
        var places = whole ? 0 : Decimals;
        wanted.That(
            field,
            typed is not { } n || decimal.Round(n, places) == n,
            $"{what}: {(whole ? "a whole number" : $"up to {Decimals} digits behind the point")}."
        );
        var kept = wanted.Number(field, typed, what, least, most);
        return decimal.Round(kept, places);
    }
}
