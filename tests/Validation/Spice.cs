using System.Diagnostics;
using System.Globalization;
using System.Text;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;

namespace Mordel.Validation;

/// <summary>
/// The outside check: the same network, written down for an open circuit simulator (ngspice) by the electrical analogy:
/// pressure as voltage, flow as current, what a space gives as charge. Nobody here wrote that solver. Both start from
/// the same moment and run the same time without a hand on the rig.
/// </summary>
public static class Spice
{
    /// <summary>The cases: how the rig is brought there, how long it is left alone, seconds.</summary>
    private static IReadOnlyList<(
        string Name,
        string Procedure,
        string Set,
        Action<WaterModel> Bring,
        double Seconds
    )> Cases { get; } =
    [
        (
            "rp-cv1-leaks: the zone fills until the relief drips",
            "rp-relief-first",
            "cv1 leaks weep",
            w =>
            {
                w.HookUpTwoHoses();
                w.Turn(0.05, (Parts.So2, 0));
            },
            150
        ),
        (
            "rp-cv2-leaks: back pressure through the bypass hose",
            "rp-relief-first",
            "cv2 leaks weep",
            w =>
            {
                w.HookUpTwoHoses();
                w.Turn(20, (Parts.So2, 0));
                w.Turn(5, (Parts.HighControl, 1), (Parts.BypassControl, 0.3m));
                w.Put(Parts.BypassHose, Parts.Tc4);
                w.Turn(3, (Parts.BypassControl, 0));
                w.Turn(6, (Parts.LowBleed, 1));
                w.Turn(5, (Parts.LowBleed, 0));
                w.Turn(0.05, (Parts.Tc4, 1), (Parts.BypassControl, 1));
            },
            120
        ),
        (
            "dc-so1-leaks: the check against the tube, never stopping",
            "dc-sight-tube",
            "so1 leaks",
            w =>
            {
                w.HookUpTheTube();
                w.Turn(0.05, (Parts.Tc3, 0.05m));
            },
            60
        ),
        (
            "pvb-so2-leaks: the body falls by itself, before the pop",
            "pvb-inlet-first",
            "so2 leaks weep; open; springs ai=1.2",
            w =>
            {
                w.Put(Parts.HighHose, Parts.Tc2);
                w.Turn(4, (Parts.Tc2, 1), (Parts.HighBleed, 1));
                w.Turn(2, (Parts.HighBleed, 0));
                w.Hold(Parts.AirInlet);
                w.Turn(2, (Parts.So2, 0));
                w.Turn(0.05, (Parts.So1, 0));
            },
            300
        ),
        (
            "svb-cv1-leaks: the vent screw loosened",
            "svb-check-first",
            "cv1 leaks weep; springs ai=0.1",
            w =>
            {
                w.Put(Parts.HighHose, Parts.Tc1);
                w.Turn(4, (Parts.Tc1, 1), (Parts.HighBleed, 1));
                w.Turn(2, (Parts.HighBleed, 0));
                w.Hold(Parts.VentScrew);
                w.Turn(2, (Parts.So2, 0));
                w.Turn(2, (Parts.So1, 0));
                w.Turn(0.05, (Parts.VentScrew, 0.01m));
            },
            40
        ),
        (
            "rp-air-in-hoses: the zone fed slowly, air in the hoses",
            "rp-relief-first",
            "kit air-in-hoses",
            w =>
            {
                w.HookUpTwoHoses();
                w.Turn(20, (Parts.So2, 0));
                w.Turn(0.05, (Parts.HighControl, 1), (Parts.LowControl, 0.01m));
            },
            60
        ),
    ];

    /// <summary>Runs every case in both and writes the differences down.</summary>
    /// <param name="file">Where the result goes.</param>
    public static int Compare(string file)
    {
        var text = new StringBuilder(
            """
            # Against an open circuit simulator

            Made by `dotnet run -c Release --project tests/Validation -- ngspice` with Debian's ngspice; do not edit.
            Pressure is voltage, flow is current, what a space gives is charge. Both start from the same moment; nobody
            turns anything until the end. *Moving* is the greatest difference at any of 200 times between start and
            end, *static* that at the end, both as a part of the range which that chamber goes through (at least 1
            psi). Chambers that hang loose are left out.

            | case | seconds | greatest difference moving | where | at the end | speed: ngspice ÷ this model |
            | --- | --- | --- | --- | --- | --- |

            """
        );
        var worst = 0.0;
        foreach (var (name, procedure, set, bring, seconds) in Cases)
        {
            var water = Bench.Water(procedure, set);
            bring(water);
            var netlist = Netlist(water, name, seconds);
            var clock = Stopwatch.StartNew();
            var (theirs, theirSeconds) = Simulate(netlist, water.Plumbing.Cells.Length);
            clock.Restart();
            var repeats = 20;
            var moment = water.Moment();
            for (var i = 0; i < repeats; i++)
            {
                water.Return(moment);
                water.Run(seconds);
            }

            var ourSeconds = clock.Elapsed.TotalSeconds / repeats;
            water.Return(moment);
            var (greatest, where, atEnd) = Differences(water, theirs);
            worst = Math.Max(worst, Math.Max(greatest, atEnd));
            text.AppendLine(
                CultureInfo.InvariantCulture,
                $"| {name} | {seconds:0} | {greatest:0.00 %} | {where} | {atEnd:0.000 %} | "
                    + $"{theirSeconds / ourSeconds:0} |"
            );
        }

        text.AppendLine(CultureInfo.InvariantCulture, $"\nWorst of all: {worst:0.00 %} (allowed: 2 %).");
        File.WriteAllText(file, text.ToString());
        Console.WriteLine(text.ToString());
        return worst <= 0.02 ? 0 : 1;
    }

    private static (double Greatest, string Where, double AtEnd) Differences(WaterModel water, List<double[]> theirs)
    {
        var cells = water.Plumbing.Cells;
        var began = water.Time;
        var ours = new List<double[]>();
        foreach (var row in theirs)
        {
            if (began + row[0] > water.Time)
                water.Run(began + row[0] - water.Time);
            ours.Add([.. water.Pressures.P.Take(cells.Length)]);
        }

        var (greatest, where, atEnd) = (0.0, "", 0.0);
        for (var c = 0; c < cells.Length; c++)
        {
            if (Loose(water, c))
                continue;
            var range = Math.Max(1, ours.Max(o => o[c]) - ours.Min(o => o[c]));
            // The first row is what both were given.
            for (var i = 1; i < ours.Count; i++)
            {
                var off = Math.Abs(ours[i][c] - theirs[i][c + 1]) / range;
                if (off > greatest)
                    (greatest, where) = (
                        off,
                        string.Create(CultureInfo.InvariantCulture, $"{cells[c].Name}, {theirs[i][0]:0.#} s")
                    );
            }

            atEnd = Math.Max(atEnd, Math.Abs(ours[^1][c] - theirs[^1][c + 1]) / range);
        }

        return (greatest, where, atEnd);
    }

    private static bool Loose(WaterModel water, int cell) =>
        water.Plumbing.Elements.All(e => e.From != cell && e.To != cell)
        || (water.Plumbing.Cells[cell].Vented && cell != water.Plumbing.Tube && cell > water.Plumbing.SiteCell);

    /// <summary>The network as it stands, as a netlist.</summary>
    public static string Netlist(WaterModel water, string title, double seconds)
    {
        var (network, at) = (water.Plumbing, water.Pressures);
        var text = new StringBuilder().AppendLine(CultureInfo.InvariantCulture, $"* {title}");
        string P(int cell) => cell == network.Air ? "0" : $"v(n{cell})";
        string Node(int cell) => cell == network.Air ? "0" : $"n{cell}";
        static string N(double value) => value.ToString("R", CultureInfo.InvariantCulture);
        for (var i = 0; i < network.Cells.Length; i++)
        {
            var cell = network.Cells[i];
            var over = $"(v(n{i})-{N(cell.TopHead - cell.Raised)})";
            // A surface that stays where it is, over the top or below it, is a plain capacitor; only squeezed air is
            // not.
            var plain =
                !cell.Vented || at.P[i] >= cell.TopHead - 1e-6
                    ? cell.Gives
                    : cell.Holds / (cell.TopHead - cell.FloorHead);
            var what =
                cell.Vented || cell.Air == 0
                    ? N(plain)
                    : $"Q='{N(cell.Gives)}*{over}-{N(cell.Air * Sizes.Atmosphere)}/({over}+{N(Sizes.Atmosphere)})'";
            text.AppendLine(CultureInfo.InvariantCulture, $"C{i} n{i} 0 {what}")
                .AppendLine(CultureInfo.InvariantCulture, $"R{i} n{i} 0 1e12")
                .AppendLine(CultureInfo.InvariantCulture, $".ic v(n{i})={N(at.P[i])}");
        }

        for (var c = 0; c < network.Checks.Length; c++)
            text.AppendLine(
                CultureInfo.InvariantCulture,
                $"CG{c} n{network.Checks[c].Up} n{network.Checks[c].Down} {N(network.CheckGive)}"
            );
        for (var e = 0; e < network.Elements.Length; e++)
        {
            var element = network.Elements[e];
            string Root(string x) => $"({x})/((({x})*({x})+1e-6)^0.25)";
            var flow = element switch
            {
                Orifice { Conductance: 0 } => null,
                Orifice o when o.OutOnly =>
                    $"{N(o.Conductance)}*{Root($"max({P(o.From)}-({P(o.To)})-({N(o.Head)}),0)")}",
                Orifice o => $"{N(o.Conductance)}*{Root($"{P(o.From)}-({P(o.To)})-({N(o.Head)})")}",
                SpringCheck s => $"{N(s.Makes.Conductance)}*min(max((({P(s.From)}-({P(s.To)}))-{N(s.Makes.Spring)})/"
                    + $"{N(s.Makes.Lift)},0),1)*{Root($"{P(s.From)}-({P(s.To)})")}",
                ReliefSeat r => $"{N(r.Makes.Conductance)}*min(max({N(r.Makes.Opens)}-({P(r.Senses)}-{P(r.From)}),0),"
                    + $"{N(r.Makes.Stroke)})*{Root($"max({P(r.From)},0)")}",
                _ => throw new InvalidOperationException("An element that no circuit has been thought of for."),
            };
            if (flow is not null)
                text.AppendLine(CultureInfo.InvariantCulture, $"B{e} {Node(element.From)} {Node(element.To)} I={flow}");
        }

        var step = seconds / 200;
        return text.AppendLine(".options reltol=1e-4 abstol=1e-9 vntol=1e-7 method=gear maxord=2 itl4=200")
            .AppendLine(CultureInfo.InvariantCulture, $".tran {N(step)} {N(seconds)} 0 {N(seconds / 2000)}")
            .AppendLine(".control")
            .AppendLine("set noaskquit")
            .AppendLine("set filetype=ascii")
            .AppendLine("run")
            .AppendLine("linearize")
            .AppendLine(
                CultureInfo.InvariantCulture,
                $"wrdata OUTFILE {string.Join(' ', Enumerable.Range(0, network.Cells.Length).Select(i => $"v(n{i})"))}"
            )
            .AppendLine("quit")
            .AppendLine(".endc")
            .AppendLine(".end")
            .ToString();
    }

    private static (List<double[]> Rows, double Seconds) Simulate(string netlist, int cells)
    {
        var folder = Directory.CreateTempSubdirectory("mordel-spice-").FullName;
        try
        {
            var file = Path.Combine(folder, "water.cir");
            File.WriteAllText(file, netlist.Replace("OUTFILE", Path.Combine(folder, "out"), StringComparison.Ordinal));
            var clock = Stopwatch.StartNew();
            using var process = Process.Start(
                new ProcessStartInfo("ngspice", ["-b", file])
                {
                    RedirectStandardOutput = true,
                    RedirectStandardError = true,
                }
            )!;
            var (output, error) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
            process.WaitForExit();
            var seconds = clock.Elapsed.TotalSeconds;
            var data = new[] { "out.data", "out" }.Select(n => Path.Combine(folder, n)).FirstOrDefault(File.Exists);
            if (data is null)
                throw new InvalidOperationException($"ngspice gave no result: {output.Result}{error.Result}");
            // Every variable comes with its own time before it.
            var rows = File.ReadAllLines(data)
                .Select(l =>
                    l.Split(' ', StringSplitOptions.RemoveEmptyEntries)
                        .Select(x => double.Parse(x, CultureInfo.InvariantCulture))
                        .ToArray()
                )
                .Select(v => new[] { v[0] }.Concat(Enumerable.Range(0, cells).Select(i => v[(2 * i) + 1])).ToArray())
                .ToList();
            return (rows, seconds);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }
}
