using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Commands.Office;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>What is typed when a kit was calibrated.</summary>
/// <param name="On">The day.</param>
/// <param name="CalibratedBy">By whom.</param>
/// <param name="Due">The last day on which it counts.</param>
/// <param name="FoundHigh">By how much the gauge was found to read high; null where nobody has said.</param>
public sealed record NewCalibration(DateOnly? On, string? CalibratedBy, DateOnly? Due, decimal? FoundHigh);

/// <summary>Keeps calibrations, and asks for the tests again that a wrong kit makes doubtful.</summary>
public sealed class Calibrate(
    Store store,
    KeepPapers papers,
    KitPage page,
    RecordEvent events,
    DueProjection dues,
    ChangeLog log,
    TimeProvider clock
)
{
    /// <summary>Keeps a calibration; the kit is in calibration by it where it is the last one.</summary>
    public async Task<Reply<Guid>> With(
        Guid kitId,
        NewCalibration calibration,
        HandedPaper? scan,
        Author author,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(calibration);
        var fields = new FieldErrors();
        var row = new CalibrationRow
        {
            Id = Guid.CreateVersion7(),
            KitId = kitId,
            On = fields.Day("on", calibration.On, "Calibration date"),
            CalibratedBy = fields.Text("calibratedBy", calibration.CalibratedBy, "Who calibrated"),
            Due = fields.Day("due", calibration.Due, "Last day"),
            FoundHigh = calibration.FoundHigh,
            At = clock.Now(),
            By = author.By,
        };
        fields.That("on", row.On <= clock.Today(), "A calibration lies behind: keep it when it is done.");
        fields.That("due", row.Due > row.On, "The last day lies before the calibration.");
        fields.Unless("scan", scan is null ? null : KeepPapers.WhyNot(scan));
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Kits.FirstOrDefaultAsync(k => k.Id == kitId, cancel) is not { } kit)
            return Reply<Guid>.NotFound("There is no such kit.");
        fields.That(
            "foundHigh",
            row.FoundHigh is not { } high || Math.Abs(high) <= kit.FullScale,
            $"The gauge ends at {kit.FullScale} {kit.Unit}."
        );
        fields.That(
            "on",
            !await store.Calibrations.AnyAsync(c => c.KitId == kitId && c.On == row.On, cancel),
            "A calibration of that day is already there."
        );
        if (fields.Any)
            return fields;
        if (scan is not null)
            row.PaperId = (await papers.Add(scan, null, author, cancel)).Id;
        store.Calibrations.Add(row);
        log.Write(
            author,
            Things.Kit,
            kitId,
            "calibration",
            $"{kit.CalibratedOn:d MMM yyyy} by {kit.CalibratedBy}",
            $"{row.On:d MMM yyyy} by {row.CalibratedBy}, until {row.Due:d MMM yyyy}"
                + (row.FoundHigh is { } found ? $", found {found} {kit.Unit} high" : "")
        );
        if (row.On >= kit.CalibratedOn)
            (kit.CalibratedOn, kit.CalibratedBy, kit.CalibrationDue) = (row.On, row.CalibratedBy, row.Due);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    /// <summary>
    /// Asks for the tests again that would not have passed without the error that a calibration found.
    /// </summary>
    /// <returns>How many assemblies are to be tested again that were not already.</returns>
    public async Task<Reply<int>> TestAgain(Guid kitId, Guid calibrationId, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (
            await page.Of(kitId, cancel) is not { } view
            || view.Calibrations.FirstOrDefault(c => c.Id == calibrationId) is not { } found
        )
            return Reply<int>.NotFound("There is no such calibration.");
        if (await page.Doubt(view, found, cancel) is not { } doubt)
            return Reply<int>.Refused("The gauge was found within its accuracy: nothing is in doubt.");
        var owed = doubt.Tests.Where(t => t.IsOwed).Select(t => t.Assembly.Id).ToList();
        var asked = await store
            .AssemblyEvents.Where(e =>
                owed.Contains(e.AssemblyId)
                && e.Kind == RecordedEvents.InDoubt
                && e.Day == found.On
                && e.TakenBackAt == null
            )
            .Select(e => e.AssemblyId)
            .ToListAsync(cancel);
        var rows = await store.Assemblies.Where(a => owed.Contains(a.Id) && !asked.Contains(a.Id)).ToListAsync(cancel);
        foreach (var row in rows)
            events.Keep(
                row.Id,
                RecordedEvents.InDoubt,
                found.On,
                $"Kit {view.Kit.Serial} read {doubt.FoundHigh} high.",
                author
            );
        await store.SaveChangesAsync(cancel);
        await dues.Write(rows, cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return rows.Count;
    }

    /// <summary>The calibration that a kit comes with.</summary>
    public static CalibrationRow Of(KitRow kit, Author author, DateTimeOffset at)
    {
        ArgumentNullException.ThrowIfNull(kit);
        return new()
        {
            Id = Guid.CreateVersion7(),
            KitId = kit.Id,
            On = kit.CalibratedOn,
            CalibratedBy = kit.CalibratedBy,
            Due = kit.CalibrationDue,
            At = at,
            By = author.By,
        };
    }
}
