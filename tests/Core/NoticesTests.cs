using CsCheck;
using Mordel.Core.Notices;

namespace Mordel.Core.Tests;

/// <summary>What owners are told: hours that hold the work, words for every kind, days in their language.</summary>
public class NoticesTests
{
    private static readonly DateOnly Day = new(2030, 6, 3);

    private static TimeOnly At(int minute) => new(minute / 60, minute % 60);

    [Fact]
    public void The_hours_that_are_told_hold_the_work_with_room_and_never_more_than_the_water_may_be_off() =>
        Gen.Select(Gen.Int[0, 1200], Gen.Int[30, 239], Gen.Int[5, 90], Gen.Int[0, 150])
            .Sample(
                (open, length, minutes, after) =>
                {
                    var (from, until) = (At(open), At(open + length));
                    var begin = Math.Min(open + after, open + length - minutes);
                    if (begin < open)
                        return;
                    var told = VisitPromise.Of(Day, from, until, At(begin), minutes);
                    Assert.True(told.Holds(Day, At(begin), minutes));
                    Assert.True(told.From >= from && told.Until <= until);
                    Assert.False(told.Holds(Day.AddDays(1), At(begin), minutes));
                    // Half an hour on either side, and up to the quarter beyond, where the water's hours leave it.
                    Assert.True(told.From == from || (At(begin) - told.From).TotalMinutes is >= 30 and < 45);
                    Assert.True(
                        told.Until == until || (told.Until - At(begin + minutes)).TotalMinutes is >= 30 and < 45
                    );
                },
                iter: 5000
            );

    [Theory]
    [InlineData(null, "08:00", "12:00")]
    [InlineData("09:10", "08:30", "10:15")]
    [InlineData("08:05", "08:00", "09:15")]
    [InlineData("11:30", "11:00", "12:00")]
    // Work that does not lie in the hours of the water is told as these hours.
    [InlineData("13:00", "08:00", "12:00")]
    public void What_is_told_of_half_an_hour_of_work_between_eight_and_noon(string? at, string from, string until) =>
        Assert.Equal(
            new VisitPromise(Day, TimeOnly.Parse(from), TimeOnly.Parse(until)),
            VisitPromise.Of(Day, new(8, 0), new(12, 0), at is null ? null : TimeOnly.Parse(at), 30)
        );

    [Fact]
    public void Every_kind_has_words_in_every_language_and_none_is_the_same_in_two()
    {
        foreach (var kind in NoticeKinds.All)
        {
            Assert.Equal(kind, NoticeKinds.Named(kind.Id));
            var all = NoticeLanguages.All.Select(l => BuiltInNotices.Of(kind.Kind, l.Tag)).ToList();
            Assert.All(all, w => Assert.InRange(w.Text.Length, 40, NoticeTemplate.LongestText));
            Assert.Equal(all.Count, all.Select(w => w.Text).Distinct().Count());
        }

        Assert.Equal(
            BuiltInNotices.Of(NoticeKind.Visit, "en"),
            BuiltInNotices.Of(NoticeKind.Visit, "a language nobody has")
        );
    }

    [Fact]
    public void Every_language_of_letters_can_be_chosen_in_the_register() =>
        Assert.Equal(
            NoticeLanguages.All.Select(l => (l.Tag, l.Name)),
            Register.PlaceFields.OwnerLanguage.Choices.Select(c => (c.Value, c.Says))
        );

    [Theory]
    [InlineData("en", "Monday 3 June 2030")]
    [InlineData("de", "Montag, 3. Juni 2030")]
    [InlineData("", "Monday 3 June 2030")]
    public void A_day_is_written_as_its_reader_writes_it(string language, string says) =>
        Assert.Equal(says, NoticeLanguages.Of(language).Day(Day));

    [Fact]
    public void Every_word_has_an_example_and_stands_once()
    {
        foreach (var words in new[] { NoticeWords.OfLetter, NoticeWords.OfAssembly })
        {
            Assert.All(words, w => Assert.False(string.IsNullOrWhiteSpace(w.Example) || w.Says.Length < 3));
            Assert.Equal(words.Length, words.Select(w => w.Name).Distinct().Count());
        }
    }
}
