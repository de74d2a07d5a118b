using System.Collections.Immutable;
using Mordel.Core.Runs;

namespace Mordel.Core.Planning;

/// <summary>Whether a tester may and can make a stop on a day at all, whatever the hour.</summary>
public static class Fitness
{
    /// <summary>What stands against it; empty where nothing does.</summary>
    /// <param name="stop">The stop.</param>
    /// <param name="tester">Who would go.</param>
    /// <param name="day">When.</param>
    public static ImmutableArray<PlanLimit> Against(PlanStop stop, PlanTester tester, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(stop);
        ArgumentNullException.ThrowIfNull(tester);
        var against = ImmutableArray.CreateBuilder<PlanLimit>();
        if (!tester.Certificates.Any(c => Covers(c, stop, day)))
            against.Add(PlanLimit.Certificate);
        var fitting = tester
            .Kits.Where(k => k.IsThere(day) && (stop.Kits.IsEmpty || stop.Kits.Contains(k.Kind)))
            .ToList();
        if (fitting.Count == 0)
            against.Add(PlanLimit.Kit);
        else if (!fitting.Exists(k => k.CalibrationDue >= day))
            against.Add(PlanLimit.Calibration);
        if (!stop.Skills.All(tester.Skills.Contains))
            against.Add(PlanLimit.Skill);
        if (!stop.Days.IsEmpty && !stop.Days.Contains(day))
            against.Add(PlanLimit.Day);
        if (stop.Pin is { } pin && (pin.Tester != tester.Id || pin.Day != day))
            against.Add(PlanLimit.Pin);
        return against.DrainToImmutable();
    }

    /// <summary>Whether nothing stands against any stop of a block.</summary>
    public static bool Fits(PlanBlock block, PlanTester tester, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(block);
        return block.Stops.All(s => Against(s, tester, day).IsEmpty);
    }

    private static bool Covers(PlanCertificate certificate, PlanStop stop, DateOnly day) =>
        SigningRights.Holds(
            certificate.Authority,
            certificate.Types.Contains(stop.Type),
            certificate.From,
            certificate.Until,
            stop.Authority,
            day
        );
}
