using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Drawing;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Views;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Files;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Field;

/// <summary>
/// Puts together what a tester's device takes along: the stops of today and the days ahead, and nothing of anybody
/// else's.
/// </summary>
public sealed class RoundAboard(
    Store store,
    StopLines lines,
    TodayList today,
    FindRun runs,
    MakeSetup make,
    RoundPasses passes,
    ModelBuilds builds,
    PartsList parts,
    RepairFindings findings,
    DiagnosisList diagnoses,
    AtlasShelf shelf,
    Installation installation,
    TimeProvider clock
)
{
    /// <summary>How many days are taken along, today among them; and at most how many stops.</summary>
    public const int Days = 4,
        MostStops = 60;

    /// <summary>The round of a tester.</summary>
    public async Task<Aboard> For(Guid testerId, string name, CancellationToken cancel)
    {
        var first = clock.Today();
        var last = first.AddDays(Days - 1);
        var day = await today.For(testerId, first, cancel);
        // The stops of today are there already.
        var ahead = await lines.Of(
            store.Stops.Where(s => s.TesterId == testerId && s.Day > first && s.Day <= last),
            cancel
        );
        var kits = await KitsInHand.Between(store, [testerId], first, last, cancel);
        var learned = new Dictionary<string, IReadOnlyList<RepairFinding>>();
        var stops = new List<AboardStop>();
        foreach (var line in day.Stops.Concat(ahead.OrderBy(l => l.Stop.Day).ThenBy(l => l.Stop.Order)).Take(MostStops))
            stops.Add(await Stop(line, testerId, kits.Best(testerId, line.Stop.Day), learned, cancel));
        return new(clock.Now(), testerId, name, day.Warnings, stops);
    }

    private async Task<AboardStop> Stop(
        StopLine line,
        Guid testerId,
        KitRow? kit,
        Dictionary<string, IReadOnlyList<RepairFinding>> learned,
        CancellationToken cancel
    )
    {
        var (stop, assembly, place) = (line.Stop, line.Assembly, line.Place);
        var facts = SetupWriter.Facts(assembly);
        var aboard = new AboardStop
        {
            Id = stop.Id,
            Day = stop.Day,
            Order = stop.Order,
            At = StopWords.Clock(stop.From),
            Window = $"{StopWords.Clock(stop.WindowFrom)}–{StopWords.Clock(stop.WindowUntil)}",
            State = line.State switch
            {
                StopState.Signed => "signed",
                StopState.Running => "running",
                _ => "open",
            },
            Outcome = line.Outcome,
            Run = line.RunId,
            Place = place.Name,
            Address = $"{place.Address}, {place.District}",
            What = $"{assembly.Type} {assembly.Size} · {assembly.Serves}{(stop.IsSeasonal ? " · seasonal visit" : "")}",
            Assembly = assembly.Id,
            Tag = assembly.Tag,
            Facts = [.. StopWords.Facts(line)],
            Mind = [.. StopWords.Mind(line)],
            Drawing = RigDrawing.InService(
                facts.Parts,
                facts.Flow,
                isTouchable: false,
                $"{facts.Type.Name}, water running as the assembly lies"
            ),
            Colours = KitsAndPeopleList.Hoses(kit?.HoseColours),
            Repair = await Repair(assembly, facts.Parts, testerId, cancel),
        };
        return line.State == StopState.Signed
            ? aboard
            : await WithBoard(
                line.RunId is { } run
                    ? await Running(aboard, run, testerId, cancel)
                    : await Planned(aboard, line, testerId, kit, cancel),
                facts,
                learned,
                cancel
            );
    }

    private async Task<AboardStop> Running(AboardStop aboard, Guid id, Guid testerId, CancellationToken cancel)
    {
        if (await runs.For(id, new(testerId, SeesAll: false), cancel) is not { IsSealed: false } run)
            return aboard;
        return WithSetup(aboard, run.Setup) with
        {
            Log = [.. run.Log.Entries.Select(EntryFormat.Write)],
            Previous = await Before(aboard.Assembly, id, cancel),
        };
    }

    private async Task<AboardStop> Planned(
        AboardStop aboard,
        StopLine line,
        Guid testerId,
        KitRow? kit,
        CancellationToken cancel
    )
    {
        if (kit is null)
            return aboard with { WhyNot = "No kit is assigned to you on that day. Ask the office to assign one." };
        var (stop, id) = (line.Stop, RunOf(line.Stop.Id));
        var register = (await SetupWriter.Of(store, stop.AssemblyId, kit.Id, testerId, cancel))!;
        var made = await make.For(
            id,
            stop,
            register,
            line.Assembly.Tag,
            clock.StartOf(stop.Day).ToMillisecond(),
            stop.Day,
            cancel
        );
        if (made.Value is not { } setup)
            return aboard with { WhyNot = made.Refusal };
        return WithSetup(aboard, setup) with
        {
            WhyNot = SetupWriter.Right(register, stop.Day).Why,
            Previous = await Before(stop.AssemblyId, id, cancel),
        };
    }

    // What a test is begun with, and the pass for it: this setup and no other, by this tester.
    private AboardStop WithSetup(AboardStop aboard, RunSetup setup)
    {
        var text = RunSetupFormat.WriteComplete(setup);
        return aboard with
        {
            Run = setup.Run,
            Setup = text,
            Bring =
            [
                $"{setup.Kit.Kit.Name} kit {setup.Kit.Serial}",
                .. TodayList.BringTo(setup.Sheet.Procedure.Bring, setup.IsSeasonal),
            ],
            Pass = passes.Give(new(setup.Run, aboard.Id, setup.Tester.Id, ContentHash.Compute(text), clock.Now())),
        };
    }

    /// <summary>The id of the run that is begun at a stop without a signal: the same on every device.</summary>
    public static Guid RunOf(Guid stop) =>
        new(SHA256.HashData(Encoding.UTF8.GetBytes($"run of stop {stop:D}")).AsSpan(0, 16));

    private async Task<string> Before(Guid assemblyId, Guid runId, CancellationToken cancel) =>
        await runs.Before(assemblyId, runId, cancel) is { } verdict ? VerdictFormat.Write(verdict) : "";

    private async Task<AboardStop> WithBoard(
        AboardStop aboard,
        AssemblyFacts facts,
        Dictionary<string, IReadOnlyList<RepairFinding>> learned,
        CancellationToken cancel
    )
    {
        Atlas atlas;
        try
        {
            atlas = shelf.Of(facts.Parts);
        }
        catch (FormatException)
        {
            return aboard;
        }

        var file = Atlas.FileOf(facts.Parts);
        if (!learned.TryGetValue(file, out var found))
            learned[file] = found = await findings.Of(facts.Parts, cancel);
        var rates = Learning.From(facts.Parts, found, RepairFindings.Family(facts.Make, facts.Model)).Rates;
        var evidence = new Evidence(facts.Parts, [])
        {
            By = Doer.Repairer,
            Springs = await diagnoses.Springs(facts.Id, clock.GetUtcNow(), atlas, cancel),
        };
        return aboard with { Board = BoardFormat.WriteLog(evidence, rates, LookOrder.Best), Atlas = file };
    }

    private async Task<RepairPlaceFile> Repair(
        AssemblyRow assembly,
        AssemblyBody body,
        Guid testerId,
        CancellationToken cancel
    ) =>
        new(
            [.. BenchSheets.For(body, await builds.Of(assembly, cancel)).Select(s => s.Id)],
            installation.TurnedDiscHolds,
            PlaceFacts.NameIn(assembly.Place!.Contact),
            assembly.Place.Owner!.Name,
            $"{assembly.Make} {assembly.Model}, {assembly.Size}",
            [
                .. (await parts.Fitting(assembly, testerId, cancel)).Select(p => new SpareView(
                    p.Item.Id,
                    p.Item.Name,
                    p.Item.Part ?? "",
                    p.Van,
                    p.Store
                )),
            ]
        );
}
