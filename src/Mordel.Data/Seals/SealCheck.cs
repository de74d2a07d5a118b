using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>
/// Checks a sealed run against its seal: signature, hash, every row that repeats something of it, and a fresh replay.
/// Names what is wrong; reads nothing but what it is given.
/// </summary>
public sealed class SealCheck(SigningKeys keys, ISetupParts parts)
{
    /// <summary>A sealed run, checked.</summary>
    /// <param name="row">Its row, with entries, results, amendments and seals.</param>
    /// <param name="earlier">Seals of the earlier form, of the run and its amendments.</param>
    public SealedReport Of(RunRow row, IReadOnlyCollection<EarlierSealRow> earlier)
    {
        ArgumentNullException.ThrowIfNull(row);
        var broken = new List<string>();
        var report = new SealedReport
        {
            RunId = row.Id,
            AssemblyId = row.AssemblyId,
            TesterId = row.TesterId,
            Broken = broken,
        };
        var own = row.Seals.Where(s => s.AmendmentId is null).ToList();
        if (own.Count != 1)
        {
            broken.Add(
                own.Count == 0
                    ? "The run is signed, but there is no seal for it."
                    : $"There are {own.Count} seals for this run."
            );
            if (own.Count == 0)
                return report;
        }

        var seal = Link(own[0], row, broken);
        var text = RecordOf(own[0], seal, "The record", broken);
        var run =
            text is null ? null
            : SealedRunFormat.Read(text, parts, out var errors) is { } read ? read
            : Unreadable(errors, broken);
        report = report with
        {
            Run = run,
            RecordText = text,
            Record = text is null ? null : ContentHash.Compute(text),
            Seal = seal,
        };
        report = report with { Amendments = [.. Amendments(row, earlier, broken)] };
        if (run is null)
            return report;
        var pieces = SealedRecord.Read(text!);
        if (own[0].Facts is { } facts)
            Compare(row, facts, broken);
        else
            Unreadable([], broken);
        Entries(row, run, pieces, broken);
        if (row.WasMended != Projection.WasMended(run))
            broken.Add("In the list of runs whether something was mended is not what was sealed.");
        Results(row, run, broken);
        Earlier(row.Id, run.Earlier, earlier, broken);
        if (broken.Count > 0)
            return report;
        return report with { JudgedOtherwise = SealedRunFormat.JudgedOtherwise(run) };
    }

    /// <summary>
    /// Checks what a list shows of a run without its entries: the seal, the record, and what the row repeats of it.
    /// </summary>
    /// <param name="row">The run's row, with its seals.</param>
    /// <param name="records">What is known of records.</param>
    public IReadOnlyList<string> Light(RunRow row, RecordMemory records)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(records);
        var broken = new List<string>();
        if (row.Seals.Where(s => s.AmendmentId is null).ToList() is not [var own])
            return ["There is not one seal for this run."];
        var seal = Link(own, row, broken);
        var record = records.Of(own);
        IsSealed(record.Hash, seal, "The record", broken);
        if (record.Hash is null)
            return broken;
        if (record.Facts is { } facts)
            Compare(row, facts, broken);
        else
            Unreadable([], broken);
        return broken;
    }

    private SignedLink? Link(SealRow row, RunRow run, List<string> broken)
    {
        if (ContentHash.Compute(row.Link) != row.Hash || SealFormat.ReadLink(row.Link) is not { } link)
        {
            broken.Add($"The seal (number {row.Number}) is not as it was made.");
            return null;
        }

        if (!keys.Verifies(link.Key, row.Hash, row.Signature))
            broken.Add($"The signature under the seal (number {row.Number}) does not hold.");
        if (
            (link.Number, link.Assembly, link.Sequence, link.Run, link.Amendment)
            != (row.Number, row.AssemblyId, row.Sequence, row.RunId, row.AmendmentId)
        )
            broken.Add($"The seal (number {row.Number}) stands in another place than it was made for.");
        if (link.Run != run.Id || link.Assembly != run.AssemblyId)
            broken.Add("The seal is another run's or another assembly's.");
        if (row.Code != SealRow.CodeOf(link))
            broken.Add($"The code by which the report is found (seal number {row.Number}) is not its own.");
        return new(link, row.Link, row.Hash, row.Signature);
    }

    private static string? RecordOf(SealRow row, SignedLink? seal, string what, List<string> broken)
    {
        var text = row.RecordText;
        IsSealed(text is null ? null : ContentHash.Compute(text), seal, what, broken);
        return text;
    }

    private static void IsSealed(string? hash, SignedLink? seal, string what, List<string> broken)
    {
        if (hash is null)
            broken.Add($"{what} cannot be unpacked any more.");
        else if (seal is not null && hash != seal.Link.Record)
            broken.Add($"{what} is not the one that was sealed.");
    }

    private static SealedRun? Unreadable(IEnumerable<InputError> errors, List<string> broken)
    {
        broken.Add($"The record cannot be read: {string.Join("; ", errors.Take(3))}.");
        return null;
    }

    // What lists and access go by must be what was sealed.
    private void Compare(RunRow row, SealedFacts run, List<string> broken)
    {
        var profile = parts.Profile(run.Profile ?? "");
        (string What, object? Is, object? Was)[] facts =
        [
            ("the run", row.Id, run.Run),
            ("the stop", row.StopId, run.Stop),
            ("the tester", row.TesterId, run.Tester),
            ("the kit", row.KitId, run.Kit),
            ("the procedure", row.ProcedureId, run.Procedure),
            ("the profile", row.ProfileId, profile?.Id),
            ("the profile's version", row.ProfileVersion, profile?.Version),
            ("the beginning", row.StartedAt, run.BegunAt),
            ("the number", row.Number, run.Number),
            // The record alone has it, unless an earlier version sealed it.
            ("what it was made with", row.Setup is RunRow.InItsRecord ? run.Setup : row.Setup, run.Setup),
            ("the time of signing", row.SignedAt, run.SignedAt),
            ("the name signed", row.SignedName, run.SignedName),
            ("the outcome", row.Outcome, run.Outcome),
            ("the reason", row.Summary, run.Reason),
            ("the remarks", row.FoundText ?? "", run.Remarks),
            ("what was not entered", row.NotEntered, run.NotEntered),
            ("the needle before the test", row.ZeroHigh, run.KitZero),
        ];
        foreach (var (what, value, was) in facts)
            if (!Equals(value, was))
                broken.Add($"In the list of runs {what} is not what was sealed.");
    }

    private static void Entries(RunRow row, SealedRun run, SealedRecord pieces, List<string> broken)
    {
        // The record alone has them, unless an earlier version sealed it.
        if (row.Entries.Count == 0)
            return;
        var rows = row.Entries.ToDictionary(e => e.EntryId);
        foreach (var (entry, received) in run.Log)
        {
            if (!rows.Remove(entry.Id.Value, out var kept))
                broken.Add($"Entry {entry.Id} is missing from the log.");
            else if (
                kept.Json != pieces.Entries.GetValueOrDefault(entry.Id.Value)
                || kept.Tick != entry.Tick
                || kept.ReceivedAt != received
            )
                broken.Add($"Entry {entry.Id} is not as it was sealed.");
        }

        foreach (var extra in rows.Keys)
            broken.Add($"Entry {extra} was added to the log after the seal.");
    }

    private static void Results(RunRow row, SealedRun run, List<string> broken)
    {
        var rows = row.Results.ToDictionary(r => r.Item);
        foreach (var made in Projection.Results(row.Id, run.Verdict))
        {
            if (!rows.Remove(made.Item, out var kept))
                broken.Add($"The result of {made.Item} is missing from the list.");
            else if (
                (kept.Result, kept.Value, kept.Unit, kept.Limit, kept.Text)
                != (made.Result, made.Value, made.Unit, made.Limit, made.Text)
            )
                broken.Add($"The result of {made.Item} in the list is not what was sealed.");
        }

        foreach (var extra in rows.Keys)
            broken.Add($"A result of {extra} was added to the list.");
    }

    private IEnumerable<SealedAmendment> Amendments(
        RunRow row,
        IReadOnlyCollection<EarlierSealRow> earlier,
        List<string> broken
    )
    {
        var rows = row.Amendments.ToDictionary(a => a.Id);
        foreach (var sealRow in row.Seals.Where(s => s.AmendmentId is not null).OrderBy(s => s.Sequence))
        {
            var seal = Link(sealRow, row, broken);
            var text = RecordOf(sealRow, seal, "The record of an amendment", broken);
            if (text is null || seal is null)
                continue;
            if (SealFormat.ReadAmendment(text) is not { } amendment)
            {
                broken.Add("The record of an amendment cannot be read.");
                continue;
            }

            if (!rows.Remove(amendment.Id, out var kept) || amendment.Id != sealRow.AmendmentId)
                broken.Add("An amendment is missing from the list.");
            else if (
                (kept.Text, kept.By, kept.At, kept.RunId) != (amendment.Text, amendment.By, amendment.At, amendment.Run)
            )
                broken.Add("An amendment in the list is not what was sealed.");
            Earlier(amendment.Id, amendment.Earlier, earlier, broken);
            yield return new(amendment, text, seal);
        }

        foreach (var _ in rows)
            broken.Add("An amendment has no seal.");
    }

    // The seal that a record was taken over from is kept beside it, and must be the same.
    private void Earlier(Guid id, EarlierSeal? sealed_, IReadOnlyCollection<EarlierSealRow> rows, List<string> broken)
    {
        var row = rows.FirstOrDefault(r => r.Id == id);
        if (sealed_ is null && row is null)
            return;
        if (
            sealed_ is null
            || row is null
            || (row.PreviousHash, row.Hash, row.KeySignature) != (sealed_.Previous, sealed_.Hash, sealed_.Signature)
        )
            broken.Add("The seal of the earlier form is not the one that was taken over.");
        else if (!sealed_.Held)
            broken.Add("The seal of the earlier form did not hold when it was taken over.");
        else if (!keys.AnyVerifies(sealed_.Hash, sealed_.Signature))
            broken.Add("The signature of the earlier form does not hold.");
    }
}
