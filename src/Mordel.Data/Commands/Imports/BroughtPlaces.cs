using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>Places with their owners, whether or not an assembly stands there.</summary>
internal sealed class BroughtPlaces(Store store, ChangeLog log, Author author)
{
    private static readonly RegisterField[] OfPlace = [.. RegisterFields.OfA(FieldOf.Place)];
    private static readonly RegisterField[] OfOwner = [.. RegisterFields.OfA(FieldOf.Owner)];

    /// <summary>Takes them; what is wrong is said at each line.</summary>
    public async Task<List<LineState>> Take(IReadOnlyList<BroughtLine> lines, CancellationToken cancel)
    {
        var owners = (await store.Owners.ToListAsync(cancel))
            .GroupBy(o => (o.Name, o.Address))
            .ToDictionary(g => g.Key, g => g.First());
        var places = (await store.Places.ToListAsync(cancel))
            .GroupBy(p => (p.Name, p.Address))
            .ToDictionary(g => g.Key, g => g.First());
        var states = new List<LineState>();
        foreach (var line in lines)
        {
            var values = new Dictionary<string, string>(StringComparer.Ordinal);
            foreach (var field in OfPlace.Concat(OfOwner))
            {
                var (value, why) = Cleaner.Clean(field, line[field.Id], DayOrder.Unknown);
                line.Wants(why is null, $"{field.Id}: {why}");
                if (why is null && value.Length > 0)
                    values[field.Id] = value;
            }

            line.Wants(values.ContainsKey(PlaceFields.Place.Id), "a place has a name.");
            var read = new ImportLine(line.Number, values, []);
            var state = LineState.Same;
            if (!owners.TryGetValue(NewRows.OwnerOf(read), out var owner))
            {
                var (name, address) = NewRows.OwnerOf(read);
                owner = new()
                {
                    Id = Guid.CreateVersion7(),
                    Name = name,
                    Address = address,
                    Phone = "",
                };
                store.Owners.Add(owner);
                owners[(name, address)] = owner;
                log.New(author, Things.Owner, owner.Id, name);
                state = LineState.New;
            }

            state = Worse(state, Set(Things.Owner, owner.Id, owner, OfOwner, RegisterValues.OfOwner, values));
            if (places.TryGetValue(NewRows.PlaceOf(read), out var place))
                state = Worse(state, Set(Things.Place, place.Id, place, OfPlace, RegisterValues.OfPlace, values));
            else
            {
                place = NewRows.Place(read, owner.Id);
                store.Places.Add(place);
                places[(place.Name, place.Address)] = place;
                log.New(author, Things.Place, place.Id, place.Name);
                state = LineState.New;
            }

            states.Add(state);
        }

        return states;
    }

    private static LineState Worse(LineState one, LineState other) =>
        one == LineState.New || other == LineState.Same ? one : other;

    // What the file says nothing of stays as it is.
    private LineState Set<T>(
        string thing,
        Guid id,
        T row,
        IEnumerable<RegisterField> fields,
        IReadOnlyDictionary<RegisterField, ValueOf<T>> of,
        Dictionary<string, string> values
    )
    {
        var changed = false;
        foreach (var field in fields)
        {
            var (get, set) = of[field];
            var before = get(row);
            if (!values.TryGetValue(field.Id, out var value) || value == before)
                continue;
            set(row, value);
            log.Write(author, thing, id, field.Id, before, value);
            changed = true;
        }

        return changed ? LineState.Changed : LineState.Same;
    }
}
