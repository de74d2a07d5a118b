namespace Mordel.Core.Hydraulics;

/// <summary>
/// Gaussian elimination for the small systems of the solver, row by row, skipping the zeros that most entries are.
/// </summary>
internal static class Linear
{
    /// <summary>Solves A·x = b in place: A is destroyed, b becomes x.</summary>
    /// <returns>False when a pivot vanishes.</returns>
    public static bool Solve(double[] a, double[] b, int n)
    {
        for (var k = 0; k < n; k++)
        {
            var pivot = a[(k * n) + k];
            if (!(Math.Abs(pivot) > 1e-14))
                return false;
            for (var i = k + 1; i < n; i++)
            {
                var factor = a[(i * n) + k];
                if (factor == 0)
                    continue;
                factor /= pivot;
                for (var j = k + 1; j < n; j++)
                    a[(i * n) + j] -= factor * a[(k * n) + j];
                b[i] -= factor * b[k];
            }
        }

        for (var i = n - 1; i >= 0; i--)
        {
            var sum = b[i];
            for (var j = i + 1; j < n; j++)
                sum -= a[(i * n) + j] * b[j];
            b[i] = sum / a[(i * n) + i];
        }

        return true;
    }
}
