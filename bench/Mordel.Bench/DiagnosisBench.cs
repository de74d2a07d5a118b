using System.Diagnostics;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Data.Files;

namespace Mordel.Bench;

/// <summary>
/// Hidden faults from outside the atlas, found by a robot with erring eyes that follows "next look" only: how often it
/// names the truth, after how many looks, whether what is said with a weight is so as often, and what cannot be told
/// apart.
/// </summary>
internal static class DiagnosisBench
{
    // Seeds that no atlas has.
    private const int Hidden = 1_000_003;

    public static int Run(int count, string? folder, bool verbose)
    {
        var shelf = new AtlasShelf(folder);
        foreach (var body in Bodies.All)
            One(shelf, body, count, verbose);
        return 0;
    }

    private static void One(AtlasShelf shelf, AssemblyBody body, int count, bool verbose)
    {
        var clock = Stopwatch.StartNew();
        var atlas = shelf.Of(body);
        var loading = clock.Elapsed;
        var maker = new AtlasMaker(body);
        var all = new (RobotSearch Search, bool Hides)[count];
        Parallel.For(0, count, i =>
        {
            // Seven in ten are single faults.
            var set = Robot.Draw(atlas, i % 10 >= 7, Hidden + i);
            var truth = atlas.Sets[set];
            var one = new AtlasCase(body, truth, i, Hidden);
            var row = maker.Row(set, one);
            all[i] = (Robot.Search(atlas, row, truth, i), maker.Without(one).Any(r => row.LooksLike(r, 0)));
        });
        var searches = all.Where(a => !a.Hides).Select(a => a.Search).ToArray();
        Console.WriteLine($"\n{atlas.Name}: {atlas.Rows.Length} cases, loaded in {loading.TotalMilliseconds:0} ms");
        var hidden = all.Where(a => a.Hides).ToList();
        Console.WriteLine(
            $"  {hidden.Count} of {count} have a fault that nothing shows, at the port or in any test: "
                + string.Join(
                    ", ",
                    hidden
                        .GroupBy(h => h.Search.Truth.ToString())
                        .OrderByDescending(g => g.Count())
                        .Take(6)
                        .Select(g => $"{g.Key} {g.Count()}")
                )
                + "; left out below"
        );
        var singles = searches.Where(s => s.Truth.Faults.Length == 1).ToArray();
        var pairs = searches.Where(s => s.Truth.Faults.Length == 2).ToArray();
        Line("single fault first", singles, s => s.Place == 0);
        Line("single fault first, or said to be alike", singles, s => s.Place == 0 || s.SaysAlike);
        // A needle off zero, a gauge held off its level: no reading tells them from another spring.
        var own = singles.Where(s => !s.Truth.Faults[0].IsOutside).ToArray();
        Line("single fault of the assembly's own first", own, s => s.Place == 0);
        Line("pair among the first two", pairs, s => s.Place is 0 or 1);
        Line("without opening the body", searches, s => !s.OpenedBody);
        var looks = searches.Select(s => s.Looks).Order().ToArray();
        Console.WriteLine($"  looks: median {looks[looks.Length / 2]}, 9 of 10 within {looks[looks.Length * 9 / 10]}");
        foreach (
            var (low, high) in new[] { (0.5, 0.6), (0.6, 0.7), (0.7, 0.8), (0.8, 0.9), (0.9, 0.97), (0.97, 1.001) }
        )
        {
            var said = searches
                .Where(s => s.Last.Hypotheses is [var h, ..] && h.Weight >= low && h.Weight < high)
                .ToArray();
            if (said.Length > 0)
                Line($"said with {low * 100:0} to {Math.Min(1, high) * 100:0} %, and so", said, s => s.Place == 0);
        }

        Console.WriteLine("  taken for another:");
        foreach (
            var confusion in searches
                .Where(s => s.Place != 0)
                .GroupBy(s => $"{s.Truth} taken for {(s.Last.Hypotheses is [var h, ..] ? h.Faults.ToString() : "?")}")
                .OrderByDescending(g => g.Count())
                .Take(12)
        )
            Console.WriteLine(
                $"    {confusion.Count(), 3} {confusion.Key}"
                    + (confusion.Any(s => s.SaysAlike) ? " (said to be alike)" : "")
            );
        if (verbose)
            foreach (var search in searches.Where(s => s.Place != 0).Take(8))
            {
                Console.WriteLine($"    {search.Truth}:");
                foreach (var observed in search.Last.Evidence.Observations)
                    Console.WriteLine($"        {Diagnosing.Line(observed)}");
                foreach (var h in search.Last.Hypotheses.Take(3))
                    Console.WriteLine($"      {h.Weight:0.000} {h.Faults}");
                Console.WriteLine(
                    $"      nothing {search.Last.Nothing:0.000}; next "
                        + string.Join(", ", search.Last.Next.Select(n => $"{n.Id} {n.Gain:0.00}"))
                );
            }

        // The slowest question: everything was seen.
        var most = searches.MaxBy(s => s.Last.Evidence.Observations.Length)!.Last.Evidence;
        var times = new double[9];
        for (var i = 0; i < times.Length; i++)
        {
            clock.Restart();
            _ = Diagnosing.Of(atlas, most);
            times[i] = clock.Elapsed.TotalMilliseconds;
        }

        Array.Sort(times);
        Console.WriteLine($"  a diagnosis of {most.Observations.Length} observations: {times[4]:0.0} ms");
    }

    private static void Line(string says, RobotSearch[] of, Func<RobotSearch, bool> which) =>
        Console.WriteLine(
            $"  {says}: {of.Count(which)} of {of.Length} ({100.0 * of.Count(which) / Math.Max(1, of.Length):0.0} %)"
        );
}
