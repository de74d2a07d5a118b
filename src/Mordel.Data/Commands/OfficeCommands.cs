using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands;

/// <summary>What is typed when a kit is added.</summary>
public sealed record NewKit(
    Guid KeeperId,
    string? Kind,
    string? Make,
    string? Model,
    string? Serial,
    string? Unit,
    decimal? Resolution,
    decimal? Accuracy,
    DateOnly? CalibratedOn,
    string? CalibratedBy
);

/// <summary>Adds a kit and gives it to a tester; the kit that the tester had is put by.</summary>
public sealed class AddKit(Store store)
{
    public async Task<IReadOnlyList<(string Field, string Says)>> With(NewKit kit, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var unit = fields.OneOf("unit", kit.Unit, "Unit", "psid", "kPa");
        var on = fields.Day("calibratedOn", kit.CalibratedOn, "Calibration date");
        var row = new KitRow
        {
            Id = Guid.CreateVersion7(),
            KeeperId = kit.KeeperId,
            Kind = fields.OneOf("kind", kit.Kind, "Kind", [.. Kit.All.Select(k => k.Name)]),
            Make = fields.Text("make", kit.Make, "Make"),
            Model = fields.Text("model", kit.Model, "Model"),
            Serial = fields.Text("serial", kit.Serial, "Serial number", 60),
            Unit = unit,
            Resolution = fields.Number("resolution", kit.Resolution, "Resolution", 0.01m, 10m),
            Accuracy = fields.Number("accuracy", kit.Accuracy, "Accuracy", 0.01m, 20m),
            FullScale = DifferentialUnits.Parse(unit) == DifferentialUnit.Psid ? 15m : 100m,
            CalibratedOn = on,
            CalibratedBy = fields.Text("calibratedBy", kit.CalibratedBy, "Who calibrated"),
            CalibrationDue = on == default ? on : on.AddYears(1),
        };
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        fields.That(
            "keeperId",
            await store.Users.AnyAsync(u => u.Id == kit.KeeperId, cancel),
            "Choose who has the kit."
        );
        fields.That(
            "serial",
            !await store.Kits.AnyAsync(k => k.Serial == row.Serial && k.Make == row.Make, cancel),
            $"{row.Make} {row.Serial} is already there."
        );
        if (fields.Errors.Count > 0)
            return fields.Errors;
        foreach (var old in await store.Kits.Where(k => k.KeeperId == kit.KeeperId).ToListAsync(cancel))
            old.KeeperId = null;
        store.Kits.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return [];
    }
}

/// <summary>Sets the colours of a kit's hoses as its keeper sees them.</summary>
public sealed class ColourHoses(Store store)
{
    /// <summary>The colours there are to choose from.</summary>
    public static readonly string[] Colours = ["red", "blue", "yellow", "green", "black", "white", "grey", "orange"];

    public async Task<IReadOnlyList<(string Field, string Says)>> Of(
        Guid kitId,
        Guid who,
        bool atTheDesk,
        string? high,
        string? low,
        string? bypass,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var kit = await store.Kits.FirstOrDefaultAsync(k => k.Id == kitId && (atTheDesk || k.KeeperId == who), cancel);
        fields.That("kitId", kit is not null, "There is no such kit of yours.");
        var chosen = string.Join(
            ' ',
            fields.OneOf("high", high, "High hose", Colours),
            fields.OneOf("low", low, "Low hose", Colours),
            fields.OneOf("bypass", bypass, "Bypass hose", Colours)
        );
        if (fields.Errors.Count > 0)
            return fields.Errors;
        kit!.HoseColours = chosen;
        await store.SaveChangesAsync(cancel);
        return [];
    }
}

/// <summary>What is typed when a certificate is added.</summary>
public sealed record NewCertificate(Guid AccountId, string? Number, string? IssuedBy, DateOnly? From, DateOnly? Until);

/// <summary>Adds a tester's certificate for all types.</summary>
public sealed class AddCertificate(Store store)
{
    public async Task<IReadOnlyList<(string Field, string Says)>> With(
        NewCertificate certificate,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var row = new CertificateRow
        {
            Id = Guid.CreateVersion7(),
            AccountId = certificate.AccountId,
            Number = fields.Text("number", certificate.Number, "Certificate number", 60),
            Types = string.Join(' ', AssemblyTypes.Names),
            IssuedBy = fields.Text("issuedBy", certificate.IssuedBy, "Issuing body"),
            ValidFrom = fields.Day("from", certificate.From, "First day"),
            ValidUntil = fields.Day("until", certificate.Until, "Last day"),
        };
        fields.That("until", row.ValidUntil >= row.ValidFrom, "The last day lies before the first.");
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        fields.That(
            "number",
            !await store.Certificates.AnyAsync(
                c => c.AccountId == row.AccountId && c.Number == row.Number && c.ValidUntil == row.ValidUntil,
                cancel
            ),
            $"Certificate {row.Number} is already there."
        );
        fields.That(
            "accountId",
            await store.Users.AnyAsync(u => u.Id == certificate.AccountId, cancel),
            "Choose whose certificate it is."
        );
        if (fields.Errors.Count > 0)
            return fields.Errors;
        store.Certificates.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return [];
    }
}

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
public sealed class AddAssembly(Store store, ProfileList profiles)
{
    /// <summary>The rules that an authority can work by.</summary>
    public async Task<string[]> Profiles(CancellationToken cancel) =>
        [.. (await profiles.All(cancel)).Select(p => p.Id).Distinct()];

    public async Task<(Guid? Id, IReadOnlyList<(string Field, string Says)> Errors)> With(
        NewAssembly a,
        CancellationToken cancel
    )
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
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        var unfit = AssemblyTypes.Named(row.Type)?.Facts().NeverOnHighHazard;
        fields.That("Hazard", row.Hazard != "high" || unfit is null, unfit ?? "");
        fields.That(
            "Tag",
            !await store.Assemblies.AnyAsync(x => x.Tag == row.Tag, cancel),
            $"Tag {row.Tag} is already on another assembly."
        );
        if (await store.Authorities.FirstOrDefaultAsync(x => x.Name == authority.Name, cancel) is { } known)
            fields.That("Profile", known.ProfileId == authority.ProfileId, $"{known.Name} works by {known.ProfileId}.");
        if (fields.Errors.Count > 0)
            return (null, fields.Errors);
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
        await transaction.CommitAsync(cancel);
        return (row.Id, []);
    }
}

/// <summary>What is typed when an assembly is put into a round.</summary>
public sealed record NewStop(Guid TesterId, DateOnly? Day, TimeOnly? From, TimeOnly? Until, string? Special);

/// <summary>Puts an assembly into a tester's round of a day, behind what is already in it.</summary>
public sealed class AddStop(Store store)
{
    public async Task<IReadOnlyList<(string Field, string Says)>> With(
        Guid assemblyId,
        NewStop stop,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var day = fields.Day("day", stop.Day, "Day");
        fields.That(
            "from",
            stop.From is not null && stop.Until > stop.From,
            "Say from when until when the water may be off."
        );
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        fields.That(
            "day",
            !await store.Stops.AnyAsync(
                s =>
                    s.TesterId == stop.TesterId
                    && s.Day == day
                    && s.AssemblyId == assemblyId
                    && s.WindowFrom == stop.From,
                cancel
            ),
            "This assembly is already in that round."
        );
        fields.That("testerId", await store.Users.AnyAsync(u => u.Id == stop.TesterId, cancel), "Choose a tester.");
        fields.That(
            "day",
            await store.Assemblies.AnyAsync(a => a.Id == assemblyId, cancel),
            "There is no such assembly."
        );
        fields.That("special", (stop.Special?.Length ?? 0) <= 200, "What is special may have 200 characters.");
        if (fields.Errors.Count > 0)
            return fields.Errors;
        var order = await store.Stops.CountAsync(s => s.TesterId == stop.TesterId && s.Day == day, cancel) + 1;
        store.Stops.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                Day = day,
                TesterId = stop.TesterId,
                Order = order,
                AssemblyId = assemblyId,
                WindowFrom = stop.From!.Value,
                WindowUntil = stop.Until!.Value,
                Minutes = 25,
                Special = string.IsNullOrWhiteSpace(stop.Special) ? null : stop.Special.Trim(),
            }
        );
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return [];
    }
}
