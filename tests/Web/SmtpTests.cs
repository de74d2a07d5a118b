using System.Collections.Immutable;
using System.Net;
using System.Net.Sockets;
using System.Text;
using Mordel.Core.Outside;
using Mordel.Documents.Letters;
using Mordel.Web.Application;
using Mordel.Web.Hosting;

namespace Mordel.Web.Tests;

/// <summary>Letters are handed to a mail server; what it says decides what becomes of them.</summary>
public sealed class SmtpTests : IDisposable
{
    private static readonly OutgoingMail Letter = new(
        "notice/visit/1",
        "mill@inns.invalid",
        "Water off",
        "Dear Mill Inns,",
        ImmutableArray<Enclosure>.Empty
    );

    private readonly TcpListener listener = new(IPAddress.Loopback, 0);

    public SmtpTests() => listener.Start();

    public void Dispose() => listener.Dispose();

    private Task<Delivery> Send(string? address = null) =>
        new SmtpMail(
            new MimeLetters(new("The testers", "office@testers.invalid"), TimeProvider.System),
            new MordelOptions { Smtp = address ?? $"smtp://127.0.0.1:{((IPEndPoint)listener.LocalEndpoint).Port}" }
        ).Send(Letter, CancellationToken.None);

    // A mail server that takes one letter, and says to each command what a test wants said.
    private async Task<string> Serve(Func<string, string> answer)
    {
        using var client = await listener.AcceptTcpClientAsync();
        await using var stream = client.GetStream();
        using var reader = new StreamReader(stream, Encoding.Latin1);
        await using var writer = new StreamWriter(stream, Encoding.Latin1) { NewLine = "\r\n", AutoFlush = true };
        await writer.WriteLineAsync("220 mail.invalid");
        var data = new StringBuilder();
        while (await reader.ReadLineAsync() is { } line)
        {
            if (line.StartsWith("DATA", StringComparison.OrdinalIgnoreCase))
            {
                await writer.WriteLineAsync("354 go on");
                while (await reader.ReadLineAsync() is { } text && text != ".")
                    data.AppendLine(text);
                await writer.WriteLineAsync(answer("DATA"));
                continue;
            }

            await writer.WriteLineAsync(answer(line));
            if (line.StartsWith("QUIT", StringComparison.OrdinalIgnoreCase))
                break;
        }

        return data.ToString();
    }

    [Fact]
    public async Task A_letter_that_the_server_takes_is_delivered_with_what_the_server_said()
    {
        var served = Serve(line => line == "DATA" ? "250 queued as 7Q" : "250 ok");
        var delivery = Assert.IsType<Delivery.Accepted>(await Send());
        Assert.Contains("7Q", delivery.Receipt, StringComparison.Ordinal);
        var message = await MimeKit.MimeMessage.LoadAsync(new MemoryStream(Encoding.Latin1.GetBytes(await served)));
        Assert.Equal(("Water off", "Dear Mill Inns,"), (message.Subject, message.TextBody!.Trim()));
        Assert.Equal("office@testers.invalid", message.From.Mailboxes.Single().Address);
    }

    [Theory]
    [InlineData("550 no such mailbox", typeof(Delivery.Declined))]
    [InlineData("450 busy, come again", typeof(Delivery.Later))]
    public async Task What_the_server_refuses_for_good_is_declined_and_what_it_puts_off_is_tried_later(
        string says,
        Type delivery
    )
    {
        var served = Serve(line => line.StartsWith("RCPT", StringComparison.Ordinal) ? says : "250 ok");
        Assert.IsType(delivery, await Send());
        await served;
    }

    [Fact]
    public async Task A_server_that_is_not_there_or_speaks_another_tongue_is_tried_later()
    {
        listener.Stop();
        Assert.IsType<Delivery.Later>(await Send("smtp://127.0.0.1:9"));
        Assert.IsType<Delivery.Later>(await Send("no address at all"));
        using var strange = new TcpListener(IPAddress.Loopback, 0);
        strange.Start();
        var port = ((IPEndPoint)strange.LocalEndpoint).Port;
        var served = Task.Run(async () =>
        {
            using var client = await strange.AcceptTcpClientAsync();
            await client.GetStream().WriteAsync("HTTP/1.1 400 what?\r\n\r\n"u8.ToArray());
        });
        Assert.IsType<Delivery.Later>(await Send($"smtp://127.0.0.1:{port}"));
        await served;
    }
}
