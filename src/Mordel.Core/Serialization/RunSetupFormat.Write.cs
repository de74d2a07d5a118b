using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Units;

namespace Mordel.Core.Serialization;

// How a setup is written.
public static partial class RunSetupFormat
{
    /// <summary>The canonical form, one line: profile and sheet by hash.</summary>
    public static string Write(RunSetup setup) => Write(setup, complete: false);

    /// <summary>The complete form, one line: profile and sheet in full.</summary>
    public static string WriteComplete(RunSetup setup) => Write(setup, complete: true);

    /// <summary>The canonical text of a setup's profile.</summary>
    public static string ProfileText(RunSetup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return ProfileFormat.Write(setup.Profile, indented: false);
    }

    /// <summary>The canonical text of a setup's sheet.</summary>
    public static string SheetText(RunSetup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return setup.Sheet.TextBy(Canonical);
    }

    private static string Canonical(RunSheet sheet) => RunSheetFormat.Json(sheet, indented: false);

    private static string Write(RunSetup setup, bool complete)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Name);
            json.WriteString("run", setup.Run.ToString("D"));
            if (setup.Stop is { } stop)
                json.WriteString("stop", stop.ToString("D"));
            if (setup.IsSeasonal)
                json.WriteString("visit", Seasonal);
            json.WriteString("number", setup.Number);
            json.WriteInstant("begunAt", setup.BegunAt);
            if (setup.WrittenDownAt is { } later)
                json.WriteInstant("writtenDownAt", later);
            Write(json, setup.Assembly);
            Write(json, setup.Place);
            Write(json, setup.Kit);
            Write(json, setup.Tester);
            if (setup.Repair is { } repair)
                RepairFactsFormat.Write(json, repair);
            if (setup.Consent is { } consent)
                Write(json, consent);
            json.WriteString("procedure", setup.Sheet.Procedure.Id);
            Part(json, "profile", ProfileText(setup), complete);
            Part(json, "sheet", SheetText(setup), complete);
        });
    }

    private static void Write(Utf8JsonWriter json, AssemblyFacts a)
    {
        json.WriteStartObject("assembly");
        json.WriteString("id", a.Id.ToString("D"));
        json.WriteString("tag", a.Tag);
        json.WriteString("type", a.Type.ToString());
        if (a.Body is { } body)
            json.WriteString("body", body);
        if (a.Features.Strainer)
            json.WriteBoolean("strainer", true);
        if (a.Features.FittedCocks)
            json.WriteBoolean("fittedCocks", true);
        if (a.Features.BypassLine)
            json.WriteBoolean("bypassLine", true);
        json.WriteString("make", a.Make);
        json.WriteString("model", a.Model);
        json.WriteString("size", a.Size);
        json.WriteString("serial", a.Serial);
        json.WriteString("flow", Flows[(int)a.Flow]);
        json.WriteString("location", a.Location);
        json.WriteString("serves", a.Serves);
        json.WriteString("hazard", a.Hazard);
        json.WriteString("protection", a.Protection);
        if (a.FireLine)
            json.WriteBoolean("fireLine", true);
        if (a.Use is { } use)
            json.WriteString("use", use);
        if (a.Season is { } season)
            json.WriteString("season", season.ToString());
        if (a.ReliefPort is { } port)
            json.Amount("reliefPort", port.Amount, Length.Symbol(port.Unit));
        json.WriteDay("installedOn", a.InstalledOn);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, GivenConsent c)
    {
        json.WriteStartObject("consent");
        json.WriteString("name", c.Name);
        json.WriteInstant("at", c.At);
        json.WriteDay("day", c.Day);
        json.WriteString("from", $"{c.From:HH:mm}");
        json.WriteString("until", $"{c.Until:HH:mm}");
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, PlaceFacts p)
    {
        json.WriteStartObject("place");
        json.WriteString("name", p.Name);
        json.WriteString("address", p.Address);
        json.WriteString("district", p.District);
        json.WriteString("owner", p.Owner);
        json.WriteString("ownerAddress", p.OwnerAddress);
        json.WriteString("ownerPhone", p.OwnerPhone);
        json.WriteString("contact", p.Contact);
        json.WriteString("authority", p.Authority);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, KitFacts k)
    {
        json.WriteStartObject("kit");
        json.WriteString("id", k.Id.ToString("D"));
        json.WriteString("kind", k.Kit.Name);
        json.WriteString("make", k.Make);
        json.WriteString("model", k.Model);
        json.WriteString("serial", k.Serial);
        json.WriteString("unit", k.Unit.Symbol());
        json.WriteNumber("resolution", k.Resolution.Amount);
        json.WriteNumber("accuracy", k.Accuracy.Amount);
        json.WriteNumber("fullScale", k.FullScale.Amount);
        json.WriteDay("calibratedOn", k.CalibratedOn);
        json.WriteString("calibratedBy", k.CalibratedBy);
        json.WriteDay("calibrationDue", k.CalibrationDue);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, TesterFacts t)
    {
        json.WriteStartObject("tester");
        json.WriteString("id", t.Id.ToString("D"));
        json.WriteString("name", t.Name);
        if (t.Certificate is { } certificate)
            Write(json, certificate);
        json.WriteEndObject();
    }

    /// <summary>Writes a certificate as the member <c>certificate</c>.</summary>
    internal static void Write(Utf8JsonWriter json, CertificateFacts c)
    {
        json.WriteStartObject("certificate");
        json.WriteString("number", c.Number);
        json.WriteString("issuedBy", c.IssuedBy);
        if (c.Authority is { } authority)
            json.WriteString("authority", authority);
        if (c.Class is { } kind)
            json.WriteString("class", kind);
        json.WriteStrings("types", c.Types.Select(t => t.ToString()));
        json.WriteDay("from", c.From);
        json.WriteDay("until", c.Until);
        json.WriteEndObject();
    }
}
