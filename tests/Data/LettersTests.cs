using System.Collections.Immutable;
using CsCheck;
using Mordel.Core.Notices;
using Mordel.Core.Outside;
using Mordel.Documents.Letters;
using Mordel.Simulators;

namespace Mordel.Data.Tests;

/// <summary>Notices as they are set, and letters as MIME messages.</summary>
public class LettersTests
{
    private static readonly NoticeSetter Setter = new();
    private static readonly MimeLetters Mime = new(new("The testers", "office@testers.invalid"), new SimulatedClock());

    private static NoticeFacts With(string word, string value) =>
        NoticeFacts.Example with
        {
            Words = NoticeFacts.Example.Words.SetItem(word, value),
        };

    [Fact]
    public void Every_notice_that_comes_with_mordel_can_be_set_and_leaves_no_word_open()
    {
        foreach (var language in NoticeLanguages.All)
        foreach (var kind in NoticeKinds.All)
        {
            var words = BuiltInNotices.Of(kind.Kind, language.Tag);
            Assert.Empty(Setter.Faults(words));
            var set = Setter.Set(words, NoticeFacts.Example);
            foreach (var text in new[] { set.Subject, set.Text, set.Html })
            {
                Assert.DoesNotContain("{", text, StringComparison.Ordinal);
                Assert.DoesNotContain("EACH", text, StringComparison.Ordinal);
            }

            Assert.Contains("Isk Mills Ltd", set.Text, StringComparison.Ordinal);
            Assert.DoesNotContain("\n\n\n", set.Text, StringComparison.Ordinal);
            Assert.Contains("Weaving shed", set.Subject, StringComparison.Ordinal);
        }
    }

    [Fact]
    public void What_comes_from_the_register_stands_in_a_letter_as_text_and_never_as_markup_or_template() =>
        Gen.String[Gen.Char["<>&\"'{}%|ab \n\r\t:/"], 0, 60]
            .Sample(
                name =>
                {
                    var set = Setter.Set(new("To {{ to }}", "Dear {{ to }},\n\nbye"), With("to", $"x{name}x"));
                    Assert.DoesNotContain('\n', set.Subject);
                    Assert.DoesNotContain('\r', set.Subject);
                    var inside = set
                        .Html.Replace("<p>", "", StringComparison.Ordinal)
                        .Replace("</p>", "", StringComparison.Ordinal)
                        .Replace("<br>", "", StringComparison.Ordinal);
                    Assert.DoesNotContain('<', inside);
                    Assert.DoesNotContain('>', inside);
                },
                iter: 3000
            );

    [Theory]
    [InlineData("{{ nobody }}", "nobody")]
    [InlineData("{% for a in assemblies %}{{ a.colour }}{% endfor %}", "a.colour")]
    [InlineData("{% if watre %}x{% endif %}", "watre")]
    [InlineData("{% for a in assemblies %}", "cannot be read")]
    [InlineData("{{ to", "cannot be read")]
    [InlineData("", "characters")]
    [InlineData("{% for i in (1..90000) %}xxxxxxxxxx{% endfor %}", "cannot be set")]
    public void Words_that_cannot_stand_are_refused_with_what_is_wrong(string text, string says)
    {
        var fault = Assert.Single(Setter.Faults(new("A subject", text)));
        Assert.Contains(says, fault, StringComparison.Ordinal);
    }

    [Fact]
    public void A_subject_is_one_line_and_not_endless()
    {
        Assert.NotEmpty(Setter.Faults(new("two\nlines", "x")));
        Assert.NotEmpty(Setter.Faults(new(new string('x', NoticeTemplate.LongestSubject + 1), "x")));
        Assert.Empty(Setter.Faults(new("Für {{ to }}", "x")));
    }

    [Fact]
    public void An_address_becomes_a_link_with_nothing_around_it()
    {
        var set = Setter.Set(new("x", "Look: {{ page }}.\n\nEnd"), With("page", "https://a.invalid/owner/0f?a=1&b=2"));
        Assert.Contains("href=\"https://a.invalid/owner/0f?a=1&amp;b=2", set.Html, StringComparison.Ordinal);
        Assert.Contains("https://a.invalid/owner/0f?a=1&b=2", set.Text, StringComparison.Ordinal);
    }

    [Fact]
    public void A_letter_is_a_message_with_plain_text_html_and_its_enclosure_and_an_answer_finds_it()
    {
        var letter = new OutgoingMail(
            "notice/visit/0f/aa",
            "mühle@isk.invalid",
            "Wasser aus: Prüfung – Mühle",
            "Grüße\n\nhttps://a.invalid/owner/1",
            [new("r.pdf", "application/pdf", ImmutableArray.Create<byte>(1, 2, 3))],
            "<p>Grüße</p>"
        );
        var bytes = Mime.Write(letter);
        var message = MimeKit.MimeMessage.Load(new MemoryStream(bytes));
        Assert.Equal((letter.Subject, letter.Text), (message.Subject, message.TextBody?.ReplaceLineEndings("\n")));
        Assert.Contains("Grüße", message.HtmlBody, StringComparison.Ordinal);
        Assert.Equal("r.pdf", Assert.Single(message.Attachments).ContentDisposition!.FileName);
        Assert.Equal(message.MessageId, MimeKit.MimeMessage.Load(new MemoryStream(Mime.Write(letter))).MessageId);

        var answer = Mime.Read(Mime.WriteAnswer(bytes, "Nobody is in.\n> quoted", bounced: false, DateTimeOffset.Now))!;
        Assert.Equal((letter.Key, "Nobody is in.", false), (answer.Answers, answer.Text, answer.Bounced));
        var back = Mime.Read(Mime.WriteAnswer(bytes, "No such mailbox.", bounced: true, DateTimeOffset.Now))!;
        Assert.Equal((letter.Key, true), (back.Answers, back.Bounced));
        Assert.Contains("No such mailbox", back.Text, StringComparison.Ordinal);
    }

    [Fact]
    public void Anything_can_come_in_and_nothing_of_it_throws() =>
        Gen
            .Byte.Array[0, 400]
            .Sample(bytes =>
            {
                var mail = Mime.Read(bytes);
                Assert.True(mail is null || mail.Text is not null);
            });
}
