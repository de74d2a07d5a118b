using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Files;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Tests;

/// <summary>The log of a diagnosis and the owner's link, on a file without the web.</summary>
public sealed class DiagnosesTests : IAsyncLifetime, IAsyncDisposable
{
    private static readonly CancellationToken None = CancellationToken.None;
    private static readonly Observer Ines = new("Ines", ObservationWays.House);
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync() => await hamlet.Filled([AssemblyTypes.RP]);

    Task IAsyncLifetime.DisposeAsync() => DisposeAsync().AsTask();

    public ValueTask DisposeAsync() => hamlet.DisposeAsync();

    private async Task<T> With<T>(Func<IServiceProvider, Task<T>> work)
    {
        await using var scope = hamlet.Services.CreateAsyncScope();
        return await work(scope.ServiceProvider);
    }

    private Task<T> Keep<T>(Func<KeepDiagnosis, Task<T>> work) =>
        With(s => work(s.GetRequiredService<KeepDiagnosis>()));

    private Task<T> Links<T>(Func<AskWhoeverIsThere, Task<T>> work) =>
        With(s => work(s.GetRequiredService<AskWhoeverIsThere>()));

    private async Task<Guid> Opened() => (await Keep(k => k.Open(hamlet.Assemblies[0], "Ines", None))).Value;

    [Fact]
    public async Task A_log_only_grows_and_what_is_taken_back_no_longer_counts()
    {
        var id = await Opened();
        var first = await Keep(k => k.Saw(id, ServiceLooks.InService, "runs", null, null, Ines, None));
        await Keep(k => k.Saw(id, null, null, "cv1", "debris", Ines, None));
        await Keep(k => k.TakeBack(id, first.Value, Ines, None));
        await Keep(k => k.TakeBack(id, first.Value, Ines, None));
        var file = (await With(s => s.GetRequiredService<DiagnosisList>().Of(id, None)))!;
        Assert.Equal(3, file.Row.Observations.Count);
        Assert.Equal(2, file.Lines.Count);
        var left = Assert.Single(file.Evidence(Doer.Tester).Observations);
        Assert.IsType<Observed.PartOpened>(left);
        Assert.Equal(NotDone.NotFound, (await Keep(k => k.TakeBack(id, Guid.NewGuid(), Ines, None))).Why);
    }

    [Fact]
    public async Task Who_cannot_tell_is_kept_and_weighs_nothing_and_an_owner_is_asked_nothing_else()
    {
        var id = await Opened();
        var owner = new Observer("whoever is there", ObservationWays.Owner);
        Assert.Null(
            (await Keep(k => k.Saw(id, ServiceLooks.TapOpened, KeepDiagnosis.NotSure, null, null, owner, None))).Why
        );
        foreach (var answer in new[] { "still", KeepDiagnosis.NotSure })
            Assert.Equal(
                NotDone.Refused,
                (await Keep(k => k.Saw(id, ServiceLooks.So2Closed, answer, null, null, owner, None))).Why
            );
        Assert.Equal(NotDone.Refused, (await Keep(k => k.Saw(id, null, null, "cv1", "clean", owner, None))).Why);
        var file = (await With(s => s.GetRequiredService<DiagnosisList>().Of(id, None)))!;
        Assert.IsType<Observed.Unsure>(Assert.Single(file.Lines).Observed);
        Assert.Empty(file.Evidence(Doer.Occupant).Observations);
    }

    [Fact]
    public async Task A_link_holds_for_its_days_and_no_longer_and_is_kept_as_a_hash_alone()
    {
        var id = await Opened();
        Assert.Equal(NotDone.Refused, (await Links(l => l.Issue(id, 0, "Ines", None))).Why);
        Assert.Equal(NotDone.Refused, (await Links(l => l.Issue(id, KeepLinks.MostDays + 1, "Ines", None))).Why);
        Assert.Equal(NotDone.NotFound, (await Links(l => l.Issue(Guid.NewGuid(), 1, "Ines", None))).Why);
        var token = (await Links(l => l.Issue(id, 1, "Ines", None))).Value!;
        Assert.Equal(id, await Links(l => l.Find(token, None)));
        Assert.Null(await Links(l => l.Find(token[..^1] + (token[^1] == '0' ? '1' : '0'), None)));
        Assert.Null(await Links(l => l.Find(null, None)));
        var kept = await With(s => s.GetRequiredService<Store>().Links.AsNoTracking().SingleAsync());
        Assert.DoesNotContain(token, kept.Hash, StringComparison.Ordinal);
        Assert.True(kept.HoldsAt(kept.ExpiresAt!.Value.AddSeconds(-1)));
        Assert.False(kept.HoldsAt(kept.ExpiresAt.Value));
        await Links(l => l.Revoke(id, kept.Id, None));
        Assert.Null(await Links(l => l.Find(token, None)));
    }

    [Fact]
    public async Task No_more_than_five_links_hold_at_once()
    {
        var id = await Opened();
        for (var i = 0; i < 5; i++)
            Assert.Null((await Links(l => l.Issue(id, 3, "Ines", None))).Why);
        Assert.Equal(NotDone.Refused, (await Links(l => l.Issue(id, 3, "Ines", None))).Why);
    }

    [Fact]
    public void A_missing_atlas_is_said_in_a_sentence()
    {
        var shelf = new AtlasShelf(Path.Combine(Path.GetTempPath(), Guid.NewGuid().ToString()));
        Assert.Contains(
            "./mordel atlas",
            Assert.Throws<FormatException>(() => shelf.Of(DoubleCheck.Body)).Message,
            StringComparison.Ordinal
        );
    }
}
