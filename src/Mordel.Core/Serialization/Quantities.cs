using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>
/// Reads and writes quantities and item values: <c>{"value":1.0,"unit":"psid"}</c>, <c>"tight"</c>, <c>true</c>.
/// </summary>
public static class Quantities
{
    /// <summary>A differential.</summary>
    public static Differential? Differential(this Node node, bool maybeNegative = true)
    {
        if (!node.IsObject())
            return null;
        var (value, unit) = (
            node.Required("value")?.Number(),
            node.Required("unit")?.ValueOf(DifferentialUnits.Parse, "a unit of differential pressure; psid or kPa")
        );
        if (value is not { } amount || unit is not { } u)
            return null;
        if (Math.Abs(amount) > Units.Differential.Largest || (!maybeNegative && amount < 0))
        {
            node.Optional("value")!
                .Value.Wrong(
                    amount < 0 && !maybeNegative
                        ? "may not be negative"
                        : $"is outside −{Units.Differential.Largest} to {Units.Differential.Largest}"
                );
            return null;
        }

        return new Differential(amount, u);
    }

    /// <summary>A differential with the speed of the needle, where given.</summary>
    public static Reading? Reading(this Node node)
    {
        if (node.Differential() is not { } value)
            return null;
        node.Only("value", "unit", "speed", "resolution");
        Differential? Extra(string name, Node n) =>
            n.Number() is { } amount
                ? amount >= 0 && amount <= Units.Differential.Largest
                    ? new Differential(amount, value.Unit)
                    : Refuse(n, name)
                : null;
        static Differential? Refuse(Node n, string name)
        {
            n.Wrong($"{name} must lie between 0 and {Units.Differential.Largest}");
            return null;
        }

        return new Reading(
            value,
            node.Optional("resolution") is { } r ? Extra("resolution", r) : null,
            node.Optional("speed") is { } s ? Extra("speed", s) : null
        );
    }

    /// <summary>A line pressure.</summary>
    public static LinePressure? LinePressure(this Node node)
    {
        if (node.Pair(Units.LinePressure.ParseUnit, "a unit of line pressure; psi or kPa") is not var (amount, unit))
            return null;
        if (amount >= 0 && amount <= Units.LinePressure.Largest(unit))
            return new LinePressure(amount, unit);
        node.Optional("value")!
            .Value.Wrong($"is outside 0 to {Units.LinePressure.Largest(unit)} {Units.LinePressure.Symbol(unit)}");
        return null;
    }

    /// <summary>A length.</summary>
    public static Length? Length(this Node node)
    {
        if (node.Pair(Units.Length.ParseUnit, UnitsOfLength) is not var (amount, unit))
            return null;
        if (amount is >= 0 and <= 100_000)
            return new Length(amount, unit);
        node.Optional("value")!.Value.Wrong("is outside 0 to 100000");
        return null;
    }

    /// <summary>How far a gauge was from its level: within two metres, negative low.</summary>
    public static Length? Offset(this Node node)
    {
        if (node.Pair(Units.Length.ParseUnit, UnitsOfLength) is not var (amount, unit))
            return null;
        if (Math.Abs(new Length(amount, unit).Millimetres) <= 2000m)
            return new Length(amount, unit);
        node.Optional("value")!.Value.Wrong("is more than two metres");
        return null;
    }

    private const string UnitsOfLength = "a unit of length; mm or in";

    // A value with its unit and nothing else; null where that was refused.
    private static (decimal Amount, T Unit)? Pair<T>(this Node node, Func<string, T?> parse, string wanted)
        where T : struct
    {
        if (!node.IsObject())
            return null;
        node.Only("value", "unit");
        var (value, unit) = (node.Required("value")?.Number(), node.Required("unit")?.ValueOf(parse, wanted));
        return value is { } amount && unit is { } known ? (amount, known) : null;
    }

    /// <summary>The answer to an item, in the form that its kind asks for.</summary>
    public static ItemValue? Value(this Node node, TestItem item)
    {
        ArgumentNullException.ThrowIfNull(item);
        switch (item.Kind)
        {
            case ItemKind.Differential:
                return node.Reading() is { } reading ? new ItemValue.Measured(reading) : null;
            case ItemKind.TightOrLeaks:
                return node.OneOf<ItemValue>(
                    t =>
                        t switch
                        {
                            "tight" => new ItemValue.Tightness(true),
                            "leaks" => new ItemValue.Tightness(false),
                            "not-shown" when item.MayBeNotShown => new ItemValue.NotShown(),
                            _ => null,
                        },
                    item.MayBeNotShown ? "an answer; tight, leaks or not-shown" : "an answer; tight or leaks"
                );
            case ItemKind.TrueOrFalse:
                return node.YesNo() is { } yes ? new ItemValue.YesNo(yes) : null;
            case ItemKind.LinePressure:
                return node.LinePressure() is { } line ? new ItemValue.Line(line) : null;
            default:
                return node.Length() is { } length ? new ItemValue.Clearance(length) : null;
        }
    }

    /// <summary>Writes a differential's members.</summary>
    public static void Write(this Utf8JsonWriter json, string name, Reading reading)
    {
        ArgumentNullException.ThrowIfNull(json);
        json.WriteStartObject(name);
        json.WriteNumber("value", reading.Value.Amount);
        json.WriteString("unit", reading.Value.Unit.Symbol());
        if (reading.Resolution is { } resolution)
            json.WriteNumber("resolution", resolution.Amount);
        if (reading.Speed is { } speed)
            json.WriteNumber("speed", speed.Amount);
        json.WriteEndObject();
    }

    /// <summary>Writes an item's answer under a name.</summary>
    public static void Write(this Utf8JsonWriter json, string name, ItemValue value)
    {
        ArgumentNullException.ThrowIfNull(json);
        switch (value)
        {
            case ItemValue.Measured m:
                json.Write(name, m.Reading);
                break;
            case ItemValue.Tightness t:
                json.WriteString(name, t.Tight ? "tight" : "leaks");
                break;
            case ItemValue.NotShown:
                json.WriteString(name, "not-shown");
                break;
            case ItemValue.YesNo y:
                json.WriteBoolean(name, y.Yes);
                break;
            case ItemValue.Line l:
                Amount(json, name, l.Pressure.Amount, Units.LinePressure.Symbol(l.Pressure.Unit));
                break;
            case ItemValue.Clearance c:
                Amount(json, name, c.Length.Amount, Units.Length.Symbol(c.Length.Unit));
                break;
        }
    }

    internal static void Amount(this Utf8JsonWriter json, string name, decimal amount, string unit)
    {
        json.WriteStartObject(name);
        json.WriteNumber("value", amount);
        json.WriteString("unit", unit);
        json.WriteEndObject();
    }
}
