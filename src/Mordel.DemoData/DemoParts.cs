using Mordel.Core.Repairs;
using Mordel.Data;
using Mordel.Data.Commands.Parts;
using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>The firm's spare parts: a kit for each make, model and size of the town, some of them low.</summary>
public sealed class DemoParts(Store store, DemoPeople people)
{
    private readonly SeededChance chance = new(20439);

    /// <summary>Adds them for the assemblies of the town.</summary>
    public void Add(IEnumerable<AssemblyRow> assemblies, DateTimeOffset at)
    {
        foreach (
            var kind in assemblies
                .Select(a => (a.Type, a.Make, a.Model, a.Size))
                .Distinct()
                .OrderBy(k => k.Make, StringComparer.Ordinal)
                .ThenBy(k => k.Model, StringComparer.Ordinal)
                .ThenBy(k => k.Size, StringComparer.Ordinal)
        )
        {
            var (large, number) = (
                Largeness(kind.Size),
                $"{kind.Make[..2].ToUpperInvariant()}-{chance.Next(1000, 9999)}"
            );
            void Part(string name, string? part, decimal price, int least)
            {
                var item = KeepParts.New(
                    new(
                        kind.Make,
                        kind.Model,
                        kind.Size,
                        name,
                        part ?? "",
                        Math.Round(price * large / 5) * 5,
                        $"{number}-{(part == SparePart.Whole ? "all" : part)}",
                        2 + chance.Next(12),
                        least,
                        0
                    )
                );
                item.Id = chance.NewId();
                store.PartItems.Add(item);
                if (least > 0)
                    Stock(item.Id, at);
            }

            Part("CV1 check kit", "cv1", 210, 2);
            if (kind.Type is "RP" or "DC")
                Part("CV2 check kit", "cv2", 190, 1);
            if (kind.Type == "RP")
                Part("Relief valve kit", "rv", 260, 1);
            if (kind.Type is "PVB" or "SVB")
                Part("Air inlet kit", "ai", 150, 1);
            Part("Complete assembly", SparePart.Whole, kind.Type == "RP" ? 3_900 : 1_850, 0);
        }
    }

    private void Stock(Guid item, DateTimeOffset at)
    {
        Move(item, null, 1 + chance.Next(6), at);
        if (chance.OneIn(3))
            Move(item, people.Testers[chance.Next(people.Testers.Count)].Account.Id, 1, at);
    }

    private void Move(Guid item, Guid? holder, int count, DateTimeOffset at)
    {
        if (count > 0)
            store.PartMoves.Add(
                new()
                {
                    Id = chance.NewId(),
                    ItemId = item,
                    HolderId = holder,
                    Count = count,
                    At = at,
                    By = "Wilma Quent",
                    Why = "Counted when the list was begun",
                }
            );
    }

    // What a larger one costs against one of an inch.
    private static decimal Largeness(string size) =>
        size switch
        {
            "3/4 in" => 0.8m,
            "1 in" => 1,
            "1 1/2 in" => 1.6m,
            "2 in" => 2.2m,
            "3 in" => 4,
            _ => 5.5m,
        };
}
