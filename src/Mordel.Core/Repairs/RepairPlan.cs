using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>How far a repair is.</summary>
public enum RepairStage
{
    /// <summary>Permission, tools, pressure off.</summary>
    Prepare,

    /// <summary>Nothing is open: what is opened next, or closed up.</summary>
    Choose,

    /// <summary>A cover is being opened.</summary>
    Open,

    /// <summary>Each part is looked at.</summary>
    Inspect,

    /// <summary>What was found is put right.</summary>
    Do,

    /// <summary>It is put together.</summary>
    Assemble,

    /// <summary>Cocks shut, water back.</summary>
    Pressurise,

    /// <summary>Closed and under pressure: the whole test.</summary>
    Retest,
}

/// <summary>A step of a repair with the key that its log has.</summary>
/// <param name="Key"><c>prepare/2</c>, <c>1/out/3</c>, <c>1/in/1</c>, <c>close/2</c>; steps count from 1.</param>
/// <param name="Step">The step.</param>
public sealed record RepairStep(string Key, BenchStep Step);

/// <summary>Something that can be opened.</summary>
/// <param name="Sheet">The sheet's name, or <see cref="OutsideSheet.Id"/>.</param>
/// <param name="Part">The part under that cover; null where all come out together.</param>
/// <param name="Title">What it is called.</param>
public sealed record RepairChoice(string Sheet, PartId? Part, string Title);

/// <summary>What a repair is made with: the body, and the sheets by which it is opened.</summary>
/// <param name="Body">The body.</param>
/// <param name="Sheets">The sheets.</param>
public sealed record RepairPlan(AssemblyBody Body, ImmutableArray<BenchSheet> Sheets)
{
    /// <summary>The step at which permission is asked for.</summary>
    public const string Permission = "prepare/1";

    /// <summary>The step that begins closing up.</summary>
    public const string CloseUp = "close/1";

    /// <summary>Whether a seal disc that was turned over is a repair in this firm; else it is a stopgap.</summary>
    public bool TurnedDiscHolds { get; init; }

    /// <summary>Before anything is opened.</summary>
    public ImmutableArray<RepairStep> Prepare { get; } = Keyed("prepare", ServiceStages.Prepare(Body));

    /// <summary>After everything is closed; the test at the end is a run of its own.</summary>
    public ImmutableArray<RepairStep> Closing { get; } = Keyed("close", ServiceStages.CloseUp(Body).SkipLast(1));

    /// <summary>What can be opened, in the order of the flow.</summary>
    public ImmutableArray<RepairChoice> Choices =>
        [
            .. Sheets.SelectMany(sheet =>
                sheet.Family.OneByOne
                    ? sheet
                        .Family.OutOf(Body)
                        .Select(part => new RepairChoice(sheet.Id, part, $"{LabelOf(part)}, {sheet.Family.Title}"))
                    : [new RepairChoice(sheet.Id, null, $"{Labels(sheet)}, {sheet.Family.Title}")]
            ),
            new(OutsideSheet.Id, null, "Nothing: shutoffs, cocks, strainer, body"),
        ];

    /// <summary>The label of a part of the body.</summary>
    public string LabelOf(PartId part) => Body.Parts.FirstOrDefault(p => p.Id == part)?.Label ?? part.Value;

    /// <summary>
    /// A part with the label of what it belongs to before it; some parts carry that label in their own name.
    /// </summary>
    /// <param name="part">The part.</param>
    /// <param name="of">What it belongs to; null where that is none of the body's.</param>
    /// <param name="between">What stands between label and name.</param>
    public string NameOf(BenchPart part, PartId? of, string between)
    {
        ArgumentNullException.ThrowIfNull(part);
        return of is { } id && !part.Name.StartsWith(LabelOf(id), StringComparison.Ordinal)
            ? $"{LabelOf(id)}{between}{part.Name}"
            : part.Name;
    }

    /// <summary>The sheet of an opening; null where it needs no opening, or the sheet is not known any more.</summary>
    public BenchSheet? SheetOf(string id) => Sheets.FirstOrDefault(s => s.Id == id) ?? BenchSheets.Named(id);

    /// <summary>The steps of one way of an opening.</summary>
    /// <param name="opening">The opening, from 1.</param>
    /// <param name="sheet">Its sheet.</param>
    /// <param name="isIn">Whether it is put together; else it is taken apart.</param>
    public static ImmutableArray<RepairStep> Steps(int opening, BenchSheet? sheet, bool isIn) =>
        sheet is null
            ? []
            : Keyed(
                string.Create(CultureInfo.InvariantCulture, $"{opening}/{(isIn ? "in" : "out")}"),
                isIn ? sheet.In : sheet.Out
            );

    private string Labels(BenchSheet sheet) => string.Join(", ", sheet.Family.OutOf(Body).Select(LabelOf));

    private static ImmutableArray<RepairStep> Keyed(string stage, IEnumerable<BenchStep> steps) =>
        [
            .. steps.Select(
                (step, i) => new RepairStep(string.Create(CultureInfo.InvariantCulture, $"{stage}/{i + 1}"), step)
            ),
        ];
}
