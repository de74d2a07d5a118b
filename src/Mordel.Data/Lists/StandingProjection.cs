using System.Diagnostics;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Rules;
using Mordel.Core.Standing;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>
/// Counts how the tests of all the years came out, so that a chart reads a few hundred rows whatever the number of
/// tests: all of it anew, from what is kept, in one transaction. It is counted when the day begins, when somebody asks,
/// and at every look while that takes no time.
/// </summary>
public sealed class StandingProjection(Store store, ProfileList profiles, SealedRuns sealedRuns, TimeProvider clock)
{
    /// <summary>So few tests are counted anew whenever somebody looks and something has changed.</summary>
    public const int CountedAtOnce = 5_000;

    /// <summary>When it was counted last; null where it never was.</summary>
    public async Task<StandingAge?> Age(CancellationToken cancel) =>
        await store
            .Standings.AsNoTracking()
            .OrderBy(s => s.Id)
            .Select(s => new StandingAge(
                s,
                (store.Seals.Max(x => (long?)x.Number) ?? 0) - s.LastSeal,
                store.BroughtTests.Count() - s.Brought
            ))
            .FirstOrDefaultAsync(cancel);

    /// <summary>
    /// Counts anew where it is time: while it costs little, for whoever looks once something has changed; else in the
    /// background, once a day.
    /// </summary>
    /// <param name="waits">Whether somebody looks and waits.</param>
    /// <param name="cancel">Ends it; the last count stays.</param>
    /// <param name="atOnce">Up to how many tests it costs little.</param>
    public async Task<StandingAge?> Refresh(bool waits, CancellationToken cancel, int atOnce = CountedAtOnce)
    {
        var age = await Age(cancel);
        var tests = age is null
            ? await LastSeal(cancel) + await store.BroughtTests.CountAsync(cancel)
            : age.Row.Signed + age.Signed + age.Row.Brought + age.Brought;
        var old = age is null || clock.DayOf(age.Row.At) != clock.Today();
        var changed = age is not { Signed: 0, Brought: 0 };
        var isTime = tests <= atOnce ? waits && (old || changed) : !waits && old;
        if (!isTime)
            return age;
        await Count(cancel);
        return await Age(cancel);
    }

    /// <summary>Counts all of it anew.</summary>
    public async Task Count(CancellationToken cancel)
    {
        var began = Stopwatch.GetTimestamp();
        var tally = new StandingTally(clock);
        // What is sealed while it counts is new for the next count, whether it was seen or not.
        var last = await LastSeal(cancel);
        var rules = await RulesByAuthority(cancel);
        var families = await store
            .ModelBuilds.AsNoTracking()
            .Where(b => b.Family != null)
            .ToDictionaryAsync(b => (b.Make, b.Model), b => b.Family!, cancel);
        await foreach (var batch in store.Assemblies.AsNoTracking().Include(a => a.Place).Batches(cancel))
        {
            var tests = await Tests([.. batch.Select(a => a.Id)], cancel);
            foreach (var assembly in batch)
            {
                var family = families.GetValueOrDefault((assembly.Make, assembly.Model));
                var type = AssemblyTypes.Named(assembly.Type);
                var school = type is { } known ? rules.GetValueOrDefault(assembly.AuthorityId)?.For(known) : null;
                tally.Add(assembly, family, [.. tests[assembly.Id].OrderBy(t => t.At)], school);
            }
        }

        var timed = await StepTimes.Of(store, tally, cancel);
        var titles = await Titles(timed.Latest, cancel);
        var row = new StandingRow
        {
            At = clock.GetUtcNow(),
            Signed = tally.Signed,
            LastSeal = last,
            Brought = tally.Brought,
            LeftOpen = tally.LeftOpen,
            Timed = timed.Runs,
            Took = (int)Stopwatch.GetElapsedTime(began).TotalMilliseconds,
        };
        await using var writing = await store.BeginWriting(cancel);
        await store.StandingCounts.ExecuteDeleteAsync(cancel);
        await store.PartYears.ExecuteDeleteAsync(cancel);
        await store.Durations.ExecuteDeleteAsync(cancel);
        await store.DurationSteps.ExecuteDeleteAsync(cancel);
        await store.Standings.ExecuteDeleteAsync(cancel);
        Write(tally.Counts.Values);
        Write(tally.Years.Values);
        Write(tally.Durations.Values);
        Write(titles);
        Write([row]);
        await writing.CommitAsync(cancel);
    }

    private async Task<long> LastSeal(CancellationToken cancel) =>
        await store.Seals.MaxAsync(s => (long?)s.Number, cancel) ?? 0;

    private void Write<T>(IEnumerable<T> rows)
        where T : class
    {
        using var insert = new BulkInsert<T>(store);
        insert.AddAll(rows);
    }

    private async Task<Dictionary<Guid, Profile>> RulesByAuthority(CancellationToken cancel)
    {
        var inForce = (await profiles.InForce(clock.Today(), cancel)).ToDictionary(p => p.Id);
        var found = new Dictionary<Guid, Profile>();
        foreach (var authority in await store.Authorities.AsNoTracking().ToListAsync(cancel))
            if (inForce.TryGetValue(authority.ProfileId, out var profile))
                found[authority.Id] = profile;
        return found;
    }

    // What was tested of some assemblies, here and elsewhere.
    private async Task<ILookup<Guid, StandingTest>> Tests(List<Guid> assemblies, CancellationToken cancel)
    {
        var runs = await store
            .Runs.AsNoTracking()
            .Where(r => assemblies.Contains(r.AssemblyId) && r.SignedAt != null)
            .Select(r => new
            {
                r.Id,
                r.AssemblyId,
                r.SignedAt,
                r.StartedAt,
                r.Outcome,
                r.TesterId,
                r.ProcedureId,
            })
            .ToListAsync(cancel);
        var judged = (
            await (
                from r in store.Runs
                where assemblies.Contains(r.AssemblyId) && r.SignedAt != null
                join i in store.JudgedItems on r.Id equals i.RunId
                where i.Result == "pass" || i.Result == "fail"
                select new
                {
                    i.RunId,
                    i.Item,
                    i.Result,
                }
            ).ToListAsync(cancel)
        ).ToLookup(i => i.RunId, i => new StandingItem(i.Item, i.Result == "fail"));
        var brought = await store
            .BroughtTests.AsNoTracking()
            .Where(t => assemblies.Contains(t.AssemblyId))
            .ToListAsync(cancel);
        return runs.Select(r =>
                (
                    r.AssemblyId,
                    Test: new StandingTest(r.SignedAt!.Value, clock.DayOf(r.SignedAt.Value), r.Outcome ?? "")
                    {
                        Items = [.. judged[r.Id]],
                        Took = (r.SignedAt.Value - r.StartedAt).TotalSeconds,
                        TesterId = r.TesterId,
                        ProcedureId = r.ProcedureId,
                    }
                )
            )
            .Concat(
                brought.Select(t =>
                    (t.AssemblyId, Test: new StandingTest(clock.StartOf(t.Day), t.Day, t.Outcome) { Said = t.Said() })
                )
            )
            .ToLookup(t => t.AssemblyId, t => t.Test);
    }

    // The steps that were timed, as the sheet of the latest test by each procedure has them.
    private async Task<IReadOnlyCollection<DurationStepRow>> Titles(
        IReadOnlyDictionary<string, Guid> latest,
        CancellationToken cancel
    )
    {
        var rows = new List<DurationStepRow>();
        await foreach (var run in sealedRuns.Of([.. latest.Values], cancel))
        {
            var sheet = run.Setup.Sheet;
            rows.AddRange(
                sheet.Steps.Select(
                    (s, i) =>
                        new DurationStepRow
                        {
                            ProcedureId = sheet.Procedure.Id,
                            Step = s.Step.Id,
                            Order = i,
                            Title = s.Step.Title,
                        }
                )
            );
        }

        return [.. rows.DistinctBy(r => (r.ProcedureId, r.Step))];
    }
}

/// <summary>How old the count is.</summary>
/// <param name="Row">When it was made, and of what.</param>
/// <param name="Signed">How many seals were made since: tests and amendments.</param>
/// <param name="Brought">How many were brought in since.</param>
public sealed record StandingAge(StandingRow Row, long Signed, int Brought);
