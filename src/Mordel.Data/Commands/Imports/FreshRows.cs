using Mordel.Core.Dues;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>What some lines of a file make: not tracked, but written as it is, by the thousand.</summary>
internal sealed class FreshRows(Store store)
{
    public List<AuthorityRow> Authorities { get; } = [];
    public List<OwnerRow> Owners { get; } = [];
    public List<PlaceRow> Places { get; } = [];
    public Dictionary<Guid, AssemblyRow> Assemblies { get; } = [];
    public List<BroughtTestRow> Tests { get; } = [];
    public List<AssemblyEventRow> Events { get; } = [];
    public List<ChangeRow> Changes { get; } = [];

    /// <summary>Whether an assembly was made by these lines.</summary>
    public bool Has(AssemblyRow row) => Assemblies.ContainsKey(row.Id);

    /// <summary>Writes it, with what it owes.</summary>
    public async Task Write(DueProjection dues, CancellationToken cancel)
    {
        var tests = Tests.ToLookup(t => t.AssemblyId);
        var events = Events.ToLookup(e => e.AssemblyId);
        foreach (var row in Assemblies.Values)
            await dues.WriteNew(
                row,
                row.Authority!.ProfileId,
                [
                    .. tests[row.Id].Select(DueProjection.Of).OfType<DueEvent>(),
                    .. events[row.Id].Select(DueProjection.Of).OfType<DueEvent>(),
                ],
                cancel
            );
        Insert(Authorities);
        Insert(Owners);
        Insert(Places);
        Insert(Assemblies.Values);
        Insert(Tests);
        Insert(Events);
        Insert(Changes);
    }

    /// <summary>Lets go of it.</summary>
    public void Clear()
    {
        Authorities.Clear();
        Owners.Clear();
        Places.Clear();
        Assemblies.Clear();
        Tests.Clear();
        Events.Clear();
        Changes.Clear();
    }

    private void Insert<T>(ICollection<T> rows)
        where T : class
    {
        if (rows.Count == 0)
            return;
        using var into = new BulkInsert<T>(store);
        into.AddAll(rows);
    }
}
