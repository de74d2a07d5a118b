using System.Globalization;

namespace Mordel.Data.Tests;

/// <summary>What is kept as text reads as what was kept, and what was not written so reads as nothing.</summary>
public sealed class StrictTextTests
{
    private const string Pattern = "yyyy-MM-dd'T'HH:mm:ss.fff'Z'";
    private readonly Random random = new(20261130);

    [Fact]
    public void An_id_reads_as_it_was_kept_and_in_capitals_only()
    {
        var text = new IdText();
        for (var i = 0; i < 2_000; i++)
        {
            var id = Guid.NewGuid();
            var kept = (string)text.ConvertToProvider(id)!;
            Assert.Equal(id.ToString("D").ToUpperInvariant(), kept);
            Assert.Equal(id, text.ConvertFromProvider(kept));
            var other = Altered(kept, "0123456789ABCDEFabcdefgx+- {");
            var isWritten =
                Guid.TryParseExact(other, "D", out var read) && (string)text.ConvertToProvider(read)! == other;
            Assert.Equal(isWritten ? read : Guid.Empty, text.ConvertFromProvider(other));
        }
    }

    [Theory]
    [InlineData("")]
    [InlineData(" 3F2504E0-4F89-11D3-9A0C-0305E82C3301")]
    [InlineData("{3F2504E0-4F89-11D3-9A0C-0305E82C3301}")]
    [InlineData("3F2504E04F8911D39A0C0305E82C3301")]
    [InlineData("3f2504e0-4f89-11d3-9a0c-0305e82c3301")]
    [InlineData("0X2504E0-4F89-11D3-9A0C-0305E82C3301")]
    public void An_id_that_was_not_written_so_is_nobodys(string text) =>
        Assert.Equal(Guid.Empty, new IdText().ConvertFromProvider(text));

    [Fact]
    public void An_instant_reads_as_its_pattern_does()
    {
        var text = new UtcText();
        for (var i = 0; i < 5_000; i++)
        {
            var at = new DateTimeOffset(random.NextInt64(DateTime.MaxValue.Ticks) / 10_000 * 10_000, TimeSpan.Zero);
            var kept = (string)text.ConvertToProvider(at)!;
            Assert.Equal(at, text.ConvertFromProvider(kept));
            var other = Altered(kept, "0123456789-:.TZ ");
            var isOne = DateTimeOffset.TryParseExact(
                other,
                Pattern,
                CultureInfo.InvariantCulture,
                DateTimeStyles.AssumeUniversal,
                out var read
            );
            Assert.Equal(isOne ? read : DateTimeOffset.MinValue, text.ConvertFromProvider(other));
        }
    }

    [Theory]
    [InlineData("2026-02-29T00:00:00.000Z")]
    [InlineData("2024-13-01T00:00:00.000Z")]
    [InlineData("0000-01-01T00:00:00.000Z")]
    [InlineData("2024-01-01T24:00:00.000Z")]
    [InlineData("2024-01-01T00:00:60.000Z")]
    [InlineData("2024-01-01T00:00:00.000")]
    [InlineData("2024-01-01 00:00:00.000Z")]
    [InlineData("yesterday")]
    public void An_instant_that_never_was_stands_at_the_beginning_of_time(string text) =>
        Assert.Equal(DateTimeOffset.MinValue, new UtcText().ConvertFromProvider(text));

    // One sign of it is another.
    private string Altered(string text, string signs)
    {
        var all = text.ToCharArray();
        all[random.Next(all.Length)] = signs[random.Next(signs.Length)];
        return new(all);
    }
}
