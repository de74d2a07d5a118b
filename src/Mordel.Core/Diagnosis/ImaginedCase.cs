using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Diagnosis;

/// <summary>
/// The case of an atlas that goes best with what was seen, of all with the same faults: what it shows at each thing
/// that was observed.
/// </summary>
/// <param name="Case">The case; its situation can be set on a rig.</param>
/// <param name="Shows">For each observation what the case shows there, in words; null where it shows nothing.</param>
public sealed record ImaginedCase(AtlasCase Case, ImmutableArray<string?> Shows)
{
    /// <summary>The one that goes best with the evidence of a diagnosis.</summary>
    /// <param name="atlas">The atlas of the diagnosis.</param>
    /// <param name="diagnosed">The diagnosis.</param>
    /// <param name="hypothesis">One of its hypotheses.</param>
    public static ImaginedCase Of(Atlas atlas, Diagnosed diagnosed, Hypothesis hypothesis)
    {
        ArgumentNullException.ThrowIfNull(atlas);
        ArgumentNullException.ThrowIfNull(diagnosed);
        ArgumentNullException.ThrowIfNull(hypothesis);
        var row = atlas.Rows[hypothesis.Row];
        var draw = hypothesis.Row - atlas.RowsOf(row.Set).First();
        var fit = new RowFit(atlas, diagnosed.Evidence);
        return new(
            new(atlas.Body, atlas.Sets[row.Set], draw),
            [.. diagnosed.Evidence.Observations.Select(o => Words(atlas, fit, row, o))]
        );
    }

    private static string? Words(Atlas atlas, RowFit fit, AtlasRow row, Observed observed) =>
        observed switch
        {
            Observed.PortSeen port => atlas.PortLooks.IndexOf(port.Look) is >= 0 and var at
                ? ServiceLooks.Words(row.Outlets[at])
                : null,
            Observed.LineRead => string.Create(CultureInfo.InvariantCulture, $"{row.Supply:0} psi"),
            Observed.SightMet met => fit.Step(row, met.Step) is var (bits, step)
                ? bits == 0
                    ? "It does not come to that"
                    : Sights(step, bits) is { Length: > 0 } seen
                        ? SheetWords.Seen(fit.School!.Id, met.Step, seen[0])
                        : "Nothing odd"
                : null,
            Observed.ItemRead read => fit.Value(read.Item, row) is var (value, performed) && performed
                ? Words(read, value)
                : null,
            _ => null,
        };

    private static string[] Sights(AtlasStep step, ushort bits) =>
        [.. step.Sights.Where((_, i) => (bits & (1 << i)) != 0)];

    private static string Words(Observed.ItemRead read, double value) =>
        double.IsNaN(value)
            ? "No answer is got"
            : read.Value switch
            {
                ItemValue.Measured m => Reads(value, m.Reading.Value.Unit),
                ItemValue.Line => string.Create(CultureInfo.InvariantCulture, $"{value:0} psi"),
                ItemValue.Tightness => value > 1.5 ? "Not shown"
                : value > 0.5 ? "Tight"
                : "Leaks",
                _ => value > 0.5 ? "Yes" : "No",
            };

    private static string Reads(double psid, DifferentialUnit unit) =>
        unit == DifferentialUnit.Psid
            ? string.Create(CultureInfo.InvariantCulture, $"{psid:0.0} psid")
            : string.Create(CultureInfo.InvariantCulture, $"{psid * (double)DifferentialUnits.KpaPerPsi:0} kPa");
}
