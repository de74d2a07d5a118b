using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Training;
using Mordel.Data;
using Mordel.Data.Commands.Bench;
using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>
/// The demo's class: six learners, three rigs, and what they have handed in. Each recording is a careful tester's with
/// the mistakes of learners put in, played and marked by the core like any other.
/// </summary>
public static class DemoClass
{
    private sealed record Slip(string Name, Func<Recording, Recording> Put);

    // A gauge left hanging, a hose not purged, a feed flung open, a report half filled, a rig left shut.
    private static readonly Slip[] Slips =
    [
        new("none", t => t),
        new("height", t => Without(t, d => d is BenchAction.Lift)),
        new("air", t => Without(t, d => d is BenchAction.Turn { Part: var p } && p == Parts.HighBleed)),
        new("drained", t =>
            t with
            {
                Actions =
                [
                    .. t.Actions.Where(d =>
                        d.At < t.End - (15 * Recording.PerSecond) || d.What is not BenchAction.Turn
                    ),
                ],
            }
        ),
        new("feed", t =>
            t with
            {
                Actions =
                [
                    .. t.Actions.Select(d =>
                        d.What is BenchAction.Turn { Part: var p, To.IsOpen: true } turn
                        && p == Parts.LowControl
                        && t.Scenario.Situation.Rig.Has(Parts.Relief)
                            ? d with
                            {
                                What = turn with { To = Opening.Full },
                            }
                            : d
                    ),
                ],
            }
        ),
        new("verdict", t =>
            t with
            {
                Actions =
                [
                    .. t.Actions.Where(d => d.What is not BenchAction.Conclude),
                    new(t.End, new BenchAction.Conclude(Core.Verdicts.Overall.Pass)),
                ],
            }
        ),
        new("findings", t => Without(t, d => d is BenchAction.ReportFinding)),
    ];

    /// <summary>Adds class, assignments and attempts to a store that has the people.</summary>
    public static void Fill(
        Store store,
        Account instructor,
        IReadOnlyList<Account> learners,
        Func<Guid> newId,
        DateTimeOffset now,
        PerformedPast past
    )
    {
        ArgumentNullException.ThrowIfNull(store);
        ArgumentNullException.ThrowIfNull(past);
        var autumn = new ClassRow
        {
            Id = newId(),
            Name = "Autumn beginners",
            InstructorId = instructor.Id,
        };
        store.Classes.Add(autumn);
        foreach (var learner in learners)
            store.ClassMembers.Add(new() { ClassId = autumn.Id, AccountId = learner.Id });
        (string Title, string School, string Kit, int Seed, int Minutes, int DaysAgo)[] set =
        [
            ("First double check", "dc-sight-tube", "five-valve", 5, 0, 12),
            ("Vacuum breaker by the harbour", "pvb-inlet-first", "five-valve", 3, 30, 7),
            ("Reduced pressure, for the mark", "rp-relief-first", "five-valve", 8, 30, 3),
        ];
        for (var i = 0; i < set.Length; i++)
        {
            var (title, school, kit, seed, minutes, daysAgo) = set[i];
            var drawn = new RandomRig(SchoolCatalogue.Named(school)!, Kit.Named(kit)!, RandomRigRules.Exam, seed);
            var rig = RecordingFormat.Write(drawn);
            var assignment = new AssignmentRow
            {
                Id = newId(),
                ClassId = autumn.Id,
                Title = title,
                Rig = rig,
                Minutes = minutes,
                SetAt = now.AddDays(-daysAgo),
                DueOn = i == 2 ? DateOnly.FromDateTime(now.UtcDateTime).AddDays(4) : null,
            };
            store.Assignments.Add(assignment);
            var right = new Lazy<Recording>(() => Demonstration.Record(drawn.Scenario));
            for (var who = 0; who < learners.Count; who++)
            {
                // Some have not done the last one yet.
                if (i == 2 && (who is 0 or 3 or 5))
                    continue;
                // Fewer slips the longer they learn; nobody makes the same twice running.
                var slips = Enumerable
                    .Range(0, Math.Max(1, 3 - i - (who % 2)))
                    .Select(n => Slips[((who * 5) + (i * 2) + (n * 3)) % Slips.Length])
                    .ToArray();
                var made = string.Join(' ', slips.Select(s => s.Name));
                // Learners who make the same slips hand in the same.
                var marked = past.Attempt($"{ContentHash.Compute(rig)[..24]} {made}", () =>
                    Played(slips.Aggregate(right.Value, (t, slip) => slip.Put(t)), rig)
                );
                store.Attempts.Add(
                    new()
                    {
                        Id = newId(),
                        AccountId = learners[who].Id,
                        AssignmentId = assignment.Id,
                        HandedInAt = assignment.SetAt.AddHours(20 + (5 * who)),
                        Recording = marked.Recording,
                        ProcedureId = marked.Procedure,
                        Marks = marked.Marks,
                        Seconds = marked.Seconds,
                        Percent = marked.Percent,
                        Passed = marked.Passed,
                        Lost = marked.Lost,
                    }
                );
            }
        }
    }

    private static MarkedAttempt Played(Recording recording, string rig)
    {
        var row = HandIn.Row(
            Guid.Empty,
            Guid.Empty,
            null,
            recording,
            RecordingFormat.Write(recording, rig),
            Marking.Mark(recording),
            default
        );
        return new(row.Recording, row.ProcedureId, row.Marks, row.Seconds, row.Percent, row.Passed, row.Lost);
    }

    private static Recording Without(Recording recording, Func<BenchAction, bool> which) =>
        recording with
        {
            Actions = [.. recording.Actions.Where(d => !which(d.What))],
        };
}
