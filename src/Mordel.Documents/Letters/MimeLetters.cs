using System.Text;
using MimeKit;
using MimeKit.Utils;
using Mordel.Core.Outside;

namespace Mordel.Documents.Letters;

/// <summary>Who letters come from.</summary>
/// <param name="Name">The firm.</param>
/// <param name="Address">Its address; answers go there.</param>
public sealed record LetterSender(string Name, string Address);

/// <summary>Letters as MIME messages: plain and HTML side by side, files enclosed.</summary>
public sealed class MimeLetters(LetterSender sender, TimeProvider clock) : IMimeLetters
{
    private const string KeyHeader = "X-Letter-Key";

    private string Domain => sender.Address.Split('@')[^1];

    /// <inheritdoc/>
    public byte[] Write(OutgoingMail letter) => Bytes(Message(letter));

    /// <summary>A letter as a message.</summary>
    public MimeMessage Message(OutgoingMail letter)
    {
        ArgumentNullException.ThrowIfNull(letter);
        var message = new MimeMessage
        {
            Subject = letter.Subject,
            Date = clock.GetUtcNow(),
            MessageId = IdOf(letter.Key),
        };
        message.From.Add(new MailboxAddress(sender.Name, sender.Address));
        message.To.Add(MailboxAddress.Parse(letter.To));
        message.Headers.Add(KeyHeader, letter.Key);
        message.Headers.Add("Auto-Submitted", "auto-generated");
        var body = new BodyBuilder
        {
            TextBody = letter.Text,
            HtmlBody = letter.Html is { } html ? $"<!doctype html><html><body>{html}</body></html>" : null,
        };
        foreach (var file in letter.Enclosures)
            body.Attachments.Add(file.Name, file.Bytes.ToArray(), ContentType.Parse(file.MediaType));
        message.Body = body.ToMessageBody();
        return message;
    }

    /// <inheritdoc/>
    public byte[] WriteAnswer(byte[] letter, string text, bool bounced, DateTimeOffset at)
    {
        var ours = MimeMessage.Load(new MemoryStream(letter));
        var answer = new MimeMessage
        {
            Subject = bounced ? "Undelivered mail returned to sender" : $"Re: {ours.Subject}",
            Date = at,
            MessageId = MimeUtils.GenerateMessageId("mail.invalid"),
            InReplyTo = ours.MessageId,
        };
        answer.From.Add(
            bounced ? new MailboxAddress("Mail server", "mailer-daemon@mail.invalid") : ours.To.Mailboxes.First()
        );
        answer.To.Add(new MailboxAddress(sender.Name, sender.Address));
        answer.References.Add(ours.MessageId!);
        answer.Body = bounced ? Report(ours, text) : new TextPart("plain") { Text = text };
        return Bytes(answer);
    }

    /// <inheritdoc/>
    public IncomingMail? Read(byte[] message)
    {
        MimeMessage mail;
        try
        {
            mail = MimeMessage.Load(new MemoryStream(message));
        }
        catch (FormatException)
        {
            return null;
        }

        var report = mail.BodyParts.OfType<MessageDeliveryStatus>().FirstOrDefault();
        var answers = mail.InReplyTo is { Length: > 0 } reply ? reply : mail.References.LastOrDefault();
        return new(
            mail.MessageId ?? "",
            mail.From.Mailboxes.FirstOrDefault()?.Address ?? "",
            mail.Subject ?? "",
            Spoken(mail.TextBody ?? ""),
            answers is null ? null : KeyOf(answers),
            report is not null
        );
    }

    // RFC 3464: what a mail server says about a letter it could not deliver.
    private static MultipartReport Report(MimeMessage ours, string why)
    {
        var status = new MessageDeliveryStatus();
        status.StatusGroups.Add(new HeaderList { { "Reporting-MTA", "dns; mail.invalid" } });
        status.StatusGroups.Add(
            new HeaderList
            {
                { "Final-Recipient", $"rfc822; {ours.To.Mailboxes.First().Address}" },
                { "Action", "failed" },
                { "Status", "5.1.1" },
            }
        );
        return new MultipartReport("delivery-status")
        {
            new TextPart("plain") { Text = why },
            status,
        };
    }

    // What was written anew: what is quoted below it, they have.
    private static string Spoken(string text) =>
        string.Join('\n', text.ReplaceLineEndings("\n").Split('\n').Where(l => !l.StartsWith('>'))).Trim();

    // The key is in the id, so that an answer finds its letter: letters, digits and the signs of keys only.
    private string IdOf(string key) => $"{Convert.ToHexStringLower(Encoding.UTF8.GetBytes(key))}@{Domain}";

    private static string? KeyOf(string id)
    {
        var hex = id.Split('@')[0];
        return hex.Length % 2 == 0 && hex.All(char.IsAsciiHexDigit)
            ? Encoding.UTF8.GetString(Convert.FromHexString(hex))
            : null;
    }

    private static byte[] Bytes(MimeMessage message)
    {
        using var bytes = new MemoryStream();
        message.WriteTo(bytes);
        return bytes.ToArray();
    }
}
