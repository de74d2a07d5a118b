using Microsoft.EntityFrameworkCore;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>What is typed of a branch: its name, and all that it has.</summary>
public sealed record TypedBranch(string? Name, string[]? Districts, Guid[]? People, Guid[]? Kits);

/// <summary>
/// Makes branches and says what each has. What another branch had goes over; everything else stays as it is.
/// </summary>
public sealed class KeepBranches(Store store, ChangeLog log)
{
    private const int MostBranches = 500,
        LongestName = 60;

    /// <summary>Makes a branch, or says anew what one has.</summary>
    /// <param name="id">The branch; null for a new one.</param>
    /// <param name="typed">All that it has from now on.</param>
    /// <param name="author">Who says so.</param>
    /// <param name="cancel">Ends it; nothing is changed then.</param>
    public async Task<Reply<Guid>> Keep(Guid? id, TypedBranch typed, Author author, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(typed);
        var fields = new FieldErrors();
        var name = fields.Text("name", typed.Name, "The name of the branch", LongestName);
        await using var transaction = await store.BeginWriting(cancel);
        var branch = id is null ? null : await store.Branches.FirstOrDefaultAsync(b => b.Id == id, cancel);
        if (id is not null && branch is null)
            return Reply<Guid>.NotFound("There is no such branch.");
        var names = await store.Branches.ToDictionaryAsync(b => b.Id, b => b.Name, cancel);
        fields.That(
            "name",
            !names.Any(n => n.Key != id && n.Value.Equals(name, StringComparison.OrdinalIgnoreCase)),
            $"There is a branch {name} already."
        );
        fields.That("name", id is not null || names.Count < MostBranches, $"{MostBranches} branches are enough.");
        var (districts, people, kits) = await Chosen(typed, fields, cancel);
        if (fields.Any)
            return fields;
        if (branch is null)
        {
            store.Branches.Add(branch = new() { Id = Guid.CreateVersion7(), Name = name });
            log.New(author, Things.Branch, branch.Id, name);
        }

        log.Write(author, Things.Branch, branch.Id, "name", branch.Name, name);
        (branch.Name, names[branch.Id]) = (name, name);
        await Give(branch, names, author, new(districts, people, kits), cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return branch.Id;
    }

    /// <summary>Takes a branch away; what it had belongs to none then.</summary>
    public async Task<Reply<Guid>> Remove(Guid id, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await store.Branches.FirstOrDefaultAsync(b => b.Id == id, cancel) is not { } branch)
            return Reply<Guid>.NotFound("There is no such branch.");
        await Give(branch, new Dictionary<Guid, string> { [id] = branch.Name }, author, new([], [], []), cancel);
        log.Write(author, Things.Branch, id, "", branch.Name, "taken away");
        store.Branches.Remove(branch);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return id;
    }

    // What was chosen and is there.
    private async Task<(HashSet<string> Districts, HashSet<Guid> People, HashSet<Guid> Kits)> Chosen(
        TypedBranch typed,
        FieldErrors fields,
        CancellationToken cancel
    )
    {
        var (districts, people, kits) = (
            (typed.Districts ?? []).ToHashSet(StringComparer.Ordinal),
            (typed.People ?? []).ToHashSet(),
            (typed.Kits ?? []).ToHashSet()
        );
        fields.That(
            "districts",
            districts.Count <= BranchList.MostDistricts,
            $"A branch has at most {BranchList.MostDistricts} districts."
        );
        if (fields.Any)
            return (districts, people, kits);
        var there = await store
            .Places.Where(p => districts.Contains(p.District))
            .Select(p => p.District)
            .Union(store.BranchDistricts.Where(d => districts.Contains(d.District)).Select(d => d.District))
            .ToListAsync(cancel);
        foreach (var unknown in districts.Except(there).Order(StringComparer.Ordinal).Take(1))
            fields.That("districts", false, $"No place lies in a district “{unknown}”.");
        fields.That(
            "people",
            await store.Users.CountAsync(u => people.Contains(u.Id), cancel) == people.Count,
            "Somebody who was chosen is not there any more. Look again."
        );
        fields.That(
            "kits",
            await store.Kits.CountAsync(k => kits.Contains(k.Id), cancel) == kits.Count,
            "A kit that was chosen is not there any more. Look again."
        );
        return (districts, people, kits);
    }

    private async Task Give(
        BranchRow branch,
        IReadOnlyDictionary<Guid, string> names,
        Author author,
        Having has,
        CancellationToken cancel
    )
    {
        var districts = await store
            .BranchDistricts.Where(d => d.BranchId == branch.Id || has.Districts.Contains(d.District))
            .ToListAsync(cancel);
        Each(
            districts,
            d => d.District,
            d => d.BranchId,
            has.Districts,
            new()
            {
                Add = d => new() { District = d, BranchId = branch.Id },
                Move = d => d.BranchId = branch.Id,
                Say = (d, from, to) => log.Write(author, Things.Branch, branch.Id, $"district {d}", from, to),
            }
        );
        var people = await store
            .BranchPeople.Where(p => p.BranchId == branch.Id || has.People.Contains(p.AccountId))
            .ToListAsync(cancel);
        Each(
            people,
            p => p.AccountId,
            p => p.BranchId,
            has.People,
            new()
            {
                Add = p => new() { AccountId = p, BranchId = branch.Id },
                Move = p => p.BranchId = branch.Id,
                Say = (p, from, to) => log.Write(author, Things.Person, p, "branch", from, to),
            }
        );
        var kits = await store
            .BranchKits.Where(k => k.BranchId == branch.Id || has.Kits.Contains(k.KitId))
            .ToListAsync(cancel);
        Each(
            kits,
            k => k.KitId,
            k => k.BranchId,
            has.Kits,
            new()
            {
                Add = k => new() { KitId = k, BranchId = branch.Id },
                Move = k => k.BranchId = branch.Id,
                Say = (k, from, to) => log.Write(author, Things.Kit, k, "branch", from, to),
            }
        );

        void Each<TRow, TId>(
            List<TRow> rows,
            Func<TRow, TId> idOf,
            Func<TRow, Guid> branchOf,
            IReadOnlySet<TId> wanted,
            Ways<TRow, TId> ways
        )
            where TRow : class
            where TId : notnull
        {
            var there = rows.ToDictionary(idOf);
            foreach (var id in wanted)
                if (!there.TryGetValue(id, out var row))
                {
                    store.Add(ways.Add(id));
                    ways.Say(id, "", branch.Name);
                }
                else if (branchOf(row) != branch.Id)
                {
                    ways.Say(id, names.GetValueOrDefault(branchOf(row), ""), branch.Name);
                    ways.Move(row);
                }

            foreach (var (id, row) in there.Where(r => !wanted.Contains(r.Key)))
            {
                store.Remove(row);
                ways.Say(id, branch.Name, "");
            }
        }
    }

    private sealed record Having(HashSet<string> Districts, HashSet<Guid> People, HashSet<Guid> Kits);

    // What differs between districts, people and kits.
    private sealed class Ways<TRow, TId>
    {
        public required Func<TId, TRow> Add { get; init; }
        public required Action<TRow> Move { get; init; }
        public required Action<TId, string, string> Say { get; init; }
    }
}
