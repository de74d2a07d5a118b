using System.Diagnostics;
using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;

namespace Mordel.Bench;

/// <summary>
/// How many times faster than real time the water runs: an RP with a five-valve kit and all three hoses on.
/// </summary>
internal static class WaterBench
{
    /// <summary>Prints the figures; answers whether what was promised (2,000 times) holds.</summary>
    public static bool Print()
    {
        Console.WriteLine("Water: RP, five-valve kit, all three hoses on, CV2 leaking a little, supply swinging");
        var still = Times("60 looks a second", Hooked(0), 120, 1 / 60.0);
        var moving = Times("60 looks a second, main swinging 5 psi", Hooked(5), 120, 1 / 60.0);
        var coarse = Times("4 looks a second, as the simulated tester", Hooked(5), 1200, 0.25);
        var water = Hooked(5);
        water.Run(10);
        var (bytes, live) = (GC.GetAllocatedBytesForCurrentThread(), GC.GetTotalMemory(true));
        water.Run(3600);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  an hour of simulated time allocates {GC.GetAllocatedBytesForCurrentThread() - bytes} bytes; "
                    + $"live memory changes by {(GC.GetTotalMemory(true) - live) / 1024.0:0} KiB"
            )
        );
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"\n  of the promised 2,000 times real time: still {still / 2000:0.00}, moving "
                    + $"{moving / 2000:0.00}, coarse {coarse / 2000:0.00}"
            )
        );
        return still >= 2000 && coarse >= 2000;
    }

    private static double Times(string what, WaterModel water, double seconds, double look)
    {
        for (var warm = Stopwatch.StartNew(); warm.ElapsedMilliseconds < 1500; )
            water.Run(look);
        var (best, times) = (0.0, new List<double>());
        for (var round = 0; round < 9; round++)
        {
            var clock = Stopwatch.StartNew();
            for (var t = 0.0; t < seconds; t += look)
                water.Run(look);
            times.Add(seconds / clock.Elapsed.TotalSeconds);
            best = Math.Max(best, times[^1]);
        }

        times.Sort();
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  {what, -42} {times[4], 8:0} times real time (median of 9; best {best:0})"
            )
        );
        return times[4];
    }

    private static WaterModel Hooked(double swing)
    {
        var water = new WaterModel(
            new()
            {
                Rig = new(ReducedPressureZone.FourCock, Kit.FiveValve),
                Springs = Springs.Healthy(AssemblyTypes.RP),
                Supply = new(60, swing),
                Faults = [new(Parts.Cv2, FaultKind.Leaks, LeakSize.Weep)],
            }
        );
        void Do(double seconds, params Move[] moves)
        {
            water.Set(water.Rig.ApplyAll(moves));
            water.Run(seconds);
        }

        static Move Turn(PartId part, decimal to) => new Move.Turn(part, new Opening(to));
        Do(
            1,
            new Move.Connect(Parts.HighHose, Parts.Tc2),
            new Move.Connect(Parts.LowHose, Parts.Tc3),
            new Move.Connect(Parts.BypassHose, Parts.Tc4)
        );
        Do(
            5,
            Turn(Parts.Tc2, 1),
            Turn(Parts.Tc3, 1),
            Turn(Parts.Tc4, 1),
            Turn(Parts.HighBleed, 1),
            Turn(Parts.LowBleed, 1)
        );
        Do(
            5,
            Turn(Parts.HighBleed, 0),
            Turn(Parts.LowBleed, 0),
            Turn(Parts.So2, 0),
            Turn(Parts.HighControl, 1),
            Turn(Parts.BypassControl, 1)
        );
        return water;
    }
}
