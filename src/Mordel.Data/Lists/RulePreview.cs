using Microsoft.EntityFrameworkCore;
using Mordel.Core.Dues;
using Mordel.Core.Reports;
using Mordel.Core.Rules;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>An assembly whose day moves.</summary>
/// <param name="Assembly">With its place.</param>
/// <param name="Now">The day that it owes a test by as things stand; null for none.</param>
/// <param name="Then">The day that it would; null for none.</param>
/// <param name="Why">Why then.</param>
public sealed record MovedDay(AssemblyRow Assembly, DateOnly? Now, DateOnly? Then, string Why);

/// <summary>A signed test whose verdict would read otherwise; it is told, never judged again.</summary>
public sealed record OtherVerdict(
    Guid Run,
    string Number,
    DateTimeOffset SignedAt,
    Overall Now,
    Overall Then,
    string Why
);

/// <summary>What rules would change on the day on which they come into force, if nothing else happened until
/// then.</summary>
public sealed record RuleEffect
{
    /// <summary>The authorities that work by them.</summary>
    public required IReadOnlyList<string> Authorities { get; init; }

    /// <summary>The day on which they come into force.</summary>
    public required DateOnly Day { get; init; }

    /// <summary>How many assemblies those authorities have.</summary>
    public int Assemblies { get; set; }

    /// <summary>How many would be due on that day that are not as things stand, and the other way round.</summary>
    public int BecomeDue { get; set; }
    public int CeaseToBeDue { get; set; }

    /// <summary>How many owe their test earlier, and how many later.</summary>
    public int Earlier { get; set; }
    public int Later { get; set; }

    /// <summary>The first of those whose day moves.</summary>
    public List<MovedDay> Moved { get; } = [];

    /// <summary>How many tests of this year were weighed.</summary>
    public int Weighed { get; set; }

    /// <summary>How many there are that were not: too many to be weighed while somebody waits.</summary>
    public int NotWeighed { get; set; }

    /// <summary>How many were made by a school that these rules do not have.</summary>
    public int OtherSchool { get; set; }

    /// <summary>Those whose verdict would read otherwise.</summary>
    public List<OtherVerdict> Otherwise { get; } = [];
}

/// <summary>Works out what a change of rules would do, without doing it.</summary>
public sealed class RulePreview(
    Store store,
    ProfileList profiles,
    DueProjection dues,
    SealedRuns made,
    TimeProvider clock
)
{
    /// <summary>The most that is shown of each list.</summary>
    public const int Shown = 40;

    /// <summary>The most tests that are weighed.</summary>
    public const int MostTests = 2000;

    /// <summary>What a version would change.</summary>
    /// <param name="wished">The version, as it would be kept.</param>
    /// <param name="from">The profile that it is made from.</param>
    /// <param name="each">What is told of each assembly whose day moves; null where nobody asks.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<RuleEffect> Of(
        Profile wished,
        string from,
        Action<Guid, DateOnly?>? each,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(wished);
        var works = await store.Authorities.AsNoTracking().Where(a => a.ProfileId == from).ToListAsync(cancel);
        var now = (await profiles.All(cancel)).Where(p => p.Id == from).ToList();
        // A copy stands alone; a next version behind those before it.
        Profile[] then = wished.Id == from ? [.. now, wished] : [wished];
        var effect = new RuleEffect
        {
            Authorities = [.. works.Select(a => a.Name).Order(StringComparer.Ordinal)],
            Day = wished.InForceFrom < clock.Today() ? clock.Today() : wished.InForceFrom,
        };
        var ids = works.Select(a => a.Id).ToList();
        await Days(effect, ids, now, then, each, cancel);
        await Verdicts(effect, wished, from, cancel);
        return effect;
    }

    private async Task Days(
        RuleEffect effect,
        List<Guid> authorities,
        IReadOnlyCollection<Profile> now,
        IReadOnlyCollection<Profile> then,
        Action<Guid, DateOnly?>? each,
        CancellationToken cancel
    )
    {
        var all = store.Assemblies.AsNoTracking().Include(a => a.Place).Where(a => authorities.Contains(a.AuthorityId));
        await foreach (var batch in all.Batches(cancel))
        {
            var past = await dues.Past(batch, cancel);
            foreach (var assembly in batch)
            {
                List<DueEvent> events = [.. past[assembly.Id]];
                effect.Assemblies++;
                Move(
                    effect,
                    assembly,
                    DueProjection.Owed(assembly, events, now, effect.Day)?.Day,
                    DueProjection.Owed(assembly, events, then, effect.Day),
                    each
                );
            }
        }

        effect.Moved.Sort((a, b) => Nullable.Compare(a.Then, b.Then));
        if (effect.Moved.Count > Shown)
            effect.Moved.RemoveRange(Shown, effect.Moved.Count - Shown);
    }

    private static void Move(
        RuleEffect effect,
        AssemblyRow assembly,
        DateOnly? was,
        Obligation? owed,
        Action<Guid, DateOnly?>? each
    )
    {
        var day = owed?.Day;
        each?.Invoke(assembly.Id, day);
        if (day == was)
            return;
        effect.Moved.Add(new(assembly, was, day, owed?.Why ?? "Nothing would be owed."));
        if (day is { } d && (was is null || d < was))
            effect.Earlier++;
        else
            effect.Later++;
        var (dueNow, dueThen) = (was <= effect.Day, day <= effect.Day);
        if (dueThen && !dueNow)
            effect.BecomeDue++;
        else if (dueNow && !dueThen)
            effect.CeaseToBeDue++;
    }

    private async Task Verdicts(RuleEffect effect, Profile wished, string from, CancellationToken cancel)
    {
        var since = clock.StartOf(new(clock.Today().Year, 1, 1));
        var runs = store.Runs.AsNoTracking().Where(r => r.ProfileId == from && r.SignedAt >= since);
        var some = await runs.OrderByDescending(r => r.SignedAt).Take(MostTests).Select(r => r.Id).ToListAsync(cancel);
        effect.NotWeighed = await runs.CountAsync(cancel) - some.Count;
        await foreach (var run in made.Of(some, cancel))
            Weigh(effect, run, wished);
    }

    private static void Weigh(RuleEffect effect, SealedRun run, Profile wished)
    {
        effect.Weighed++;
        if (wished.For(run.Setup.Assembly.Type) is not { } rules || rules.ProcedureId != run.Setup.Plan.Procedure.Id)
        {
            effect.OtherSchool++;
            return;
        }

        var (now, then) = run.JudgeBeside(
            (subject, results) => (subject with { School = rules, Profile = wished }, results)
        );
        if (now.Overall != then.Overall)
            effect.Otherwise.Add(
                new(run.Run, run.Report.Number, run.Signing.At, now.Overall, then.Overall, then.Reason)
            );
    }
}
