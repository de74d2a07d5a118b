using System.Data.Common;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.Extensions.Logging;
using Microsoft.Extensions.Logging.Abstractions;
using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.Data.Tests;

/// <summary>
/// What the lists ask of the database: few questions, however many rows there are, and none that looks through a table
/// that grows with the years.
/// </summary>
public sealed class QuestionsTests(Towns towns) : IClassFixture<Towns>
{
    private const int MostQuestions = 8;

    // Tables that have a row a day or more; a small one is read whole, and may be.
    private static readonly string[] Large =
    [
        "Runs",
        "Entries",
        "Results",
        "Seals",
        "Chains",
        "Amendments",
        "EarlierSeals",
        "Assemblies",
        "Places",
        "Owners",
        "Stops",
        "Attempts",
        "Outbox",
        "Letters",
        "Notices",
        "Consents",
        "Incoming",
        "Links",
        "Diagnoses",
        "Observations",
        "Repairs",
        "RepairEntries",
        "FollowUps",
        "PartMoves",
        "AssemblyEvents",
        "BroughtTests",
        "Changes",
        "Merges",
        "ImportLines",
        "SearchOrder",
        "SearchParts",
        "SearchStarts",
    ];

    private static readonly CancellationToken None = CancellationToken.None;

    public static TheoryData<string> Lists => [.. All.Keys.Order(StringComparer.Ordinal)];

    private static Dictionary<string, Func<Asked, Task>> All { get; } =
        new()
        {
            ["Today of the office"] = a =>
                new TodayList(a.Store, new(a.Store), new(a.Store, a.Seals, a.Consents)).Lines(a.Testers, a.Day, None),
            ["Today of a tester"] = a =>
                new TodayList(a.Store, new(a.Store), new(a.Store, a.Seals, a.Consents)).For(
                    a.Testers[0].Id,
                    a.Day,
                    None
                ),
            ["the register"] = a => a.Register.Find("", null, None),
            ["the register of a type, by what is due"] = a =>
                a.Register.Find("", new() { Type = "DC" }, RegisterOrder.Due, null, None),
            ["the register of a district with a word"] = a =>
                a.Register.Find("mill", new() { District = "Millrace" }, RegisterOrder.Tag, null, None),
            ["the register of a branch"] = a =>
                a.Register.Find("", new() { Branch = $"{a.Class}" }, RegisterOrder.Tag, null, None),
            ["what is due in a branch"] = a =>
                new DueList(a.Store, TimeProvider.System).Lines(new() { Branch = $"{a.Class}" }, null, None),
            ["runs of a branch"] = a => new RunList(a.Store, a.Seals).For(a.Wilma, false, null, None, $"{a.Class}"),
            ["the outbox of a branch"] = a => new OutboxList(a.Store).All($"{a.Class}", None),
            ["branches"] = a => new BranchList(a.Store, TimeProvider.System).All(None),
            ["how many are in the register"] = a => a.Register.Count("mill", new() { Hazard = "low" }, None),
            ["the year"] = a => new DueList(a.Store, TimeProvider.System).Year(new(), None),
            ["what is due"] = a => new DueList(a.Store, TimeProvider.System).Lines(new(), (a.Day, "A-1"), None),
            ["what is due to an authority"] = a =>
                new DueList(a.Store, TimeProvider.System).Lines(new() { Authority = a.Class }, null, None),
            ["what is stuck"] = a =>
                new DueList(a.Store, TimeProvider.System).Lines(new() { Show = "stuck" }, null, None),
            ["choices of lists"] = a => new DueList(a.Store, TimeProvider.System).Choices(Guid.NewGuid(), None),
            ["proposals"] = a => new ProposalList(a.Store, new()).Latest(None),
            ["rounds ahead"] = a => new RoundsAhead(a.Store, TimeProvider.System).From(a.Day, null, None),
            ["what could go into a round"] = a =>
                new RoundsAhead(a.Store, TimeProvider.System).Due(a.Day, 40, null, None),
            ["rounds to be planned"] = a =>
                new RoundProblems(a.Store, new(a.Store), a.Consents).Of(
                    new([a.Day], [.. a.Testers.Select(t => t.Id)], []) { WithoutKit = [] },
                    None
                ),
            ["what owners ask for"] = a => a.Consents.Open(null, None),
            ["an owner's page"] = a => a.Page(LinkPurposes.Owner),
            ["the page of whoever is there"] = a => a.Page(LinkPurposes.Occupant),
            ["what was told of an assembly"] = a => new NoticeList(a.Store).Of(a.Class, None),
            ["a letter"] = a => new NoticeList(a.Store).Letter(a.Class, None),
            ["what came back"] = a => new NoticeList(a.Store).Unseen(None),
            ["imports"] = a => new ImportList(a.Store).Latest(None),
            ["lines of an import"] = a => new ImportList(a.Store).Lines(a.Class, LineState.New, 0, None),
            ["changes of a thing"] = a => new ChangeList(a.Store).Of([a.Class], None),
            ["entered twice"] = a => new Duplicates(a.Store).All(None),
            ["a serial"] = a => a.Register.Find("C-7", null, None),
            ["a part of a word"] = a => a.Register.Find("itche", null, None),
            ["the beginning of a word"] = a => a.Register.Find("ki", null, None),
            ["three words"] = a => a.Register.Find("mill kitchen ki", "A-1", None),
            ["runs at the desk"] = a => new RunList(a.Store, a.Seals).For(a.Wilma, false, null, None),
            ["open runs at the desk"] = a => new RunList(a.Store, a.Seals).For(a.Wilma, true, null, None),
            ["the next page of runs"] = a =>
                new RunList(a.Store, a.Seals).For(a.Wilma, false, DateTimeOffset.UtcNow, None),
            ["a tester's runs"] = a =>
                new RunList(a.Store, a.Seals).For(new(a.Testers[0].Id, false), false, null, None),
            ["the outbox"] = a => new OutboxList(a.Store).All(null, None),
            ["people and kits"] = a => new KitsAndPeopleList(a.Store, TimeProvider.System).People(None),
            ["a class"] = a => new BenchList(a.Store).Glance(a.Class, a.Wilma, None),
            ["a learner's results"] = a => new BenchList(a.Store).By(a.Testers[0].Id, None),
            ["diagnoses"] = a => new DiagnosisList(a.Store).Latest(None),
            ["diagnoses of an assembly"] = a => new DiagnosisList(a.Store).OfAssembly(a.Class, None),
            ["a diagnosis"] = a => new DiagnosisList(a.Store).Of(a.Class, None),
            ["repairs under way"] = a => new RepairList(a.Store).Open(null, None),
            ["a tester's repairs"] = a => new RepairList(a.Store).Open(a.Testers[0].Id, None),
            ["likely to fail"] = a => new RepairList(a.Store).MostLikelyToFail(None),
            ["stopgaps"] = a => new RepairList(a.Store).FollowUps(null, None),
            ["repairs of an assembly"] = a => new RepairList(a.Store).OfAssembly(a.Class, None),
            ["parts"] = a => new PartsList(a.Store).All(a.Class, None),
            ["what to carry"] = a => new PartsList(a.Store).ToCarry(a.Testers[0].Id, a.Day, None),
            ["the rules"] = a => new ProfileList(a.Store).All(None),
            ["the standing"] = a => new StandingList(a.Store, TimeProvider.System).Of(new() { By = "make" }, None),
            ["the standing of a type"] = a =>
                new StandingList(a.Store, TimeProvider.System).Of(new() { Type = "DC", Years = 1 }, None),
            ["alarms"] = a => new Alarms(a.Store, TimeProvider.System, Quiet).All(None),
        };

    private static ILogger<Alarms> Quiet => NullLogger<Alarms>.Instance;

    [Theory]
    [MemberData(nameof(Lists))]
    public async Task A_list_asks_few_questions_and_none_that_looks_through_a_large_table(string list)
    {
        var few = await towns.Small.Questions(All[list]);
        var many = await towns.Large.Questions(All[list]);
        Assert.InRange(many.Count, 1, MostQuestions);
        Assert.True(few.Count == many.Count, $"{few.Count} questions in a small town, {many.Count} in a large one");
        foreach (var (sql, plan) in many)
        foreach (var line in plan)
            Assert.False(
                Array.Exists(Large, table => LooksThrough(line, table)),
                $"{list}: {line}\n{sql}\n{string.Join('\n', plan)}"
            );
    }

    [Fact]
    public async Task A_report_with_its_chain_is_found_by_its_keys_alone()
    {
        foreach (var (sql, plan) in await towns.Large.Questions(a => a.Seals.Of(a.Run, None)))
        foreach (var line in plan)
            Assert.False(Array.Exists(Large, table => LooksThrough(line, table)), $"{line}\n{sql}");
    }

    [Trait("Store", "File")]
    [Theory]
    [InlineData("SCAN Runs", true)]
    [InlineData("SCAN r USING INDEX IX_Runs_StartedAt", false)]
    [InlineData("SCAN r", true)]
    [InlineData("SCAN json_each VIRTUAL TABLE INDEX 1:", false)]
    [InlineData("SEARCH Runs USING INDEX IX_Runs_TesterId_StartedAt (TesterId=?)", false)]
    public void A_plan_that_looks_through_a_table_is_known(string line, bool scans) =>
        Assert.Equal(scans, LooksThrough(line, line.Contains("Runs", StringComparison.Ordinal) ? "Runs" : "r"));

    [Theory]
    [InlineData("  ->  Seq Scan on \"Runs\" r  (cost=1..2)", "", "SCAN Runs")]
    [InlineData("Index Scan using \"PK_Runs\" on \"Runs\" r", "  Filter: (x = 1)", "SCAN Runs")]
    [InlineData("Index Scan using \"PK_Runs\" on \"Runs\" r", "  Index Cond: (\"Id\" = $1)", null)]
    [InlineData("Index Scan using \"IX_Runs_StartedAt\" on \"Runs\" r", "  Filter: (x = 1)", null)]
    public void A_plan_of_a_server_that_looks_through_a_table_is_known(string line, string next, string? scans) =>
        Assert.Equal(scans ?? line, ServerPlans.InWords([line, next])[0]);

    [Theory]
    [InlineData("", "SCAN Seals")]
    [InlineData("        Index Cond: (\"RunId\" = r.\"Id\")", null)]
    public void A_condition_that_a_server_answers_from_all_of_a_table_is_known(string next, string? scans)
    {
        const string Line = "      ->  Index Only Scan using \"IX_Seals_RunId_AmendmentId\" on \"Seals\" s0";
        Assert.Equal(scans ?? Line, ServerPlans.InWords(["  SubPlan 2", Line, next])[1]);
    }

    // Along an index rows come in their order, and the reader stops at the end of the page; without one all are read.
    private static bool LooksThrough(string line, string table) =>
        line.StartsWith("SCAN ", StringComparison.Ordinal)
        && line.Split(' ')[1] == table
        && !line.Contains("INDEX", StringComparison.Ordinal);

    internal sealed class Asked : IAsyncDisposable
    {
        private readonly SmallInstallation hamlet = new();
        private readonly SetupStore shelf = new();
        private Recorder recorder = null!;

        public Store Store { get; private set; } = null!;
        public SealReader Seals { get; private set; } = null!;
        public RegisterSearch Register => new(Store, RegisterIndex.Of(Store), Seals, TimeProvider.System);
        public ConsentList Consents => new(Store, TimeProvider.System);
        public List<Account> Testers { get; private set; } = [];
        public Asker Wilma { get; } = new(Guid.NewGuid(), true);
        public Guid Class { get; } = Guid.NewGuid();
        public Guid Run { get; private set; }
        public DateOnly Day { get; } = new(2030, 1, 1);
        private PlaceRow place = null!;

        public Task Page(string purpose) =>
            new OwnerPage(Store, Consents, TimeProvider.System).Of(
                new()
                {
                    Purpose = purpose,
                    OfId = purpose == LinkPurposes.Owner ? place.OwnerId : place.Id,
                    Hash = "",
                    MadeBy = "",
                },
                None
            );

        public static async Task<Asked> Of(int assemblies)
        {
            var asked = new Asked();
            await asked.hamlet.Filled([.. Enumerable.Repeat(AssemblyTypes.DC, assemblies)]);
            asked.Run = await asked.hamlet.Signed();
            for (var i = 0; i < assemblies; i++)
                await asked.hamlet.Begun(i);
            await asked.Open();
            asked.Store.Classes.Add(
                new()
                {
                    Id = asked.Class,
                    Name = "Autumn",
                    InstructorId = asked.hamlet.Tester,
                }
            );
            await asked.Store.SaveChangesAsync();
            return asked;
        }

        /// <summary>What a list asks, once what is shared by all has been read.</summary>
        public async Task<List<(string Sql, string[] Plan)>> Questions(Func<Asked, Task> list)
        {
            await list(this);
            recorder.Said.Clear();
            await list(this);
            return
            [
                .. recorder.Said.Where(s =>
                    !s.Sql.EndsWith("WHERE 0", StringComparison.Ordinal)
                    && !s.Sql.EndsWith("WHERE FALSE", StringComparison.Ordinal)
                ),
            ];
        }

        public async ValueTask DisposeAsync()
        {
            await Store.DisposeAsync();
            await hamlet.DisposeAsync();
        }

        private async Task Open()
        {
            recorder = new();
            Store = hamlet.Address.Open(o => o.AddInterceptors(recorder));
            var keys = new SigningKeys(hamlet.Folder);
            await keys.Open(Store, None);
            Seals = new(Store, new(Store, shelf), keys, new(Store, TimeProvider.System, Quiet));
            place = await Store.Places.AsNoTracking().FirstAsync();
            Testers = await Store.Users.AsNoTracking().ToListAsync();
        }
    }

    // Has each question explained by the database itself, with the values it was asked with.
    private sealed class Recorder : DbCommandInterceptor
    {
        public List<(string Sql, string[] Plan)> Said { get; } = [];

        public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result,
            CancellationToken cancellationToken = default
        )
        {
            var sql = command.CommandText;
            if (sql.StartsWith("SELECT", StringComparison.Ordinal))
            {
                Said.Add((sql, command is SqliteCommand ? PlanOf(command, sql) : ServerPlans.Of(command, sql)));
            }

            return base.ReaderExecutingAsync(command, eventData, result, cancellationToken);
        }

        private static string[] PlanOf(DbCommand command, string sql)
        {
            using var explain = ((SqliteConnection)command.Connection!).CreateCommand();
            explain.CommandText = $"EXPLAIN QUERY PLAN {sql}";
            foreach (SqliteParameter parameter in command.Parameters)
                explain.Parameters.AddWithValue(parameter.ParameterName, parameter.Value);
            var plan = new List<string>();
            using var rows = explain.ExecuteReader();
            while (rows.Read())
                plan.Add(Named(rows.GetString(3), sql));
            return [.. plan];
        }

        // A plan names tables as the question calls them: "r" is "Runs" where it says so.
        private static string Named(string line, string sql)
        {
            var words = line.Split(' ');
            if (words.Length > 1 && words[0] is "SCAN" or "SEARCH")
            {
                var at = sql.IndexOf($"\" AS \"{words[1]}\"", StringComparison.Ordinal);
                if (at > 0)
                    words[1] = sql[(sql.LastIndexOf('"', at - 1) + 1)..at];
            }

            return string.Join(' ', words);
        }
    }
}

/// <summary>Two towns, filled once.</summary>
public sealed class Towns : IAsyncLifetime
{
    internal QuestionsTests.Asked Small { get; private set; } = null!;
    internal QuestionsTests.Asked Large { get; private set; } = null!;

    public async Task InitializeAsync()
    {
        Small = await QuestionsTests.Asked.Of(assemblies: 2);
        Large = await QuestionsTests.Asked.Of(assemblies: 20);
    }

    public async Task DisposeAsync()
    {
        await Small.DisposeAsync();
        await Large.DisposeAsync();
    }
}
