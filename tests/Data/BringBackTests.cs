using System.Text;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Data.Audit;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Lists;
using Mordel.Documents.Interchange;

namespace Mordel.Data.Tests;

/// <summary>Places, people and kits go out and come in again, without an assembly between them.</summary>
public sealed class BringBackTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly Author Wilma = new("Wilma");
    private readonly SmallInstallation hamlet = new(),
        empty = new();

    public async Task InitializeAsync()
    {
        await hamlet.Filled(AssemblyTypes.DC);
        await hamlet.InStore(async s =>
        {
            var owner = await s.Owners.FirstAsync();
            (owner.Mail, owner.Language) = ("mill@inns.invalid", "de");
            s.Places.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    OwnerId = owner.Id,
                    Name = "=Empty \"house\", north",
                    Address = "9 Weir Street",
                    District = "Millrace",
                    East = -120,
                    North = 44,
                    Contact = "",
                    Access = "Bell; then wait",
                    OccupantMail = "who@house.invalid",
                }
            );
            (await s.Kits.SingleAsync()).HoseColours = "red blue yellow";
            return await s.SaveChangesAsync();
        });
    }

    public async Task DisposeAsync()
    {
        await hamlet.DisposeAsync();
        await empty.DisposeAsync();
    }

    ValueTask IAsyncDisposable.DisposeAsync() => new(DisposeAsync());

    private static Task<string> Out(SmallInstallation of, string what) =>
        of.With<string, Exports>(async e =>
        {
            var table = e.Of(what, default)!;
            using var all = new MemoryStream();
            await TableWriter.Csv(all, table.Heads, table.Lines);
            return Encoding.UTF8.GetString(all.ToArray());
        });

    private static async Task<Reply<BroughtBack>> In(
        SmallInstallation into,
        string csv,
        bool accounts = true,
        bool dryRun = false
    )
    {
        using var file = new MemoryStream(Encoding.UTF8.GetBytes(csv));
        await using var scope = into.Services.CreateAsyncScope();
        return await ActivatorUtilities
            .CreateInstance<BringBack>(scope.ServiceProvider, new TableReader())
            .Take(file, accounts, dryRun, Wilma, default);
    }

    [Fact]
    public async Task What_goes_out_comes_in_and_goes_out_the_same()
    {
        foreach (var what in Exports.Brought)
        {
            var before = await Out(hamlet, what);
            var dry = await In(empty, before, dryRun: true);
            Assert.True(dry.Value!.Fresh > 0);
            Assert.NotEqual(before, await Out(empty, what));
            var taken = await In(empty, before);
            Assert.Equal(dry.Value, taken.Value);
            Assert.Equal(before, await Out(empty, what));
            // And once more it changes nothing.
            var again = (await In(empty, before)).Value!;
            Assert.Equal((0, 0, dry.Value.Fresh), (again.Fresh, again.Changed, again.Same));
        }

        Assert.Contains("Wilma", await empty.InStore(s => s.Changes.Select(c => c.By).ToListAsync()));
    }

    [Fact]
    public async Task Who_comes_in_has_no_password_until_the_owner_gives_one_and_changes_it_then()
    {
        await In(empty, await Out(hamlet, Exports.People));
        var moa = await empty.InStore(s => s.Users.SingleAsync(u => u.UserName == "moa"));
        Assert.Null(moa.PasswordHash);
        Task<Reply<Guid>> Give(string? wanted) =>
            empty.With<Reply<Guid>, KeepPasswords>(p => p.Give(moa.Id, wanted, Wilma, default));
        Task<Reply<Guid>> Change(string? now, string? wanted, string? again) =>
            empty.With<Reply<Guid>, KeepPasswords>(p => p.Change(moa.Id, null, now, wanted, again, default));
        Assert.NotEmpty((await Give("short")).Errors);
        Assert.Empty((await Give("Four words, 1 apart from 3")).Errors);
        Assert.Equal("again", (await Change("Four words, 1 apart from 3", "Another good 1!", "other")).Errors[0].Field);
        Assert.Equal("current", (await Change("guessed", "Another good 1!", "Another good 1!")).Errors[0].Field);
        Assert.Equal(
            "at the change of the password",
            await empty.InStore(s =>
                s.Audit.Where(a => a.What == AuditKinds.SignInFailed && a.On == $"{moa.Id}")
                    .Select(a => a.Says)
                    .SingleAsync()
            )
        );
        Assert.Empty((await Change("Four words, 1 apart from 3", "Another good 1!", "Another good 1!")).Errors);
        var after = await empty.InStore(s => s.Users.SingleAsync(u => u.Id == moa.Id));
        Assert.NotEqual(moa.SecurityStamp, after.SecurityStamp);
        Assert.True(moa.MustChangePassword is false && after.MustChangePassword is false);
        Assert.DoesNotContain(await empty.InStore(s => s.Changes.Select(c => c.To).ToListAsync()), said =>
            said.Contains("words", StringComparison.Ordinal) || said.Contains("good", StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("kits", "five-valve", "six-valve", "is no kind of kit")]
    [InlineData("kits", "psid", "bar", "is no unit")]
    [InlineData("kits", ",moa,", ",nobody,", "bring in the people first")]
    [InlineData("kits", "red blue yellow", "red blue", "hose colours are three")]
    [InlineData("people", "DC RP PVB SVB", "DC XX", "types are some of")]
    [InlineData("people", "owner-of-the-installation", "emperor", "is no role")]
    [InlineData("places", "-120", "far", "east:")]
    [InlineData("places", "who@house.invalid", "who@house.invalid,more", "cells, not")]
    public async Task What_is_wrong_is_said_line_by_line_and_nothing_of_the_file_is_kept(
        string what,
        string right,
        string wrong,
        string says
    )
    {
        await In(empty, await Out(hamlet, Exports.People));
        var csv = await Out(hamlet, what);
        Assert.Contains(right, csv, StringComparison.Ordinal);
        var before = await Out(empty, what);
        var taken = await In(empty, csv.Replace(right, wrong, StringComparison.Ordinal));
        Assert.Contains(taken.Errors, e => e.Says.StartsWith("Line ") && e.Says.Contains(says));
        Assert.Equal(before, await Out(empty, what));
    }

    [Fact]
    public async Task Another_table_and_people_by_somebody_else_than_the_owner_are_refused()
    {
        Assert.Contains("no file of places", (await In(empty, "a,b\n1,2\n")).Refusal, StringComparison.Ordinal);
        Assert.Contains(
            "no file of places",
            (await In(empty, await Out(hamlet, "due"))).Refusal,
            StringComparison.Ordinal
        );
        var people = await In(empty, await Out(hamlet, Exports.People), accounts: false);
        Assert.Contains("Only the owner", people.Refusal, StringComparison.Ordinal);
    }
}
