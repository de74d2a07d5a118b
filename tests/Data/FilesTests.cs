using Mordel.Core.Outside;
using Mordel.Data.Files;
using Mordel.Simulators;

namespace Mordel.Data.Tests;

/// <summary>The folder of files and its stand-in keep the same promises.</summary>
public sealed class FilesTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("mordel-files-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private IFiles Of(string kind) => kind == "folder" ? new FolderFiles(folder) : new MemoryFiles();

    [Theory]
    [InlineData("folder")]
    [InlineData("memory")]
    public async Task What_is_kept_comes_back_is_replaced_whole_and_goes_when_it_is_taken_away(string kind)
    {
        var files = Of(kind);
        Assert.Null(await files.Read("letters/a.txt", default));
        await files.Keep("letters/a.txt", new byte[] { 1, 2, 3 }, default);
        await files.Keep("letters/a.txt", new byte[] { 4 }, default);
        Assert.Equal([4], await files.Read("letters/a.txt", default));
        await files.Remove("letters/a.txt", default);
        await files.Remove("letters/a.txt", default);
        Assert.Null(await files.Read("letters/a.txt", default));
    }

    [Theory]
    [InlineData("../secret")]
    [InlineData("/etc/passwd")]
    [InlineData("a/b/c")]
    [InlineData("")]
    [InlineData(".hidden")]
    [InlineData("Big.txt")]
    [InlineData("a\\b")]
    public async Task No_name_leads_out_of_the_folder(string name)
    {
        foreach (var kind in new[] { "folder", "memory" })
            await Assert.ThrowsAsync<ArgumentException>(() => Of(kind).Keep(name, new byte[] { 1 }, default));
        Assert.Empty(Directory.GetFileSystemEntries(folder));
    }

    [Fact]
    public async Task A_full_disk_is_an_error_and_leaves_what_was_there()
    {
        var files = new MemoryFiles();
        await files.Keep("a.txt", new byte[] { 1 }, default);
        files.Full = true;
        await Assert.ThrowsAsync<IOException>(() => files.Keep("a.txt", new byte[] { 2 }, default));
        Assert.Equal([1], await files.Read("a.txt", default));
    }

    [Fact]
    public async Task A_write_that_fails_half_way_leaves_no_part_behind()
    {
        var files = new FolderFiles(folder);
        await files.Keep("a.txt", new byte[] { 1 }, default);
        using var ended = new CancellationTokenSource();
        await ended.CancelAsync();
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() =>
            files.Keep("a.txt", new byte[] { 2 }, ended.Token)
        );
        Assert.Equal([1], await files.Read("a.txt", default));
        Assert.Single(Directory.GetFiles(folder));
    }
}

/// <summary>The simulated roads.</summary>
public sealed class TravelTimesTests
{
    private static async Task<int> Minutes(MapPoint from, MapPoint to, int hour) =>
        (await new SimulatedTravelTimes().Minutes(from, to, new(hour, 30), default))!.Value;

    [Fact]
    public async Task Further_takes_longer_the_rush_takes_longer_and_the_way_in_takes_longer_than_the_way_out()
    {
        var (centre, near, far) = (new MapPoint(0, 0), new MapPoint(900, 0), new MapPoint(6000, 4000));
        Assert.Equal(0, await Minutes(near, near, 12));
        Assert.True(await Minutes(near, far, 12) > await Minutes(centre, near, 12));
        Assert.True(await Minutes(near, far, 8) > await Minutes(near, far, 12));
        Assert.True(await Minutes(far, centre, 12) > await Minutes(centre, far, 12));
    }
}
