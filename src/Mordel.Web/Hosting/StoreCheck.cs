using Microsoft.Extensions.Diagnostics.HealthChecks;
using Mordel.Data;

namespace Mordel.Web.Hosting;

/// <summary>Healthy while the database answers.</summary>
public sealed class StoreCheck(Store store) : IHealthCheck
{
    public async Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default) =>
        await store.Database.CanConnectAsync(cancellationToken) ? HealthCheckResult.Healthy() : HealthCheckResult.Unhealthy("The database does not answer.");
}
