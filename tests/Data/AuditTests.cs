using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Tests;
using Mordel.Data.Audit;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>Who did what is written down with the doing, and whoever changes it afterwards is found out.</summary>
public class AuditTests
{
    private static readonly CancellationToken None = CancellationToken.None;

    private static Task<List<AuditRow>> Lines(Hamlet town) =>
        town.InStore(s => s.Audit.AsNoTracking().OrderBy(a => a.Number).ToListAsync());

    private static Task<IReadOnlyList<string>> Check(Hamlet town) =>
        town.With<IReadOnlyList<string>, AuditLog>(log => log.Check(None));

    private static async Task<Hamlet> Lived()
    {
        var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        var run = await town.Signed();
        await town.Amend(run, "The serial was read again.");
        await town.With<int, ApiKeys>(async keys =>
        {
            await keys.Issue(town.Tester, "the van's tablet", ApiKeys.Write, 30, None);
            return 0;
        });
        await town.With<Reply<Guid>, KeepPasswords>(p =>
            p.Give(town.Tester, "A-secret-of-12", new("Wilma Quent"), None)
        );
        return town;
    }

    [Fact]
    public async Task What_is_sealed_amended_given_and_made_stands_in_it_and_no_secret_does()
    {
        await using var town = await Lived();
        var lines = await Lines(town);
        Assert.Equal(
            [AuditKinds.Sealed, AuditKinds.Amended, AuditKinds.Key, AuditKinds.Person],
            lines.Select(l => l.What).Where(w => w != AuditKinds.SigningKey)
        );
        Assert.Equal(Enumerable.Range(1, lines.Count).Select(i => (long)i), lines.Select(l => l.Number));
        Assert.Contains(
            "the van's tablet made, may write",
            lines.Single(l => l.What == AuditKinds.Key).Says,
            StringComparison.Ordinal
        );
        Assert.Equal("password: given by the owner", lines.Single(l => l.What == AuditKinds.Person).Says);
        Assert.DoesNotContain(lines, l => l.Says.Contains("secret", StringComparison.Ordinal));
        Assert.Empty(await Check(town));
        Assert.True((await town.CheckAll()).Holds);
    }

    [Fact]
    public async Task Who_asks_is_written_down_with_where_from()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        await using var scope = town.Services.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<WhoAsks>().Is(town.Tester, "Moa Ferrin", "10.1.2.3");
        var log = scope.ServiceProvider.GetRequiredService<AuditLog>();
        await log.Write(AuditKinds.Exported, "", "/exports/register.csv", None);
        await log.Write(AuditKinds.Exported, "", "/exports/100%_people.csv", None);
        var line = (await Lines(town))[^2];
        Assert.Equal(
            (town.Tester, "Moa Ferrin", "10.1.2.3", "/exports/register.csv"),
            (line.AccountId!.Value, line.Who, line.From, line.Says)
        );
        Assert.Equal(2, (await log.Find(new(AuditKinds.Exported, "ferr", null, null), None)).Count);
        Assert.Empty(await log.Find(new(AuditKinds.Exported, "f%rr", null, null), None));
        Assert.Single(await log.Find(new(AuditKinds.Exported, null, null, line.Number + 1), None));
        Assert.Empty(await log.Find(new(AuditKinds.Kit, null, null, null), None));
    }

    [Fact]
    public async Task Twenty_who_write_at_once_make_one_chain()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        await Task.WhenAll(
            Enumerable
                .Range(0, 20)
                .Select(i =>
                    Task.Run(async () =>
                    {
                        for (var j = 0; j < 10; j++)
                            await town.With<int, AuditLog>(async log =>
                            {
                                await log.Write(AuditKinds.SignedIn, "", $"{i} {j}", None);
                                return 0;
                            });
                    })
                )
        );
        Assert.Equal(200, (await Lines(town)).Count(l => l.What == AuditKinds.SignedIn));
        Assert.Empty(await Check(town));
    }

    [Fact]
    public async Task What_failed_or_was_given_up_is_not_written_down_and_what_follows_is_once()
    {
        await using var town = await new SmallInstallation().Filled(AssemblyTypes.DC);
        await using var scope = town.Services.CreateAsyncScope();
        var (store, who, log) = (
            scope.ServiceProvider.GetRequiredService<Store>(),
            scope.ServiceProvider.GetRequiredService<WhoAsks>(),
            scope.ServiceProvider.GetRequiredService<AuditLog>()
        );
        await using (await store.BeginWriting(None))
        {
            await log.Write(AuditKinds.Exported, "", "given up", None);
        }

        var twice = new AuthorityRow
        {
            Id = (await store.Authorities.AsNoTracking().FirstAsync()).Id,
            Name = "Again",
            ProfileId = "psid-standard",
        };
        store.Authorities.Add(twice);
        who.Note(AuditKinds.Exported, "", "once");
        await Assert.ThrowsAsync<DbUpdateException>(() => store.SaveChangesAsync());
        store.Entry(twice).State = EntityState.Detached;
        await store.SaveChangesAsync();
        await log.Write(AuditKinds.Exported, "", "then", None);
        Assert.Equal(
            ["once", "then"],
            (await Lines(town)).Where(l => l.What == AuditKinds.Exported).Select(l => l.Says)
        );
        Assert.Empty(await Check(town));
    }

    public static TheoryData<string> Alterations => [.. Cases.Rows(Altered, nameof(Alterations))];

    private static string[] Altered =>
        [
            "UPDATE Audit SET Says = 'nothing' WHERE Number = 2",
            "UPDATE Audit SET Who = 'Somebody' WHERE Number = 1",
            "UPDATE Audit SET AccountId = NULL, At = '2001-01-01 00:00:00.000' WHERE Number = 3",
            "UPDATE Audit SET \"From\" = '10.0.0.1' WHERE Number = 1",
            "UPDATE Audit SET What = 'kit' WHERE Number = 2",
            "UPDATE Audit SET \"On\" = 'x' WHERE Number = 1",
            "DELETE FROM Audit WHERE Number = 2",
            "DELETE FROM Audit WHERE Number = (SELECT MAX(Number) FROM Audit)",
            "DELETE FROM Audit",
            "DELETE FROM AuditEnds",
            "UPDATE AuditEnds SET Text = replace(Text, '\"count\":', '\"count\":1')",
            "UPDATE AuditEnds SET Signature = 'AAAA'",
            "INSERT INTO Audit SELECT Number + 100, At, AccountId, Who, What, \"On\", Says, \"From\", Hash FROM Audit WHERE Number = 1",
        ];

    [Theory]
    [MemberData(nameof(Alterations))]
    public async Task Whatever_is_altered_in_it_is_found_and_stays_found_when_it_goes_on(string sql)
    {
        await using var town = await Lived();
        Assert.True(await town.Alter(sql) > 0);
        Assert.NotEmpty(await Check(town));
        Assert.False((await town.CheckAll()).Holds);
        if (sql.Contains("AuditEnds", StringComparison.Ordinal))
            return;
        await town.With<int, AuditLog>(async log =>
        {
            await log.Write(AuditKinds.SignedIn, "", "goes on", None);
            return 0;
        });
        Assert.NotEmpty(await Check(town));
    }
}
