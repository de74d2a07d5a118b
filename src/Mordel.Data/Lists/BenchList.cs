using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>A line of somebody's results at the bench.</summary>
public sealed record AttemptLine(
    Guid Id,
    Guid AccountId,
    Guid? AssignmentId,
    string Who,
    string Title,
    string ProcedureId,
    DateTimeOffset HandedInAt,
    int Seconds,
    int Percent,
    bool Passed
);

/// <summary>The best that a learner has done at an assignment.</summary>
public sealed record BestAttempt(Guid Id, int Percent, bool Passed);

/// <summary>A class, seen at a glance: who did what how well.</summary>
/// <param name="Class">With its assignments, the newest first.</param>
/// <param name="Learners">Who is in it, by name.</param>
/// <param name="Bests">The best attempt of each learner at each assignment, by both.</param>
/// <param name="Newest">What its learners have handed in last, the newest first; not all of it.</param>
/// <param name="Lost">The marks that were lost most often: title, how many learners lost it at least once.</param>
public sealed record ClassGlance(
    ClassRow Class,
    IReadOnlyList<(Guid Id, string Name)> Learners,
    IReadOnlyDictionary<(Guid Learner, Guid? Assignment), BestAttempt> Bests,
    IReadOnlyList<AttemptLine> Newest,
    IReadOnlyList<(string Title, int Learners)> Lost
)
{
    /// <summary>The best attempt of a learner at an assignment; null while there is none.</summary>
    public BestAttempt? Best(Guid learner, Guid assignment) => Bests.GetValueOrDefault((learner, assignment));
}

/// <summary>Lists what the bench's room shows: assignments, results, classes.</summary>
public sealed class BenchList(Store store)
{
    /// <summary>The most attempts, or assignments, that are listed.</summary>
    public const int Most = 100;

    /// <summary>The assignments of a learner's classes, the newest first.</summary>
    public async Task<IReadOnlyList<AssignmentRow>> For(Guid accountId, CancellationToken cancel) =>
        await store
            .Assignments.AsNoTracking()
            .Include(a => a.Class)
            .Where(a => a.Class!.Members.Any(m => m.AccountId == accountId))
            .OrderByDescending(a => a.SetAt)
            .Take(Most)
            .ToListAsync(cancel);

    /// <summary>An assignment that is the asker's, as learner or instructor; null otherwise.</summary>
    public async Task<AssignmentRow?> Assigned(Guid id, Asker asker, CancellationToken cancel) =>
        await store
            .Assignments.AsNoTracking()
            .FirstOrDefaultAsync(
                a =>
                    a.Id == id
                    && (
                        asker.SeesAll
                        || a.Class!.InstructorId == asker.Id
                        || a.Class.Members.Any(m => m.AccountId == asker.Id)
                    ),
                cancel
            );

    /// <summary>What somebody has handed in, the newest first.</summary>
    public async Task<IReadOnlyList<AttemptLine>> By(Guid accountId, CancellationToken cancel) =>
        await Lines(store.Attempts.Where(a => a.AccountId == accountId)).Take(Most).ToListAsync(cancel);

    /// <summary>One attempt, for its learner, the instructor of a class of theirs, and those at the desk.</summary>
    public async Task<AttemptRow?> Attempt(Guid id, Asker asker, CancellationToken cancel) =>
        await store
            .Attempts.AsNoTracking()
            .Include(a => a.Account)
            .Include(a => a.Assignment)
            .FirstOrDefaultAsync(
                a =>
                    a.Id == id
                    && (
                        asker.SeesAll
                        || a.AccountId == asker.Id
                        || store.Classes.Any(c =>
                            c.InstructorId == asker.Id && c.Members.Any(m => m.AccountId == a.AccountId)
                        )
                    ),
                cancel
            );

    /// <summary>The classes that somebody teaches; at the desk all.</summary>
    public async Task<IReadOnlyList<ClassRow>> Taught(Asker asker, CancellationToken cancel) =>
        await store
            .Classes.AsNoTracking()
            .Include(c => c.Members)
            .Include(c => c.Instructor)
            .Where(c => asker.SeesAll || c.InstructorId == asker.Id)
            .OrderBy(c => c.Name)
            .ToListAsync(cancel);

    /// <summary>A class at a glance; null when it is not the asker's to see.</summary>
    public async Task<ClassGlance?> Glance(Guid id, Asker asker, CancellationToken cancel)
    {
        var found = await store
            .Classes.AsNoTracking()
            .AsSplitQuery()
            .Include(c => c.Instructor)
            .Include(c => c.Assignments.OrderByDescending(a => a.SetAt))
            .FirstOrDefaultAsync(c => c.Id == id && (asker.SeesAll || c.InstructorId == asker.Id), cancel);
        if (found is null)
            return null;
        var learners = await store
            .Classes.Where(c => c.Id == id)
            .SelectMany(c => c.Members)
            .OrderBy(m => m.Account!.FullName)
            .Select(m => new ValueTuple<Guid, string>(m.AccountId, m.Account!.FullName))
            .ToListAsync(cancel);
        var handed = store.Attempts.Where(a => a.Assignment!.ClassId == id);
        // Once through all of them, for what stands on the page of each.
        var all = await handed
            .Select(a => new
            {
                a.Id,
                a.AccountId,
                a.AssignmentId,
                a.HandedInAt,
                a.Percent,
                a.Passed,
                a.Lost,
            })
            .ToListAsync(cancel);
        var bests = all.GroupBy(a => (a.AccountId, a.AssignmentId))
            .ToDictionary(
                g => g.Key,
                g =>
                    g.OrderByDescending(a => (a.Passed, a.Percent, a.HandedInAt))
                        .Select(a => new BestAttempt(a.Id, a.Percent, a.Passed))
                        .First()
            );
        var last = all.OrderByDescending(a => a.HandedInAt).Take(Most).Select(a => a.Id).ToList();
        var newest =
            last.Count == 0 ? [] : await Lines(store.Attempts.Where(a => last.Contains(a.Id))).ToListAsync(cancel);
        var lost = all.Where(a => a.Lost.Length > 0)
            .Select(a => (a.AccountId, a.Lost))
            .Distinct()
            .SelectMany(a => a.Lost.Split('\n').Select(title => (a.AccountId, title)))
            .Distinct()
            .GroupBy(x => x.title)
            .Select(g => (g.Key, g.Count()))
            .OrderByDescending(x => x.Item2)
            .ThenBy(x => x.Key, StringComparer.Ordinal)
            .Take(8)
            .ToList();
        return new(found, learners, bests, newest, lost);
    }

    private static IQueryable<AttemptLine> Lines(IQueryable<AttemptRow> attempts) =>
        attempts
            .AsNoTracking()
            .OrderByDescending(a => a.HandedInAt)
            .Select(a => new AttemptLine(
                a.Id,
                a.AccountId,
                a.AssignmentId,
                a.Account!.FullName,
                a.Assignment == null ? "Practice exam" : a.Assignment.Title,
                a.ProcedureId,
                a.HandedInAt,
                a.Seconds,
                a.Percent,
                a.Passed
            ));
}
