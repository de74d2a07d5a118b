using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Outside;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Parts;
using Mordel.Data.Commands.Repairs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Documents.Interchange;
using SkiaSharp;

namespace Mordel.Data.Tests;

/// <summary>A repair's log, its pictures, its follow-ups, its parts and the test after it, on a file.</summary>
public sealed class RepairsTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly DateTimeOffset Noon = new(2031, 4, 2, 12, 0, 0, TimeSpan.Zero);
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync() => await hamlet.Filled([AssemblyTypes.DC]);

    Task IAsyncLifetime.DisposeAsync() => DisposeAsync().AsTask();

    public ValueTask DisposeAsync() => hamlet.DisposeAsync();

    private async Task<T> With<T>(Func<IServiceProvider, Task<T>> work)
    {
        await using var scope = hamlet.Services.CreateAsyncScope();
        return await work(scope.ServiceProvider);
    }

    private Task<Reply<Guid>> Begin() =>
        With(s =>
            s.GetRequiredService<BeginRepair>().On(hamlet.Assemblies[0], null, hamlet.Tester, "Moa Ferrin", None)
        );

    private Task<Reply<Guid>> Enter(Guid job, RepairBody body, Guid? id = null) =>
        With(s =>
            s.GetRequiredService<TakeRepairEntry>()
                .Into(job, new(new(id ?? Guid.NewGuid()), Noon, "Moa Ferrin", body), hamlet.Tester, None)
        );

    private Task<RepairFile> Read(Guid job) =>
        With(async s => (await s.GetRequiredService<RepairList>().Of(job, None))!);

    private async Task<RepairState> GoOn(Guid job, RepairStage until, Func<OpenedPart, string[]>? found = null)
    {
        for (var state = (await Read(job)).State; state.Stage != until; state = (await Read(job)).State)
        {
            RepairBody next = state.Stage switch
            {
                RepairStage.Choose when state.Openings.IsEmpty => new RepairBody.CoverOpened("plain-check", Parts.Cv1),
                RepairStage.Choose => new RepairBody.Done(RepairPlan.CloseUp, "Close"),
                RepairStage.Inspect when state.Now!.Parts.First(p => p.Found is null) is var part =>
                    new RepairBody.Inspected(1, part.Part.Id, [.. found?.Invoke(part) ?? []]),
                RepairStage.Do when state.Now!.Parts.First(p => p.WantsAct) is var part => part.WantsFollowUp
                    ? new RepairBody.Stopgap(1, part.Part.Id, new(2031, 5, 2), "CV1 kit", "Ane Kolb")
                    : new RepairBody.Acted(1, part.Part.Id, RepairAct.Turned),
                _ => state.Steps[0].Key == RepairPlan.Permission
                    ? new RepairBody.Agreed("Ane Kolb")
                    : new RepairBody.Done(state.Steps[0].Key, state.Steps[0].Step.Does),
            };
            Assert.Null((await Enter(job, next)).Refusal);
        }

        return (await Read(job)).State;
    }

    private static string[] CutDisc(OpenedPart part) => part.Part.Id == "disc" ? ["cut"] : [];

    [Fact]
    public async Task Two_screens_that_begin_meet_in_the_same_repair_and_an_entry_sent_twice_stands_once()
    {
        var job = (await Begin()).Value;
        Assert.Equal(job, (await Begin()).Value);
        var id = Guid.NewGuid();
        for (var i = 0; i < 3; i++)
            Assert.Null((await Enter(job, new RepairBody.Agreed("Ane Kolb"), id)).Why);
        Assert.Single((await Read(job)).Log);
        Assert.Equal(NotDone.Refused, (await Enter(job, new RepairBody.Agreed("Somebody else"), id)).Why);
        Assert.Equal("Ane Kolb", (await Read(job)).State.Permission);
        Assert.Equal(NotDone.NotFound, (await Enter(Guid.NewGuid(), new RepairBody.Noted("x"))).Why);
    }

    [Fact]
    public async Task Nothing_is_opened_under_pressure_nor_two_at_once_nor_what_the_body_has_not()
    {
        var job = (await Begin()).Value;
        Assert.Contains(
            "under pressure",
            (await Enter(job, new RepairBody.CoverOpened("plain-check", Parts.Cv1))).Refusal
        );
        await GoOn(job, RepairStage.Choose);
        Assert.Equal(NotDone.Refused, (await Enter(job, new RepairBody.CoverOpened("plain-relief", Parts.Relief))).Why);
        Assert.Null((await Enter(job, new RepairBody.CoverOpened("plain-check", Parts.Cv1))).Why);
        Assert.Contains(
            "One at a time",
            (await Enter(job, new RepairBody.CoverOpened("plain-check", Parts.Cv2))).Refusal
        );
        Assert.Equal(NotDone.Refused, (await Enter(job, new RepairBody.Inspected(1, "wings", []))).Why);
        Assert.Equal(NotDone.Refused, (await Enter(job, new RepairBody.Inspected(1, "disc", ["wings"]))).Why);
        Assert.Equal(NotDone.Refused, (await Enter(job, new RepairBody.Acted(1, "disc", RepairAct.Greased))).Why);
    }

    [Fact]
    public async Task What_lies_in_a_part_counts_as_evidence_once_and_no_longer_when_it_is_taken_back()
    {
        var job = (await Begin()).Value;
        await GoOn(job, RepairStage.Do, CutDisc);
        var search = (await Read(job)).Row.DiagnosisId;
        async Task<List<string?>> Counted() =>
            [
                .. (
                    await With(s => s.GetRequiredService<RepairFindings>().Of(Bodies.Find(AssemblyTypes.DC), None))
                ).Select(f => f.Lay.ToString()),
            ];
        Assert.Equal(["DiscCut"], await Counted());
        var entry = (await Read(job)).Log.Last(e => e.Body is RepairBody.Inspected { Part: "disc" });
        await Enter(job, new RepairBody.TookBack(entry.Id));
        Assert.Empty(await Counted());
        await Enter(job, new RepairBody.Inspected(1, "disc", []));
        Assert.Equal(["Clean"], await Counted());
        Assert.NotEqual(Guid.Empty, search);
    }

    [Fact]
    public async Task A_turned_disc_is_a_follow_up_in_the_lists_until_it_is_settled()
    {
        var job = (await Begin()).Value;
        await GoOn(job, RepairStage.Assemble, CutDisc);
        var open = Assert.Single(await With(s => s.GetRequiredService<RepairList>().FollowUps(null, None)));
        Assert.Equal("CV1: seal disc turned", open.What);
        Assert.Single(await With(s => s.GetRequiredService<RepairList>().FollowUps(hamlet.Tester, None)));
        Assert.Empty(await With(s => s.GetRequiredService<RepairList>().FollowUps(Guid.NewGuid(), None)));
        Assert.Null((await Enter(job, new RepairBody.Settled(new(open.Id), "new disc"))).Why);
        Assert.Empty(await With(s => s.GetRequiredService<RepairList>().FollowUps(null, None)));
        // Taking the stopgap back takes the follow-up out.
        await Enter(job, new RepairBody.TookBack(new(open.Id)));
        Assert.Equal(0, await With(s => s.GetRequiredService<Store>().FollowUps.CountAsync()));
    }

    [Fact]
    public async Task What_was_repaired_is_due_for_a_test_within_the_days_of_the_rules()
    {
        await hamlet.InStore(async s =>
        {
            s.BroughtTests.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    AssemblyId = hamlet.Assemblies[0],
                    Day = new(2031, 3, 1),
                    Outcome = "pass",
                    Values = "{}",
                    Source = "elsewhere",
                    By = "W",
                }
            );
            return await s.SaveChangesAsync();
        });
        await hamlet.With<int, DueProjection>(d => d.Rebuild(null, None));
        var job = (await Begin()).Value;
        await GoOn(job, RepairStage.Pressurise);
        async Task<DateOnly?> Due() => await hamlet.InStore(s => s.Assemblies.Select(a => a.NextDue).FirstAsync());
        Assert.Equal(new(2032, 3, 1), await Due());
        await GoOn(job, RepairStage.Retest);
        Assert.Equal(new DateOnly(2031, 4, 2).AddDays(BuiltInProfiles.PsidStandard.RetestDays), await Due());
    }

    [Fact]
    public async Task The_test_after_a_repair_begins_once_closed_and_carries_what_was_done()
    {
        var job = (await Begin()).Value;
        Task<Reply<Guid>> Retest() =>
            With(s => s.GetRequiredService<BeginRetest>().After(job, hamlet.Tester, unsigned: false, None));
        Assert.Contains("not closed", (await Retest()).Refusal);
        await GoOn(job, RepairStage.Retest, CutDisc);
        // The same is asked as before any test, and known before the water is shut off again.
        Task<int> Certified(string types) =>
            hamlet.InStore(s => s.Certificates.ExecuteUpdateAsync(c => c.SetProperty(x => x.Types, types)));
        await Certified("PVB");
        Assert.Contains("It could not be signed.", (await Retest()).Refusal);
        Assert.Equal(0, await hamlet.InStore(s => s.Stops.CountAsync(t => t.Special == "Test after the repair")));
        await Certified("DC PVB");
        var run = (await Retest()).Value;
        Assert.Equal(run, (await Retest()).Value);
        var setup = await With(async s =>
            (await s.GetRequiredService<FindRun>().For(run, new(hamlet.Tester, false), None))!.Setup
        );
        Assert.Equal(["CV1, seal disc: turned, a stopgap until 2 May 2031"], setup.Repair!.Done);
        Assert.Equal("Ane Kolb", setup.Repair.Permission);
        Assert.Null(setup.Repair.Failed);
        Assert.Equal(NotDone.Refused, (await Enter(job, new RepairBody.Acted(1, "disc", RepairAct.Replaced))).Why);
        Assert.Null((await Enter(job, new RepairBody.Noted("The old disc is with the landlady."))).Why);
        Assert.Null((await Begin()).Why);
        Assert.NotEqual(job, (await Begin()).Value);
    }

    private static byte[] Png(int width, int height, SKEncodedImageFormat format = SKEncodedImageFormat.Png)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(SKColors.SteelBlue);
        using var data = bitmap.Encode(format, 90);
        return data.ToArray();
    }

    private Task<Reply<Guid>> Photo(Guid job, byte[] file, Guid? id = null) =>
        With(s =>
            s.GetRequiredService<KeepPhoto>()
                .Of(job, new(id ?? Guid.NewGuid()), "CV1", file, Noon, hamlet.Tester, "Moa Ferrin", None)
        );

    [Fact]
    public async Task A_picture_is_made_anew_smaller_without_a_word_of_the_file_and_stands_once()
    {
        var job = (await Begin()).Value;
        // A JPEG with a comment that tells a place.
        var jpeg = Png(3_000, 2_000, SKEncodedImageFormat.Jpeg);
        byte[] told = [.. jpeg[..2], 0xFF, 0xFE, 0x00, 0x12, .. "at 57.1, 11.9 N"u8, 0x00, .. jpeg[2..]];
        var id = Guid.NewGuid();
        Assert.Null((await Photo(job, told, id)).Why);
        Assert.Null((await Photo(job, told, id)).Why);
        var photo = Assert.Single((await Read(job)).State.Photos);
        var files = hamlet.Services.GetRequiredService<IFiles>();
        var kept = (await files.Read(PhotoNames.Of(photo.Photo).Large, None))!;
        Assert.Equal(-1, kept.AsSpan().IndexOf("57.1"u8));
        using var read = SKBitmap.Decode(kept);
        Assert.Equal((1_600, 1_067), (read.Width, read.Height));
        using var small = SKBitmap.Decode((await files.Read(PhotoNames.Of(photo.Photo).Small, None))!);
        Assert.Equal(320, small.Width);
    }

    [Fact]
    public async Task A_hostile_picture_is_refused_in_words_and_leaves_nothing()
    {
        var job = (await Begin()).Value;
        var whole = Png(400, 300);
        // A head that claims ninety thousand by ninety thousand pixels.
        var huge = (byte[])whole.Clone();
        foreach (var at in new[] { 16, 20 })
            System.Buffers.Binary.BinaryPrimitives.WriteInt32BigEndian(huge.AsSpan(at), 90_000);
        foreach (
            var file in new[]
            {
                [],
                "<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>"u8.ToArray(),
                "%PDF-1.7"u8.ToArray(),
                whole[..200],
                huge,
                Png(8, 8),
                new byte[IPhotoReader.LargestFile + 1],
            }
        )
            Assert.EndsWith(".", (await Photo(job, file)).Refusal!, StringComparison.Ordinal);
        Assert.Empty((await Read(job)).State.Photos);
        Assert.False(Directory.Exists(Path.Combine(hamlet.Folder, "files", "photos")));
    }

    [Fact]
    public async Task Parts_used_leave_the_van_and_come_back_when_it_was_not_so()
    {
        var part = new SparePart("Corvane", "Twin 40", "1 in", "CV1 check kit", "cv1", 210.50m, "C-1", 3, 2, 4);
        Task<Reply<T>> Keep<T>(Func<KeepParts, Task<Reply<T>>> work) =>
            With(s => work(s.GetRequiredService<KeepParts>()));
        Assert.Equal(new ImportedParts(1, 0, 0), (await Keep(k => k.Import([part], "Wilma", None))).Value);
        Assert.Equal(new ImportedParts(0, 0, 1), (await Keep(k => k.Import([part], "Wilma", None))).Value);
        var changed = part with { Price = 230, InStore = 3 };
        Assert.Equal(new ImportedParts(0, 1, 0), (await Keep(k => k.Import([changed], "Wilma", None))).Value);
        Assert.Equal(NotDone.Refused, (await Keep(k => k.Import([part, part], "Wilma", None))).Why);
        async Task<PartLine> Line() =>
            Assert.Single(await With(s => s.GetRequiredService<PartsList>().All(hamlet.Tester, None)));
        var item = (await Line()).Item.Id;
        Assert.Equal(NotDone.Refused, (await Keep(k => k.ToVan(item, hamlet.Tester, 4, "Moa", None))).Why);
        Assert.Equal(2, (await Keep(k => k.ToVan(item, hamlet.Tester, 2, "Moa", None))).Value);
        var low = await Line();
        Assert.Equal((2, 1, true, 3), (low.Van, low.Store, low.IsLow, low.ToOrder));
        var job = (await Begin()).Value;
        var used = (await Enter(job, new RepairBody.PartUsed("CV1 check kit", 1, item))).Value;
        Assert.Equal(1, (await Line()).Van);
        await Enter(job, new RepairBody.TookBack(new(used)));
        Assert.Equal(2, (await Line()).Van);
        Assert.Equal(3, (await Keep(k => k.Receive(item, 3, "Wilma", None))).Value);
        Assert.Equal(4, (await Line()).Store);
    }

    [Fact]
    public void A_list_of_parts_comes_back_from_its_CSV_and_formulas_are_written_as_text()
    {
        SparePart[] parts =
        [
            new("Corvane", "Twin 40", "1 1/2 in", "CV1 \"check\" kit, large", "cv1", 210.50m, "=1+1", 3, 2, 4),
            new("Å", "B", "", "seat", "", 0, "", 0, 0, 0),
        ];
        var text = PartsCsv.Write(parts);
        Assert.DoesNotContain(",=1+1", text, StringComparison.Ordinal);
        Assert.Equal(parts, PartsCsv.Read(text, out var errors));
        Assert.Empty(errors);
    }

    [Theory]
    [InlineData("", "line 1")]
    [InlineData("make;model\nA;B\n", "line 1")]
    [InlineData(
        "make,model,size,name,part,price,supplier number,lead days,least,in store\nA,B,,kit,,twelve,,1,1,1\n",
        "line 2"
    )]
    [InlineData(
        "make,model,size,name,part,price,supplier number,lead days,least,in store\n,B,,kit,,1,,1,1,-1\n",
        "line 2"
    )]
    [InlineData("make,model,size,name,part,price,supplier number,lead days,least,in store\nA\n", "line 2")]
    public void A_wrong_list_is_refused_with_the_line_that_is_wrong(string text, string place)
    {
        Assert.Empty(PartsCsv.Read(text, out var errors));
        Assert.Contains(errors, e => e.Place == place);
    }

    [Fact]
    public async Task An_assembly_that_wears_says_how_likely_it_fails_and_a_repair_begins_its_history_anew()
    {
        var assembly = hamlet.Assemblies[0];
        await hamlet.InStore(async s =>
        {
            var kit = (await s.Kits.FirstAsync()).Id;
            for (var year = 0; year < 4; year++)
            {
                var run = new RunRow
                {
                    Id = Guid.NewGuid(),
                    AssemblyId = assembly,
                    TesterId = hamlet.Tester,
                    KitId = kit,
                    ProcedureId = "dc-sight-tube",
                    ProfileId = "psid-standard",
                    StartedAt = Noon.AddYears(year - 4),
                    SignedAt = Noon.AddYears(year - 4),
                    Outcome = "pass",
                };
                run.Results.Add(
                    new()
                    {
                        RunId = run.Id,
                        Item = "check-1",
                        Result = "pass",
                        Value = 2.2m - (0.35m * year),
                        Unit = "psid",
                        Limit = 1.0m,
                    }
                );
                s.Runs.Add(run);
            }

            return await s.SaveChangesAsync();
        });
        async Task<int?> Chance() =>
            await With(async s =>
            {
                var store = s.GetRequiredService<Store>();
                var row = await store.Assemblies.FirstAsync(a => a.Id == assembly);
                await s.GetRequiredService<ChanceProjection>().Write(row, new(2031, 4, 2), None);
                await store.SaveChangesAsync();
                return row.ChanceToFail;
            });
        Assert.InRange((await Chance())!.Value, 25, 100);
        var job = (await Begin()).Value;
        await hamlet.InStore(async s =>
        {
            var last = await s.Runs.OrderByDescending(r => r.SignedAt).FirstAsync();
            (await s.Repairs.FirstAsync(r => r.Id == job)).RetestId = last.Id;
            return await s.SaveChangesAsync();
        });
        Assert.Null(await Chance());
    }
}
