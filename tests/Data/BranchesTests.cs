using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Data.Audit;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Office;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>
/// Branches: a filter of every list and a right to change, and no wall. In the hamlet the mill's district is of the
/// branch East, the quay's of West; Wilma works for East, Hester owns the installation.
/// </summary>
public sealed class BranchesTests : IAsyncLifetime, IAsyncDisposable
{
    private const string Mill = "Millrace",
        Quay = "Quayside";
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly Author Somebody = new("Hester");
    private readonly SmallInstallation hamlet = new();
    private Guid wilma;
    private Guid west;
    private Guid east;
    private Guid atTheQuay;
    private Guid ola;

    private Guid AtTheMill => hamlet.Assemblies[0];

    public async Task InitializeAsync()
    {
        await hamlet.Filled(AssemblyTypes.DC);
        (wilma, ola) = (await Person("Wilma Sand", Roles.Office), await Person("Ola Quist", Roles.Tester));
        atTheQuay = await hamlet.InStore(async s =>
        {
            var mill = await s.Assemblies.Include(a => a.Place).FirstAsync();
            var place = new PlaceRow
            {
                Id = Guid.NewGuid(),
                OwnerId = mill.Place!.OwnerId,
                Name = "Ropewalk",
                Address = "4 Quay",
                District = Quay,
                Contact = "",
                Access = "",
            };
            var row = new AssemblyRow
            {
                Id = Guid.NewGuid(),
                Place = place,
                AuthorityId = mill.AuthorityId,
                Tag = "Q-1",
                Type = "DC",
                Make = "Corvane",
                Model = "Twin 40",
                Size = "1 in",
                Serial = "C-900",
                Flow = "Upward",
                Location = "Yard",
                Serves = "hydrant",
                Hazard = "low",
                Protection = "containment",
                InstalledOn = new(2021, 3, 1),
                HowToFind = "",
                NextDue = new(2026, 1, 10),
            };
            s.Assemblies.Add(row);
            await s.SaveChangesAsync();
            return row.Id;
        });
        var kit = await hamlet.InStore(s => s.Kits.Select(k => k.Id).SingleAsync());
        east = (await Keep(null, new("East", [Mill], [wilma, hamlet.Tester], [kit]))).Value;
        west = (await Keep(null, new("West", [Quay], [ola], []))).Value;
    }

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private Task<Guid> Person(string name, params string[] roles) =>
        hamlet.InStore(async s =>
        {
            var account = new Account
            {
                Id = Guid.NewGuid(),
                UserName = name,
                NormalizedUserName = name.ToUpperInvariant(),
                FullName = name,
                SecurityStamp = "x",
            };
            s.Users.Add(account);
            foreach (var role in await s.Roles.Where(r => roles.Contains(r.Name)).ToListAsync())
                s.UserRoles.Add(new() { UserId = account.Id, RoleId = role.Id });
            await s.SaveChangesAsync();
            return account.Id;
        });

    private Task<Reply<Guid>> Keep(Guid? id, TypedBranch typed) =>
        hamlet.With<Reply<Guid>, KeepBranches>(k => k.Keep(id, typed, Somebody, None));

    // What somebody who is signed in does.
    private async Task<T> As<T, TService>(Guid account, Func<TService, Task<T>> work)
        where TService : notnull
    {
        await using var scope = hamlet.Services.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<WhoAsks>().Is(account, "Wilma Sand", "");
        return await work(scope.ServiceProvider.GetRequiredService<TService>());
    }

    private Task<Reply<Edited>> Serves(Guid account, Guid assembly, string what) =>
        As<Reply<Edited>, EditRegister>(account, e =>
            e.Assembly(
                assembly,
                new Dictionary<string, string?> { [AssemblyFields.Serves.Id] = what },
                null,
                new("Wilma Sand"),
                None
            )
        );

    private Task<string> Served(Guid assembly) =>
        hamlet.InStore(s => s.Assemblies.Where(a => a.Id == assembly).Select(a => a.Serves).SingleAsync());

    [Fact]
    public async Task A_list_of_a_branch_shows_what_stands_in_its_districts_and_without_it_everything()
    {
        async Task<string[]> Tags(string? branch) =>
            [
                .. (
                    await hamlet.With<IReadOnlyList<RegisterLine>, RegisterSearch>(r =>
                        r.Find("", new() { Branch = branch }, RegisterOrder.Tag, null, None)
                    )
                ).Select(l => l.Assembly.Tag),
            ];
        Assert.Equal(["A-1"], await Tags($"{east}"));
        Assert.Equal(["Q-1"], await Tags($"{west}"));
        Assert.Equal(["A-1", "Q-1"], await Tags(BranchFilter.Everything));
        Assert.Equal(["A-1", "Q-1"], await Tags("no id of anything"));
        Assert.Empty(await Tags($"{Guid.NewGuid()}"));
        var due = await hamlet.With<IReadOnlyList<DueLine>, DueList>(d =>
            d.Lines(new() { Branch = $"{west}" }, null, None)
        );
        Assert.Equal("Q-1", Assert.Single(due).Assembly.Tag);
        Assert.Equal(
            [hamlet.Tester],
            (
                await hamlet.With<IReadOnlyList<Account>, KitsAndPeopleList>(k => k.In(Roles.Tester, None, $"{east}"))
            ).Select(a => a.Id)
        );
        Assert.Equal(
            [atTheQuay],
            await hamlet.With<List<Guid>, RoundsAhead>(r => r.Due(new(2030, 1, 1), 40, $"{west}", None))
        );
    }

    [Fact]
    public async Task A_branch_says_what_it_has_and_how_much_of_it_is_overdue()
    {
        var lines = await hamlet.With<IReadOnlyList<BranchLine>, BranchList>(b => b.All(None));
        Assert.Equal(["East", "West"], lines.Select(l => l.Branch.Name));
        Assert.Equal((1, 2, 1), (lines[0].Assemblies, lines[0].People.Count, lines[0].Kits.Count));
        Assert.Equal((1, 1, Quay), (lines[1].Assemblies, lines[1].Overdue, lines[1].Districts.Single()));
        var filter = await hamlet.With<BranchFilter, BranchList>(b => b.For(wilma, None));
        Assert.Equal($"{east}", filter.Own);
        Assert.Equal(
            ($"{east}", BranchFilter.Everything, $"{west}"),
            (filter.Shown(null), filter.Shown("all"), filter.Shown($"{west}"))
        );
        Assert.Null((await hamlet.With<BranchFilter, BranchList>(b => b.For(Guid.NewGuid(), None))).Shown("all"));
    }

    [Fact]
    public async Task Who_works_for_a_branch_changes_what_it_has_and_nothing_of_another()
    {
        Assert.Null((await Serves(wilma, AtTheMill, "taproom")).Refusal);
        Assert.Equal("taproom", await Served(AtTheMill));
        var refused = await Assert.ThrowsAsync<OtherBranchException>(() => Serves(wilma, atTheQuay, "bilge"));
        Assert.Equal("Q-1 belongs to the branch West. You work for East. Nothing was changed.", refused.Message);
        Assert.Equal("hydrant", await Served(atTheQuay));
    }

    [Fact]
    public async Task Who_works_for_none_changes_everything_and_what_belongs_to_none_is_anybodys()
    {
        var forAll = await Person("Una Reed", Roles.Office);
        Assert.Null((await Serves(forAll, atTheQuay, "deck")).Refusal);
        Assert.Null((await hamlet.With<Reply<Guid>, KeepBranches>(k => k.Remove(west, Somebody, None))).Refusal);
        Assert.Null((await Serves(wilma, atTheQuay, "quarterdeck")).Refusal);
        Assert.Equal("quarterdeck", await Served(atTheQuay));
        Assert.Equal(0, await hamlet.InStore(s => s.BranchDistricts.CountAsync(d => d.BranchId == west)));
        Assert.Equal(1, await hamlet.InStore(s => s.Branches.CountAsync()));
    }

    [Fact]
    public async Task The_owner_of_the_installation_is_bound_to_no_branch()
    {
        var hester = await Person("Hester Vane", Roles.Office, Roles.Owner);
        Assert.Null((await Keep(east, new("East", [Mill], [wilma, hamlet.Tester, hester], []))).Refusal);
        Assert.Null((await Serves(hester, atTheQuay, "cabin")).Refusal);
    }

    [Fact]
    public async Task Many_at_once_are_changed_all_or_none()
    {
        await Assert.ThrowsAsync<OtherBranchException>(() =>
            As<Reply<Guid>, ChangeMany>(wilma, c => c.Do([AtTheMill, atTheQuay], "use", "Hospital", "Wilma Sand", None))
        );
        Assert.Equal(0, await hamlet.InStore(s => s.Assemblies.CountAsync(a => a.Use != null)));
    }

    [Fact]
    public async Task A_round_belongs_to_the_branch_of_who_goes_it()
    {
        NewStop Stop(Guid tester) => new(tester, hamlet.Clock.Today().AddDays(1), new(8, 0), new(16, 0), null);
        Assert.Null((await As<Reply<Guid>, AddStop>(wilma, a => a.With(AtTheMill, Stop(hamlet.Tester), None))).Refusal);
        // Its tester helps out elsewhere; another branch's is not sent about.
        Assert.Null((await As<Reply<Guid>, AddStop>(wilma, a => a.With(atTheQuay, Stop(hamlet.Tester), None))).Refusal);
        await hamlet.InStore(async s =>
        {
            var kept = await s.Certificates.AsNoTracking().FirstAsync();
            (kept.Id, kept.AccountId) = (Guid.NewGuid(), ola);
            s.Certificates.Add(kept);
            return await s.SaveChangesAsync();
        });
        await Assert.ThrowsAsync<OtherBranchException>(() =>
            As<Reply<Guid>, AddStop>(wilma, a => a.With(AtTheMill, Stop(ola), None))
        );
        Assert.Equal(0, await hamlet.InStore(s => s.Stops.CountAsync(p => p.TesterId == ola)));
    }

    [Fact]
    public async Task People_and_kits_of_another_branch_and_what_is_everybodys_stay_as_they_are()
    {
        TypedHours Hours(Guid of) => new(of, new(7, 0), new(15, 0), 0, 0, 30, []);
        Assert.Null(
            (
                await As<Reply<Guid>, KeepWorkingHours>(wilma, k =>
                    k.With(Hours(hamlet.Tester), new("Wilma Sand"), None)
                )
            ).Refusal
        );
        await Assert.ThrowsAsync<OtherBranchException>(() =>
            As<Reply<Guid>, KeepWorkingHours>(wilma, k => k.With(Hours(ola), new("Wilma Sand"), None))
        );
        var kit = await hamlet.InStore(s => s.Kits.Select(k => k.Id).SingleAsync());
        Assert.Null((await Keep(west, new("West", [Quay], [ola], [kit]))).Refusal);
        var today = hamlet.Clock.Today();
        await Assert.ThrowsAsync<OtherBranchException>(() =>
            As<Reply<Guid>, LendKit>(wilma, l => l.With(kit, ola, today, today, new("Wilma Sand"), None))
        );
        var authority = await hamlet.InStore(s => s.Authorities.Select(a => a.Id).SingleAsync());
        await Assert.ThrowsAsync<OtherBranchException>(() =>
            As<Reply<Guid>, MakeProfile>(wilma, m => m.Rename(authority, "My Board", new("Wilma Sand"), None))
        );
        await Assert.ThrowsAsync<OtherBranchException>(() =>
            As<Reply<Guid>, KeepBranches>(wilma, k =>
                k.Keep(east, new("East", [Mill, Quay], [wilma], []), new("Wilma Sand"), None)
            )
        );
        Assert.Equal(
            west,
            await hamlet.InStore(s =>
                s.BranchDistricts.Where(d => d.District == Quay).Select(d => d.BranchId).SingleAsync()
            )
        );
    }

    [Fact]
    public async Task A_new_kit_belongs_to_the_branch_of_its_keeper_who_is_not_anothers()
    {
        NewKit Kit(Guid keeper, string serial) =>
            new(keeper, "five-valve", "Gallibrand", "G5", serial, "psid", 0.1m, 0.2m, new(2026, 5, 1), "A bench");
        var added = await As<Reply<Guid>, AddKit>(wilma, a =>
            a.With(Kit(hamlet.Tester, "K-20"), new("Wilma Sand"), None)
        );
        Assert.Null(added.Refusal);
        Assert.Equal(
            east,
            await hamlet.InStore(s =>
                s.BranchKits.Where(k => k.KitId == added.Value).Select(k => k.BranchId).SingleAsync()
            )
        );
        await Assert.ThrowsAsync<OtherBranchException>(() =>
            As<Reply<Guid>, AddKit>(wilma, a => a.With(Kit(ola, "K-21"), new("Wilma Sand"), None))
        );
        Assert.Equal(0, await hamlet.InStore(s => s.Kits.CountAsync(k => k.Serial == "K-21")));
    }

    [Fact]
    public async Task A_file_is_taken_in_by_who_works_for_what_it_is_about()
    {
        async Task<Guid> Checked(string file)
        {
            var id = Guid.NewGuid();
            await hamlet.InStore(async s =>
            {
                s.Imports.Add(
                    new()
                    {
                        Id = id,
                        FileName = "list.csv",
                        Sender = "board",
                        Authority = "",
                        Rules = "psid-standard",
                        State = ImportStates.Checked,
                        At = DateTimeOffset.UnixEpoch,
                        By = "Wilma Sand",
                        Columns = ImportColumns.Write([
                            new("Serial", AssemblyFields.Serial.Id),
                            new("Type", AssemblyFields.Type.Id),
                            new("District", PlaceFields.District.Id),
                        ]),
                    }
                );
                var cells = file.Split(',');
                var there = await s.Assemblies.Where(a => a.Serial == cells[0]).Select(a => (Guid?)a.Id).ToListAsync();
                s.ImportLines.Add(
                    new()
                    {
                        ImportId = id,
                        Number = 2,
                        State = there.Count > 0 ? nameof(LineState.Changed) : nameof(LineState.New),
                        Cells = System.Text.Json.JsonSerializer.Serialize(cells),
                        AssemblyId = there.FirstOrDefault(),
                    }
                );
                return await s.SaveChangesAsync();
            });
            return id;
        }

        Task<Reply<Guid>> Confirmed(Guid who, Guid import) =>
            As<Reply<Guid>, ApplyImport>(who, a => a.Confirm(import, "Wilma Sand", None));
        Assert.StartsWith(
            "Line 2: Q-1 belongs to the branch West.",
            (await Confirmed(wilma, await Checked("C-900,DC,"))).Refusal,
            StringComparison.Ordinal
        );
        Assert.StartsWith(
            $"Line 2: {Quay} belongs to the branch West.",
            (await Confirmed(wilma, await Checked($"C-901,DC,{Quay}"))).Refusal,
            StringComparison.Ordinal
        );
        Assert.Null((await Confirmed(wilma, await Checked($"C-902,DC,{Mill}"))).Refusal);
        Assert.Null((await Confirmed(await Person("Una Reed", Roles.Office), await Checked("C-900,DC,"))).Refusal);
    }

    [Fact]
    public async Task What_another_branch_had_goes_over_and_stands_in_the_history_of_each()
    {
        Assert.Null((await Keep(west, new("Westside", [Quay, Mill], [ola, wilma], []))).Refusal);
        var of = await hamlet.With<BranchOf?, BranchList>(b => b.OfAssembly(AtTheMill, wilma, None));
        Assert.Equal(("Westside", west, west), (of!.Name, of.Id, of.Own!.Value));
        var changes = await hamlet.With<IReadOnlyList<ChangeRow>, ChangeList>(c => c.Of([wilma], None));
        Assert.Contains("branch: East, now Westside", changes.Select(ChangeList.Says));
        Assert.Contains(
            "name: West, now Westside",
            (await hamlet.With<IReadOnlyList<ChangeRow>, ChangeList>(c => c.Of([west], None))).Select(ChangeList.Says)
        );
    }

    [Theory]
    [InlineData("", Mill, "name", "missing")]
    [InlineData("east", Mill, "name", "already")]
    [InlineData("North", "Atlantis", "districts", "No place lies")]
    public async Task A_branch_that_cannot_be_is_refused_at_its_field(
        string name,
        string district,
        string field,
        string says
    )
    {
        var reply = await Keep(null, new(name, [district], [], []));
        Assert.Contains(reply.Errors, e => e.Field == field && e.Says.Contains(says, StringComparison.Ordinal));
        Assert.NotNull((await Keep(null, new("North", [], [Guid.NewGuid()], [Guid.NewGuid()]))).Refusal);
        Assert.Equal(NotDone.NotFound, (await Keep(Guid.NewGuid(), new("North", [], [], []))).Why);
        Assert.Equal(2, await hamlet.InStore(s => s.Branches.CountAsync()));
    }
}
