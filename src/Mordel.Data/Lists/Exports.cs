using System.Globalization;
using System.Runtime.CompilerServices;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Core.Register;

namespace Mordel.Data.Lists;

/// <summary>
/// Everything that the register holds, as tables: brought into an empty installation they give the same tables again.
/// </summary>
public sealed class Exports(Store store, RegisterExport register)
{
    /// <summary>What can be exported.</summary>
    public static readonly string[] All = ["register", "results", "places", "people", "kits", "due"];

    /// <summary>A table by its name; null where there is none.</summary>
    public ExportTable? Of(string what, CancellationToken cancel) =>
        what switch
        {
            "register" => new(RegisterExport.RegisterHeads, register.Register(cancel)) { Point = RegisterExport.Point },
            "results" => new(RegisterExport.ResultHeads, register.Results(cancel)),
            "places" => new(
                ["place", "address", "district", "east", "north", "contact", "way in", "owner", "owner address"],
                Places(cancel)
            )
            {
                Point = (3, 4),
            },
            "people" => new(
                [
                    "user",
                    "name",
                    "roles",
                    "certificate",
                    "class",
                    "issued by",
                    "authority",
                    "types",
                    "valid from",
                    "valid until",
                ],
                People(cancel)
            ),
            "kits" => new(
                [
                    "kind",
                    "make",
                    "model",
                    "serial",
                    "unit",
                    "resolution",
                    "accuracy",
                    "full scale",
                    "calibrated on",
                    "calibrated by",
                    "calibration due",
                    "keeper",
                    "hose colours",
                ],
                Kits(cancel)
            ),
            "due" => new(
                ["day", "tag", "serial", "type", "place", "address", "why", "let pass until", "east", "north"],
                Due(cancel)
            )
            {
                Point = (8, 9),
                Due = (0, [1, 3, 4, 5, 6]),
            },
            _ => null,
        };

    private static string Number(decimal number) => number.ToString("0.######", CultureInfo.InvariantCulture);

    private async IAsyncEnumerable<string[]> Places([EnumeratorCancellation] CancellationToken cancel)
    {
        var rows = store
            .Places.AsNoTracking()
            .Include(p => p.Owner)
            .OrderBy(p => p.Name)
            .ThenBy(p => p.Address)
            .ThenBy(p => p.Id)
            .AsAsyncEnumerable();
        await foreach (var p in rows.WithCancellation(cancel))
            yield return
            [
                .. RegisterFields.OfA(FieldOf.Place).Select(f => RegisterValues.OfPlace[f].Get(p)),
                p.Owner!.Name,
                p.Owner.Address,
            ];
    }

    private async IAsyncEnumerable<string[]> People([EnumeratorCancellation] CancellationToken cancel)
    {
        var roles = await (
            from ur in store.UserRoles
            join r in store.Roles on ur.RoleId equals r.Id
            select new { ur.UserId, r.Name }
        ).ToListAsync(cancel);
        var certificates = (
            await store.Certificates.AsNoTracking().Include(c => c.Authority).ToListAsync(cancel)
        ).ToLookup(c => c.AccountId);
        foreach (var u in await store.Users.AsNoTracking().OrderBy(u => u.UserName).ToListAsync(cancel))
        foreach (var c in certificates[u.Id].OrderBy(c => c.ValidFrom).ThenBy(c => c.Number).DefaultIfEmpty())
            yield return
            [
                u.UserName ?? "",
                u.FullName,
                string.Join(' ', roles.Where(r => r.UserId == u.Id).Select(r => r.Name).Order(StringComparer.Ordinal)),
                c?.Number ?? "",
                c?.Class ?? "",
                c?.IssuedBy ?? "",
                c?.Authority?.Name ?? "",
                c?.Types ?? "",
                c is null ? "" : Days.Write(c.ValidFrom),
                c is null ? "" : Days.Write(c.ValidUntil),
            ];
    }

    private async IAsyncEnumerable<string[]> Kits([EnumeratorCancellation] CancellationToken cancel)
    {
        var users = await store.Users.ToDictionaryAsync(u => u.Id, u => u.UserName ?? "", cancel);
        foreach (var k in await store.Kits.AsNoTracking().OrderBy(k => k.Serial).ThenBy(k => k.Id).ToListAsync(cancel))
            yield return
            [
                k.Kind,
                k.Make,
                k.Model,
                k.Serial,
                k.Unit,
                Number(k.Resolution),
                Number(k.Accuracy),
                Number(k.FullScale),
                Days.Write(k.CalibratedOn),
                k.CalibratedBy,
                Days.Write(k.CalibrationDue),
                k.KeeperId is { } keeper ? users.GetValueOrDefault(keeper, "") : "",
                k.HoseColours ?? "",
            ];
    }

    private async IAsyncEnumerable<string[]> Due([EnumeratorCancellation] CancellationToken cancel)
    {
        var rows = store
            .Assemblies.AsNoTracking()
            .Include(a => a.Place)
            .Where(a => a.NextDue != null)
            .OrderBy(a => a.NextDue)
            .ThenBy(a => a.Tag)
            .AsAsyncEnumerable();
        await foreach (var a in rows.WithCancellation(cancel))
            yield return
            [
                Days.Write(a.NextDue!.Value),
                a.Tag,
                a.Serial,
                a.Type,
                a.Place!.Name,
                a.Place.Address,
                a.DueWhy ?? "",
                a.DueUntil is { } until ? Days.Write(until) : "",
                a.Place.East.ToString(CultureInfo.InvariantCulture),
                a.Place.North.ToString(CultureInfo.InvariantCulture),
            ];
    }
}
