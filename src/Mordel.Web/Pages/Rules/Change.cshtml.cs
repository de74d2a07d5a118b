using System.Collections.Immutable;
using System.Globalization;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Rules;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Rules;

/// <summary>A copy of a profile with other values, or the next version of the installation's own.</summary>
[Authorize(Policy = Policies.Desk)]
public sealed class ChangeModel(ProfileBook book, MakeProfile make, TimeProvider clock) : PageModel
{
    private readonly Wanted wanted = new();

    public Profile From { get; private set; } = null!;
    public bool IsCopy => BuiltInProfiles.Named(From.Id) is not null;
    public string Id { get; private set; } = "";
    public DateOnly Day { get; private set; }
    public IReadOnlyList<(string Field, string Says)> Faults { get; private set; } = [];

    public async Task<IActionResult> OnGet(string id, int version, CancellationToken cancel)
    {
        if (await book.Version(id, version, cancel) is not { } from) return NotFound();
        (From, Id, Day) = (from, IsCopyOf(from) ? "" : from.Id, clock.Today().AddDays(IsCopyOf(from) ? 0 : 1));
        return Page();
    }

    public async Task<IActionResult> OnPost(string id, int version, CancellationToken cancel)
    {
        if (await book.Version(id, version, cancel) is not { } from) return NotFound();
        From = Wished(from);
        var (made, faults) = wanted.Faults.Count > 0 ? (null, wanted.Faults) : await make.From(From with { Id = Id, InForceFrom = Day }, User.FindFirst("name")?.Value ?? "", cancel);
        Faults = faults;
        return made is null ? Page() : Redirect("/rules");
    }

    private static bool IsCopyOf(Profile from) => BuiltInProfiles.Named(from.Id) is not null;

    private Profile Wished(Profile source)
    {
        Id = IsCopyOf(source) ? (Field("short") ?? "").Trim() : source.Id;
        Day = DateOnly.TryParseExact(Field("from"), "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : default;
        return source with
        {
            Name = Field("name")?.Trim() ?? "",
            IntervalMonths = (int)Number("interval", "Months between tests", source.IntervalMonths, 1, 120),
            RetestDays = (int)Number("retest", "Days to mend and test again", source.RetestDays, 1, 3660),
            Schools = [.. source.Schools.Select((s, i) => s with
            {
                HoldSeconds = (int)Number($"s{i}.hold", $"{s.ProcedureId}: watch", s.HoldSeconds, 0, 3600),
                RestAboveReliefIsTight = Field($"s{i}.rest") == "true",
                Items = [.. s.Items.Select(r => Wished(r, $"s{i}.{r.Item.Id}", s.ProcedureId))],
            })],
        };
    }

    private ItemRule Wished(ItemRule rule, string at, string school)
    {
        var requirement = Field($"{at}.req") switch { "required" => Requirement.Required, "optional" => Requirement.Optional, "recorded" => Requirement.Recorded, _ => rule.Requirement };
        var criteria = rule.Criteria.Select(c => c switch
        {
            Criterion.AtLeast a => a with { Limit = a.Limit with { Amount = Number($"{at}.limit", $"{school}: {rule.Item.Name}", a.Limit.Amount, 0, 1000) }, Strict = Field($"{at}.strict") == "true" },
            Criterion.AtLeastAbove b => b with { Distance = b.Distance with { Amount = Number($"{at}.above", $"{school}: {rule.Item.Name}", b.Distance.Amount, 0, 1000) } },
            Criterion.Clearance f => f with { Floor = f.Floor with { Amount = Number($"{at}.floor", $"{school}: {rule.Item.Name}", f.Floor.Amount, 0, 10_000) } },
            _ => c,
        }).ToArray();
        return new(rule.Item, requirement, criteria) { Asked = requirement != Requirement.Required && Field($"{at}.ask") == "true" };
    }

    private string? Field(string name) => Request.HasFormContentType && Request.Form.TryGetValue(name, out var value) ? value.ToString() : null;

    private decimal Number(string field, string what, decimal current, decimal least, decimal most) => Field(field) is not { } text ? current
        : wanted.Number(field, decimal.TryParse(text.Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number) ? number : null, what, least, most);
}
