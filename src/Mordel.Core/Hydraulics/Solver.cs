namespace Mordel.Core.Hydraulics;

/// <summary>
/// Steps U(p)' = F(p) in time, U the water in each cell (with what the discs of the checks give), F what flows in.
/// Two-stage, stiffly accurate, L-stable implicit Runge–Kutta of second order (SDIRK2, γ = 1 − 1/√2); each stage by
/// Newton's method with the exact Jacobian. Volumes are advanced by the very flows that the elements report, so water
/// is conserved to rounding whatever the tolerance. Nothing is allocated while stepping.
/// </summary>
internal sealed class Solver
{
    /// <summary>The part of a step at which the first stage stands.</summary>
    public const double Gamma = 1 - 0.70710678118654752440;
    private const double Converged = 1e-10;
    private const int MostIterations = 40;

    private readonly Network network;
    private readonly int n;
    private readonly double[] start,
        wanted,
        flow1,
        flow2,
        residual,
        jacobian,
        slope,
        held;

    public Solver(Network network)
    {
        this.network = network;
        n = network.Cells.Length;
        Now = new(n);
        Tried = new(n);
        U = new double[n];
        (start, wanted, flow1, flow2, residual, slope, held) = (
            new double[n],
            new double[n],
            new double[n],
            new double[n],
            new double[n],
            new double[n],
            new double[n]
        );
        jacobian = new double[n * n];
    }

    /// <summary>Water in each cell, in³.</summary>
    public double[] U { get; }

    /// <summary>Pressures after the last step.</summary>
    public Pressures Now { get; }

    /// <summary>Pressures after the step that is being tried.</summary>
    public Pressures Tried { get; }

    /// <summary>Water that came in and went out since the beginning, in³.</summary>
    public double In,
        Out;

    /// <summary>Greatest difference between the two orders in the last try, psi.</summary>
    public double Error { get; private set; }

    private double inTried,
        outTried;

    /// <summary>Sets the water that belongs to pressures.</summary>
    public void Fill()
    {
        for (var i = 0; i < n; i++)
            U[i] = network.Cells[i].Volume(Now.P[i], out _);
        for (var c = 0; c < network.Checks.Length; c++)
        {
            var (up, down) = network.Checks[c];
            var across = network.CheckGive * (Now.P[up] - Now.P[down]);
            U[up] += across;
            U[down] -= across;
        }
    }

    /// <summary>Tries a step; nothing is kept until <see cref="Accept"/>.</summary>
    /// <param name="h">Seconds.</param>
    /// <param name="first">The main's pressure at the first stage, psi.</param>
    /// <param name="second">The same at the second, the end of the step.</param>
    /// <returns>Whether both stages were solved.</returns>
    public bool Try(double h, double first, double second)
    {
        (inTried, outTried) = (0, 0);
        Array.Copy(Now.P, Tried.P, n);
        Array.Copy(U, start, n);
        network.Main.Head = first;
        if (!SolveStage(h * Gamma, flow1))
            return false;
        Count(h * (1 - Gamma));
        for (var i = 0; i < n; i++)
            start[i] = U[i] + (h * (1 - Gamma) * flow1[i]);
        network.Main.Head = second;
        if (!SolveStage(h * Gamma, flow2))
            return false;
        Count(h * Gamma);
        Error = 0;
        for (var i = 0; i < n; i++)
        {
            held[i] = start[i] + (h * Gamma * flow2[i]);
            Error = Math.Max(Error, Math.Abs(h * Gamma * (flow2[i] - flow1[i])) / slope[i]);
        }

        return true;
    }

    /// <summary>Keeps the step that was tried.</summary>
    public void Accept()
    {
        Array.Copy(held, U, n);
        Array.Copy(Tried.P, Now.P, n);
        In += inTried;
        Out += outTried;
    }

    // U(p) − h·F(p) = start, from the pressures in Tried.
    private bool SolveStage(double h, double[] flow)
    {
        var (before, part) = (double.PositiveInfinity, 1.0);
        for (var iteration = 0; iteration < MostIterations; iteration++)
        {
            Evaluate(h, flow);
            var worst = 0.0;
            for (var i = 0; i < n; i++)
                worst = Math.Max(worst, Math.Abs(residual[i]) / jacobian[(i * n) + i]);
            if (double.IsNaN(worst))
                return false;
            if (worst < Converged)
                return true;
            if (!network.Elimination.Solve(jacobian, residual))
                return false;
            // Newton's method jumps to and fro over the zero of a root: half a jump lands on it.
            var longest = 0.0;
            for (var i = 0; i < n; i++)
                longest = Math.Max(longest, Math.Abs(residual[i]));
            part = longest > 0.7 * before ? 0.5 : 1;
            before = longest;
            for (var i = 0; i < n; i++)
                Tried.P[i] = network.Cells[i].Guarded(Tried.P[i], Tried.P[i] - (part * residual[i]));
        }

        return false;
    }

    private void Evaluate(double h, double[] flow)
    {
        Array.Clear(jacobian);
        Array.Clear(flow);
        for (var i = 0; i < n; i++)
        {
            var cell = network.Cells[i];
            var drained = cell.Vented && Tried.P[i] < cell.FloorHead;
            Tried.Seen[i] = drained ? cell.FloorHead : Tried.P[i];
            Tried.Slope[i] = drained ? 0 : 1;
            wanted[i] = cell.Volume(Tried.P[i], out slope[i]);
            jacobian[(i * n) + i] = slope[i];
        }

        for (var c = 0; c < network.Checks.Length; c++)
        {
            var (up, down) = network.Checks[c];
            var give = network.CheckGive;
            var across = give * (Tried.P[up] - Tried.P[down]);
            wanted[up] += across;
            wanted[down] -= across;
            jacobian[(up * n) + up] += give;
            jacobian[(up * n) + down] -= give;
            jacobian[(down * n) + down] += give;
            jacobian[(down * n) + up] -= give;
        }

        foreach (var element in network.Elements)
        {
            element.At(Tried);
            // What lets nothing through adds nothing.
            if (element is { Q: 0, ByFrom: 0, ByTo: 0, BySensed: 0 })
                continue;
            var (from, to) = (element.From, element.To);
            var (byFrom, byTo) = (h * element.ByFrom, h * element.ByTo);
            flow[from] -= element.Q;
            jacobian[(from * n) + from] += byFrom;
            if (element.Senses >= 0)
                jacobian[(from * n) + element.Senses] += h * element.BySensed;
            if (to >= n)
                continue;
            flow[to] += element.Q;
            jacobian[(from * n) + to] += byTo;
            jacobian[(to * n) + from] -= byFrom;
            jacobian[(to * n) + to] -= byTo;
            if (element.Senses >= 0)
                jacobian[(to * n) + element.Senses] -= h * element.BySensed;
        }

        for (var i = 0; i < n; i++)
            residual[i] = wanted[i] - (h * flow[i]) - start[i];
    }

    private void Count(double weight)
    {
        foreach (var element in network.Elements)
        {
            if (element.To < n)
                continue;
            if (element.Q > 0)
                outTried += weight * element.Q;
            else
                inTried -= weight * element.Q;
        }
    }

    /// <summary>Everything that is needed to go on from here.</summary>
    public void Save(Span<double> into)
    {
        U.CopyTo(into);
        Now.P.AsSpan(0, n).CopyTo(into[n..]);
        (into[2 * n], into[(2 * n) + 1]) = (In, Out);
    }

    /// <summary>Goes back to what was saved.</summary>
    public void Load(ReadOnlySpan<double> from)
    {
        from[..n].CopyTo(U);
        from.Slice(n, n).CopyTo(Now.P);
        (In, Out) = (from[2 * n], from[(2 * n) + 1]);
    }
}
