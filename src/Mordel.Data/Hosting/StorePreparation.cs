using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Startup;
using Mordel.Data.Upgrade;

namespace Mordel.Data.Hosting;

/// <summary>What whoever hosts the store does with it before anything else.</summary>
public static class StorePreparation
{
    /// <summary>
    /// Brings the database up to date, opens the signing key, and takes over what an earlier version sealed.
    /// </summary>
    /// <param name="services">A scope with the store.</param>
    /// <param name="say">Told what is done, in a few words.</param>
    /// <param name="cancel">Ends it between two steps.</param>
    /// <exception cref="StartRefusedException">It cannot be; the message says what to do.</exception>
    public static async Task PrepareStore(this IServiceProvider services, Action<string> say, CancellationToken cancel)
    {
        await services.GetRequiredService<OpenStore>().Run(say, cancel);
        await services.GetRequiredService<SigningKeys>().Open(services.GetRequiredService<Store>(), cancel);
        await Forward(services.GetRequiredService<EarlierRunUpgrade>(), say, cancel);
        await services.GetRequiredService<SerialKeyUpgrade>().All(cancel);
        await services.GetRequiredService<RegisterIndex>().Prepare(cancel);
    }

    /// <summary>Sees that every role is there.</summary>
    public static async Task EnsureRoles(this IServiceProvider services)
    {
        var roles = services.GetRequiredService<RoleManager<IdentityRole<Guid>>>();
        foreach (var role in Roles.All)
            if (!await roles.RoleExistsAsync(role))
                await roles.CreateAsync(new IdentityRole<Guid>(role));
    }

    private static async Task Forward(EarlierRunUpgrade forward, Action<string> say, CancellationToken cancel)
    {
        var waiting = await forward.Waiting(cancel);
        if (waiting == 0)
            return;
        say($"{waiting} runs of the earlier form are brought forward; this is done once.");
        var said = 0;
        await forward.All(
            done =>
            {
                if (done - said < 500 && done < waiting)
                    return;
                said = done;
                say($"{done} of {waiting} runs are brought forward.");
            },
            cancel
        );
    }
}
