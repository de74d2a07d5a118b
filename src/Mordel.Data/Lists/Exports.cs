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
    public static readonly string[] All = ["register", "results", Places, People, Kits, "due"];

    /// <summary>What has a file of its own beside the register, and is brought in again by its heads.</summary>
    public const string Places = "places",
        People = "people",
        Kits = "kits";

    /// <summary>Those of them that can be brought in.</summary>
    public static IReadOnlyList<string> Brought { get; } = [Places, People, Kits];

    /// <summary>The heads of one of <see cref="Brought"/>.</summary>
    public static IReadOnlyList<string> Heads(string what) =>
        what switch
        {
            Places => [.. OfPlace.Concat(OfOwner).Select(f => f.Id)],
            People =>
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
            Kits =>
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
            _ => throw new ArgumentException($"{what} has no heads of its own.", nameof(what)),
        };

    private static readonly RegisterField[] OfPlace = [.. RegisterFields.OfA(FieldOf.Place)];
    private static readonly RegisterField[] OfOwner = [.. RegisterFields.OfA(FieldOf.Owner)];
    private static readonly int East = Array.IndexOf(OfPlace, PlaceFields.East);

    /// <summary>A table by its name; null where there is none.</summary>
    public ExportTable? Of(string what, CancellationToken cancel) =>
        what switch
        {
            "register" => new(RegisterExport.RegisterHeads, register.Register(cancel)) { Point = RegisterExport.Point },
            "results" => new(RegisterExport.ResultHeads, register.Results(cancel)),
            Places => new(Heads(Places), OfPlaces(cancel)) { Point = (East, East + 1) },
            People => new(Heads(People), OfPeople(cancel)),
            Kits => new(Heads(Kits), OfKits(cancel)),
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

    private async IAsyncEnumerable<string[]> OfPlaces([EnumeratorCancellation] CancellationToken cancel)
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
                .. OfPlace.Select(f => RegisterValues.OfPlace[f].Get(p)),
                .. OfOwner.Select(f => RegisterValues.OfOwner[f].Get(p.Owner!)),
            ];
    }

    private async IAsyncEnumerable<string[]> OfPeople([EnumeratorCancellation] CancellationToken cancel)
    {
        var roles = await (
            from ur in store.UserRoles
            join r in store.Roles on ur.RoleId equals r.Id
            select new { ur.UserId, r.Name }
        ).ToListAsync(cancel);
        var certificates = (
            await store.Certificates.AsNoTracking().Include(c => c.Authority).ToListAsync(cancel)
        ).ToLookup(c => c.AccountId);
        foreach (
            var u in await store
                .Users.AsNoTracking()
                .Where(u => u.ForgottenAt == null)
                .OrderBy(u => u.UserName)
                .ToListAsync(cancel)
        )
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

    private async IAsyncEnumerable<string[]> OfKits([EnumeratorCancellation] CancellationToken cancel)
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
