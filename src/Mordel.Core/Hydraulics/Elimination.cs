using System.Runtime.CompilerServices;

namespace Mordel.Core.Hydraulics;

/// <summary>
/// Gaussian elimination for the small systems of the solver, row by row in the order of the cells. Which entries can be
/// other than zero follows from what stands between the cells; it is worked out whenever that changes, and only those
/// are looked at. What is passed over would have been multiplied by zero: the answer is the same to the last bit.
/// </summary>
internal sealed class Elimination(int n)
{
    // Of each row the entries behind the diagonal that can be other than zero, and of each column the rows below it.
    private readonly int[] right = new int[n * n];
    private readonly int[] rights = new int[n];
    private readonly int[] below = new int[n * n];
    private readonly int[] belows = new int[n];
    private readonly bool[] filled = new bool[n * n];

    /// <summary>Learns where the systems that come can be other than zero.</summary>
    public void Learn(ReadOnlySpan<Element> elements, ReadOnlySpan<(int Up, int Down)> checks)
    {
        Array.Clear(filled);
        foreach (var (up, down) in checks)
            filled[(up * n) + down] = filled[(down * n) + up] = true;
        foreach (var element in elements)
        {
            var (from, to, senses) = (element.From, element.To, element.Senses);
            if (to < n)
                filled[(from * n) + to] = filled[(to * n) + from] = true;
            if (senses >= 0)
                filled[(from * n) + senses] = true;
            if (senses >= 0 && to < n)
                filled[(to * n) + senses] = true;
        }

        for (var k = 0; k < n; k++)
        {
            (rights[k], belows[k]) = (0, 0);
            for (var j = k + 1; j < n; j++)
                if (filled[(k * n) + j])
                    right[(k * n) + rights[k]++] = j;
            for (var i = k + 1; i < n; i++)
            {
                if (!filled[(i * n) + k])
                    continue;
                below[(k * n) + belows[k]++] = i;
                // What eliminating this entry fills in.
                foreach (var j in Right(k))
                    filled[(i * n) + j] = true;
            }
        }
    }

    /// <summary>Solves A·x = b in place: A is destroyed, b becomes x.</summary>
    /// <returns>False when a pivot vanishes.</returns>
    public bool Solve(double[] a, double[] b)
    {
        // What was learned lies within n rows of n: it is not looked at again for every entry.
        ArgumentOutOfRangeException.ThrowIfLessThan(a.Length, n * n);
        ArgumentOutOfRangeException.ThrowIfLessThan(b.Length, n);
        for (var k = 0; k < n; k++)
        {
            var pivot = a[(k * n) + k];
            if (!(Math.Abs(pivot) > 1e-14))
                return false;
            var columns = Right(k);
            ref var row = ref a[k * n];
            foreach (var i in below.AsSpan(k * n, belows[k]))
            {
                ref var other = ref a[i * n];
                var factor = Unsafe.Add(ref other, k);
                if (factor == 0)
                    continue;
                factor /= pivot;
                foreach (var j in columns)
                    Unsafe.Add(ref other, j) -= factor * Unsafe.Add(ref row, j);
                b[i] -= factor * b[k];
            }
        }

        for (var i = n - 1; i >= 0; i--)
        {
            ref var row = ref a[i * n];
            var sum = b[i];
            foreach (var j in Right(i))
                sum -= Unsafe.Add(ref row, j) * b[j];
            b[i] = sum / Unsafe.Add(ref row, i);
        }

        return true;
    }

    private ReadOnlySpan<int> Right(int k) => right.AsSpan(k * n, rights[k]);
}
