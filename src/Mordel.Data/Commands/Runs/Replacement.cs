using Mordel.Core.Runs;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Runs;

/// <summary>
/// Settles a serial number that was not the one on the order. The record was wrong: it is corrected. The assembly was
/// replaced: a new assembly is entered in its place, linked to the old one, and the run belongs to the new one.
/// </summary>
public static class Replacement
{
    /// <summary>Settles it in the register, in the transaction of the seal.</summary>
    public static void Settle(Store store, RunRow row, EntryBody.SerialDiffers found, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(store);
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(found);
        var old = row.Assembly!;
        if (!found.Replaced)
        {
            old.Serial = found.Serial;
            return;
        }

        var fresh = InPlaceOf(old, found.Serial, day, row.Id);
        store.Assemblies.Add(fresh);
        (row.AssemblyId, row.Assembly) = (fresh.Id, fresh);
    }

    /// <summary>
    /// What stands in the place of another, linked to it: it has the tag, and all that is not the old one's own. The
    /// old one owes nothing any more.
    /// </summary>
    /// <param name="old">What was replaced.</param>
    /// <param name="serial">The serial of what stands there now.</param>
    /// <param name="day">Since when.</param>
    /// <param name="by">What it was found by; tells two of one day apart.</param>
    public static AssemblyRow InPlaceOf(AssemblyRow old, string serial, DateOnly day, Guid by)
    {
        ArgumentNullException.ThrowIfNull(old);
        var tag = old.Tag;
        (old.Tag, old.ReplacedOn, old.State) = (
            $"{tag} until {day:yyyy-MM-dd} {by.ToString("N")[..4]}",
            day,
            AssemblyStates.Replaced
        );
        (old.NextDue, old.DueUntil, old.DueCause, old.DueWhy, old.DueThen) = (null, null, null, null, null);
        return new()
        {
            Id = Guid.CreateVersion7(),
            PlaceId = old.PlaceId,
            AuthorityId = old.AuthorityId,
            Tag = tag,
            Type = old.Type,
            Make = old.Make,
            Model = old.Model,
            Size = old.Size,
            Serial = serial,
            Flow = old.Flow,
            Location = old.Location,
            Serves = old.Serves,
            Hazard = old.Hazard,
            Protection = old.Protection,
            FireLine = old.FireLine,
            Body = old.Body,
            Strainer = old.Strainer,
            ConfinedSpace = old.ConfinedSpace,
            WaterOff = old.WaterOff,
            FittedCocks = old.FittedCocks,
            BypassLine = old.BypassLine,
            ReliefPort = old.ReliefPort,
            Use = old.Use,
            Season = old.Season,
            InstalledOn = day,
            HowToFind = old.HowToFind,
            ReplacesId = old.Id,
        };
    }
}
