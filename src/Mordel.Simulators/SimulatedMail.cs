using System.Text;
using Mordel.Core.Outside;

namespace Mordel.Simulators;

/// <summary>
/// Stands in for a mail server: no letter leaves the house, each is kept as a file that can be read. The same letter
/// sent twice is one letter.
/// </summary>
public sealed class SimulatedMail(IFiles files, SimulatedOutside outside) : IMail
{
    /// <summary>The file that a letter is kept in.</summary>
    public static string FileOf(string key) =>
        $"letters/{string.Concat(key.Select(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) ? c : '-'))}.txt";

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

        await files.Keep(FileOf(letter.Key), Encoding.UTF8.GetBytes(Written(letter)), cancel);
        return outside.Mood == OutsideMood.LosesAnswers
            ? new Delivery.Later("The mail server did not answer in time; it may have taken the letter.")
            : new Delivery.Accepted(null);
    }

    private static string Written(OutgoingMail letter) =>
        $"""
            Simulated: this letter was not sent.
            To: {letter.To}
            Subject: {letter.Subject}
            Message-Id: <{letter.Key}@mordel.invalid>
            {string.Concat(letter.Enclosures.Select(e => $"Enclosed: {e.Name}, {e.Bytes.Length} bytes\n"))}
            {letter.Text}
            """;
}
