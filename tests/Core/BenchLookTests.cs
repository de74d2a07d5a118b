using System.Collections.Immutable;
using System.Text.Json;
using CsCheck;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Core.Training;
using Mordel.Core.Views;

namespace Mordel.Core.Tests;

/// <summary>The bench played elsewhere: a look at it shows what its own water would.</summary>
public class BenchLookTests
{
    private const string DcRig =
        """{"format":"mordel.scenario/1","assembly":{"type":"DC"},"procedure":"dc-sight-tube","kit":"five-valve"}""";

    private static Gen<string> OneOf(params string[] all) => Gen.Int[0, all.Length - 1].Select(i => all[i]);

    // What hands do as a page writes it down, with how long they wait before; some of it cannot be done.
    private static readonly Gen<(int Wait, string Deed)> Deed = Gen.OneOf(
        Gen.Select(
            Gen.Int[1, 70],
            OneOf("so1", "so2", "tc2", "tc3", "tc4", "high-bleed"),
            Gen.Int[0, 4],
            Gen.Int[0, 120],
            (wait, part, to, over) => (wait, $$""" "turn":"{{part}}","to":{{to / 4m}},"over":{{over}} """)
        ),
        Gen.Select(
            Gen.Int[1, 70],
            OneOf("high-hose", "low-hose", "sight-tube"),
            OneOf("tc2", "tc3", "tc4"),
            (wait, item, on) => (wait, $$""" "connect":"{{item}}","on":"{{on}}" """)
        ),
        Gen.Select(Gen.Int[1, 70], Gen.Int[-12, 12], (wait, inches) => (wait, $$""" "lift":{{inches}} """))
    );

    private static string Tape(IEnumerable<(int At, string Deed)> deeds, int ticks, string rig = DcRig) =>
        $$"""
            {"format":"mordel.tape/1","rig":{{rig}},"ticks":{{ticks}},
             "deeds":[{{string.Join(',', deeds.Select(d => $$"""{"at":{{d.At}},{{d.Deed}}}"""))}}]}
            """;

    private static (BenchLook Look, BenchSession Bench) Look(string tape, string more = "")
    {
        var look = RecordingFormat.ReadLook($$"""{"tape":{{tape}}{{more}}}""", out var errors);
        Assert.Empty(errors);
        return (look!, look!.Play());
    }

    [Fact]
    public void A_look_at_any_moment_shows_what_the_own_water_shows_there_and_says_what_could_not_be_done() =>
        Deed.Array[1, 12]
            .Sample(
                deeds =>
                {
                    var own = new BenchSession(RecordingFormat.ReadRig(DcRig, out _)!, guided: false);
                    var (written, refused) = (new List<(int, string)>(), new List<string>());
                    foreach (var (wait, deed) in deeds)
                    {
                        own.Advance(wait);
                        written.Add((own.Live.Tick, deed));
                        var tape = Tape(written, own.Live.Tick);
                        var action = RecordingFormat.Read(tape, out _)!.Actions[^1].What;
                        if (own.Do(action) is { } why)
                            refused.Add(why);
                        var (look, bench) = Look(tape);
                        Assert.Equal(own.View.Row(), bench.View.Row());
                        Assert.Equal(refused, bench.Refused);
                        var said = JsonDocument.Parse(BenchLookViews.Of(look, bench)).RootElement;
                        Assert.Equal(own.Live.EventLog.All.Count, said.GetProperty("happened").GetArrayLength());
                        Assert.Equal(refused.Count, said.GetProperty("refused").GetArrayLength());
                    }
                },
                iter: 15
            );

    [Fact]
    public void What_is_said_to_the_sheet_moves_it_on_and_what_was_told_is_not_told_again()
    {
        var before = Look(Tape([], 120), ""","guided":true""").Bench;
        var (look, after) = Look(
            Tape([(200, """ "turn":"tc2","to":1 """)], 300),
            ""","guided":true,"words":[{"at":60,"say":"confirm"},{"at":90,"say":"see","value":"none"}],"told":1"""
        );
        Assert.NotEqual(before.Guide!.State.Current!.Key, after.Guide!.State.Current!.Key);
        var said = JsonDocument.Parse(BenchLookViews.Of(look, after)).RootElement;
        Assert.NotEmpty(after.Live.EventLog.All);
        Assert.Equal(after.Live.EventLog.All.Count - 1, said.GetProperty("happened").GetArrayLength());
        Assert.Equal(after.Guide.State.Current.Key, said.GetProperty("sheet").GetProperty("key").GetString());
        Assert.True(said.TryGetProperty("layout", out _));
        var drawn = Look(Tape([], 10), ""","drawn":true""");
        Assert.False(
            JsonDocument.Parse(BenchLookViews.Of(drawn.Look, drawn.Bench)).RootElement.TryGetProperty("layout", out _)
        );
    }

    [Theory]
    [InlineData("""{"tape":{}}""", "tape.format")]
    [InlineData("""{}""", "tape")]
    [InlineData("""{"tape":TAPE,"words":[{"at":5,"say":"sing"}]}""", "words[0].say")]
    [InlineData("""{"tape":TAPE,"words":[{"at":5,"say":"take","value":"a lot"}]}""", "words[0].value")]
    [InlineData("""{"tape":TAPE,"words":[{"at":9,"say":"confirm"},{"at":8,"say":"confirm"}]}""", "words[1].at")]
    [InlineData("""{"tape":TAPE,"flow":"Sideways"}""", "flow")]
    [InlineData("""{"tape":TAPE,"told":-1}""", "told")]
    [InlineData("""{"tape":LONG}""", "tape")]
    public void A_look_that_asks_for_nonsense_says_where(string text, string place)
    {
        var asked = text.Replace("TAPE", Tape([], 10), StringComparison.Ordinal)
            .Replace("LONG", Tape([], BenchLook.Latest + 1), StringComparison.Ordinal);
        Assert.Null(RecordingFormat.ReadLook(asked, out var errors));
        Assert.Contains(place, errors.Select(e => e.Place));
    }
}
