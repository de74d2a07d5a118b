using Microsoft.AspNetCore.Identity;
using Mordel.Core.Outside;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Links;
using Mordel.Data.Rows;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Hosting;

/// <summary>Sends links to who has forgotten their password, to the address that is known of them.</summary>
public sealed class ForgottenWorker(
    ForgottenNames asked,
    IServiceScopeFactory scopes,
    Installation installation,
    ILogger<ForgottenWorker> log
) : Worker
{
    // Nobody's mailbox is filled by asking.
    private static readonly TimeSpan Between = TimeSpan.FromMinutes(10);

    /// <inheritdoc/>
    protected override async Task Work(CancellationToken stopping)
    {
        await foreach (var name in asked.All(stopping))
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                await Send(scope.ServiceProvider, name, stopping);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogWarning("A link to a new password could not be sent: {Why}", e.Message);
            }
    }

    private async Task Send(IServiceProvider services, string name, CancellationToken cancel)
    {
        if (
            services.GetService<IMail>() is not { } mail
            || await services.GetRequiredService<UserManager<Account>>().FindByNameAsync(name)
                is not { Email: { Length: > 0 } to, DismissedAt: null } account
        )
            return;
        var made = await services.GetRequiredService<KeepLinks>().To(LinkPurposes.Password, account.Id, cancel);
        if (made is [var last, ..] && services.GetRequiredService<TimeProvider>().GetUtcNow() - last.MadeAt < Between)
            return;
        var link = await services
            .GetRequiredService<KeepPasswords>()
            .Link(account.Id, KeepPasswords.LinkByMail, new(account.FullName, "by mail"), cancel);
        if (link.Value is not { } secret)
            return;
        var sent = await mail.Send(
            new(
                $"password-{Guid.CreateVersion7():N}",
                to,
                "A new password for Mordel",
                $"{account.FullName},\n\nsomebody, likely you, has asked for a new password for {account.UserName}. "
                    + $"This link sets it, once, within an hour:\n\n{installation.Address}/new-password/{secret}\n\n"
                    + "If it was not you, nothing has changed; tell the owner of the installation.\n",
                []
            ),
            cancel
        );
        if (sent is not Delivery.Accepted)
            log.LogWarning("A link to a new password could not be handed to the mail server.");
    }
}
