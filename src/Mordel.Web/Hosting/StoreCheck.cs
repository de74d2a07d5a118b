using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using Mordel.Data;
using Mordel.Data.Startup;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>
/// Unhealthy when the database does not answer, has refused to be written, or has no room left; degraded when room
/// grows short or a seal was found broken.
/// </summary>
public sealed class StoreCheck(Store store, LastTrouble trouble, MordelOptions options) : IHealthCheck
{
    // Bytes of room in the data folder.
    private const long NoRoom = 10_000_000,
        LittleRoom = 200_000_000;

    public async Task<HealthCheckResult> CheckHealthAsync(
        HealthCheckContext context,
        CancellationToken cancellationToken = default
    )
    {
        try
        {
            var broken = await store.AlarmRows.CountAsync(cancellationToken);
            if (trouble.Says is { } says)
                return HealthCheckResult.Unhealthy(says);
            var room = new DriveInfo(options.Data).AvailableFreeSpace;
            if (room < NoRoom)
                return HealthCheckResult.Unhealthy(
                    $"Only {room / 1_000_000} MB are left in the data folder. Make room."
                );
            if (broken > 0)
                return HealthCheckResult.Degraded(
                    $"{broken} {(broken == 1 ? "alarm" : "alarms")} about seals: see Today at the desk."
                );
            return room < LittleRoom
                ? HealthCheckResult.Degraded($"Only {room / 1_000_000} MB are left in the data folder.")
                : HealthCheckResult.Healthy();
        }
        catch (Exception e) when (StoreTrouble.Says(e) is { } says)
        {
            return HealthCheckResult.Unhealthy(says);
        }
    }
}
