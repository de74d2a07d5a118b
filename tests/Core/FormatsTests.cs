using System.Text.Json;
using CsCheck;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

public class FormatsTests
{
    private const string Good = """
        {"format":"mordel.test-record/1","assembly":{"type":"DC"},"procedure":"dc-sight-tube","profile":"psid-standard",
         "kit":{"kind":"five-valve","accuracy":{"value":0.2,"unit":"psid"}},"results":{"check-1":{"value":2.10,"unit":"psid"},"check-2":{"value":1.7,"unit":"psid"}}}
        """;

    [Fact]
    public void A_good_record_is_judged_and_numbers_keep_their_digits()
    {
        var record = TestRecordFormat.Read(Good, out var errors);
        Assert.Empty(errors);
        var written = VerdictFormat.Write(record!.Judge());
        Assert.Contains("\"value\":2.10", written, StringComparison.Ordinal);
        using var json = JsonDocument.Parse(written);
        Assert.Equal("pass", json.RootElement.GetProperty("overall").GetString());
    }

    public static TheoryData<string, string, string> Broken =>
        new()
        {
            {
                "\"unit\":\"psid\"},\"check-2\"",
                "\"unit\":\"bar\"},\"check-2\"",
                "results.check-1.unit: \"bar\" is not a unit of differential pressure; psid or kPa"
            },
            { "2.10", "\"two\"", "results.check-1.value: a number is wanted here" },
            { "2.10", "1e9", "results.check-1.value: is outside" },
            { "2.10", "1e400", "results.check-1.value: this number is too large" },
            { "\"DC\"", "\"XY\"", "assembly.type: \"XY\" is not a type; RP, DC, PVB or SVB" },
            { "\"type\":\"DC\"", "\"kind\":\"DC\"", "assembly.type: is missing" },
            { "dc-sight-tube", "rp-relief-first", "procedure: rp-relief-first tests a RP, not a DC" },
            { "dc-sight-tube", "dc-draw-down", "procedure: psid-standard has no rules for dc-draw-down" },
            { "dc-sight-tube", "nothing", "procedure: \"nothing\" is not a procedure" },
            { "psid-standard", "mine", "profile: \"mine\" is not a profile" },
            { "check-2", "check-9", "results.check-9: is not an item" },
            { "check-2", "relief-opening", "results.relief-opening: a DC has no such item" },
            { "five-valve", "six-valve", "kit.kind: \"six-valve\" is not a kit" },
            {
                "{\"value\":0.2,\"unit\":\"psid\"}",
                "{\"value\":-0.2,\"unit\":\"psid\"}",
                "kit.accuracy.value: may not be negative"
            },
            { "test-record/1", "test-record/2", "format: \"mordel.test-record/2\" is not a format that is read here" },
            { "\"profile\"", "\"profil\"", "profil: is not known here" },
            { "\"check-2\"", "\"check-1\"", "not readable as JSON" },
            {
                "\"check-2\":{\"value\":1.7,\"unit\":\"psid\"}",
                "\"shutoff-1\":\"maybe\"",
                "results.shutoff-1: \"maybe\" is not an answer; tight, leaks or not-shown"
            },
        };

    [Theory]
    [MemberData(nameof(Broken))]
    public void A_fault_says_where_it_is_and_what_is_wanted(string find, string put, string says)
    {
        Assert.Contains(find, Good, StringComparison.Ordinal);
        Assert.Null(TestRecordFormat.Read(Good.Replace(find, put, StringComparison.Ordinal), out var errors));
        Assert.Contains(errors, f => f.ToString().StartsWith(says, StringComparison.Ordinal));
    }

    [Fact]
    public void All_faults_are_reported_at_once()
    {
        TestRecordFormat.Read(
            Good.Replace("2.10", "\"x\"", StringComparison.Ordinal)
                .Replace("\"psid-standard\"", "7", StringComparison.Ordinal),
            out var errors
        );
        Assert.Equal(2, errors.Length);
    }

    [Fact]
    public void An_item_that_the_tester_could_not_get_is_missing()
    {
        var record = TestRecordFormat.Read(
            Good.Replace("{\"value\":1.7,\"unit\":\"psid\"}", "null", StringComparison.Ordinal),
            out _
        );
        Assert.Equal(Overall.Incomplete, record!.Judge().Overall);
    }

    [Theory]
    [InlineData("")]
    [InlineData("[]")]
    [InlineData("null")]
    [InlineData("\"text\"")]
    [InlineData("{")]
    [InlineData("{\"a\":1,\"a\":2}")]
    public void What_is_no_record_is_refused_in_words(string text)
    {
        Assert.Null(TestRecordFormat.Read(text, out var errors));
        Assert.NotEmpty(errors);
    }

    [Fact]
    public void No_damage_to_a_record_makes_the_reader_fail() =>
        Gen.Select(Gen.Int[0, Good.Length - 1], Gen.Int[0, 30], Gen.Char)
            .Sample(
                (at, length, put) =>
                {
                    var text = Good.Remove(at, Math.Min(length, Good.Length - at)).Insert(at, put.ToString());
                    var record = TestRecordFormat.Read(text, out var errors);
                    return record is null == !errors.IsEmpty
                        && (record is null || VerdictFormat.Write(record.Judge()).Length > 0);
                },
                iter: 10_000
            );

    [Theory]
    [InlineData(
        """{"entries":[{"tick":1,"at":"2031-04-02T08:00:00Z","kind":"done","step":"x"}]}""",
        "entries[0].id: is missing"
    )]
    [InlineData(
        """{"entries":[{"id":"7","tick":1,"at":"2031-04-02T08:00:00Z","kind":"done","step":"x"}]}""",
        "entries[0].id: \"7\" is not an entry's id; a UUID"
    )]
    [InlineData(
        """{"entries":[{"id":"7d444840-9dc0-11d1-b245-5ffdce74fad2","tick":0,"at":"2031-04-02T08:00:00Z","kind":"done","step":"x"}]}""",
        "entries[0].tick: a whole number"
    )]
    [InlineData(
        """{"entries":[{"id":"7d444840-9dc0-11d1-b245-5ffdce74fad2","tick":1,"at":"yesterday","kind":"done","step":"x"}]}""",
        "entries[0].at: \"yesterday\" is not a time"
    )]
    [InlineData(
        """{"entries":[{"id":"7d444840-9dc0-11d1-b245-5ffdce74fad2","tick":1,"at":"2031-04-02T08:00:00Z","kind":"sing","step":"x"}]}""",
        "entries[0].kind: \"sing\" is not a kind of entry"
    )]
    [InlineData(
        """{"entries":[{"id":"7d444840-9dc0-11d1-b245-5ffdce74fad2","tick":1,"at":"2031-04-02T08:00:00Z","kind":"reading","step":"cv1.read","reading":{"value":1,"unit":"bar"}}]}""",
        "entries[0].reading.unit: \"bar\""
    )]
    [InlineData(
        """{"entries":[{"id":"7d444840-9dc0-11d1-b245-5ffdce74fad2","tick":1,"at":"2031-04-02T08:00:00Z","kind":"as-found","part":"cv1","standing":"open"}]}""",
        "entries[0].part: a valve of an assembly is wanted here"
    )]
    [InlineData(
        """{"entries":[{"id":"7d444840-9dc0-11d1-b245-5ffdce74fad2","tick":1,"at":"2031-04-02T08:00:00Z","kind":"note","step":"x","text":"  "}]}""",
        "entries[0].text: some words are wanted here"
    )]
    [InlineData("""{"entries":7}""", "entries: a list is wanted here")]
    public void A_bad_entry_is_refused_with_its_place(string batch, string says)
    {
        Assert.Empty(EntryFormat.ReadBatch(batch, out var errors));
        Assert.Contains(errors, f => f.ToString().StartsWith(says, StringComparison.Ordinal));
    }

    [Fact]
    public void Changing_anything_in_a_run_sealed_under_the_earlier_form_changes_its_hash()
    {
        var run = SampleRun.Begun().To("cv1.read").Reads(1.8m);
        var head = new SealedHead(
            Guid.NewGuid(),
            "S-1",
            "dc-sight-tube",
            "psid-standard",
            1,
            "K-1",
            "A Tester",
            "C-1",
            "pass",
            DateTimeOffset.UnixEpoch,
            ContentHash.Compute(""),
            ContentHash.Beginning
        );
        var hash = ContentHash.Compute(EarlierSealFormat.Canonical(head, run.Log));
        Assert.Equal(
            hash,
            ContentHash.Compute(EarlierSealFormat.Canonical(head, RunLog.Empty.With(run.Log.Entries.Reverse())))
        );
        Assert.NotEqual(
            hash,
            ContentHash.Compute(EarlierSealFormat.Canonical(head with { Certificate = "C-2" }, run.Log))
        );
        Assert.NotEqual(hash, ContentHash.Compute(EarlierSealFormat.Canonical(head with { Previous = hash }, run.Log)));
        Assert.NotEqual(hash, ContentHash.Compute(EarlierSealFormat.Canonical(head, run.Reads(1.80m).Log)));
    }

    [Fact]
    public void The_program_of_a_procedure_names_every_move_for_its_kit()
    {
        using var json = JsonDocument.Parse(RunSheetFormat.Json(SampleRun.PlanWith(Kit.ThreeValve).Sheet));
        var steps = json
            .RootElement.GetProperty("stages")
            .EnumerateArray()
            .SelectMany(s => s.GetProperty("steps").EnumerateArray())
            .ToList();
        Assert.Equal(SampleRun.PlanWith(Kit.ThreeValve).Sheet.WholeRun.Sum(s => s.Steps.Length), steps.Count);
        Assert.DoesNotContain("high-bleed", json.RootElement.GetRawText(), StringComparison.Ordinal);
    }
}
