using System.Globalization;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Reports;

/// <summary>A sealed report as a table for an authority that keeps lists: a line for each judged item.</summary>
public static class ReportTable
{
    /// <summary>The names of the columns.</summary>
    public static IReadOnlyList<string> Heads { get; } =
    [
        "report",
        "signed",
        "outcome",
        "reason",
        "place",
        "address",
        "tag",
        "type",
        "make",
        "model",
        "size",
        "serial",
        "hazard",
        "procedure",
        "tester",
        "certificate",
        "kit",
        "item",
        "reading",
        "unit",
        "limit",
        "result",
        "record",
    ];

    /// <summary>The lines of a report; one without an item where nothing was judged.</summary>
    /// <param name="run">What was sealed.</param>
    /// <param name="record">The hash of its record.</param>
    public static IEnumerable<string[]> Lines(SealedRun run, string record)
    {
        ArgumentNullException.ThrowIfNull(run);
        var (setup, report) = (run.Setup, run.Report);
        string[] head =
        [
            report.Number,
            run.Signing.At.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture),
            report.Outcome,
            report.Reason,
            setup.Place.Name,
            setup.Place.Address,
            setup.Assembly.Tag,
            setup.Assembly.Type.Name,
            setup.Assembly.Make,
            setup.Assembly.Model,
            setup.Assembly.Size,
            setup.Assembly.Serial,
            setup.Assembly.Hazard,
            setup.Plan.Procedure.Id,
            report.Tester,
            report.Certificate,
            report.Kit,
        ];
        if (run.Verdict.Items.Length == 0)
            return
            [
                [.. head, "", "", "", "", "", record],
            ];
        return run.Verdict.Items.Select(i =>
            (string[])
                [
                    .. head,
                    i.Item.Id,
                    i.Value?.ToString() ?? "",
                    i.Unit ?? "",
                    i.Limit?.ToString(CultureInfo.InvariantCulture) ?? "",
                    i.Result.Id(),
                    record,
                ]
        );
    }
}
