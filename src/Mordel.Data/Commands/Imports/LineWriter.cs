using System.Collections.Frozen;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>
/// Takes judged lines into the register, some at a time, inside the transaction of the whole import: makes what is new,
/// changes what is otherwise, and says what it did.
/// </summary>
internal sealed class LineWriter(Store store, ChangeLog log, ImportRow import, Author author, TimeProvider clock)
{
    private readonly Dictionary<string, AuthorityRow> authorities = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<(string Name, string Address), OwnerRow> owners = [];
    private readonly Dictionary<(string Name, string Address, Guid Owner), PlaceRow> places = [];
    private readonly HashSet<string> tags = new(StringComparer.Ordinal);
    private readonly FreshRows fresh = new(store);

    /// <summary>What is new in these lines.</summary>
    public FreshRows Fresh => fresh;

    /// <summary>Loads what some lines name.</summary>
    public async Task Load(IReadOnlyCollection<ImportLine> lines, CancellationToken cancel)
    {
        tags.Clear();
        foreach (var authority in await store.Authorities.ToListAsync(cancel))
            authorities.TryAdd(authority.Name, authority);
        var names = lines.Select(l => NewRows.OwnerOf(l).Name).Distinct().ToList();
        foreach (var owner in await store.Owners.Where(o => names.Contains(o.Name)).ToListAsync(cancel))
            owners.TryAdd((owner.Name, owner.Address), owner);
        var addresses = lines.Select(l => NewRows.PlaceOf(l).Address).Distinct().ToList();
        foreach (var place in await store.Places.Where(p => addresses.Contains(p.Address)).ToListAsync(cancel))
            places.TryAdd((place.Name, place.Address, place.OwnerId), place);
        var wished = lines.Select(TagOf).Distinct().ToList();
        tags.UnionWith(
            await store.Assemblies.Where(a => wished.Contains(a.Tag)).Select(a => a.Tag).ToListAsync(cancel)
        );
    }

    /// <summary>Lets go of rows that are no longer tracked; what was made stays known by what the store says.</summary>
    public void Forget()
    {
        authorities.Clear();
        owners.Clear();
        places.Clear();
        fresh.Clear();
    }

    /// <summary>Takes a line in.</summary>
    /// <param name="judged">The line.</param>
    /// <param name="existing">The assembly that it is about; null where it makes one.</param>
    /// <param name="written">The assembly that it is about, made or changed.</param>
    public ImportEffect Write(JudgedLine judged, AssemblyRow? existing, out AssemblyRow written)
    {
        var line = judged.Line;
        var effect = existing is null ? Make(line, out written) : Change(judged, written = existing);
        if (judged.BringsTest)
            effect.Tests.Add(Test(line, written));
        if (judged.BringsDue)
            effect.Events.Add(Event(written, AssemblyEventRow.Announced, Today, Days.Read(line[LifeFields.Announced])));
        foreach (var (kind, day) in judged.BringsEvents)
            effect.Events.Add(Event(written, kind, day, null));
        return effect;
    }

    private DateOnly Today => clock.Today();

    private static string TagOf(ImportLine line) => line[AssemblyFields.Tag] ?? line[AssemblyFields.Serial]!;

    private ImportEffect Make(ImportLine line, out AssemblyRow row)
    {
        var (authority, newAuthority) = Authority(line);
        var (owner, newOwner) = Owner(line);
        var (place, newPlace) = Place(line, owner);
        row = NewRows.Assembly(line, FreeTag(TagOf(line)), Today);
        (row.PlaceId, row.AuthorityId) = (place.Id, authority.Id);
        (row.Place, row.Authority) = (place, authority);
        if (line[LifeFields.ReplacedOn] is { } until)
            row.ReplacedOn = Days.Read(until);
        if (line[LifeFields.Replaces] is { } old)
            row.ReplacesId = Replaced(old);
        fresh.Assemblies.Add(row.Id, row);
        fresh.Changes.Add(log.Row(author, Things.Assembly, row.Id, "", "", $"{import.FileName}, line {line.Number}"));
        return new()
        {
            Assembly = row.Id,
            Authority = newAuthority ? authority.Id : null,
            Owner = newOwner ? owner.Id : null,
            Place = newPlace ? place.Id : null,
        };
    }

    private ImportEffect Change(JudgedLine judged, AssemblyRow row)
    {
        var line = judged.Line;
        var (newAuthority, newOwner, newPlace) = ((Guid?)null, (Guid?)null, (Guid?)null);
        var values = new List<ChangedValue>();
        void Log(string thing, Guid id, string field, string from, string to)
        {
            log.Write(author, thing, id, field, from, to);
            values.Add(new(thing, id, field, from, to));
        }

        void Set<T>(FrozenDictionary<RegisterField, ValueOf<T>> of, T of_, string thing, Guid id)
        {
            foreach (var (field, from, to) in judged.Changes)
                if (of.TryGetValue(field, out var value) && value.Get(of_) != to)
                {
                    value.Set(of_, to);
                    Log(thing, id, field.Id, from, value.Get(of_));
                }
        }

        Set(RegisterValues.OfAssembly, row, Things.Assembly, row.Id);
        if (line[PlaceFields.Authority] is { } named && !Same(named, row.Authority!.Name))
        {
            var (authority, made) = Authority(line);
            log.Write(author, Things.Assembly, row.Id, "authority", row.Authority!.Name, authority.Name);
            values.Add(Joined(Things.Assembly, row.Id, "authority", row.AuthorityId, authority.Id));
            (row.AuthorityId, row.Authority) = (authority.Id, authority);
            newAuthority = made ? authority.Id : null;
        }

        var place = row.Place!;
        var moved = Differs(judged, PlaceFields.Place) && Differs(judged, PlaceFields.Address);
        var sold = Differs(judged, PlaceFields.Owner);
        if (moved)
        {
            var (owner, madeOwner) = line[PlaceFields.Owner] is null ? (place.Owner!, false) : Owner(line);
            var (other, madePlace) = Place(line, owner);
            log.Write(author, Things.Assembly, row.Id, "place", place.Name, other.Name);
            values.Add(Joined(Things.Assembly, row.Id, "place", place.Id, other.Id));
            (row.PlaceId, row.Place) = (other.Id, other);
            (newOwner, newPlace) = (madeOwner ? owner.Id : null, madePlace ? other.Id : null);
        }
        else
        {
            Set(RegisterValues.OfPlace, place, Things.Place, place.Id);
            if (sold)
            {
                var (owner, made) = Owner(line);
                log.Write(author, Things.Place, place.Id, "owner", place.Owner!.Name, owner.Name);
                values.Add(Joined(Things.Place, place.Id, "owner", place.OwnerId, owner.Id));
                (place.OwnerId, place.Owner) = (owner.Id, owner);
                newOwner = made ? owner.Id : null;
            }
            else if (place.Owner is { } owner)
            {
                Set(RegisterValues.OfOwner, owner, Things.Owner, owner.Id);
            }
        }

        return new()
        {
            Authority = newAuthority,
            Owner = newOwner,
            Place = newPlace,
            Values = values,
        };
    }

    private static ChangedValue Joined(string thing, Guid id, string field, Guid from, Guid to) =>
        new(thing, id, field, from.ToString(), to.ToString());

    private static bool Differs(JudgedLine judged, RegisterField field) => judged.Changes.Any(c => c.Field == field);

    private static bool Same(string one, string other) => one.Equals(other, StringComparison.OrdinalIgnoreCase);

    private (AuthorityRow Row, bool IsNew) Authority(ImportLine line)
    {
        var name = line[PlaceFields.Authority]
            ?? (import.Authority.Length > 0 ? import.Authority : NewRows.NoAuthority);
        if (authorities.TryGetValue(name, out var known))
            return (known, false);
        var made = new AuthorityRow
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            ProfileId = line[PlaceFields.Rules] is { } rules && Profiles.Contains(rules) ? rules : import.Rules,
        };
        fresh.Authorities.Add(made);
        authorities[name] = made;
        return (made, true);
    }

    /// <summary>The rules that there are.</summary>
    public IReadOnlySet<string> Profiles { get; init; } = new HashSet<string>();

    private (OwnerRow Row, bool IsNew) Owner(ImportLine line)
    {
        var (name, address) = NewRows.OwnerOf(line);
        // An owner named without an address is the one of that name that is there.
        if (owners.TryGetValue((name, address), out var known))
            return (known, false);
        if (address.Length == 0 && owners.FirstOrDefault(o => o.Key.Name == name).Value is { } named)
            return (named, false);
        var made = new OwnerRow
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            Address = address,
            Phone = line[PlaceFields.OwnerPhone] ?? "",
            Mail = line[PlaceFields.OwnerMail] ?? "",
            Language = line[PlaceFields.OwnerLanguage] ?? "",
        };
        fresh.Owners.Add(made);
        owners[(name, address)] = made;
        return (made, true);
    }

    private (PlaceRow Row, bool IsNew) Place(ImportLine line, OwnerRow owner)
    {
        var (name, address) = NewRows.PlaceOf(line);
        if (places.TryGetValue((name, address, owner.Id), out var known))
            return (known, false);
        var made = NewRows.Place(line, owner.Id);
        made.Owner = owner;
        fresh.Places.Add(made);
        places[(name, address, owner.Id)] = made;
        return (made, true);
    }

    // What was replaced stands before what replaced it, in our own files.
    private Guid? Replaced(string tag) =>
        fresh.Assemblies.Values.FirstOrDefault(a => a.Tag == tag)?.Id
        ?? store.Assemblies.Where(a => a.Tag == tag).Select(a => (Guid?)a.Id).FirstOrDefault();

    private string FreeTag(string wished)
    {
        var tag = wished;
        for (var i = 2; !tags.Add(tag); i++)
            tag = $"{wished}-{i}";
        return tag;
    }

    private Guid Test(ImportLine line, AssemblyRow row)
    {
        var day = Days.Read(line[TestFields.TestDay])!.Value;
        var test = new BroughtTestRow
        {
            Id = Guid.CreateVersion7(),
            AssemblyId = row.Id,
            Day = day,
            Outcome = line[TestFields.Outcome] ?? "",
            Values = JsonSerializer.Serialize(
                RegisterFields
                    .OfA(FieldOf.Test)
                    .Where(f => f != TestFields.TestDay && f != TestFields.Outcome && f != TestFields.Source)
                    .Where(f => line[f] is not null)
                    .ToDictionary(f => f.Id, f => line[f]!)
            ),
            Source = line[TestFields.Source] ?? $"{import.FileName}, line {line.Number}",
            At = clock.Now(),
            By = author.By,
            ImportId = import.Id,
        };
        fresh.Tests.Add(test);
        if (row.BroughtOn is null || row.BroughtOn <= day)
            (row.BroughtOn, row.BroughtOutcome) = (day, test.Outcome);
        return test.Id;
    }

    private Guid Event(AssemblyRow row, string kind, DateOnly day, DateOnly? due)
    {
        var happened = new AssemblyEventRow
        {
            Id = Guid.CreateVersion7(),
            AssemblyId = row.Id,
            Kind = kind,
            Day = day,
            Due = due,
            By = author.By,
            At = clock.Now(),
            ImportId = import.Id,
        };
        fresh.Events.Add(happened);
        return happened.Id;
    }
}
