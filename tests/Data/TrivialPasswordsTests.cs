using CsCheck;
using Mordel.Core.Tests;
using Mordel.Data.Accounts;
using Mordel.Data.Commands.KitsAndPeople;

namespace Mordel.Data.Tests;

/// <summary>Long is not enough: what is guessed first is refused, and what nobody would guess is not.</summary>
public class TrivialPasswordsTests
{
    private static readonly string[] Names = ["moa", "Moa", "Ferrin"];

    [Theory]
    [InlineData("aaaaaaaaaaaaaaaa")]
    [InlineData("abababababababab")]
    [InlineData("abc1abc1abc1abc1")]
    [InlineData("password12345678")]
    [InlineData("P@ssword-P@ssword")]
    [InlineData("qwertyuiop1234567890")]
    [InlineData("0987654321poiuytrewq")]
    [InlineData("1qaz2wsx3edc4rfv")]
    [InlineData("abcdefghijklmnop")]
    [InlineData("Moa Ferrin 2031")]
    [InlineData("ferrinmoa12")]
    [InlineData("welcome to summer 2031")]
    [InlineData("this is my password")]
    [InlineData("Administrator2031!")]
    [InlineData("mordel backflow water test")]
    [InlineData("mailcreated5240")]
    [InlineData("sojdlg123aljg")]
    [InlineData("Manchester-Liverpool!")]
    [InlineData("charlie2031chelsea")]
    public void What_is_guessed_first_is_refused_in_a_sentence(string password) =>
        Assert.EndsWith(".", TrivialPasswords.WhyNot(password, Names));

    [Theory]
    [InlineData("a long enough phrase")]
    [InlineData("seven brass cocks hum")]
    [InlineData("Ferrin keeps bees at dusk")]
    [InlineData("tqz8-vnr2-kxw5-mhd7")]
    [InlineData("моя собака ест яблоки")]
    public void What_nobody_would_guess_is_taken(string password) =>
        Assert.Null(TrivialPasswords.WhyNot(password, Names));

    [Fact]
    public void Every_password_that_was_stolen_and_is_long_enough_is_refused()
    {
        Assert.True(LeakedPasswords.Count > 40_000);
        Assert.True(LeakedPasswords.Has("MOTHERFUCKER"));
        Assert.Equal("zwqkjx", LeakedPasswords.Without("zwqdragonballkjx"));
        Assert.Equal("", LeakedPasswords.Without(""));
    }

    [Fact]
    public void Whatever_is_typed_is_answered() =>
        Gen.String[0, 80].Sample(text => TrivialPasswords.WhyNot(text, ["", text]) is not "", iter: 2000);

    // By chance one has a row of keys or a stolen one in it and too little beside: 22 of 1,550,418 that were drawn.
    [Fact]
    public void Nearly_every_password_that_a_machine_draws_is_taken()
    {
        var random = new Random(Cases.Seed);
        var refused = Enumerable
            .Range(0, 2000)
            .Select(_ => random.GetItems("abcdefghijklmnopqrstuvwxyz0123456789".AsSpan(), 16))
            .Where(drawn => drawn.Where(char.IsLetter).Distinct().Count() >= 8)
            .Select(drawn => new string(drawn))
            .Where(drawn => TrivialPasswords.WhyNot(drawn, Names) is not null)
            .ToList();
        Assert.True(refused.Count <= 2, string.Join(" ", refused));
    }
}
