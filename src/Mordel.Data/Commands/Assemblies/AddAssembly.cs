using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Assemblies;

/// <summary>What is typed when an assembly is added.</summary>
public sealed record NewAssembly
{
    public string? OwnerName { get; init; }
    public string? OwnerAddress { get; init; }
    public string? OwnerPhone { get; init; }
    public string? PlaceName { get; init; }
    public string? Address { get; init; }
    public string? District { get; init; }
    public string? Contact { get; init; }
    public string? Access { get; init; }
    public string? Authority { get; init; }
    public string? Profile { get; init; }
    public string? Tag { get; init; }
    public string? Make { get; init; }
    public string? Model { get; init; }
    public string? Size { get; init; }
    public string? Serial { get; init; }
    public string? Flow { get; init; }
    public string? Location { get; init; }
    public string? Serves { get; init; }
    public string? Protection { get; init; }
    public bool FireLine { get; init; }
    public string? Type { get; init; }
    public string? Body { get; init; }
    public string? Hazard { get; init; }
    public bool Strainer { get; init; }
    public bool FittedCocks { get; init; }
    public bool BypassLine { get; init; }
    public decimal? ReliefPort { get; init; }
    public DateOnly? InstalledOn { get; init; }
}

/// <summary>Adds an assembly with its place, owner and authority; those already there by name are used again.</summary>
public sealed class AddAssembly(Store store, ProfileList profiles, DueProjection dues)
{
    /// <summary>The rules that an authority can work by.</summary>
    public async Task<string[]> Profiles(CancellationToken cancel) =>
        [.. (await profiles.All(cancel)).Select(p => p.Id).Distinct()];

    public async Task<Reply<Guid>> With(NewAssembly a, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var owner = new OwnerRow
        {
            Id = Guid.CreateVersion7(),
            Name = fields.Text("OwnerName", a.OwnerName, "Owner"),
            Address = fields.Text("OwnerAddress", a.OwnerAddress, "Owner's address", 200),
            Phone = fields.Text("OwnerPhone", a.OwnerPhone, "Owner's telephone", 40),
        };
        var authority = new AuthorityRow
        {
            Id = Guid.CreateVersion7(),
            Name = fields.Text("Authority", a.Authority, "Authority"),
            ProfileId = fields.OneOf("Profile", a.Profile, "Rules", await Profiles(cancel)),
        };
        var place = new PlaceRow
        {
            Id = Guid.CreateVersion7(),
            Name = fields.Text("PlaceName", a.PlaceName, "Place"),
            Address = fields.Text("Address", a.Address, "Address", 200),
            District = fields.Text("District", a.District, "District"),
            Contact = fields.Text("Contact", a.Contact, "Whom to ask for"),
            Access = fields.Text("Access", a.Access, "Way in", 200),
        };
        var row = new AssemblyRow
        {
            Id = Guid.CreateVersion7(),
            Type = fields.OneOf("Type", a.Type, "Type", [.. AssemblyTypes.Names]),
            Body =
                AssemblyTypes.Named(a.Type) is { } type && type.Facts().HasChoiceOfBodies
                    ? fields.OneOf("Body", a.Body, "Body", [.. Bodies.Choices(type)])
                    : null,
            Strainer = a.Strainer,
            FittedCocks = a.FittedCocks,
            BypassLine = a.FireLine && a.BypassLine,
            ReliefPort = a.ReliefPort is null
                ? null
                : fields.Number("ReliefPort", a.ReliefPort, "Relief port", 1m, 500m),
            Tag = fields.Text("Tag", a.Tag, "Tag", 40),
            Make = fields.Text("Make", a.Make, "Make"),
            Model = fields.Text("Model", a.Model, "Model"),
            Size = fields.Text("Size", a.Size, "Size", 20),
            Serial = fields.Text("Serial", a.Serial, "Serial number", 60),
            Flow = fields.OneOf("Flow", a.Flow, "Flow", Enum.GetNames<FlowDirection>()),
            Location = fields.Text("Location", a.Location, "Where it stands", 200),
            Serves = fields.Text("Serves", a.Serves, "What it feeds"),
            Hazard = fields.OneOf("Hazard", a.Hazard, "Hazard", "low", "high"),
            Protection = fields.OneOf("Protection", a.Protection, "Protection", "containment", "isolation"),
            FireLine = a.FireLine,
            InstalledOn = fields.Day("InstalledOn", a.InstalledOn, "Day of installation"),
            HowToFind = place.Access,
        };
        await using var transaction = await store.BeginWriting(cancel);
        var unfit = AssemblyTypes.Named(row.Type)?.Facts().NeverOnHighHazard;
        fields.Unless("Hazard", row.Hazard == "high" ? unfit : null);
        fields.That(
            "Tag",
            !await store.Assemblies.AnyAsync(x => x.Tag == row.Tag, cancel),
            $"Tag {row.Tag} is already on another assembly."
        );
        if (await store.Authorities.FirstOrDefaultAsync(x => x.Name == authority.Name, cancel) is { } known)
            fields.That("Profile", known.ProfileId == authority.ProfileId, $"{known.Name} works by {known.ProfileId}.");
        if (fields.Any)
            return fields;
        owner = await store.Owners.FirstOrDefaultAsync(x => x.Name == owner.Name && x.Address == owner.Address, cancel)
            ?? store.Owners.Add(owner).Entity;
        authority = await store.Authorities.FirstOrDefaultAsync(x => x.Name == authority.Name, cancel)
            ?? store.Authorities.Add(authority).Entity;
        place.OwnerId = owner.Id;
        place = await store.Places.FirstOrDefaultAsync(
            x => x.Name == place.Name && x.Address == place.Address && x.OwnerId == owner.Id,
            cancel
        ) ?? store.Places.Add(place).Entity;
        (row.PlaceId, row.AuthorityId) = (place.Id, authority.Id);
        store.Assemblies.Add(row);
        await store.SaveChangesAsync(cancel);
        await dues.Write(row, cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }
}
