using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
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
            var facts = Procedure.Type.Facts();
            var springs = facts.Drawn.Aggregate(default(Springs), (drawn, range) =>
                drawn.With(range.Part, lot.Tenth(range.Low, range.High))
            );
            var site = new SitePipes(SitePlumbing.Closed);
            var faults = ImmutableArray.CreateBuilder<Fault>();
            var wanted =
                Rules == RandomRigRules.Exam
                    ? lot.Next(4) == 0
                        ? 0
                        : 1
                    : lot.Next(4);
            var pool = facts.LearnersFaults.Where(f => f.InExams || Rules == RandomRigRules.Field).ToList();
            for (var i = 0; i < wanted && pool.Count > 0; i++)
            {
                var drawn = pool[lot.Next(pool.Count)];
                pool.RemoveAll(p => p.Part == drawn.Part || (NeedsSite(drawn) && NeedsSite(p)));
                var size = Rules == RandomRigRules.Exam ? LeakSize.Small : (LeakSize)lot.Next(3);
                if (drawn.Kind == FaultKind.Leaks && drawn.WornTo is null)
                    faults.Add(Leak(drawn.Part, size));
                else if (drawn.WornTo is { } worn)
                    springs = springs.With(drawn.Part, worn);
                else
                    faults.Add(new(drawn.Part, drawn.Kind));
                // A shutoff's leak needs somewhere to go, or something behind it to come from.
                if (NeedsSite(drawn))
                    site =
                        drawn.Behind == LeakBehind.Pressure
                            ? new(SitePlumbing.OwnPressure, 0, lot.Between(20, 80))
                            : new(SitePlumbing.OpenOutlet, 0);
            }

            // Below a vacuum breaker stand the outlets that it feeds, and one is often open.
            if (site.Plumbing == SitePlumbing.Closed && facts.OftenFeedsOpenOutlets && lot.Next(2) == 0)
                site = new(SitePlumbing.OpenOutlet, -18);
            return new(
                new()
                {
                    Rig = new(Bodies.Find(Procedure.Type, Procedure.Body), Kit),
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

    private static bool NeedsSite(LearnersFault fault) => fault.Behind != LeakBehind.Nothing;
}
