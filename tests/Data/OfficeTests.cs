using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Office;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>The office's work on the register: corrections, merging, what happened, what is owed.</summary>
public sealed class OfficeTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly Author Wilma = new("Wilma");
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync() => await hamlet.Filled([AssemblyTypes.DC, AssemblyTypes.DC, AssemblyTypes.RP]);

    Task IAsyncLifetime.DisposeAsync() => DisposeAsync().AsTask();

    public ValueTask DisposeAsync() => hamlet.DisposeAsync();

    private Guid One => hamlet.Assemblies[0];
    private Guid Two => hamlet.Assemblies[1];

    private Task<Reply<Edited>> Edit(Guid id, params (RegisterField Field, string Value)[] values) =>
        hamlet.With<Reply<Edited>, EditRegister>(e =>
            e.Assembly(id, values.ToDictionary(v => v.Field.Id, v => (string?)v.Value), null, Wilma, None)
        );

    private Task<AssemblyRow> Row(Guid id) =>
        hamlet.InStore(s => s.Assemblies.AsNoTracking().FirstAsync(a => a.Id == id));

    private Task<Reply<Guid>> Happened(Guid id, string kind, DateOnly day) =>
        hamlet.With<Reply<Guid>, RecordEvent>(r => r.Of(id, kind, day, "", Wilma, None));

    private static DateOnly Today => DateOnly.FromDateTime(DateTime.UtcNow);

    [Fact]
    public async Task A_correction_is_kept_with_its_author_and_nothing_where_nothing_changed()
    {
        var done = await Edit(One, (AssemblyFields.Size, "1.5\""), (AssemblyFields.Model, "Twin 40"));
        Assert.Equal(1, done.Value!.Changed);
        Assert.Equal("1 1/2 in", (await Row(One)).Size);
        var change = Assert.Single(await hamlet.With<IReadOnlyList<ChangeRow>, ChangeList>(c => c.Of([One], None)));
        Assert.Equal(("Wilma", "Size: 1 in, now 1 1/2 in"), (change.By, ChangeList.Says(change)));
    }

    [Fact]
    public async Task What_cannot_be_is_refused_at_its_field_and_nothing_is_kept()
    {
        async Task Refused(RegisterField field, string value, string says)
        {
            var reply = await Edit(One, (field, value), (AssemblyFields.Make, "Nordquay"));
            Assert.Contains(reply.Errors, e => e.Field == field.Id && e.Says.Contains(says, StringComparison.Ordinal));
            Assert.Equal("Corvane", (await Row(One)).Make);
        }

        await Refused(AssemblyFields.Tag, "A-2", "already on another");
        await Refused(AssemblyFields.Serial, "", "missing");
        await Refused(LifeFields.Installed, "2026-02-31", "not a day");
        await Refused(AssemblyFields.Type, "tap", "not known");
    }

    [Fact]
    public async Task A_run_that_has_begun_keeps_what_it_began_with()
    {
        await hamlet.Begun();
        Assert.Equal(1, (await Edit(One, (AssemblyFields.Serves, "bar"))).Value!.OpenRuns);
    }

    [Fact]
    public async Task A_class_of_use_moves_what_is_owed_where_the_rules_ask_for_it()
    {
        await hamlet.Signed();
        var before = (await Row(One)).NextDue!.Value;
        await Edit(One, (LifeFields.InSeason, "1 January to 2 January"));
        var after = await Row(One);
        Assert.NotEqual(before, after.NextDue);
        Assert.Contains("seasonal", after.DueWhy, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Many_are_changed_together_after_it_was_shown_and_set_back_together()
    {
        List<Guid> all = [.. hamlet.Assemblies];
        var planned = (
            await hamlet.With<Reply<ManyPlanned>, ChangeMany>(c => c.Plan(all, "use", "Hospital", None))
        ).Value!;
        Assert.Equal(("medical", 3), (planned.Value, planned.Count));
        Assert.Null((await Row(One)).Use);
        var batch = await hamlet.With<Reply<Guid>, ChangeMany>(c => c.Do(all, "use", "Hospital", "Wilma", None));
        Assert.Equal("medical", (await Row(Two)).Use);
        await Edit(Two, (AssemblyFields.Use, "school"));
        var back = await hamlet.With<Reply<int>, ChangeMany>(c => c.Undo(batch.Value, "Wilma", None));
        Assert.Equal(2, back.Value);
        Assert.Equal((null, "school"), ((await Row(One)).Use, (await Row(Two)).Use));
    }

    [Fact]
    public async Task Two_entries_become_one_with_the_tests_of_both_and_two_again()
    {
        await hamlet.Signed(1);
        await Edit(One, (AssemblyFields.Serial, "c 71"));
        var pair = Assert.Single(await hamlet.With<IReadOnlyList<Pair>, Duplicates>(d => d.All(None)), p =>
            p.Why.StartsWith("Serials", StringComparison.Ordinal)
        );
        Assert.Equal((Two, One), (pair.One.Id, pair.Other.Id));
        var own = (await Row(One)).NextDue;
        var merged = await hamlet.With<Reply<Guid>, MergeAssemblies>(m => m.Into(One, Two, "Wilma", None));
        Assert.Null(merged.Refusal);
        Assert.Equal(AssemblyStates.Merged, (await Row(Two)).State);
        Assert.Contains("Passed on", (await Row(One)).DueWhy, StringComparison.Ordinal);
        Assert.Empty((await hamlet.CheckAll()).Broken);
        Assert.Null(
            (await hamlet.With<Reply<Guid>, MergeAssemblies>(m => m.Undo(merged.Value, "Wilma", None))).Refusal
        );
        Assert.Equal((own, AssemblyStates.InService), ((await Row(One)).NextDue, (await Row(Two)).State));
    }

    [Fact]
    public async Task What_is_laid_up_owes_nothing_until_it_is_put_back_and_a_mistake_is_taken_back()
    {
        await hamlet.Signed();
        var due = (await Row(One)).NextDue;
        Assert.NotNull(due);
        var laid = await Happened(One, "laid up", Today);
        var row = await Row(One);
        Assert.Equal((null, AssemblyStates.LaidUp), (row.NextDue, row.State));
        Assert.NotNull((await Happened(One, "laid up", Today)).Refusal);
        Assert.NotNull((await Happened(One, "moved", Today.AddDays(3))).Refusal);
        await hamlet.With<Reply<Guid>, RecordEvent>(r => r.TakeBack(One, laid.Value, Wilma, None));
        Assert.Equal(due, (await Row(One)).NextDue);
        await Happened(One, "water ran back", Today);
        Assert.Equal("Incident", (await Row(One)).DueCause);
    }

    [Fact]
    public async Task What_is_kept_for_lists_is_made_again_from_what_is_kept()
    {
        await hamlet.Signed();
        await Happened(Two, "moved", Today.AddDays(-3));
        async Task<string> Dues() =>
            await hamlet.InStore(async s =>
                string.Join(
                    '\n',
                    (await s.Assemblies.OrderBy(a => a.Tag).ToListAsync()).Select(a =>
                        $"{a.Tag} {a.NextDue} {a.DueUntil} {a.DueCause} {a.DueWhy} {a.DueThen} {a.State}"
                    )
                )
            );
        await hamlet.With<int, DueProjection>(d => d.Rebuild(null, None));
        var before = await Dues();
        await hamlet.InStore(s =>
            s.Assemblies.ExecuteUpdateAsync(a =>
                a.SetProperty(x => x.NextDue, (DateOnly?)null)
                    .SetProperty(x => x.DueCause, (string?)null)
                    .SetProperty(x => x.State, "")
            )
        );
        Assert.Equal(3, await hamlet.With<int, DueProjection>(d => d.Rebuild(null, None)));
        Assert.Equal(before, await Dues());
        Assert.Equal(0, await hamlet.With<int, DueProjection>(d => d.Rebuild(null, None)));
    }

    [Fact]
    public async Task The_due_list_shows_a_year_and_a_set_of_it_goes_into_a_round_once()
    {
        await hamlet.With<int, DueProjection>(d => d.Refresh(None));
        var year = await hamlet.With<DueYear, DueList>(l => l.Year(new(), None));
        Assert.Equal((3, 52), (year.Overdue, year.Weeks.Count));
        var lines = await hamlet.With<IReadOnlyList<DueLine>, DueList>(l => l.Lines(new() { Type = "DC" }, null, None));
        Assert.Equal(["A-1", "A-2"], lines.Select(l => l.Assembly.Tag));
        NewStop stop = new(hamlet.Tester, Today.AddDays(1), new(8, 0), new(16, 0), null);
        Task<Reply<AddedStops>> Plan() => hamlet.With<Reply<AddedStops>, AddStops>(a => a.With([One, Two], stop, None));
        Assert.Equal(2, (await Plan()).Value!.Added);
        var again = (await Plan()).Value!;
        Assert.Equal((0, 2), (again.Added, again.Skipped.Count));
        lines = await hamlet.With<IReadOnlyList<DueLine>, DueList>(l => l.Lines(new(), null, None));
        Assert.Equal(2, lines.Count(l => l.Tester == "Moa Ferrin"));
    }

    [Fact]
    public async Task What_was_moved_to_another_place_is_owed_a_test_and_what_was_entered_wrongly_is_not()
    {
        await hamlet.Signed();
        var elsewhere = await hamlet.InStore(async s =>
        {
            var mill = await s.Places.FirstAsync();
            var place = new PlaceRow
            {
                Id = Guid.NewGuid(),
                OwnerId = mill.OwnerId,
                Name = "Boat house",
                Address = "9 Strand",
                District = "Saltings",
                Contact = "",
                Access = "",
            };
            s.Places.Add(place);
            await s.SaveChangesAsync();
            return (Mill: mill.Id, Boats: place.Id);
        });
        Task<Reply<Edited>> Move(Guid to, string how, DateOnly? day) =>
            hamlet.With<Reply<Edited>, MoveAssembly>(m => m.To(One, to, how, day, Wilma, None));
        var owed = (await Row(One)).NextDue;
        Assert.Null((await Move(elsewhere.Boats, "wrong", null)).Why);
        Assert.Equal((elsewhere.Boats, owed), ((await Row(One)).PlaceId, (await Row(One)).NextDue));
        foreach (
            var (to, how, day, field) in new (Guid, string, DateOnly?, string)[]
            {
                (elsewhere.Boats, "wrong", null, "placeId"),
                (Guid.NewGuid(), "wrong", null, "placeId"),
                (elsewhere.Mill, "moved", null, "day"),
                (elsewhere.Mill, "moved", Today.AddDays(1), "day"),
                (elsewhere.Mill, "moved", new(1999, 1, 1), "day"),
                (elsewhere.Mill, "", null, "how"),
            }
        )
            Assert.Contains((await Move(to, how, day)).Errors, e => e.Field == field);
        Assert.Null((await Move(elsewhere.Mill, "moved", Today)).Why);
        var moved = await Row(One);
        Assert.Equal((elsewhere.Mill, nameof(Core.Dues.DueCause.Relocated)), (moved.PlaceId, moved.DueCause));
        var said = await hamlet.With<IReadOnlyList<ChangeRow>, ChangeList>(c => c.Of([One], None));
        Assert.Contains(said, c =>
            ChangeList.Says(c) == "Place: Boat house, 9 Strand, now Mill inn, 1 Weir Street" && c.By == "Wilma"
        );
    }

    [Fact]
    public async Task What_replaces_an_assembly_has_its_tag_owes_its_first_test_and_leads_back()
    {
        await hamlet.Signed();
        await hamlet.With<int, DueProjection>(d => d.Refresh(None));
        var old = await Row(One);
        Task<Reply<Guid>> Replace(string serial, DateOnly? day, string size = "1 in") =>
            hamlet.With<Reply<Guid>, ReplaceAssembly>(r =>
                r.By(
                    One,
                    new Dictionary<string, string?>
                    {
                        ["serial"] = serial,
                        ["make"] = "Nordquay",
                        ["model"] = "Stave 2",
                        ["size"] = size,
                    },
                    day,
                    Wilma,
                    None
                )
            );
        foreach (
            var (serial, day, size, field) in new (string, DateOnly?, string, string)[]
            {
                ("", Today, "1 in", "new-serial"),
                (old.Serial.ToLowerInvariant(), Today, "1 in", "new-serial"),
                ("N-1", null, "1 in", "replaced-day"),
                ("N-1", Today.AddDays(1), "1 in", "replaced-day"),
                ("N-1", old.InstalledOn.AddDays(-1), "1 in", "replaced-day"),
                ("N-1", Today, "some", "new-size"),
            }
        )
            Assert.Contains((await Replace(serial, day, size)).Errors, e => e.Field == field);
        Assert.Equal(old.Tag, (await Row(One)).Tag);
        var made = (await Replace("N-1", Today, "1.5\"")).Value;
        var (fresh, gone) = (await Row(made), await Row(One));
        Assert.Equal(
            (old.Tag, "N-1", "1 1/2 in", One, old.PlaceId),
            (fresh.Tag, fresh.Serial, fresh.Size, fresh.ReplacesId!.Value, fresh.PlaceId)
        );
        Assert.Equal(nameof(Core.Dues.DueCause.Installed), fresh.DueCause);
        Assert.Equal((AssemblyStates.Replaced, (DateOnly?)null), (gone.State, gone.NextDue));
        Assert.NotNull((await Replace("N-2", Today)).Refusal);
        Assert.Equal(0, await hamlet.With<int, DueProjection>(d => d.Rebuild(null, None)));
    }

    [Fact]
    public async Task What_waits_for_its_start_up_goes_into_a_round_as_a_seasonal_visit()
    {
        await hamlet.Signed();
        await Edit(One, (LifeFields.InSeason, "15 April to 15 October"));
        Assert.Equal(nameof(Core.Dues.DueCause.StartUp), (await Row(One)).DueCause);
        async Task<StopRow> Planned(Guid assembly, string? visit, int days)
        {
            var stop = new NewStop(hamlet.Tester, Today.AddDays(days), new(8, 0), new(16, 0), null, visit);
            var added = await hamlet.With<Reply<Guid>, AddStop>(a => a.With(assembly, stop, None));
            return await hamlet.InStore(s => s.Stops.AsNoTracking().FirstAsync(x => x.Id == added.Value));
        }

        var owed = await Planned(One, null, 1);
        Assert.True(owed.IsSeasonal);
        Assert.False((await Planned(One, "test", 2)).IsSeasonal);
        Assert.False((await Planned(Two, null, 1)).IsSeasonal);
        Assert.True((await Planned(Two, "seasonal", 2)).IsSeasonal);
        var run = await hamlet.Run(
            (await hamlet.With<Reply<Guid>, BeginRun>(b => b.For(owed.Id, hamlet.Tester, false, None))).Value
        );
        Assert.True(run.Setup.IsSeasonal);
        Assert.Contains(run.Plan.Sheet.Steps, s => s.Step.Id == "finish.leave");
    }

    [Theory]
    [InlineData("", "A-1 A-2 A-3")]
    [InlineData("kitchen", "A-1 A-2 A-3")]
    [InlineData("C-71", "A-2")]
    public async Task Filters_orders_and_words_go_together(string words, string tags)
    {
        Task<IReadOnlyList<RegisterLine>> Find(RegisterFilter filter, RegisterOrder order, string? after = null) =>
            hamlet.With<IReadOnlyList<RegisterLine>, RegisterSearch>(s => s.Find(words, filter, order, after, None));
        await hamlet.With<int, DueProjection>(d => d.Refresh(None));
        foreach (var order in Enum.GetValues<RegisterOrder>())
        {
            var all = await Find(new(), order);
            Assert.Equal(tags, string.Join(' ', all.Select(l => l.Assembly.Tag).Order(StringComparer.Ordinal)));
            // Page by page it is the same list.
            var rest = await Find(new(), order, Keyset.After(all[0].Assembly, order));
            Assert.Equal(all.Skip(1).Select(l => l.Assembly.Tag), rest.Select(l => l.Assembly.Tag));
        }

        var dcs = await Find(
            new()
            {
                Type = "DC",
                District = "Millrace",
                Hazard = "low",
            },
            RegisterOrder.Tag
        );
        Assert.All(dcs, l => Assert.Equal("DC", l.Assembly.Type));
        Assert.Equal(
            dcs.Count,
            await hamlet.With<int, RegisterSearch>(s => s.Count(words, new() { Type = "DC" }, None))
        );
    }
}
