using System.Collections.Concurrent;
using Mordel.Core.Outside;

namespace Mordel.Simulators;

/// <summary>
/// Stands in for a mail server: no letter leaves the house, each is kept as a MIME file that any mail program reads.
/// The same letter sent twice is one letter. What is sent to a mailbox that is <see cref="Closed"/> comes back; who
/// looks at a letter on the screen can answer it in its recipient's place.
/// </summary>
public sealed class SimulatedMail(IFiles files, IMimeLetters mime, SimulatedOutside outside, TimeProvider clock)
    : IMail,
        IMailbox
{
    /// <summary>Whatever is sent to this domain comes back.</summary>
    public const string Closed = "closed.invalid";

    private const int LongestName = 100;

    // A header in front of the others, for whoever finds the file.
    private static ReadOnlySpan<byte> NotSent => "X-Simulated: this letter was not sent\r\n"u8;

    private readonly ConcurrentQueue<byte[]> came = new();
    private readonly ConcurrentDictionary<string, byte> bounced = new();

    /// <summary>The file that a letter is kept in.</summary>
    public static string FileOf(string key)
    {
        ArgumentNullException.ThrowIfNull(key);
        var name = string.Concat(key.Select(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) ? c : '-'));
        return $"letters/{name[..Math.Min(name.Length, LongestName)].TrimStart('-')}.eml";
    }

    /// <inheritdoc/>
    public async Task<Delivery> Send(OutgoingMail letter, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(letter);
        switch (outside.Mood)
        {
            case OutsideMood.Down:
                return new Delivery.Later("The mail server cannot be reached.");
            case OutsideMood.Refuses:
                return new Delivery.Declined($"The mail server refuses the address {letter.To}.");
            case OutsideMood.Garbles:
                return new Delivery.Later("The mail server answered something unreadable.");
        }

        byte[] message = [.. NotSent, .. mime.Write(letter)];
        await files.Keep(FileOf(letter.Key), message, cancel);
        if (outside.Mood == OutsideMood.Slow)
            await Task.Delay(outside.Slowness, cancel);
        if (letter.To.EndsWith($"@{Closed}", StringComparison.OrdinalIgnoreCase) && bounced.TryAdd(letter.Key, 0))
            Come(mime.WriteAnswer(message, $"There is no mailbox {letter.To}.", bounced: true, clock.GetUtcNow()));
        return outside.Mood == OutsideMood.LosesAnswers
            ? new Delivery.Later("The mail server did not answer in time; it may have taken the letter.")
            : new Delivery.Accepted(null);
    }

    /// <summary>Answers a letter in its recipient's place; false where there is none of that key.</summary>
    public async Task<bool> Answer(string key, string text, bool bounce, CancellationToken cancel)
    {
        if (await files.Read(FileOf(key), cancel) is not { } letter)
            return false;
        Come(mime.WriteAnswer(letter, text, bounce, clock.GetUtcNow()));
        return true;
    }

    /// <inheritdoc/>
    public Task<IReadOnlyList<IncomingMail>> Read(CancellationToken cancel) =>
        Task.FromResult<IReadOnlyList<IncomingMail>>([.. came.Select(mime.Read).OfType<IncomingMail>()]);

    /// <inheritdoc/>
    public Task Taken(string id, CancellationToken cancel)
    {
        for (var left = came.Count; left > 0 && came.TryDequeue(out var message); left--)
        {
            if (mime.Read(message)?.Id != id)
                came.Enqueue(message);
        }

        return Task.CompletedTask;
    }

    // A stand-in that says everything twice: what takes it in must not.
    private void Come(byte[] message)
    {
        came.Enqueue(message);
        came.Enqueue(message);
    }
}
