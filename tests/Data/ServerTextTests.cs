using CsCheck;
using Microsoft.EntityFrameworkCore;

namespace Mordel.Data.Tests;

/// <summary>What a server needs otherwise than a file.</summary>
public sealed class ServerTextTests
{
    [Fact]
    public void Whatever_is_sent_a_server_can_keep_it_and_what_it_can_keep_is_not_touched() =>
        Gen
            .Char.Array[0, 20]
            .Select(c => new string(c))
            .Sample(
                text =>
                {
                    var kept = ServerText.Of(text);
                    Assert.Equal(text.Length, kept.Length);
                    Assert.DoesNotContain('\0', kept);
                    // Half signs would be written as something else.
                    var strict = new System.Text.UTF8Encoding(false, throwOnInvalidBytes: true);
                    Assert.Equal(kept, strict.GetString(strict.GetBytes(kept)));
                    for (var i = 0; i < text.Length; i++)
                        Assert.True(kept[i] == text[i] || kept[i] == '\uFFFD');
                    Assert.Equal(kept, ServerText.Of(kept));
                },
                iter: 3_000
            );

    [Theory]
    [InlineData("plain")]
    [InlineData("Straße 4 · 🜄 water")]
    [InlineData("")]
    public void What_nothing_is_wrong_with_is_the_same_text(string text) => Assert.Same(text, ServerText.Of(text));

    [Fact]
    public void What_has_no_shape_is_shown_as_what_cannot_be_shown()
    {
        const char half = '\uD83D',
            otherHalf = '\uDF04';
        Assert.Equal("a\uFFFDb", ServerText.Of("a\0b"));
        Assert.Equal("\uFFFD", ServerText.Of($"{half}"));
        Assert.Equal("x\uFFFD", ServerText.Of($"x{otherHalf}"));
        Assert.Equal("\uFFFD\uFFFD", ServerText.Of($"{otherHalf}{half}"));
        var whole = $"{half}{otherHalf}";
        Assert.Same(whole, ServerText.Of(whole));
    }

    [Fact]
    public void The_migrations_of_a_server_make_the_store_as_it_is()
    {
        using var store = new StoreAddress(Path.GetTempPath(), "Host=nowhere.invalid;Database=mordel").Open();
        Assert.False(store.Database.HasPendingModelChanges());
    }

    [Fact]
    public void The_migrations_of_a_file_make_the_store_as_it_is()
    {
        using var store = new StoreAddress(Path.GetTempPath()).Open();
        Assert.False(store.Database.HasPendingModelChanges());
    }
}
