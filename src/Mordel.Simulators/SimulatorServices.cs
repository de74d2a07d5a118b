using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.DependencyInjection.Extensions;
using Mordel.Core.Outside;

namespace Mordel.Simulators;

/// <summary>What whoever hosts the stand-ins can ask for.</summary>
public static class SimulatorServices
{
    /// <summary>
    /// Adds simulated gauges under the names that a screen asks for: <c>steady</c>, <c>drops</c>, <c>lags</c>.
    /// </summary>
    public static IServiceCollection AddSimulatedGauges(this IServiceCollection services) =>
        services
            .AddGauge("steady", GaugeMood.Steady)
            .AddGauge("drops", GaugeMood.DropsOut)
            .AddGauge("lags", GaugeMood.Lags);

    /// <summary>Adds a simulated mail server, authorities' services and roads; files are the host's.</summary>
    public static IServiceCollection AddSimulatedOutside(this IServiceCollection services) =>
        services
            .AddSingleton<SimulatedOutside>()
            .AddSingleton<SimulatedMail>()
            .AddSingleton<IMail>(all => all.GetRequiredService<SimulatedMail>())
            .AddSingleton<IMailbox>(all => all.GetRequiredService<SimulatedMail>())
            .AddSingleton<ITravelTimes, SimulatedTravelTimes>()
            .AddIntake();

    // A way to authorities that the host has is not replaced.
    private static IServiceCollection AddIntake(this IServiceCollection services)
    {
        services.TryAddSingleton<IAuthorityIntake, SimulatedIntake>();
        return services;
    }

    private static IServiceCollection AddGauge(this IServiceCollection services, string name, GaugeMood mood) =>
        services.AddKeyedSingleton<IGaugeSource>(name, (all, _) =>
            new SimulatedGauges(mood, all.GetRequiredService<TimeProvider>())
        );
}
