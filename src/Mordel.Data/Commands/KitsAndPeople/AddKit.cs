using Microsoft.EntityFrameworkCore;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>What is typed when a kit is added.</summary>
public sealed record NewKit(
    Guid KeeperId,
    string? Kind,
    string? Make,
    string? Model,
    string? Serial,
    string? Unit,
    decimal? Resolution,
    decimal? Accuracy,
    DateOnly? CalibratedOn,
    string? CalibratedBy
);

/// <summary>
/// Adds a kit and gives it to a tester, and to the tester's branch; the kit that the tester had is put by.
/// </summary>
public sealed class AddKit(Store store, ChangeLog log, TimeProvider clock)
{
    private const int MostKits = 5_000;

    public async Task<Reply<Guid>> With(NewKit kit, Author author, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var unit = fields.OneOf("unit", kit.Unit, "Unit", "psid", "kPa");
        var on = fields.Day("calibratedOn", kit.CalibratedOn, "Calibration date");
        var row = new KitRow
        {
            Id = Guid.CreateVersion7(),
            KeeperId = kit.KeeperId,
            Kind = fields.OneOf("kind", kit.Kind, "Kind", [.. Kit.All.Select(k => k.Name)]),
            Make = fields.Text("make", kit.Make, "Make"),
            Model = fields.Text("model", kit.Model, "Model"),
            Serial = fields.Text("serial", kit.Serial, "Serial number", 60),
            Unit = unit,
            Resolution = fields.Number("resolution", kit.Resolution, "Resolution", 0.01m, 10m),
            Accuracy = fields.Number("accuracy", kit.Accuracy, "Accuracy", 0.01m, 20m),
            FullScale = DifferentialUnits.Parse(unit) == DifferentialUnit.Psid ? 15m : 100m,
            CalibratedOn = on,
            CalibratedBy = fields.Text("calibratedBy", kit.CalibratedBy, "Who calibrated"),
            CalibrationDue = on == default ? on : on.AddYears(1),
        };
        await using var transaction = await store.BeginWriting(cancel);
        fields.That(
            "keeperId",
            await store.Users.AnyAsync(u => u.Id == kit.KeeperId, cancel),
            "Choose who has the kit."
        );
        fields.That(
            "serial",
            !await store.Kits.AnyAsync(k => k.Serial == row.Serial && k.Make == row.Make, cancel),
            $"{row.Make} {row.Serial} is already there."
        );
        fields.That("serial", await store.Kits.CountAsync(cancel) < MostKits, $"{MostKits} kits are enough.");
        if (fields.Any)
            return fields;
        var keeper = await store.Users.Where(u => u.Id == kit.KeeperId).Select(u => u.FullName).FirstAsync(cancel);
        foreach (var old in await store.Kits.Where(k => k.KeeperId == kit.KeeperId).ToListAsync(cancel))
        {
            old.KeeperId = null;
            log.Write(author, Things.Kit, old.Id, "keeper", keeper, "nobody");
        }

        store.Kits.Add(row);
        if (await store.BranchPeople.FirstOrDefaultAsync(p => p.AccountId == kit.KeeperId, cancel) is { } works)
            store.BranchKits.Add(new() { KitId = row.Id, BranchId = works.BranchId });
        store.Calibrations.Add(Calibrate.Of(row, author, clock.Now()));
        log.New(
            author,
            Things.Kit,
            row.Id,
            $"{row.Kind} kit {row.Make} {row.Model} {row.Serial}, calibrated {row.CalibratedOn:d MMM yyyy} by "
                + $"{row.CalibratedBy}"
        );
        log.Write(author, Things.Kit, row.Id, "keeper", "", keeper);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }
}
