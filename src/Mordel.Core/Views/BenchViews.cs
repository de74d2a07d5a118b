using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Training;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Views;

/// <summary>Writes what the bench's screen is told: how the rig is drawn, where the sheet stands.</summary>
public static class BenchViews
{
    /// <summary>
    /// The drawing, where things are on it, and in which order <see cref="BenchView.Row"/> gives its numbers.
    /// </summary>
    /// <param name="desk">The bench.</param>
    /// <param name="flow">Which way the water runs.</param>
    /// <param name="open">Whether what is wrong with the rig may be told.</param>
    public static string Layout(BenchSession desk, FlowDirection flow, bool open)
    {
        ArgumentNullException.ThrowIfNull(desk);
        var (rig, plan) = (desk.Live.Rig.Rig, desk.Scenario.Plan);
        var drawing = desk.View.Draw(flow, out var svg);
        return JsonText.Object(json =>
        {
            json.WriteString("svg", svg);
            json.WriteString("title", plan.Procedure.Title);
            json.WriteString("about", plan.Procedure.About);
            json.WriteString("procedure", plan.Procedure.Id);
            json.WriteString("type", rig.Body.Type.ToString());
            json.WriteString("kit", rig.Kit.Name);
            json.WriteString("unit", plan.Resolution.Unit.Symbol());
            json.WriteNumber("fullScale", plan.FullScale.Amount);
            json.WriteNumber("perPsi", plan.Resolution.Unit == DifferentialUnit.Psid ? 1 : DifferentialUnits.KpaPerPsi);
            json.WriteNumber("resolution", plan.Resolution.Amount);
            json.WriteNumber("perSecond", Recording.PerSecond);
            json.WriteNumber("head", BenchView.Head);
            json.WriteStrings("chambers", desk.View.Chambers);
            json.WriteStartArray("parts");
            foreach (var part in desk.View.Parts)
            {
                json.WriteStartObject();
                json.WriteString("id", part.Id.Value);
                json.WriteString("kind", part.Kind.ToString());
                json.WriteString("label", part.Label);
                json.WriteBoolean("turns", part.Turns);
                json.WriteBoolean("attaches", part.Attaches);
                if (part.Kind == PartKind.Hose)
                    json.WriteString("side", rig.At(new(part.Id, "kit"))!.Id);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteStartObject("letters");
            foreach (var hose in rig.Parts.Where(p => p.Kind == PartKind.Hose))
                json.WriteString(hose.Id.Value, Drawing.KitDrawing.Letter(hose.Id));
            json.WriteEndObject();
            // Beside a standing assembly heights are told against the cock that carries one of these.
            json.WriteStrings(
                "heightBy",
                new[] { Parts.SightTube, Parts.BleedOff, Parts.HighHose, Parts.LowHose }.Select(p => p.Value)
            );
            Spots(json, "outlets", drawing.Outlets);
            Spots(json, "ports", drawing.Ports);
            Spots(json, "shelf", drawing.Shelf);
            json.WriteStartObject("scale");
            json.WriteNumber("width", drawing.Size.X);
            json.WriteNumber("height", drawing.Size.Y);
            json.WriteNumber("centre", Drawing.BenchDrawing.CentreLine);
            json.WriteNumber("perInch", Drawing.BenchDrawing.PerInch);
            json.WriteNumber("firstInch", Drawing.BenchDrawing.FirstInch);
            json.WriteNumber("low", drawing.Reach.Low);
            json.WriteNumber("high", drawing.Reach.High);
            json.WriteNumber("rail", drawing.RailAt);
            json.WriteBoolean("stands", drawing.Stands);
            json.WriteNumber("tube", desk.Live.Water.LevelOf(Parts.SightTube));
            json.WriteEndObject();
            AskedFor(json, plan);
            json.WriteStartArray("findings");
            foreach (var finding in FindingKind.All.Where(f => f.AppliesTo(rig.Body) && f != FindingKind.HosesSwapped))
            {
                json.WriteStartObject();
                json.WriteString("id", finding.Id);
                json.WriteString("words", Wording.Capital(finding.Words));
                json.WriteEndObject();
            }

            json.WriteEndArray();
            if (open)
                json.WriteStrings("truth", SituationText.Describe(desk.Scenario.Situation));
        });
    }

    /// <summary>Where the sheet stands beside a rig.</summary>
    public static string Sheet(BenchSession desk)
    {
        ArgumentNullException.ThrowIfNull(desk);
        if (desk.Guide is not { } guide)
            return "{}";
        var (state, plan) = (guide.State, guide.Plan);
        var now = state.Current;
        var stage = now is null ? null : plan.Sheet.StageNamed(now.Stage);
        return JsonText.Object(json =>
        {
            json.WriteString("key", now?.Key ?? "end");
            json.WriteString("stage", stage?.Title);
            json.WriteNumber("done", state.Behind.Length);
            json.WriteNumber("all", state.Behind.Length + state.Ahead.Length);
            Stages(json, plan, state, stage);
            Taken(json, plan, state);
            if (now is null)
                return;
            var together = stage!.Kind == StageKind.Before;
            json.WriteString("title", together ? stage.Title : now.Step.Title);
            json.WriteString("why", now.Step.Why);
            json.WriteString("watch", now.Step.Watch);
            json.WriteString("caution", now.Step.Caution);
            json.WriteBoolean("confirm", guide.WaitsForAWord);
            json.WriteBoolean("turned", guide.AllTurned);
            json.WriteBoolean("odd", guide.LooksOdd);
            json.WriteStartArray("lines");
            if (together)
                foreach (var step in stage.Steps)
                    Line(json, step.Title, false, []);
            else
                foreach (var line in guide.Lines)
                    Line(json, line.Say, line.Done, line.Parts);
            json.WriteEndArray();
            if (guide.Hint is { } hint)
            {
                json.WritePropertyName("hint");
                Line(json, hint.Say, false, hint.Parts);
            }

            json.WriteStrings("astray", guide.Astray);
            if (now.Step.Capture is not null && RunViews.Capture(plan, now) is { } capture)
            {
                json.WriteStartObject("capture");
                json.WriteString("name", capture.Name);
                json.WriteString("unit", capture.Unit);
                json.WriteString("limit", capture.Limit);
                json.WriteEndObject();
            }

            json.WriteBoolean("answer", now.Step.MustAnswer);
            json.WriteStartArray("sights");
            foreach (var sight in now.Step.Sights)
            {
                json.WriteStartObject();
                json.WriteString("id", sight.Id);
                json.WriteString("seen", sight.Seen);
                json.WriteString("means", sight.Means);
                json.WriteBoolean("good", sight.Good);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteStrings("otherwise", WhatIf.At(plan.Procedure.Id, now.Step.Id).Select(o => o.Title));
        });
    }

    // What an exam's report asks for: what the sheet reads and answers, without naming when.
    private static void AskedFor(Utf8JsonWriter json, RunPlan plan)
    {
        var asked = plan
            .Sheet.Steps.SelectMany(s =>
                s.Step.Sights.Where(x => x.Good)
                    .SelectMany(x => x.Gives.Select(g => g.Item))
                    .Prepend(s.Step.Capture is { Provisional: false } c ? c.Item : null)
            )
            .OfType<TestItem>();
        json.WriteStartArray("wanted");
        foreach (
            var item in asked
                .Distinct()
                .Where(i =>
                    i.Kind is ItemKind.Differential or ItemKind.TightOrLeaks or ItemKind.TrueOrFalse
                    && i != TestItem.ReliefBuffer
                    && i != TestItem.Shutoff1
                    && i != TestItem.Shutoff2
                )
                .OrderBy(i => TestItem.All.IndexOf(i))
        )
        {
            json.WriteStartObject();
            json.WriteString("id", item.Id);
            json.WriteString("name", item.Name);
            json.WriteString(
                "kind",
                item.Kind switch
                {
                    ItemKind.Differential => "number",
                    ItemKind.TightOrLeaks => "tight",
                    _ => "yes",
                }
            );
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void Stages(Utf8JsonWriter json, RunPlan plan, RunState state, Stage? now)
    {
        json.WriteStartArray("sheet");
        foreach (var stage in plan.Sheet.WholeRun)
        {
            json.WriteStartObject();
            json.WriteString("title", stage.Title);
            json.WriteBoolean("here", stage == now);
            json.WriteStartArray("steps");
            foreach (var passed in state.Behind.Where(b => b.Planned.Stage == stage.Id))
                Step(
                    json,
                    passed.Planned.Step.Title,
                    passed.How == Passing.LeftBySight ? "seen" : "done",
                    passed.Sight?.Seen ?? (passed.By.Body as EntryBody.Taken)?.Reading.ToString()
                );
            foreach (var ahead in state.Ahead.Where(a => a.Stage == stage.Id))
                Step(json, ahead.Step.Title, ahead == state.Current ? "now" : "ahead", null);
            json.WriteEndArray();
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void Step(Utf8JsonWriter json, string title, string state, string? detail)
    {
        json.WriteStartObject();
        json.WriteString("title", title);
        json.WriteString("state", state);
        if (detail is not null)
            json.WriteString("detail", detail);
        json.WriteEndObject();
    }

    private static void Taken(Utf8JsonWriter json, RunPlan plan, RunState state)
    {
        var verdict = plan.VerdictOn(state);
        json.WriteStartArray("report");
        foreach (var item in verdict.Items)
        {
            json.WriteStartObject();
            json.WriteString("name", item.Item.Name);
            json.WriteString("result", item.Result.Id());
            json.WriteString("value", item.Value?.ToString());
            json.WriteString("margin", item.MarginText);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteString("remarks", state.Remarks);
        json.WriteString("verdict", verdict.Overall.Id());
        json.WriteString("reason", verdict.Reason);
    }

    private static void Line(Utf8JsonWriter json, string say, bool done, IEnumerable<PartId> parts)
    {
        json.WriteStartObject();
        json.WriteString("say", say);
        json.WriteBoolean("done", done);
        json.WriteStrings("parts", parts.Select(p => p.Value));
        json.WriteEndObject();
    }

    private static void Spots(Utf8JsonWriter json, string name, IEnumerable<KeyValuePair<PartId, Drawing.Spot>> spots)
    {
        json.WriteStartObject(name);
        foreach (var (id, spot) in spots.OrderBy(s => s.Key.Value, StringComparer.Ordinal))
        {
            json.WriteStartArray(id.Value);
            json.WriteNumberValue(spot.X);
            json.WriteNumberValue(spot.Y);
            json.WriteEndArray();
        }

        json.WriteEndObject();
    }
}
