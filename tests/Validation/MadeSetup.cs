using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;

namespace Mordel.Validation;

/// <summary>What a run is made with, in the invented town.</summary>
public static class MadeSetup
{
    /// <summary>When it was begun.</summary>
    public static readonly DateTimeOffset Begun = new(2031, 4, 2, 7, 59, 0, TimeSpan.Zero);

    /// <summary>A certificate for every type.</summary>
    public static CertificateFacts Certificate { get; } =
        new(
            "RG-0417",
            "Ravelsund Guild of Water Testers",
            [.. AssemblyTypes.All.Select(t => t.Type)],
            new(2029, 1, 1),
            new(2032, 1, 1)
        );

    /// <summary>The setup of a plan.</summary>
    public static RunSetup For(RunPlan plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        return new()
        {
            Run = new("0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0001"),
            Number = "F-1010/20310402-0759",
            BegunAt = Begun,
            Assembly = new()
            {
                Id = new("0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0002"),
                Tag = "F-1010",
                Type = plan.Rig.Body.Type,
                Body = plan.Rig.Body.Type == AssemblyTypes.RP ? plan.Rig.Body.Name : null,
                Features = plan.Rig.Body.Features,
                Make = "Corvane",
                Model = "Twin 40 \"β\"",
                Size = "1 in",
                Serial = "C17-00412",
                Flow = FlowDirection.RightToLeft,
                Location = "Meter pit",
                Serves = "kiosk",
                Hazard = "low",
                Protection = "containment",
                ReliefPort = plan.ReliefPort,
                InstalledOn = new(2024, 5, 1),
            },
            Place = new(
                "Ferry steps",
                "Old Quay 2",
                "Old Quay",
                "Harbour Dues Office",
                "Old Quay 5, Ravelsund",
                "0199 100 655",
                "Signe Ost, porter",
                "Ravelsund Water Board"
            ),
            Kit = new()
            {
                Id = new("0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0003"),
                Kit = plan.Rig.Kit,
                Make = "Gallibrand",
                Model = "G5",
                Serial = "GB-5107",
                Resolution = plan.Resolution,
                Accuracy = plan.Accuracy!.Value,
                FullScale = plan.FullScale,
                CalibratedOn = new(2030, 9, 1),
                CalibratedBy = "Gallibrand service bench",
                CalibrationDue = new(2031, 9, 1),
            },
            Tester = new(new("0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0004"), "Ines Tarrow", Certificate),
            Profile = plan.Profile,
            Sheet = plan.Sheet,
        };
    }
}
