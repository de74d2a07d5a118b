using System.Collections.Immutable;
using System.Text;
using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.Bench.Fill;

/// <summary>A sealed run of the demo as the test of another assembly on another day.</summary>
/// <param name="From">The run that was really performed.</param>
public sealed record SealedCopy(SealedRun From)
{
    /// <summary>The run as it would be sealed there and then.</summary>
    /// <param name="run">Its id.</param>
    /// <param name="assembly">The assembly, with place, owner and authority.</param>
    /// <param name="tester">Who tests.</param>
    /// <param name="begun">When.</param>
    /// <param name="stopped">
    /// Whether it was broken off at the door instead, as most copies are: they keep small.
    /// </param>
    public SealedRun For(Guid run, AssemblyRow assembly, Account tester, DateTimeOffset begun, bool stopped)
    {
        var by = begun - From.Setup.BegunAt;
        var days =
            DateOnly.FromDateTime(begun.UtcDateTime).DayNumber
            - DateOnly.FromDateTime(From.Setup.BegunAt.UtcDateTime).DayNumber;
        var certificate = From.Signing.Certificate with
        {
            From = From.Signing.Certificate.From.AddDays(days),
            Until = From.Signing.Certificate.Until.AddDays(days),
        };
        var old = From.Setup;
        var place = assembly.Place!;
        var setup = old with
        {
            Run = run,
            Stop = null,
            Number = $"{assembly.Tag}/{begun:yyyyMMdd-HHmmss}",
            BegunAt = begun,
            Assembly = SetupWriter.Facts(assembly),
            Place = new(
                place.Name,
                place.Address,
                place.District,
                place.Owner!.Name,
                place.Owner.Address,
                place.Owner.Phone,
                place.Contact,
                assembly.Authority!.Name
            ),
            Kit = old.Kit with
            {
                CalibratedOn = old.Kit.CalibratedOn.AddDays(days),
                CalibrationDue = old.Kit.CalibrationDue.AddDays(days),
            },
            Tester = new(tester.Id, tester.FullName, certificate),
        };
        ImmutableArray<ReceivedEntry> log = stopped
            ?
            [
                new(
                    new(From.Log[0].Entry.Id, 1, begun.AddMinutes(1), new EntryBody.Stopped("Nobody let us in.")),
                    begun.AddMinutes(1)
                ),
            ]
            : [.. From.Log.Select(e => new ReceivedEntry(e.Entry with { At = e.Entry.At + by }, e.Received + by))];
        var state = Replay.Run(setup.Plan, RunLog.Empty.With(log.Select(e => e.Entry)));
        var verdict = setup.Plan.VerdictOn(state, null);
        var signing = From.Signing with
        {
            Name = tester.FullName,
            Certificate = certificate,
            At = log[^1].Received.AddMinutes(2),
        };
        return new()
        {
            Setup = setup,
            Log = log,
            Signing = signing,
            Verdict = verdict,
            JudgeVersion = Judge.Version,
            Report = new ReportWriter(setup, state, verdict, log, signing, TimeZoneInfo.Utc).Write(true),
        };
    }
}

/// <summary>
/// A test broken off at the door, written once with marks in place of what differs and then filled in: thousands of
/// times quicker than to write each anew, and character for character the same.
/// </summary>
public sealed class DoorCopy
{
    // What stands for what differs; none of it occurs otherwise.
    private static readonly DateTimeOffset Then = new(1971, 2, 1, 0, 0, 0, TimeSpan.Zero);
    private static readonly Guid RunMark = new("0f0f0f0f-1111-4111-8111-0f0f0f0f0f0f"),
        AssemblyMark = new("0f0f0f0f-2222-4222-8222-0f0f0f0f0f0f"),
        TesterMark = new("0f0f0f0f-3333-4333-8333-0f0f0f0f0f0f");
    private readonly SealedRun run;
    private readonly string record;

    public DoorCopy(SealedCopy from, AssemblyRow like)
    {
        var owner = new OwnerRow
        {
            Name = "QOWNERQ",
            Address = "QOWNERATQ",
            Phone = "0199 100 000",
        };
        var place = new PlaceRow
        {
            Owner = owner,
            Name = "QPLACEQ",
            Address = "QSTREETQ",
            District = "QDISTRICTQ",
            Contact = "Ask at the desk",
            Access = "",
        };
        var marked = new AssemblyRow
        {
            Id = AssemblyMark,
            Place = place,
            Authority = like.Authority,
            Tag = "QTAGQ",
            Serial = "QSERIALQ",
            Serves = "QSERVESQ",
            Type = like.Type,
            Make = like.Make,
            Model = like.Model,
            Size = like.Size,
            Flow = like.Flow,
            Location = like.Location,
            Hazard = like.Hazard,
            Protection = like.Protection,
            FireLine = like.FireLine,
            Body = like.Body,
            Strainer = like.Strainer,
            FittedCocks = like.FittedCocks,
            BypassLine = like.BypassLine,
            ReliefPort = like.ReliefPort,
            InstalledOn = like.InstalledOn,
            HowToFind = "",
        };
        run = from.For(RunMark, marked, new() { Id = TesterMark, FullName = "QTESTERQ" }, Then, stopped: true);
        record = SealedRunFormat.Write(run);
    }

    /// <summary>The record, and the run's row with what belongs to it.</summary>
    /// <param name="id">The run's id.</param>
    /// <param name="assembly">The assembly, with place and owner.</param>
    /// <param name="tester">Who came.</param>
    /// <param name="begun">When; a full hour.</param>
    public (string Record, RunRow Row) For(Guid id, AssemblyRow assembly, Account tester, DateTimeOffset begun)
    {
        var by = begun - Then;
        var filled = new Dictionary<string, string>
        {
            [$"{RunMark}"] = $"{id}",
            [$"{AssemblyMark}"] = $"{assembly.Id}",
            [$"{TesterMark}"] = $"{tester.Id}",
            ["QTAGQ/19710201-000000"] = $"{assembly.Tag}/{begun:yyyyMMdd-HHmmss}",
            ["QTAGQ"] = assembly.Tag,
            ["QSERIALQ"] = assembly.Serial,
            ["QSERVESQ"] = assembly.Serves,
            ["QPLACEQ"] = assembly.Place!.Name,
            ["QSTREETQ"] = assembly.Place.Address,
            ["QDISTRICTQ"] = assembly.Place.District,
            ["QOWNERQ"] = assembly.Place.Owner!.Name,
            ["QOWNERATQ"] = assembly.Place.Owner.Address,
            ["QTESTERQ"] = tester.FullName,
            ["1971-02-01T00:"] = $"{begun:yyyy-MM-dd}T{begun:HH}:",
            ["1 Feb 1971, 00:"] = $"{begun:d MMM yyyy}, {begun:HH}:",
            ["1 February 1971"] = $"{begun:d MMMM yyyy}",
            ["1 Feb 1971"] = $"{begun:d MMM yyyy}",
            ["1971-02-01"] = $"{begun:yyyy-MM-dd}",
        };
        var setup = run.Setup with
        {
            Run = id,
            Number = filled["QTAGQ/19710201-000000"],
            BegunAt = begun,
            Assembly = run.Setup.Assembly with { Id = assembly.Id },
            Tester = run.Setup.Tester with { Id = tester.Id },
        };
        var text = Fill(record, filled);
        var row = new RunRow
        {
            Id = id,
            AssemblyId = assembly.Id,
            TesterId = tester.Id,
            KitId = setup.Kit.Id,
            ProcedureId = setup.Sheet.Procedure.Id,
            ProfileId = setup.Profile.Id,
            ProfileVersion = setup.Profile.Version,
            StartedAt = begun,
            Number = setup.Number,
        };
        Projection.Write(row, run with { Setup = setup });
        (row.SignedAt, row.SignedName) = (run.Signing.At + by, tester.FullName);
        return (text, row);
    }

    private static string Fill(string text, Dictionary<string, string> with)
    {
        var filled = new StringBuilder(text);
        foreach (var (mark, value) in with)
            filled.Replace(mark, value);
        return filled.ToString();
    }
}
