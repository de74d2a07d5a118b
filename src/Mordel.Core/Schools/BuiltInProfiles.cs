using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Rules;
using Mordel.Core.Units;
using static Mordel.Core.Catalogue.TestItem;
using static Mordel.Core.Rules.Requirement;

namespace Mordel.Core.Schools;

/// <summary>
/// The four profiles that come with Mordel, from the table of limits in handbook chapter 3. An office copies one and
/// changes values for its authority.
/// </summary>
public static class BuiltInProfiles
{
    private static readonly DateOnly Start = new(2015, 1, 1);

    /// <summary>Relief-first, sight tube, inlet-first, check-first; in psid; shutoffs are recorded.</summary>
    public static Profile PsidStandard { get; } =
        new(
            "psid-standard",
            1,
            "Standard, psid",
            Start,
            null,
            [
                ReliefFirst(strict: false),
                SightTube(Differential.Psid(1.0m)),
                InletFirst(Differential.Psid(1.0m)),
                CheckFirstSpill(Differential.Psid(1.0m)),
            ]
        );

    /// <summary>
    /// The same schools with the apparent reading, the buffer, the line pressure and the relief clearance required.
    /// </summary>
    public static Profile PsidStrict { get; } =
        new(
            "psid-strict",
            1,
            "Strict, psid",
            Start,
            null,
            [
                ReliefFirst(strict: true) with
                {
                    HoldSeconds = 120,
                },
                Strictly(SightTube(Differential.Psid(1.0m))),
                Strictly(InletFirst(Differential.Psid(1.0m))),
                Strictly(CheckFirstSpill(Differential.Psid(1.0m))),
            ]
        );

    /// <summary>Check-first, draw-down, inlet-first, static-first; SO2 of an RP must be tight.</summary>
    public static Profile PsidCheckFirst { get; } =
        new(
            "psid-check-first",
            1,
            "Check first, psid",
            Start,
            null,
            [
                new(
                    "rp-check-first",
                    AssemblyTypes.RP,
                    DifferentialUnit.Psid,
                    [
                        new(StaticLine, Recorded),
                        new(
                            Check1,
                            Required,
                            new Criterion.AtLeast(Differential.Psid(5.0m)),
                            new Criterion.AtLeastAbove(ReliefOpening, Differential.Psid(3.0m))
                        ),
                        new(ReliefOpening, Required, new Criterion.AtLeast(Differential.Psid(2.0m))),
                        new(ReliefBuffer, Required, new Criterion.AtLeast(Differential.Psid(3.0m))),
                        new(Check2BackPressure, Required, new Criterion.Tight()),
                        new(Shutoff1, Recorded),
                        new(Shutoff2, Required, new Criterion.Tight()),
                        new(ReliefClearance, Optional, new Criterion.Clearance(new(1m, LengthUnit.Inch), 2m)),
                    ]
                )
                {
                    VoidsTheRest = [Shutoff2],
                },
                new("dc-draw-down", AssemblyTypes.DC, DifferentialUnit.Psid, DoubleCheckItems(Differential.Psid(1.0m))),
                InletFirst(Differential.Psid(1.0m)),
                new(
                    "svb-static-first",
                    AssemblyTypes.SVB,
                    DifferentialUnit.Psid,
                    [
                        new(Static, Required, new Criterion.Yes()),
                        new(StaticLine, Recorded),
                        new(Check1, Required, new Criterion.AtLeast(Differential.Psid(1.0m))),
                        new(AirInletOpening, Required, new Criterion.AtLeast(Differential.Psid(1.0m))),
                        new(AirInletFullyOpen, Required, new Criterion.Yes()),
                        new(CheckAboveInlet, Recorded),
                        new(Shutoff1, Recorded),
                        new(Shutoff2, Recorded),
                    ]
                ),
            ]
        );

    /// <summary>Isolation-first for the RP; all in kPa, 7 where the psid schools have 1.0.</summary>
    public static Profile KpaIsolationFirst { get; } =
        new(
            "kpa-isolation-first",
            1,
            "Isolation first, kPa",
            Start,
            null,
            [
                new(
                    "rp-isolation-first",
                    AssemblyTypes.RP,
                    DifferentialUnit.Kpa,
                    [
                        new(Shutoff1, Required, new Criterion.Tight()),
                        new(Shutoff2, Required, new Criterion.Tight()),
                        new(StaticLine, Recorded),
                        new(Check1, Required, new Criterion.AtLeast(Differential.Kpa(35m))),
                        new(ReliefOpening, Required, new Criterion.AtLeast(Differential.Kpa(14m))),
                        new(ReliefBuffer, Recorded),
                        new(Check2BackPressure, Required, new Criterion.Tight()),
                        new(Check2, Required, new Criterion.AtLeast(Differential.Kpa(7m))),
                        new(ReliefClearance, Optional, new Criterion.Clearance(new(300m, LengthUnit.Millimetre), 0m))
                        {
                            Asked = true,
                        },
                    ]
                )
                {
                    VoidsTheRest = [Shutoff1, Shutoff2],
                },
                SightTube(Differential.Kpa(7m)),
                InletFirst(Differential.Kpa(7m)),
                CheckFirstSpill(Differential.Kpa(7m)),
            ]
        );

    /// <summary>All of them.</summary>
    public static ImmutableArray<Profile> All { get; } = [PsidStandard, PsidStrict, PsidCheckFirst, KpaIsolationFirst];

    /// <summary>The profile with this name, or null.</summary>
    public static Profile? Named(string? id) => All.FirstOrDefault(p => p.Id == id);

    private static SchoolRules ReliefFirst(bool strict) =>
        new(
            "rp-relief-first",
            AssemblyTypes.RP,
            DifferentialUnit.Psid,
            [
                strict ? UnderPressure : new(StaticLine, Recorded),
                strict
                    ? new(Apparent, Required, new Criterion.AtLeast(Differential.Psid(5.0m)))
                    : new(Apparent, Recorded),
                new(ReliefOpening, Required, new Criterion.AtLeast(Differential.Psid(2.0m))),
                new(Check1, Required, new Criterion.AtLeastAbove(ReliefOpening, Differential.Psid(3.0m))),
                new(ReliefBuffer, strict ? Required : Optional, new Criterion.AtLeast(Differential.Psid(3.0m))),
                new(Check2BackPressure, Required, new Criterion.Tight()),
                new(Check2, Optional, new Criterion.AtLeast(Differential.Psid(1.0m))),
                new(Shutoff1, Recorded),
                new(Shutoff2, Recorded),
                new(
                    ReliefClearance,
                    strict ? Required : Optional,
                    new Criterion.Clearance(new(1m, LengthUnit.Inch), 2m)
                ),
            ]
        );

    private static SchoolRules SightTube(Differential least) =>
        new("dc-sight-tube", AssemblyTypes.DC, least.Unit, DoubleCheckItems(least));

    // A line without pressure shows nothing: that is what a required line pressure can fail.
    private static ItemRule UnderPressure =>
        new(StaticLine, Required, new Criterion.LineAtLeast(new(0m, LinePressureUnit.Psi), Strict: true));

    private static EquatableArray<ItemRule> DoubleCheckItems(Differential least) =>
        [
            new(StaticLine, Recorded),
            new(Check1, Required, new Criterion.AtLeast(least)),
            new(Check2, Required, new Criterion.AtLeast(least)),
            new(Shutoff1, Recorded),
            new(Shutoff2, Recorded),
        ];

    private static SchoolRules InletFirst(Differential least) =>
        new(
            "pvb-inlet-first",
            AssemblyTypes.PVB,
            least.Unit,
            [
                new(StaticLine, Recorded),
                new(AirInletOpening, Required, new Criterion.AtLeast(least)),
                new(AirInletFullyOpen, Required, new Criterion.Yes()),
                new(Check1, Required, new Criterion.AtLeast(least)),
                new(Shutoff1, Recorded),
                new(Shutoff2, Recorded),
            ]
        );

    private static SchoolRules CheckFirstSpill(Differential least) =>
        new(
            "svb-check-first",
            AssemblyTypes.SVB,
            least.Unit,
            [
                new(StaticLine, Recorded),
                new(Check1, Required, new Criterion.AtLeast(least)),
                new(AirInletOpening, Required, new Criterion.AtLeast(least)),
                new(CheckAboveInlet, Required, new Criterion.Yes()),
                new(Shutoff1, Recorded),
                new(Shutoff2, Recorded),
            ]
        );

    private static SchoolRules Strictly(SchoolRules school) =>
        school with
        {
            HoldSeconds = 120,
            Items = [.. school.Items.Select(r => r.Item == StaticLine ? UnderPressure : r)],
        };
}
