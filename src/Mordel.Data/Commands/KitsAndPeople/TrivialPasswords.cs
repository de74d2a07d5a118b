using System.Text;
using Microsoft.AspNetCore.Identity;
using Mordel.Data.Accounts;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>
/// Refuses passwords that are long and guessed all the same: what everybody takes, one's own name, a run over the
/// keys, a short piece again and again.
/// </summary>
public sealed class TrivialPasswords : IPasswordValidator<Account>
{
    // Letters and digits that must differ, and how long a piece may be that is only repeated.
    private const int Distinct = 5,
        Piece = 5,
        Run = 6;

    private static readonly string[] Rows =
    [
        "abcdefghijklmnopqrstuvwxyz",
        "01234567890",
        "qwertyuiop",
        "asdfghjkl",
        "zxcvbnm",
        "qwertzuiop",
        "azertyuiop",
        "1qaz2wsx3edc4rfv5tgb6yhn",
    ];

    private static readonly string[] Usual =
    [
        "password",
        "passwort",
        "passphrase",
        "secret",
        "welcome",
        "letmein",
        "changeme",
        "default",
        "administrator",
        "admin",
        "master",
        "login",
        "iloveyou",
        "monkey",
        "dragon",
        "sunshine",
        "football",
        "princess",
        "summer",
        "winter",
        "spring",
        "autumn",
        "trustno",
        "whatever",
        "backflow",
        "mordel",
        "tester",
        "water",
        "the",
        "and",
        "new",
        "this",
        "test",
    ];

    /// <inheritdoc/>
    public Task<IdentityResult> ValidateAsync(UserManager<Account> manager, Account user, string? password)
    {
        ArgumentNullException.ThrowIfNull(user);
        return Task.FromResult(
            WhyNot(password ?? "", [user.UserName ?? "", .. user.FullName.Split(' ')]) is { } why
                ? IdentityResult.Failed(new IdentityError { Code = "Trivial", Description = why })
                : IdentityResult.Success
        );
    }

    /// <summary>Why a password is too easily guessed, in a sentence; null where it is not.</summary>
    /// <param name="password">The password.</param>
    /// <param name="names">The names of whose it is.</param>
    public static string? WhyNot(string password, IEnumerable<string> names)
    {
        ArgumentNullException.ThrowIfNull(password);
        ArgumentNullException.ThrowIfNull(names);
        // Signs between letters and signs for letters make it no harder to guess.
        var plain = Plain(password);
        if (plain.Distinct().Count() < Distinct)
            return "The password has too few different letters.";
        if (Enumerable.Range(1, Piece).Any(p => IsRepeated(plain, p)))
            return "The password is a short piece again and again.";
        var left = plain;
        foreach (var name in names.Select(Plain).Where(n => n.Length > 2).OrderByDescending(n => n.Length))
            left = left.Replace(name, "", StringComparison.Ordinal);
        if (left.Length < plain.Length && left.Length < Run)
            return "The password is little more than a name of yours.";
        foreach (var word in Usual.OrderByDescending(w => w.Length))
            left = left.Replace(word, "", StringComparison.Ordinal);
        left = WithoutRuns(left);
        if (IsTooLittle(left))
            return "The password is made of words and rows of keys that everybody takes. Take four words that do not "
                + "belong together.";
        return LeakedPasswords.Has(password) || IsTooLittle(LeakedPasswords.Without(left))
            ? "The password stands in lists of passwords that were stolen elsewhere, or is little more than one of "
                + "them. Take four words that do not belong together."
            : null;
    }

    private static bool IsTooLittle(string left) => left.Where(char.IsLetter).Distinct().Count() < Distinct;

    private static string Plain(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var sign in text.ToLowerInvariant())
        {
            var letter = sign switch
            {
                '@' => 'a',
                '$' => 's',
                _ => sign,
            };
            if (char.IsLetterOrDigit(letter))
                plain.Append(letter);
        }

        return plain.ToString();
    }

    private static bool IsRepeated(string text, int piece)
    {
        for (var i = piece; i < text.Length; i++)
            if (text[i] != text[i - piece])
                return false;
        return text.Length > piece;
    }

    // Without what runs along a row of keys or the alphabet, there or back.
    private static string WithoutRuns(string text)
    {
        var left = new StringBuilder(text.Length);
        for (var i = 0; i < text.Length; )
        {
            var run = LongestRun(text.AsSpan(i));
            if (run < 4)
                left.Append(text[i++]);
            else
                i += run;
        }

        return left.ToString();
    }

    private static int LongestRun(ReadOnlySpan<char> text)
    {
        var longest = 0;
        foreach (var row in Rows)
            for (var at = row.IndexOf(text[0], StringComparison.Ordinal); at >= 0; at = row.IndexOf(text[0], at + 1))
                foreach (var way in (int[])[1, -1])
                {
                    var length = 0;
                    for (
                        var k = at;
                        length < text.Length && k >= 0 && k < row.Length && row[k] == text[length];
                        k += way
                    )
                        length++;
                    longest = Math.Max(longest, length);
                }
        return longest;
    }
}
