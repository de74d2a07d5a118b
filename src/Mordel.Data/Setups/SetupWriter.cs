using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Data.Rows;

namespace Mordel.Data.Setups;

/// <summary>What the register has of a run that is about to begin.</summary>
/// <param name="Assembly">With place, owner and authority.</param>
/// <param name="Kit">The kit.</param>
/// <param name="Tester">The tester.</param>
/// <param name="Certificates">The tester's certificates.</param>
public sealed record Register(
    AssemblyRow Assembly,
    KitRow Kit,
    Account Tester,
    IReadOnlyList<CertificateRow> Certificates
);

/// <summary>Writes down what a run is made with, from the register as it is at that moment.</summary>
public static class SetupWriter
{
    /// <summary>The setup of a run that begins.</summary>
    /// <param name="run">The run.</param>
    /// <param name="stop">The stop it is begun from.</param>
    /// <param name="number">The report's number.</param>
    /// <param name="at">When it begins.</param>
    /// <param name="register">Assembly, kit and tester.</param>
    /// <param name="profile">The rules.</param>
    /// <param name="sheet">The run sheet, of <see cref="Sheet"/>.</param>
    /// <param name="day">The day on which a certificate must cover the type.</param>
    public static RunSetup Write(
        Guid run,
        Guid? stop,
        string number,
        DateTimeOffset at,
        Register register,
        Profile profile,
        RunSheet sheet,
        DateOnly day
    )
    {
        ArgumentNullException.ThrowIfNull(register);
        ArgumentNullException.ThrowIfNull(profile);
        ArgumentNullException.ThrowIfNull(sheet);
        var (assembly, kit) = (Facts(register.Assembly), Facts(register.Kit));
        return new()
        {
            Run = run,
            Stop = stop,
            Number = number,
            BegunAt = at,
            Assembly = assembly,
            Place = Facts(register.Assembly.Place!, register.Assembly.Authority!),
            Kit = kit,
            Tester = new(register.Tester.Id, register.Tester.FullName, Right(register, day).With),
            Profile = profile,
            Sheet = sheet,
        };
    }

    /// <summary>The run sheet for an assembly and a kit.</summary>
    public static RunSheet Sheet(
        AssemblyRow assembly,
        KitRow kit,
        Procedure procedure,
        Profile profile,
        bool seasonal = false
    )
    {
        ArgumentNullException.ThrowIfNull(procedure);
        ArgumentNullException.ThrowIfNull(profile);
        return procedure.For(
            new(new Rig(Facts(assembly).Parts, Facts(kit).Kit), profile.School(procedure.Id)!) { Seasonal = seasonal }
        );
    }

    /// <summary>
    /// The setup with what the register says today, where that changes nothing of the sheet or of what was read; null
    /// when it would, and the test must be begun anew.
    /// </summary>
    /// <param name="setup">The setup as it is.</param>
    /// <param name="register">The register as it is today.</param>
    /// <param name="day">The day of the test.</param>
    /// <param name="now">When it is taken over.</param>
    public static RunSetup? TakenOver(RunSetup setup, Register register, DateOnly day, DateTimeOffset now)
    {
        ArgumentNullException.ThrowIfNull(setup);
        ArgumentNullException.ThrowIfNull(register);
        var (assembly, kit) = (Facts(register.Assembly), Facts(register.Kit));
        var same =
            assembly.Type == setup.Assembly.Type
            && assembly.Body == setup.Assembly.Body
            && assembly.Features == setup.Assembly.Features
            && kit.Id == setup.Kit.Id
            && kit.Kit == setup.Kit.Kit
            && kit.Resolution == setup.Kit.Resolution
            && kit.FullScale == setup.Kit.FullScale;
        return !same
            ? null
            : setup with
            {
                Assembly = assembly,
                Kit = kit,
                Place = Facts(register.Assembly.Place!, register.Assembly.Authority!),
                Tester = new(register.Tester.Id, register.Tester.FullName, Right(register, day).With),
                WrittenDownAt = now,
            };
    }

    /// <summary>What differs between two setups of one run, in words, for whoever decides which holds.</summary>
    public static IEnumerable<string> Differences(RunSetup old, RunSetup fresh)
    {
        ArgumentNullException.ThrowIfNull(old);
        ArgumentNullException.ThrowIfNull(fresh);
        (string What, object? Was, object? Is)[] facts =
        [
            ("Tag", old.Assembly.Tag, fresh.Assembly.Tag),
            ("Make", old.Assembly.Make, fresh.Assembly.Make),
            ("Model", old.Assembly.Model, fresh.Assembly.Model),
            ("Size", old.Assembly.Size, fresh.Assembly.Size),
            ("Serial number", old.Assembly.Serial, fresh.Assembly.Serial),
            ("Where it stands", old.Assembly.Location, fresh.Assembly.Location),
            ("What it feeds", old.Assembly.Serves, fresh.Assembly.Serves),
            ("Hazard", old.Assembly.Hazard, fresh.Assembly.Hazard),
            ("Protection", old.Assembly.Protection, fresh.Assembly.Protection),
            ("How it lies", old.Assembly.Flow, fresh.Assembly.Flow),
            ("Relief port", old.Assembly.ReliefPort, fresh.Assembly.ReliefPort),
            ("Installed", old.Assembly.InstalledOn, fresh.Assembly.InstalledOn),
            ("Place", old.Place.Name, fresh.Place.Name),
            ("Address", old.Place.Address, fresh.Place.Address),
            ("District", old.Place.District, fresh.Place.District),
            ("Owner", old.Place.Owner, fresh.Place.Owner),
            ("Owner's address", old.Place.OwnerAddress, fresh.Place.OwnerAddress),
            ("Owner's telephone", old.Place.OwnerPhone, fresh.Place.OwnerPhone),
            ("Authority", old.Place.Authority, fresh.Place.Authority),
            ("Kit's serial number", old.Kit.Serial, fresh.Kit.Serial),
            ("Kit's accuracy", old.Kit.Accuracy, fresh.Kit.Accuracy),
            ("Calibrated", old.Kit.CalibratedOn, fresh.Kit.CalibratedOn),
            ("Calibrated by", old.Kit.CalibratedBy, fresh.Kit.CalibratedBy),
            ("Calibration due", old.Kit.CalibrationDue, fresh.Kit.CalibrationDue),
            ("Tester's name", old.Tester.Name, fresh.Tester.Name),
            ("Certificate", old.Tester.Certificate?.Number, fresh.Tester.Certificate?.Number),
        ];
        return facts.Where(f => !Equals(f.Was, f.Is)).Select(f => $"{f.What}: {Shown(f.Was)}, now {Shown(f.Is)}");
    }

    private static string Shown(object? value) =>
        value switch
        {
            null => "none",
            DateOnly day => $"{day:d MMM yyyy}",
            _ => value.ToString()!,
        };

    /// <summary>An assembly as the register has it.</summary>
    public static AssemblyFacts Facts(AssemblyRow a)
    {
        ArgumentNullException.ThrowIfNull(a);
        return new()
        {
            Id = a.Id,
            Tag = a.Tag,
            Type = AssemblyTypes.Parse(a.Type),
            Body = a.Body,
            Features = new(a.Strainer, a.FittedCocks, a.BypassLine),
            Make = a.Make,
            Model = a.Model,
            Size = a.Size,
            Serial = a.Serial,
            Flow = Enum.Parse<FlowDirection>(a.Flow),
            Location = a.Location,
            Serves = a.Serves,
            Hazard = a.Hazard,
            Protection = a.Protection,
            FireLine = a.FireLine,
            Use = a.Use,
            Season = Season.Parse(a.Season),
            ReliefPort = a.ReliefPort is { } port ? new Length(port, LengthUnit.Millimetre) : null,
            InstalledOn = a.InstalledOn,
        };
    }

    /// <summary>A kit as it is kept.</summary>
    public static KitFacts Facts(KitRow k)
    {
        ArgumentNullException.ThrowIfNull(k);
        var unit = DifferentialUnits.Parse(k.Unit)!.Value;
        return new()
        {
            Id = k.Id,
            Kit = Core.Rigs.Kit.Named(k.Kind)!,
            Make = k.Make,
            Model = k.Model,
            Serial = k.Serial,
            Resolution = new(k.Resolution, unit),
            Accuracy = new(k.Accuracy, unit),
            FullScale = new(k.FullScale, unit),
            CalibratedOn = k.CalibratedOn,
            CalibratedBy = k.CalibratedBy,
            CalibrationDue = k.CalibrationDue,
        };
    }

    /// <summary>A certificate as it is kept.</summary>
    public static CertificateFacts Facts(CertificateRow c)
    {
        ArgumentNullException.ThrowIfNull(c);
        return new(c.Number, c.IssuedBy, [.. c.Types.Split(' ').Select(AssemblyTypes.Parse)], c.ValidFrom, c.ValidUntil)
        {
            Authority = c.AuthorityId is null ? null : c.Authority!.Name,
            Class = c.Class.Length == 0 ? null : c.Class,
        };
    }

    private static PlaceFacts Facts(PlaceRow p, AuthorityRow authority) =>
        new(p.Name, p.Address, p.District, p.Owner!.Name, p.Owner.Address, p.Owner.Phone, p.Contact, authority.Name);

    /// <summary>Whether the tester may sign a test of the assembly on a day.</summary>
    public static SigningRight Right(Register register, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(register);
        return SigningRights.Of(
            register.Tester.FullName,
            [.. register.Certificates.Select(Facts)],
            AssemblyTypes.Parse(register.Assembly.Type),
            register.Assembly.Authority!.Name,
            day
        );
    }

    /// <summary>Everything about a run that comes from the register.</summary>
    public static async Task<Register?> Of(
        Store store,
        Guid assemblyId,
        Guid kitId,
        Guid testerId,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(store);
        var assembly = await store
            .Assemblies.AsNoTracking()
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .Include(a => a.Authority)
            .FirstOrDefaultAsync(a => a.Id == assemblyId, cancel);
        var kit = await store.Kits.AsNoTracking().FirstOrDefaultAsync(k => k.Id == kitId, cancel);
        var tester = await store.Users.AsNoTracking().FirstOrDefaultAsync(u => u.Id == testerId, cancel);
        if (assembly is null || kit is null || tester is null)
            return null;
        return new(assembly, kit, tester, await TesterRights.Certificates(store, [testerId], cancel));
    }

    /// <summary>
    /// Why a setup cannot be kept: something of the register would not come back as it was written; null when it can.
    /// </summary>
    public static string? WhyNot(RunSetup setup)
    {
        var complete = RunSetupFormat.WriteComplete(setup);
        if (
            RunSetupFormat.Read(complete, null, out var errors) is { } again
            && RunSetupFormat.WriteComplete(again) == complete
        )
            return null;
        return $"The register holds something that cannot be kept with a run: {string.Join("; ", errors)}.";
    }
}
