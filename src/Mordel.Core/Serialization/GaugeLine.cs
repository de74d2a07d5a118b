using System.Collections.Immutable;
using Mordel.Core.Units;

namespace Mordel.Core.Serialization;

/// <summary>One line of a gauge that streams.</summary>
/// <param name="Value">What it shows.</param>
/// <param name="Rate">How fast that changes, a second, in the value's unit; null when the gauge does not say.</param>
/// <param name="Battery">0 empty to 1 full; null when it does not say.</param>
/// <param name="Simulated">Whether no gauge is behind it.</param>
/// <param name="By">The bridge that sent it, as its key is named; said by the server alone.</param>
public sealed record GaugeLine(
    Differential Value,
    decimal? Rate = null,
    decimal? Battery = null,
    bool Simulated = false,
    string? By = null
)
{
    /// <summary>Reads a line: <c>{"value":1.83,"unit":"psid","rate":-0.02,"battery":0.87}</c>.</summary>
    /// <returns>The line, or null when there are errors.</returns>
    public static GaugeLine? Read(string json, out ImmutableArray<InputError> errors)
    {
        var found = new List<InputError>();
        GaugeLine? line = null;
        if (Node.Root(json, found) is { } root && root.IsObject())
        {
            root.Only("value", "unit", "rate", "battery", "simulated");
            var value = root.Required("value")?.Number();
            var unit = root.Required("unit")
                ?.ValueOf(DifferentialUnits.Parse, "a unit of differential pressure; psid or kPa");
            var rate = root.Optional("rate") is { IsNull: false } r
                ? InRange(r, -Differential.Largest, Differential.Largest)
                : null;
            var battery = root.Optional("battery") is { IsNull: false } b ? InRange(b, 0, 1) : null;
            var simulated = root.Optional("simulated")?.YesNo() ?? false;
            if (value is { } v && Math.Abs(v) > Differential.Largest)
                root.Optional("value")!.Value.Wrong($"is outside −{Differential.Largest} to {Differential.Largest}");
            else if (value is { } amount && unit is { } known)
                line = new(new(amount, known), rate, battery, simulated);
        }

        errors = [.. found];
        return found.Count == 0 ? line : null;
    }

    /// <summary>The line in a unit.</summary>
    public GaugeLine In(DifferentialUnit unit) =>
        unit == Value.Unit
            ? this
            : this with
            {
                Value = new(decimal.Round(Value.In(unit), 3), unit),
                Rate = Rate is { } rate ? decimal.Round(new Differential(rate, Value.Unit).In(unit), 3) : null,
            };

    /// <summary>The line as JSON.</summary>
    public string Write() =>
        JsonText.Object(json =>
        {
            json.WriteNumber("value", Value.Amount);
            json.WriteString("unit", Value.Unit.Symbol());
            if (Rate is { } rate)
                json.WriteNumber("rate", rate);
            if (Battery is { } battery)
                json.WriteNumber("battery", battery);
            if (Simulated)
                json.WriteBoolean("simulated", true);
            if (By is { } by)
                json.WriteString("by", by);
        });

    private static decimal? InRange(Node node, decimal least, decimal most)
    {
        if (node.Number() is not { } number)
            return null;
        if (number >= least && number <= most)
            return number;
        node.Wrong($"is outside {least} to {most}");
        return null;
    }
}
