using System.Diagnostics;
using System.Text;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Training;

namespace Mordel.Bench;

/// <summary>
/// What a class at the bench costs the server: the marking of recordings, and nothing else while they work.
/// </summary>
public static class ClassBench
{
    private const int Learners = 200;

    /// <summary>
    /// Marks a careful tester's recording of every school and prints what two hundred learners come to.
    /// </summary>
    public static void Run()
    {
        var (spent, lasted, bytes, count) = (0.0, 0.0, 0, 0);
        foreach (var school in SchoolCatalogue.All)
        {
            var drawn = new RandomRig(school, Kit.All.First(k => k.Kind == school.Kits[0]), RandomRigRules.Exam, 4);
            var text = RecordingFormat.Write(Demonstration.Record(drawn.Scenario), RecordingFormat.Write(drawn));
            var times = new List<double>();
            for (var round = 0; round < 5; round++)
            {
                var from = Stopwatch.GetTimestamp();
                var sheet = Marking.Mark(RecordingFormat.Read(text, out _)!);
                times.Add(Stopwatch.GetElapsedTime(from).TotalMilliseconds);
                if (sheet.Points == 0)
                    throw new InvalidOperationException("Nothing was marked.");
            }

            times.Sort();
            var seconds = RecordingFormat.Read(text, out _)!.End / (double)Recording.PerSecond;
            Console.WriteLine(
                $"  {school.Id, -20} {seconds, 6:0} s at the bench   "
                    + $"{Encoding.UTF8.GetByteCount(text) / 1024.0, 6:0.0} KB   {times[2], 7:0.0} ms to mark, 1 in "
                    + $"{seconds * 1000 / times[2], 6:0} of the time worked"
            );
            (spent, lasted, bytes, count) = (
                spent + times[2],
                lasted + seconds,
                bytes + Encoding.UTF8.GetByteCount(text),
                count + 1
            );
        }

        var each = lasted / count;
        Console.WriteLine();
        Console.WriteLine(
            $"  {Learners} learners at once, an exam each of {each / 60:0} minutes: "
                + $"{Learners * spent / count / 1000:0.0} s of one core in that time, "
                + $"{100 * Learners * spent / count / 1000 / each:0.0} % of it, and "
                + $"{Learners * bytes / count / 1024.0 / 1024:0.0} MB of tapes; while they work no "
                + $"request is made"
        );
    }
}
