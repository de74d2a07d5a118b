using System.Globalization;
using System.Text;

namespace Mordel.Validation;

/// <summary>Plots of simulated tests, as SVG, for the documents.</summary>
public static class Plots
{
    private const int Width = 900,
        Height = 260,
        Left = 44,
        Bottom = 40;

    /// <summary>Writes them.</summary>
    public static int Write(string folder)
    {
        Directory.CreateDirectory(folder);
        One(
            folder,
            "tube",
            "Double check, sight tube: the first check",
            "dc-sight-tube",
            "cv1.shut-so1",
            "cv1.leave",
            [
                ("sound: CV1 holds 2.1", ""),
                ("SO1 leaks: bled at the tee until it drips", "so1 leaks"),
                ("CV1 leaks: down to zero", "cv1 leaks weep"),
            ]
        );
        One(
            folder,
            "relief",
            "Reduced pressure, relief first: closing SO2, feeding the zone, back pressure",
            "rp-relief-first",
            "hook.so2",
            "so2.test",
            [
                ("sound: CV1 7.6, relief opens at 2.6", ""),
                ("CV2 leaks: the needle sinks to the relief's point", "cv2 leaks weep"),
                ("CV1 leaks slowly", "cv1 leaks weep"),
            ]
        );
        One(
            folder,
            "inlet",
            "Pressure vacuum breaker: lowering to the pop",
            "pvb-inlet-first",
            "ai.lower",
            "ai.drain",
            [
                ("sound: pops at 1.7", ""),
                ("inlet stuck: through to zero", "ai stuck-closed"),
                ("SO2 leaks: taken on the way down", "so2 leaks; open"),
            ]
        );
        Console.WriteLine($"three plots in {folder}");
        return 0;
    }

    private static void One(
        string folder,
        string name,
        string title,
        string procedure,
        string from,
        string to,
        (string Label, string Set)[] lines
    )
    {
        var ways = lines
            .Select(l => (l.Label, Way: Way(procedure, l.Set, from, to)))
            .Where(w => w.Way.Count > 1)
            .ToList();
        var end = ways.Max(w => w.Way[^1].Seconds);
        static string N(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
        double X(double seconds) => Left + ((Width - Left - 10) * seconds / end);
        double Y(double needle) => 34 + ((Height - Bottom - 34) * (1 - ((Math.Max(-2, needle) + 2) / 17.5)));
        var text = new StringBuilder().Append(
            CultureInfo.InvariantCulture,
            $"""
            <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {Width} {Height
                + (20 * ways.Count)}" font-family="sans-serif" font-size="14" fill="#1b211f">
            <rect width="100%" height="100%" fill="#fffdf6"/><text x="{Left}" y="20" font-weight="700">{title}</text>

            """
        );
        foreach (var psid in new[] { 0, 5, 10, 15 })
            text.AppendLine(
                CultureInfo.InvariantCulture,
                $"<path d='M{Left} {N(Y(psid))}H{Width - 10}' stroke='#d9d3c2'/><text x='{Left - 8}' "
                    + $"y='{N(Y(psid) + 5)}' text-anchor='end'>{psid}</text>"
            );
        text.AppendLine(
            CultureInfo.InvariantCulture,
            $"<text x='{Width - 10}' y='{Height - 18}' text-anchor='end'>{N(end)} s simulated</text><text "
                + $"x='{Left}' y='{Height - 18}'>psid over time</text>"
        );
        (string Colour, string Dash)[] pens = [("#17594f", ""), ("#7a4d08", "7 4"), ("#8c2318", "2 3")];
        for (var i = 0; i < ways.Count; i++)
        {
            var (colour, dash) = pens[i];
            text.AppendLine(
                CultureInfo.InvariantCulture,
                $"<path d='{string.Concat(ways[i].Way.Select((w, n) => $"{(n == 0 ? 'M' : 'L')}{N(X(w.Seconds))} {N(Y(w.Needle))}"))}' fill='none' stroke='{colour}' stroke-width='2.5' stroke-dasharray='{dash}'/>"
            );
            text.AppendLine(
                CultureInfo.InvariantCulture,
                $"<path d='M{Left} {Height + (20 * i) - 2}h40' stroke='{colour}' stroke-width='2.5' "
                    + $"stroke-dasharray='{dash}'/><text x='{Left + 50}' "
                    + $"y='{Height + (20 * i) + 3}'>{ways[i].Label}</text>"
            );
        }

        File.WriteAllText(Path.Combine(folder, $"{name}.svg"), text.AppendLine("</svg>").ToString());
    }

    // From the first moment of a step to the first of another, or to the end.
    private static List<(double Seconds, double Needle)> Way(string procedure, string set, string from, string to)
    {
        var way = new List<(double, double)>();
        var (began, over, next) = (double.NaN, false, 0.0);
        Bench
            .Set(procedure, Bench.KitsOf(procedure).First(), set)
            .Perform(moment =>
            {
                var step = moment.Step.Split('/', '@')[0];
                if (double.IsNaN(began) && step == from)
                    began = moment.Water.Time;
                over |= !double.IsNaN(began) && (step == to || step.StartsWith("finish", StringComparison.Ordinal));
                if (double.IsNaN(began) || over || moment.Water.Time < next)
                    return;
                way.Add((moment.Water.Time - began, moment.Water.Needle));
                next = moment.Water.Time + 0.9;
            });
        return way;
    }
}
