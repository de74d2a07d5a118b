using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Mordel.Core.Catalogue;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Core.Views;

namespace Mordel.Core.Tests;

/// <summary>
/// What the screen of a repair shows and can do: from permission to the test after it, by its own actions.
/// </summary>
public class RepairViewsTests
{
    private static readonly ImmutableArray<SpareView> Spares =
    [
        new(new("0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0009"), "CV1 check kit", "cv1", 1, 3),
    ];

    private static RepairPlaceFile File(AssemblyBody body) =>
        new([.. BenchSheets.For(body, []).Select(s => s.Id)], false, "Signe Ost", "Harbour Dues", "Corvane", Spares);

    // Enters what an action makes of what its fields hold, or of what was typed instead.
    private static RepairEntry[] Entries(ActionView action, RepairView view, params (string Name, string Value)[] typed)
    {
        var fields = view.Fields.Concat(action.Dialog?.Fields ?? []).ToDictionary(f => f.Name, f => f.Value);
        foreach (var (name, value) in typed)
            fields[name] = value;
        var batch = new JsonArray();
        foreach (var entry in action.Entries.Select(e => EntryTemplate.Fill(e, fields)).OfType<JsonObject>())
        {
            entry["id"] = Guid.NewGuid().ToString("D");
            entry["at"] = "2031-04-02T12:00:00.000Z";
            batch.Add((JsonNode)entry);
        }

        if (batch.Count == 0)
            return [];
        var read = RepairEntryFormat.ReadBatch(
            new JsonObject { ["entries"] = batch }.ToJsonString(),
            "Ines",
            out var errors
        );
        Assert.Empty(errors);
        return [.. read];
    }

    [Fact]
    public void Every_body_is_opened_mended_and_closed_by_what_the_screen_offers()
    {
        var die = new Random(Cases.Seed);
        foreach (var body in Bodies.All)
        {
            var (file, log) = (File(body), new List<RepairEntry>());
            RepairView View() => file.View(body, log, new(2031, 4, 2));
            for (var i = 0; i < 400 && !View().IsClosedUp; i++)
            {
                var view = View();
                Assert.NotEmpty(view.Acts);
                var act = view.Title.StartsWith("Close up", StringComparison.Ordinal)
                    ? view.Acts[0]
                    : view.Acts[die.Next(view.Acts.Length)];
                // What is ticked must be among what can be found.
                var many = view.Fields.FirstOrDefault(f => f.Kind == "many");
                (string, string)[] typed = many is null ? [] : [("found", many.Options[0].Value)];
                log.AddRange(Entries(act, view, typed));
            }

            Assert.True(View().IsClosedUp, $"{body.Type} {body.Name} is not closed");
            Assert.Empty(View().Acts);
            Assert.Equal("now", View().Stages[^1].State);
            Assert.NotEmpty(View().Openings);
        }
    }

    private static (List<RepairEntry> Log, Func<RepairView> View) AtTheDisc()
    {
        var body = Bodies.Find(AssemblyTypes.RP, "four-cock");
        var (file, log) = (File(body), new List<RepairEntry>());
        RepairView View() => file.View(body, log, new(2031, 4, 2));
        for (var i = 0; i < 60 && !View().Title.EndsWith("What is done?", StringComparison.Ordinal); i++)
        {
            var view = View();
            var disc =
                view.Title.StartsWith("Look at", StringComparison.Ordinal)
                && view.Title.Contains("disc", StringComparison.Ordinal);
            log.AddRange(Entries(view.Acts[disc ? 1 : 0], view, ("found", "cut")));
        }

        return (log, View);
    }

    [Fact]
    public void A_part_from_the_van_is_used_with_the_replacement_and_only_where_it_is_ticked()
    {
        var (_, view) = AtTheDisc();
        var replaced = view().Acts.Single(a => a.Text == "Replaced");
        var spare = view().Fields.Single(f => f.Kind == "tick");
        Assert.Equal("true", spare.Value);
        Assert.Contains("1 in the van", spare.Label, StringComparison.Ordinal);
        Assert.Equal(
            [typeof(RepairBody.Acted), typeof(RepairBody.PartUsed)],
            Entries(replaced, view()).Select(e => e.Body.GetType())
        );
        Assert.IsType<RepairBody.Acted>(Assert.Single(Entries(replaced, view(), ("spare", "false"))).Body);
    }

    [Fact]
    public void A_disc_that_is_turned_asks_until_when()
    {
        var (log, view) = AtTheDisc();
        log.AddRange(Entries(view().Acts.Single(a => a.Text == "Turned, a stopgap"), view()));
        Assert.EndsWith("until when?", view().Title, StringComparison.Ordinal);
        Assert.Equal("2031-05-02", view().Fields.Single(f => f.Name == "due").Value);
        log.AddRange(Entries(view().Acts[0], view()));
        Assert.Contains("to be put right by 2 May 2031", Assert.Single(view().Later), StringComparison.Ordinal);
    }

    [Fact]
    public void Nothing_ticked_is_nothing_found()
    {
        var (log, view) = AtTheDisc();
        log.RemoveAt(log.Count - 1);
        var found = view().Acts[1];
        Assert.Empty(Entries(found, view(), ("found", "")));
        Assert.Equal(
            ["cut", "grit"],
            Assert.IsType<RepairBody.Inspected>(Entries(found, view(), ("found", "cut grit"))[0].Body).Found
        );
    }

    [Fact]
    public void What_is_said_beside_stands_in_the_repair_and_the_last_can_be_taken_back()
    {
        var (log, view) = AtTheDisc();
        var before = view();
        var used = before.Tools.Single(t => t.Text.StartsWith("A part was used", StringComparison.Ordinal));
        log.AddRange(Entries(used, before, ("name", "Cover O-ring"), ("count", "2")));
        Assert.Equal("2 × Cover O-ring", Assert.Single(view().Used));
        var note = view().Tools.Single(t => t.Text.StartsWith("A note", StringComparison.Ordinal));
        Assert.Empty(Entries(note, view()));
        log.AddRange(Entries(note, view(), ("text", "The old disc is with the porter.")));
        Assert.Equal("The old disc is with the porter.", Assert.Single(view().Notes));
        log.AddRange(Entries(view().Tools[0], view()));
        Assert.Empty(view().Notes);
    }

    [Fact]
    public void What_a_device_takes_along_for_a_repair_comes_back_as_it_was_written()
    {
        var file = File(Bodies.Find(AssemblyTypes.DC));
        var text = JsonSerializer.Serialize(file, ViewsJson.Border.RepairPlaceFile);
        var read = JsonSerializer.Deserialize(text, ViewsJson.Border.RepairPlaceFile)!;
        Assert.Equal(text, JsonSerializer.Serialize(read, ViewsJson.Border.RepairPlaceFile));
        Assert.Equal(file.Spares.AsEnumerable(), read.Spares.AsEnumerable());
    }

    [Theory]
    [InlineData("{\"entries\":[]}", "entries")]
    [InlineData("{\"entries\":[{\"id\":\"x\",\"at\":\"2031-04-02T12:00:00.000Z\",\"kind\":\"note\"}]}", "entries[0]")]
    [InlineData(
        "{\"entries\":[{\"id\":\"0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0009\",\"at\":\"2031-04-02T12:00:00.000Z\","
            + "\"kind\":\"dance\"}]}",
        "entries[0]"
    )]
    public void A_batch_that_cannot_be_used_says_where(string batch, string place)
    {
        Assert.Empty(RepairEntryFormat.ReadBatch(batch, "Ines", out var errors));
        Assert.StartsWith(place, errors[0].ToString(), StringComparison.Ordinal);
    }
}
