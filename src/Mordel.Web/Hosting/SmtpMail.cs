using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;
using Mordel.Core.Outside;
using Mordel.Documents.Letters;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>Hands letters to a mail server by SMTP.</summary>
public sealed class SmtpMail(MimeLetters letters, MordelOptions options) : IMail
{
    private const int Submission = 587,
        Patience = 30_000;

    /// <inheritdoc/>
    public async Task<Delivery> Send(OutgoingMail letter, CancellationToken cancel)
    {
        if (!Uri.TryCreate(options.Smtp, UriKind.Absolute, out var server))
            return new Delivery.Later("The address of the mail server cannot be read: --Mordel:Smtp smtp://host:587.");
        try
        {
            using var client = new SmtpClient { Timeout = Patience };
            await client.ConnectAsync(
                server.Host,
                server.Port > 0 ? server.Port : Submission,
                server.Scheme == "smtps" ? SecureSocketOptions.SslOnConnect
                    : server.IsLoopback ? SecureSocketOptions.StartTlsWhenAvailable
                    : SecureSocketOptions.StartTls,
                cancel
            );
            if (server.UserInfo.Split(':', 2) is [{ Length: > 0 } user, var password])
                await client.AuthenticateAsync(Uri.UnescapeDataString(user), Uri.UnescapeDataString(password), cancel);
            var says = await client.SendAsync(letters.Message(letter), cancel);
            await client.DisconnectAsync(quit: true, cancel);
            return new Delivery.Accepted(says.Length <= 200 ? says : says[..200]);
        }
        catch (SmtpCommandException e) when ((int)e.StatusCode >= 500)
        {
            return new Delivery.Declined($"The mail server refuses it: {e.Message}");
        }
        catch (ParseException e)
        {
            return new Delivery.Declined($"{letter.To} is no address: {e.Message}");
        }
        catch (Exception e)
            when (e is CommandException or ProtocolException or IOException or System.Net.Sockets.SocketException
                || e is AuthenticationException or SslHandshakeException or NotSupportedException or TimeoutException
            )
        {
            return new Delivery.Later($"The mail server could not take it: {e.Message}");
        }
    }
}
