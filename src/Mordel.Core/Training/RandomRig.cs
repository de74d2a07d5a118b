using System.Collections.Immutable;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Simulation;
using Mordel.Core.Units;

namespace Mordel.Core.Training;

/// <summary>By which rules faults are drawn.</summary>
public enum RandomRigRules
{
    /// <summary>At most one, of those that examinations set (handbook chapter 7).</summary>
    Exam,

    /// <summary>As the field has them: several may meet, springs may be worn.</summary>
    Field,
}

/// <summary>A rig drawn by lot: the same number gives the same rig, to everyone and for good.</summary>
/// <param name="Procedure">The school.</param>
/// <param name="Kit">The kit.</param>
/// <param name="Rules">How faults are drawn.</param>
/// <param name="Seed">The number.</param>
public sealed record RandomRig(Procedure Procedure, Kit Kit, RandomRigRules Rules, int Seed)
{
    private static Fault Leak(PartId part, LeakSize size = LeakSize.Small) => new(part, FaultKind.Leaks, size);

    /// <summary>The rig, under the rules of the first built-in profile that has the school.</summary>
    public Scenario Scenario
    {
        get
        {
            var lot = new SeededRandom(Seed, Procedure.Id, Rules == RandomRigRules.Exam ? 1 : 2);
            var profile = BuiltInProfiles.All.First(p => p.School(Procedure.Id) is not null);
            var psid = profile.School(Procedure.Id)!.Unit == DifferentialUnit.Psid;
            var type = Procedure.Type;
            var springs = Healthy(type, lot);
            var site = new SitePipes(SitePlumbing.Closed);
            var faults = ImmutableArray.CreateBuilder<Fault>();
            var wanted =
                Rules == RandomRigRules.Exam
                    ? lot.Next(4) == 0
                        ? 0
                        : 1
                    : lot.Next(4);
            var pool = Pool(type).ToList();
            for (var i = 0; i < wanted && pool.Count > 0; i++)
            {
                var drawn = pool[lot.Next(pool.Count)];
                pool.RemoveAll(p => p.Part == drawn.Part || (drawn.Site != 0 && p.Site != 0));
                var size = Rules == RandomRigRules.Exam ? LeakSize.Small : (LeakSize)lot.Next(3);
                if (drawn.Kind == FaultKind.Leaks && drawn.Worn is null)
                    faults.Add(Leak(drawn.Part, size));
                else if (drawn.Worn is { } worn)
                    springs = worn(springs);
                else
                    faults.Add(new(drawn.Part, drawn.Kind));
                // A shutoff's leak needs somewhere to go, or something behind it to come from.
                if (drawn.Site != 0)
                    site =
                        drawn.Site > 0
                            ? new(SitePlumbing.OwnPressure, 0, lot.Between(20, 80))
                            : new(SitePlumbing.OpenOutlet, 0);
            }

            // Below a vacuum breaker stand the outlets that it feeds, and one is often open.
            if (site.Plumbing == SitePlumbing.Closed && type is AssemblyType.PVB && lot.Next(2) == 0)
                site = new(SitePlumbing.OpenOutlet, -18);
            return new(
                new()
                {
                    Rig = new(Bodies.Find(type, Procedure.Body), Kit),
                    Springs = springs,
                    Supply = new(Math.Round(lot.Between(45, 90))),
                    SiteBehind = site,
                    Faults = faults.ToImmutable(),
                    Seed = Seed,
                    FullScale = psid ? 15 : 100 / (double)DifferentialUnits.KpaPerPsi,
                },
                Procedure,
                profile
            );
        }
    }

    // Site: 1 back pressure, −1 an open outlet, 0 whatever.
    private readonly record struct Choice(
        PartId Part,
        FaultKind Kind = FaultKind.Leaks,
        int Site = 0,
        Func<Springs, Springs>? Worn = null
    );

    private IEnumerable<Choice> Pool(AssemblyType type)
    {
        yield return new(Parts.Cv1);
        if (type is AssemblyType.RP or AssemblyType.DC)
            yield return new(Parts.Cv2);
        if (type != AssemblyType.RP)
            yield return new(Parts.So1);
        yield return new(Parts.So2, Site: -1);
        if (type == AssemblyType.DC)
            yield return new(Parts.So2, Site: 1);
        if (type == AssemblyType.RP)
            yield return new(Parts.Relief, Worn: s => s with { Relief = 1.3 });
        if (type is AssemblyType.PVB or AssemblyType.SVB)
        {
            yield return new(Parts.AirInlet, FaultKind.Hangs);
            yield return new(Parts.AirInlet, FaultKind.StuckClosed);
        }

        if (Rules == RandomRigRules.Exam)
            yield break;
        yield return new(Parts.Cv1, Worn: s => s with { Cv1 = type == AssemblyType.RP ? 4.4 : 0.7 });
        if (type is AssemblyType.RP or AssemblyType.DC)
            yield return new(Parts.Cv2, Worn: s => s with { Cv2 = 0.8 });
        if (type == AssemblyType.RP)
            yield return new(Parts.Relief, FaultKind.StuckClosed);
    }

    // Within what handbook chapter 1 calls typical, to a tenth, and clear of each other's limits.
    private static Springs Healthy(AssemblyType type, SeededRandom lot) =>
        type switch
        {
            AssemblyType.RP => new(lot.Tenth(6.4, 9), lot.Tenth(1.4, 2.3), lot.Tenth(2.3, 3), 0),
            AssemblyType.DC => new(lot.Tenth(1.4, 3.2), lot.Tenth(1.3, 2.8), 0, 0),
            AssemblyType.PVB => new(lot.Tenth(1.3, 1.9), 0, 0, lot.Tenth(1.3, 2.4)),
            _ => new(lot.Tenth(2.8, 4.2), 0, 0, lot.Tenth(1.3, 2.2)),
        };

    // SplitMix64: the same on every machine and for good, which the platform's own does not promise.
    private sealed class SeededRandom
    {
        private ulong state;

        public SeededRandom(int seed, string school, int rules)
        {
            state = (ulong)(uint)seed * 0x9E3779B97F4A7C15UL;
            foreach (var letter in school)
                state = (state ^ letter) * 1099511628211UL;
            state += (ulong)rules;
        }

        public int Next(int below) => (int)(Bits() % (ulong)below);

        public double Between(double low, double high) => low + ((high - low) * (Bits() >> 11) / (1UL << 53));

        public double Tenth(double low, double high) => Math.Round(Between(low, high), 1);

        private ulong Bits()
        {
            state += 0x9E3779B97F4A7C15UL;
            var z = state;
            z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9UL;
            z = (z ^ (z >> 27)) * 0x94D049BB133111EBUL;
            return z ^ (z >> 31);
        }
    }
}
