using System.Collections.Immutable;
using System.Globalization;
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

/// <summary>A line of facts: what it is, and what it says.</summary>
public sealed record AboardFact(string Name, string Says);


/// <summary>A stop with all that a test, a repair and a diagnosis at it need.</summary>
public sealed record AboardStop
{
    public required Guid Id { get; init; }
    public required DateOnly Day { get; init; }
    public required int Order { get; init; }
    public required string At { get; init; }
    public required string Window { get; init; }
    public required string State { get; init; }

    /// <summary>The run: the one that is open, or the id that one begun on a device gets; null once it is signed.</summary>
    public Guid? Run { get; init; }
    public string? Outcome { get; init; }
    public required string Place { get; init; }
    public required string Address { get; init; }
    public required string What { get; init; }
    public required Guid Assembly { get; init; }
    public required string Tag { get; init; }
    public required IReadOnlyList<AboardFact> Facts { get; init; }
    public required IReadOnlyList<string> Mind { get; init; }
    public required string Drawing { get; init; }
    public required IReadOnlyList<string> Colours { get; init; }

    /// <summary>Why a test could not be begun, or not be signed, as things stand; null where nothing is known.</summary>
    public string? WhyNot { get; init; }

    /// <summary><c>mordel.run-setup/1</c> in its complete form; null where no test can be made.</summary>
    public string? Setup { get; init; }

    /// <summary>Whether the run is open on the server already.</summary>
    public bool IsBegun => State == "running";

    /// <summary>The pass to begin it with, and the test after a repair.</summary>
    public string? Pass { get; init; }
    public IReadOnlyList<string> Log { get; init; } = [];

    /// <summary>The verdict on the test before, as <c>mordel.verdict/1</c>; empty where there is none.</summary>
    public string Previous { get; init; } = "";

    /// <summary>What a board begins with; null where there is no atlas.</summary>
    public string? Board { get; init; }
    public string? Atlas { get; init; }
    public required RepairPlaceFile Repair { get; init; }
}

/// <summary>What a tester takes along.</summary>
public sealed record Aboard(
    DateTimeOffset MadeAt,
    Guid Tester,
    string Name,
    string Kit,
    IReadOnlyList<string> Bring,
    IReadOnlyList<string> Warnings,
    IReadOnlyList<AboardStop> Stops
);

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
        var all = await lines.Of(
            store.Stops.Where(s => s.TesterId == testerId && s.Day >= first && s.Day <= last),
            cancel
        );
        var kits = await KitsInHand.Between(store, [testerId], first, last, cancel);
        var learned = new Dictionary<string, IReadOnlyList<RepairFinding>>();
        var stops = new List<AboardStop>();
        foreach (var line in all.OrderBy(l => l.Stop.Day).ThenBy(l => l.Stop.Order).Take(MostStops))
            stops.Add(await Stop(line, testerId, kits.Best(testerId, line.Stop.Day), learned, cancel));
        return new(
            clock.Now(),
            testerId,
            name,
            day.Kit is { } kit ? $"{kit.Kind} kit {kit.Serial}" : "",
            day.Bring,
            day.Warnings,
            stops
        );
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
            At = Clock(stop.From),
            Window = $"{Clock(stop.WindowFrom)}–{Clock(stop.WindowUntil)}",
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
            What =
                $"{assembly.Type} {assembly.Size} · {assembly.Serves}{(stop.IsSeasonal ? " · seasonal visit" : "")}",
            Assembly = assembly.Id,
            Tag = assembly.Tag,
            Facts = [.. Facts(line)],
            Mind = [.. Mind(line)],
            Drawing = Draw(facts),
            Colours = kit?.HoseColours?.Split(' ') is { Length: 3 } colours ? colours : ["", "", ""],
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
        var text = RunSetupFormat.WriteComplete(run.Setup);
        return aboard with
        {
            Setup = text,
            Pass = passes.Give(new(id, aboard.Id, testerId, ContentHash.Compute(text), clock.Now())),
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
        var text = RunSetupFormat.WriteComplete(setup);
        return aboard with
        {
            Run = id,
            Setup = text,
            Pass = passes.Give(new(id, stop.Id, testerId, ContentHash.Compute(text), clock.Now())),
            WhyNot = SetupWriter.Right(register, stop.Day).Why,
            Previous = await Before(stop.AssemblyId, id, cancel),
        };
    }

    /// <summary>The id of the run that is begun at a stop without a signal: the same on every device.</summary>
    public static Guid RunOf(Guid stop) =>
        new(
            SHA256.HashData(
                Encoding.UTF8.GetBytes($"run of stop {stop:D}")
            ).AsSpan(0, 16)
        );

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
            assembly.Place!.Contact.Split(',')[0].Trim(),
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

    private static IEnumerable<AboardFact> Facts(StopLine line)
    {
        var (stop, assembly, place) = (line.Stop, line.Assembly, line.Place);
        yield return new(
            "Water may be off",
            $"{Clock(stop.WindowFrom)}–{Clock(stop.WindowUntil)}, about {stop.Minutes} min"
        );
        yield return new("Assembly", $"{assembly.Type} · {assembly.Size} · {assembly.Make} {assembly.Model}");
        yield return new("Serial", $"{assembly.Serial} · tag {assembly.Tag}");
        yield return new("Feeds", $"{assembly.Serves}, {assembly.Hazard} hazard, {assembly.Protection}");
        yield return new("Stands", $"{assembly.Location}. {assembly.HowToFind}".Trim());
        yield return new("Way in", place.Access);
        yield return new("Ask for", $"{place.Contact}. Owner: {place.Owner!.Name}");
        if (assembly.LastTestOn is { } last)
            yield return new("Last test", last.ToString("d MMM yyyy", CultureInfo.InvariantCulture));
    }

    private static IEnumerable<string> Mind(StopLine line)
    {
        if (line.Stop.IsSeasonal)
            yield return "Seasonal visit: most likely found off. Walk the line, charge it, test it, leave it as agreed.";
        if (line.Stop.Special is { Length: > 0 } special)
            yield return special;
        if (line.Consent is { } said && ConsentList.Holds(said, line.Stop))
            yield return said.Yes
                ? $"Agreed by {said.Name} for {Clock(said.From)}–{Clock(said.Until)}. {said.Note}".Trim()
                : $"{said.Name} asked for {Clock(said.From)}–{Clock(said.Until)}; not said yes yet.";
        else if (line.Consent is { Yes: false } other)
            yield return $"{other.Name} asks for another time. {other.Note}".Trim();
    }

    private static string Clock(TimeOnly time) => time.ToString("HH:mm", CultureInfo.InvariantCulture);

    private static string Draw(AssemblyFacts assembly)
    {
        var state = new Rig(assembly.Parts, Kit.FiveValve).InService();
        return RigDrawing.Draw(
            new(
                state,
                WaterSketch.Nothing.After(state),
                assembly.Flow,
                [],
                ShowKit: false,
                Touchable: false,
                $"{assembly.Type.Name}, water running as the assembly lies"
            )
        );
    }
}
