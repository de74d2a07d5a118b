using Mordel.Core.Outside;
using Mordel.Data;
using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>The register of the invented town: authorities, owners, places, assemblies.</summary>
public sealed class DemoRegister(Store store, SeededChance chance, ISecretBox? secrets = null)
{
    /// <summary>The town's authority.</summary>
    public AuthorityRow Board { get; private set; } = null!;

    /// <summary>The valley's.</summary>
    public AuthorityRow Valley { get; private set; } = null!;

    /// <summary>Adds all of it; the assemblies in the order of their tags.</summary>
    public List<AssemblyRow> Add(DateOnly today)
    {
        var board = new AuthorityRow
        {
            Id = chance.NewId(),
            Name = TownData.Board,
            ProfileId = "psid-standard",
            ReportsBy = OutboxWays.Service,
            ReportsTo = TownData.BoardIntake,
            AlertsTo = TownData.BoardAlerts,
        };
        var valley = new AuthorityRow
        {
            Id = chance.NewId(),
            Name = TownData.Valley,
            ProfileId = "kpa-isolation-first",
            ReportsBy = OutboxWays.Service,
            ReportsTo = TownData.ValleyIntake,
            ReportsAs = ReportForms.Pdf,
            ReportsKey = secrets?.Hide(TownData.ValleyKey),
        };
        store.Authorities.AddRange(board, valley);
        (Board, Valley) = (board, valley);
        store.ModelBuilds.AddRange(
            TownData.Builds.Select(b => new ModelBuildRow
            {
                Make = b.Make,
                Model = b.Model,
                Family = b.Family,
                Relief = b.Relief,
                SaidAt = new(today.ToDateTime(default), TimeSpan.Zero),
                SaidBy = "Hester Fenn",
            })
        );
        var owners = TownData
            .Owners.Select(o => new OwnerRow
            {
                Id = chance.NewId(),
                Name = o.Name,
                Address = $"{o.Address}, {TownData.Town}",
                Phone = o.Phone,
                Mail = o.Mail,
                Language = o.Language,
            })
            .ToList();
        store.Owners.AddRange(owners);
        var flows = new[]
        {
            "LeftToRight",
            "LeftToRight",
            "RightToLeft",
            "Upward",
            "LeftToRight",
            "Downward",
            "RightToLeft",
        };
        var all = new List<AssemblyRow>();
        foreach (var site in TownData.Sites)
        {
            var place = new PlaceRow
            {
                Id = chance.NewId(),
                OwnerId = owners[site.Owner].Id,
                Name = site.Name,
                Address = site.Street,
                District = site.District,
                East = site.East,
                North = site.North,
                Contact = site.Contact,
                Access = site.Access,
            };
            store.Places.Add(place);
            foreach (var serves in site.Serves)
            {
                var type = TownData.TypeFor(serves);
                var makes = TownData.Makes.Where(m => m.Type == type).ToArray();
                var make = makes[chance.Next(makes.Length)];
                var row = TownAssembly.Draw(
                    chance,
                    chance.NewId(),
                    place,
                    site.District == "Eastfell" ? valley : board,
                    $"F-{1001 + all.Count}",
                    serves,
                    TownData.UseOf(site, serves),
                    (make.Make, make.Model),
                    () => $"{make.Make[0]}{chance.Next(10, 99)}-{chance.Next(10000, 99999)}",
                    flows[all.Count % flows.Length],
                    ("Outside wall, south side", "Plant room wall")
                );
                row.InstalledOn = today.AddDays(-chance.Next(1300, 4600));
                all.Add(row);
            }
        }

        store.Assemblies.AddRange(all);
        return all;
    }
}
