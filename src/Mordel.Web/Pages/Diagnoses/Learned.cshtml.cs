using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Verdicts;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Documents.Interchange;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Diagnoses;

/// <summary>What repairs found, counted, and what that makes of the rates that diagnoses begin with.</summary>
public sealed class LearnedModel(RepairFindings findings, ResetRates reset) : PageModel
{
    /// <summary>The bodies that have an atlas, each once, by the name of its file.</summary>
    public static IReadOnlyDictionary<string, AssemblyBody> Bodies { get; } =
        Core.Catalogue.Bodies.All.DistinctBy(Atlas.FileOf).ToDictionary(Slug);

    public AssemblyBody Body { get; private set; } = Bodies.Values.First();

    /// <summary>All families of the body together.</summary>
    public LearnedRates All { get; private set; } = null!;

    /// <summary>Each make and model by itself, the one with most repairs first.</summary>
    public IReadOnlyList<LearnedRates> Families { get; private set; } = [];
    public RateResetRow? Reset { get; private set; }
    public bool MayReset => User.IsInRole(Roles.Owner);

    /// <summary>A body's name in an address.</summary>
    public static string Slug(AssemblyBody body) => Path.GetFileNameWithoutExtension(Atlas.FileOf(body));

    /// <summary>A body's name for people.</summary>
    public static string Title(AssemblyBody body) =>
        body?.Type.Facts().HasChoiceOfBodies == true ? $"{body.Type.Name}, {body.Name}" : $"{body?.Type.Name}";

    /// <summary>A rate in words.</summary>
    public static string Percent(double rate) => (100 * rate).ToString("0.#", CultureInfo.InvariantCulture) + " %";

    public Task OnGet(string? body, CancellationToken cancel) => Load(body, cancel);

    /// <summary>All counts as a file.</summary>
    public async Task<IActionResult> OnGetCsv(CancellationToken cancel)
    {
        var lines = new List<object[]>();
        foreach (var body in Bodies.Values)
        {
            await Load(Slug(body), cancel);
            foreach (var counted in Families.Prepend(All))
                lines.AddRange(counted.Faults.Select(fault => Line(counted, fault)));
        }

        var text = CsvText.Write(
            ["type", "body", "family", "part", "fault", "shipped", "found", "repairs", "rate"],
            lines
        );
        return File(Encoding.UTF8.GetBytes(text), "text/csv; charset=utf-8", "what-repairs-taught.csv");
    }

    /// <summary>Only what is found from now on counts.</summary>
    public Task<IActionResult> OnPostReset(string? body, CancellationToken cancel) =>
        Change(body, () => reset.FromNow(User.Name(), cancel), cancel);

    /// <summary>All that was ever found counts.</summary>
    public Task<IActionResult> OnPostAll(string? body, CancellationToken cancel) =>
        Change(body, () => reset.CountAll(User.Name(), cancel), cancel);

    private async Task<IActionResult> Change(
        string? body,
        Func<Task<Data.Commands.Reply<Guid>>> change,
        CancellationToken cancel
    ) =>
        MayReset
            ? await this.Answer(
                await change(),
                _ => $"/diagnoses/learned?body={Uri.EscapeDataString(body ?? "")}",
                () => Load(body, cancel)
            )
            : Forbid();

    private async Task Load(string? body, CancellationToken cancel)
    {
        Body = Bodies.GetValueOrDefault(body ?? "") ?? Bodies.Values.First();
        var found = await findings.Of(Body, cancel);
        All = Learning.From(Body, found, null);
        Families =
        [
            .. found
                .Select(f => f.Family)
                .Distinct()
                .Select(f => Learning.From(Body, found, f))
                .OrderByDescending(l => l.Repairs)
                .ThenBy(l => l.Family, StringComparer.Ordinal),
        ];
        Reset = await findings.LatestReset(cancel);
    }

    private static object[] Line(LearnedRates counted, LearnedFault fault)
    {
        var (rate, body) = (fault.Shipped, counted.Body);
        static string Digits(double number) => number.ToString("0.####", CultureInfo.InvariantCulture);
        return
        [
            body.Type.Name,
            body.Name,
            counted.Family ?? "",
            rate.Fault.Part.Value,
            rate.Fault.Kind,
            Digits(rate.Rate),
            fault.Found,
            counted.Repairs,
            Digits(fault.Rate),
        ];
    }
}
