using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>Kits with their keepers and the calibration they have.</summary>
internal sealed class BroughtKits(Store store, ChangeLog log, Author author, TimeProvider clock)
{
    /// <summary>Takes them; what is wrong is said at each line.</summary>
    public async Task<List<LineState>> Take(IReadOnlyList<BroughtLine> lines, CancellationToken cancel)
    {
        var people = await store.Users.ToDictionaryAsync(u => u.NormalizedUserName ?? "", u => u.Id, cancel);
        var kits = (await store.Kits.ToListAsync(cancel)).ToDictionary(k => (k.Make, k.Serial));
        var states = new List<LineState>();
        foreach (var line in lines)
        {
            var read = Read(line, people);
            if (kits.TryGetValue((read.Make, read.Serial), out var kit))
            {
                states.Add(Change(kit, read));
                continue;
            }

            store.Kits.Add(read);
            kits[(read.Make, read.Serial)] = read;
            store.Calibrations.Add(Calibrate.Of(read, author, clock.Now()));
            log.New(author, Things.Kit, read.Id, $"{read.Kind} kit {read.Make} {read.Model} {read.Serial}");
            states.Add(LineState.New);
        }

        return states;
    }

    private static KitRow Read(BroughtLine line, Dictionary<string, Guid> people)
    {
        var (kind, unit, keeper) = (line["kind"], line["unit"], line["keeper"]);
        line.Wants(Kit.Named(kind) is not null, $"\"{kind}\" is no kind of kit.");
        line.Wants(DifferentialUnits.Parse(unit) is not null, $"\"{unit}\" is no unit; psid or kPa.");
        line.Wants(
            keeper.Length == 0 || people.ContainsKey(keeper.ToUpperInvariant()),
            $"there is nobody called {keeper}: bring in the people first."
        );
        var hoses = line["hose colours"].Split(' ', StringSplitOptions.RemoveEmptyEntries);
        line.Wants(
            hoses.Length == 0 || (hoses.Length == 3 && hoses.All(h => ColourHoses.Colours.Contains(h))),
            $"hose colours are three of {string.Join(", ", ColourHoses.Colours)}."
        );
        return new()
        {
            Id = Guid.CreateVersion7(),
            KeeperId = people.TryGetValue(keeper.ToUpperInvariant(), out var id) ? id : null,
            Kind = kind,
            Make = line.Text("make"),
            Model = line.Text("model"),
            Serial = line.Text("serial", 60),
            Unit = unit,
            Resolution = line.Amount("resolution", 10m),
            Accuracy = line.Amount("accuracy", 20m),
            FullScale = line.Amount("full scale", 1000m),
            CalibratedOn = line.Day("calibrated on"),
            CalibratedBy = line.Text("calibrated by"),
            CalibrationDue = line.Day("calibration due"),
            HoseColours = hoses.Length == 3 ? string.Join(' ', hoses) : null,
        };
    }

    // What a kit is stays what it is; who has it, and a later calibration, may be told.
    private LineState Change(KitRow kit, KitRow read)
    {
        var changed = false;
        if (read.KeeperId is { } keeper && keeper != kit.KeeperId)
        {
            log.Write(author, Things.Kit, kit.Id, "keeper", $"{kit.KeeperId}", $"{keeper}");
            (kit.KeeperId, changed) = (keeper, true);
        }

        if (read.CalibratedOn > kit.CalibratedOn)
        {
            log.Write(
                author,
                Things.Kit,
                kit.Id,
                "calibration",
                $"{kit.CalibratedOn:d MMM yyyy}",
                $"{read.CalibratedOn:d MMM yyyy}"
            );
            (kit.CalibratedOn, kit.CalibratedBy, kit.CalibrationDue) = (
                read.CalibratedOn,
                read.CalibratedBy,
                read.CalibrationDue
            );
            store.Calibrations.Add(Calibrate.Of(kit, author, clock.Now()));
            changed = true;
        }

        return changed ? LineState.Changed : LineState.Same;
    }
}
