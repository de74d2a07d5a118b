namespace Mordel.Core.Simulation;

/// <summary>
/// From which needle and which flow on people see something: the one place for the eyes of the simulated tester, for
/// what the bench tells, for what marking asks, and for whatever predicts an observation.
/// </summary>
internal static class Perception
{
    /// <summary>What counts as zero on the dial, psid.</summary>
    public const double Zero = 0.12;

    /// <summary>The least change of the needle that is seen, psid.</summary>
    public const double Visible = 0.15;

    /// <summary>A plain fall or rise, psid.</summary>
    public const double Plain = 0.3;

    /// <summary>Near zero while it only drips, psid.</summary>
    public const double NearZero = 0.5;

    /// <summary>A needle so far under its upper peg still lies at it, psid.</summary>
    public const double AtThePeg = 0.3;

    /// <summary>A needle so far under its upper peg has visibly left it, psid.</summary>
    public const double OffThePeg = 0.5;

    /// <summary>A needle that goes slower than this rests, psid/s.</summary>
    public const double Rests = 0.02;

    /// <summary>A needle that has moved no more than this within a glance stands still, psid.</summary>
    public const double NeedleStands = 0.02;

    /// <summary>A flow that has changed no more than by this part of it within a glance stands still.</summary>
    public const double FlowStands = 0.15;

    /// <summary>A level in the sight tube that has moved no more than this part of it within a glance stands still.
    /// </summary>
    public const double TubeStands = 0.008;

    /// <summary>A needle that goes slower than this can be read as still, psid/s.</summary>
    public const double ReadsStill = 0.05;

    /// <summary>A drop a second, in³/s: the least flow that shows at once.</summary>
    public const double Drop = 0.003;

    /// <summary>A drop every five seconds, in³/s: seen by somebody who waits for it.</summary>
    public const double SlowDrop = 0.0006;

    /// <summary>The most that still counts as only dripping, in³/s.</summary>
    public const double OnlyDrips = 0.012;

    /// <summary>A thin stream, in³/s.</summary>
    public const double ThinStream = 0.05;

    /// <summary>A gush, in³/s.</summary>
    public const double Gush = 0.5;

    /// <summary>What a hand feels in the bypass hose, in³/s.</summary>
    public const double FeltInTheHose = 0.02;

    /// <summary>What a tap lets out that something feeds, not pipes that drain, in³/s.</summary>
    public const double FedTap = 1;

    /// <summary>Part of the sight tube that counts as full.</summary>
    public const double TubeFull = 0.97;

    /// <summary>Part of the sight tube that counts as empty.</summary>
    public const double TubeEmpty = 0.05;

    /// <summary>Part of an inlet's travel that counts as fully open.</summary>
    public const double InletFull = 0.9;

    /// <summary>Part of a hose that is air from which on a reading feels it.</summary>
    public const double AirFelt = 0.03;

    /// <summary>Seconds over which somebody judges whether something stands still.</summary>
    public const int Glance = 30;
}
