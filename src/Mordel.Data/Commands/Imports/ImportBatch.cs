using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>A line of a file beside what the register has of it.</summary>
/// <param name="Line">The line.</param>
/// <param name="State">What becomes of it.</param>
/// <param name="Remarks">What a person should see of it.</param>
/// <param name="Existing">The assembly it is about, or is like; null where there is none.</param>
/// <param name="Changes">Values that would be otherwise: field, as it is, as the line has it.</param>
public sealed record JudgedLine(
    ImportLine Line,
    LineState State,
    ImmutableArray<LineRemark> Remarks,
    AssemblyRow? Existing,
    ImmutableArray<(RegisterField Field, string From, string To)> Changes
)
{
    /// <summary>Whether it brings a test that is not there.</summary>
    public bool BringsTest { get; init; }

    /// <summary>Whether it brings a day of the authority's list that is not there.</summary>
    public bool BringsDue { get; init; }

    /// <summary>Events that are not there.</summary>
    public ImmutableArray<(string Kind, DateOnly Day)> BringsEvents { get; init; } = [];
}

/// <summary>
/// Some lines of a file with what the register has of them, loaded at once. Judges each: new, changed, same, doubtful
/// or wrong.
/// </summary>
public sealed class ImportBatch
{
    private readonly ILookup<string, AssemblyRow> byKey;
    private readonly Dictionary<string, AssemblyRow> byTag;
    private readonly ILookup<Guid, (DateOnly Day, string Outcome, string Source)> tests;
    private readonly bool isOurs;
    private readonly HashSet<(Guid Assembly, DateOnly Day)> sealedOn;
    private readonly ILookup<Guid, AssemblyEventRow> events;

    private ImportBatch(
        IReadOnlyCollection<AssemblyRow> assemblies,
        IEnumerable<(Guid Assembly, DateOnly Day, string Outcome, string Source)> tests,
        IEnumerable<(Guid, DateOnly)> sealedOn,
        IEnumerable<AssemblyEventRow> events,
        bool isOurs
    )
    {
        this.isOurs = isOurs;
        byKey = assemblies.Where(a => a.ReplacedOn is null).ToLookup(a => a.SerialKey);
        byTag = assemblies.ToDictionary(a => a.Tag, StringComparer.Ordinal);
        this.tests = tests.ToLookup(t => t.Assembly, t => (t.Day, t.Outcome, t.Source));
        this.sealedOn = [.. sealedOn];
        this.events = events.ToLookup(e => e.AssemblyId);
    }

    /// <summary>Loads what the register has of some lines; tracked.</summary>
    /// <param name="store">The store.</param>
    /// <param name="clock">Says the day of a seal.</param>
    /// <param name="lines">The lines.</param>
    /// <param name="isOurs">Whether the file is one of our own: then tags say what is what.</param>
    /// <param name="cancel">Ends it.</param>
    public static async Task<ImportBatch> Of(
        Store store,
        TimeProvider clock,
        IReadOnlyCollection<ImportLine> lines,
        bool isOurs,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(store);
        var keys = lines
            .Select(l => l[AssemblyFields.Serial])
            .OfType<string>()
            .Select(SerialKeys.Of)
            .Distinct()
            .ToList();
        var tags = lines.Select(l => l[AssemblyFields.Tag]).OfType<string>().Distinct().ToList();
        var assemblies = await store
            .Assemblies.Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .Include(a => a.Authority)
            .Where(a => keys.Contains(a.SerialKey) || tags.Contains(a.Tag))
            .ToListAsync(cancel);
        var ids = assemblies.Select(a => a.Id).ToList();
        var tests = await store
            .BroughtTests.Where(t => ids.Contains(t.AssemblyId))
            .Select(t => new
            {
                t.AssemblyId,
                t.Day,
                t.Outcome,
                t.Source,
            })
            .ToListAsync(cancel);
        var signed = await store
            .Runs.Where(r => ids.Contains(r.AssemblyId) && r.SignedAt != null)
            .Select(r => new { r.AssemblyId, r.SignedAt })
            .ToListAsync(cancel);
        var events = await store
            .AssemblyEvents.AsNoTracking()
            .Where(e => ids.Contains(e.AssemblyId) && e.TakenBackAt == null)
            .ToListAsync(cancel);
        return new(
            assemblies,
            tests.Select(t => (t.AssemblyId, t.Day, t.Outcome, t.Source)),
            signed.Select(s => (s.AssemblyId, clock.DayOf(s.SignedAt!.Value))),
            events,
            isOurs
        );
    }

    /// <summary>The assembly on which a tag is; null where it is on none.</summary>
    public AssemblyRow? Tagged(string tag) => byTag.GetValueOrDefault(tag);

    /// <summary>Judges a line.</summary>
    /// <param name="line">The line.</param>
    /// <param name="seen">The lines before it.</param>
    /// <param name="decision">What a person said of it; null where nobody has.</param>
    public JudgedLine Judge(ImportLine line, SeenLines seen, string? decision = null)
    {
        ArgumentNullException.ThrowIfNull(line);
        ArgumentNullException.ThrowIfNull(seen);
        if (!line.Wrong.IsEmpty)
            return new(line, LineState.Wrong, line.Wrong, null, []);
        var serial = line[AssemblyFields.Serial]!;
        var key = SerialKeys.Of(serial);
        var (existing, doubt) = Find(line, serial, key);
        if (decision == LineDecisions.New)
            (existing, doubt) = (null, null);
        else if (decision == LineDecisions.Same)
            doubt = existing is null ? doubt : null;
        var judged = existing is null ? New(line) : Beside(line, existing);
        if (judged.State == LineState.Wrong)
            return judged;
        if (judged.BringsTest && seen.HasTest(line))
            judged = judged with { BringsTest = false };
        var before = isOurs ? null : seen.LineOf(line);
        if (doubt is null && decision is null && before is not null && line[TestFields.TestDay] is null)
            doubt = new("", $"The same serial stands in line {before}.");
        // Another line of an assembly that is new brings its test, or nothing.
        if (before is not null && existing is null && decision is null && !judged.BringsTest)
            judged = judged with { State = LineState.Same };
        return doubt is null
            ? judged
            : judged with
            {
                State = LineState.Doubtful,
                Remarks = [doubt, .. judged.Remarks],
            };
    }

    private (AssemblyRow? Existing, LineRemark? Doubt) Find(ImportLine line, string serial, string key)
    {
        if (line[AssemblyFields.Tag] is { } own && Tagged(own) is { } ours && (isOurs || ours.SerialKey == key))
            return (ours, null);
        if (isOurs)
            return (null, null);
        var alike = byKey[key].ToList();
        var exact = alike.Where(a => a.Serial.Equals(serial, StringComparison.OrdinalIgnoreCase)).ToList();
        if (exact.Count > 1)
            return (exact[0], new("", $"The register has this serial {exact.Count} times: {Tags(exact)}."));
        if (exact is [var only])
            return only.Type == line[AssemblyFields.Type]
                ? (only, null)
                : (
                    only,
                    new(
                        "",
                        $"The register has this serial as {only.Tag}, a {only.Type}; the line says "
                            + $"{line[AssemblyFields.Type]}."
                    )
                );
        if (alike.Count > 0)
            return (alike[0], new("", $"{Tags(alike)} in the register has a serial that is alike: {alike[0].Serial}."));
        return line[AssemblyFields.Tag] is { } tag && Tagged(tag) is { } tagged
            ? (
                tagged,
                new("", $"Tag {tag} is on another serial, {tagged.Serial}: was it replaced, or is one of them wrong?")
            )
            : (null, null);
    }

    private static string Tags(IEnumerable<AssemblyRow> assemblies) =>
        string.Join(", ", assemblies.Take(3).Select(a => a.Tag));

    private static JudgedLine New(ImportLine line)
    {
        var remarks = ImmutableArray.CreateBuilder<LineRemark>();
        if (NewRows.WhyNot(line) is { } why)
            return new(line, LineState.Wrong, [why], null, []);
        if (line[AssemblyFields.Hazard] is null)
            remarks.Add(new("", $"No hazard is said: taken as {NewRows.HazardOf(line)}."));
        if (line[LifeFields.Installed] is null && line[TestFields.TestDay] is null)
            remarks.Add(new("", "It is not said when it was installed: counted from today."));
        Outcome(line, remarks);
        return new(line, LineState.New, remarks.ToImmutable(), null, [])
        {
            BringsTest = line[TestFields.TestDay] is not null,
            BringsDue = line[LifeFields.Announced] is not null,
            BringsEvents = Events(line),
        };
    }

    private static void Outcome(ImportLine line, ImmutableArray<LineRemark>.Builder remarks)
    {
        if (line[TestFields.TestDay] is not null && line[TestFields.Outcome] is null)
            remarks.Add(new("", "The outcome of the test is not said: it does not count as passed."));
    }

    private static ImmutableArray<(string Kind, DateOnly Day)> Events(ImportLine line) =>
        line[LifeFields.Events] is { } text ? RecordedEvents.Read(text)!.Value : [];

    private JudgedLine Beside(ImportLine line, AssemblyRow existing)
    {
        var changes = ImmutableArray.CreateBuilder<(RegisterField, string, string)>();
        foreach (var field in RegisterFields.All)
            if (
                line[field] is { } value
                && RegisterValues.Of(existing, field) is { } before
                && !(
                    field == PlaceFields.Rules
                    && existing.Authority?.Name == (line[PlaceFields.Authority] ?? existing.Authority?.Name)
                )
                && before != value
            )
                changes.Add((field, before, value));
        if (NewRows.WhyNot(line, existing) is { } why)
            return new(line, LineState.Wrong, [why], existing, []);
        var remarks = ImmutableArray.CreateBuilder<LineRemark>();
        var day = Days.Read(line[TestFields.TestDay]);
        var test =
            day is { } tested
            && !sealedOn.Contains((existing.Id, tested))
            && !tests[existing.Id]
                .Any(t =>
                    t.Day == tested
                    && t.Outcome == (line[TestFields.Outcome] ?? "")
                    && t.Source == (line[TestFields.Source] ?? t.Source)
                );
        if (test)
            Outcome(line, remarks);
        var due = Days.Read(line[LifeFields.Announced]) is { } said && !events[existing.Id].Any(e => e.Due == said);
        var happened = Events(line)
            .Where(e => !events[existing.Id].Any(x => x.Kind == e.Kind && x.Day == e.Day))
            .ToImmutableArray();
        var state =
            changes.Count > 0 || due || happened.Length > 0 ? LineState.Changed
            : test ? LineState.New
            : LineState.Same;
        return new(line, state, remarks.ToImmutable(), existing, changes.ToImmutable())
        {
            BringsTest = test,
            BringsDue = due,
            BringsEvents = happened,
        };
    }
}
