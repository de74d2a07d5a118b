using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools.DoubleCheck;
using Mordel.Core.Schools.ReducedPressure;
using Mordel.Core.Schools.VacuumBreaker;

namespace Mordel.Core.Schools;

/// <summary>The procedures that Mordel guides. A new school is one file under Procedures and one line here.</summary>
public static class SchoolCatalogue
{
    /// <summary>All of them.</summary>
    public static ImmutableArray<Procedure> All { get; } =
    [
        ReliefFirstSchool.Procedure,
        CheckFirstSchool.Procedure,
        IsolationFirstSchool.Procedure,
        SightTubeSchool.Procedure,
        DrawDownSchool.Procedure,
        InletFirstSchool.Procedure,
        SpillCheckFirstSchool.Procedure,
        SpillStaticFirstSchool.Procedure,
    ];

    /// <summary>The procedure with this name, or null.</summary>
    public static Procedure? Named(string? id) => All.FirstOrDefault(p => p.Id == id);

    /// <summary>
    /// The same run by the school's own sheet: a kept one says its sights in words, and whoever performs it needs their
    /// observations. The run as it is where the school is not known any more.
    /// </summary>
    public static RunPlan Afresh(RunPlan plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        return Named(plan.Procedure.Id) is { } procedure ? plan with { Sheet = procedure.For(plan.Sheet.Setup) } : plan;
    }

    /// <summary>The body that a procedure is written for.</summary>
    public static AssemblyBody BodyOf(Procedure procedure, BodyFeatures features = default)
    {
        ArgumentNullException.ThrowIfNull(procedure);
        return Bodies.Find(procedure.Type, procedure.Body, features);
    }

    /// <summary>
    /// The sheet of a procedure for a kit, as the profile has it; without one, the first built-in profile that works by
    /// it.
    /// </summary>
    /// <param name="procedure">The procedure.</param>
    /// <param name="kit">The kit.</param>
    /// <param name="profile">The profile.</param>
    /// <param name="features">What the body has beside its parts.</param>
    /// <param name="body">The body, where the type has more than one; the one that the procedure is written for when
    /// left out.</param>
    /// <param name="seasonal">Whether it is a visit at which a seasonal line is put on or off.</param>
    public static RunSheet Sheet(
        Procedure procedure,
        Kit kit,
        Profile? profile = null,
        BodyFeatures features = default,
        string? body = null,
        bool seasonal = false
    )
    {
        ArgumentNullException.ThrowIfNull(procedure);
        var rules = (profile ?? BuiltInProfiles.All.First(p => p.School(procedure.Id) is not null)).School(procedure.Id)
            ?? throw new ArgumentException($"{profile!.Id} has no rules for {procedure.Id}.", nameof(profile));
        return procedure.For(
            new(
                new Rig(body is null ? BodyOf(procedure, features) : Bodies.Find(procedure.Type, body, features), kit),
                rules
            )
            {
                Seasonal = seasonal,
            }
        );
    }
}
