using Mordel.Core.Outside;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Data.Processes;
using Mordel.Web.Api;

namespace Mordel.Web.Tests;

/// <summary>A gauge's bridge sends to one process, and a screen may look from another.</summary>
public class GaugeHubTests
{
    [Theory]
    [InlineData(null)]
    [InlineData("bridge of the van")]
    [InlineData("two words\nand a line")]
    public async Task A_line_that_comes_to_one_process_is_seen_at_the_screens_of_the_others_as_it_was(string? by)
    {
        var (here, there) = (new Told(), new Told());
        (here.Other, there.Other) = (there, here);
        var (sends, shows) = (new GaugeHub(here), new GaugeHub(there));
        var (run, another) = (Guid.NewGuid(), Guid.NewGuid());
        using var over = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        var seen = Looks(shows, run, over.Token);
        var line = new GaugeLine(Differential.Psid(1.83m), -0.02m, 0.87m, Simulated: true, by);
        // What is sent before the screen looks is nobody's.
        while (!seen.IsCompleted)
        {
            Assert.Equal(0, sends.Pass(another, line with { Rate = 1 }));
            Assert.Equal(0, sends.Pass(run, line));
            await Task.Delay(20);
        }

        Assert.Equal(line, await seen);
    }

    private static async Task<GaugeLine> Looks(GaugeHub hub, Guid run, CancellationToken cancel)
    {
        await foreach (var line in hub.Lines(new(run, null!, () => ""), cancel))
            return line;
        throw new InvalidOperationException("Nothing came.");
    }

    // Two processes that hear each other.
    private sealed class Told : Neighbours
    {
        public Told? Other { get; set; }

        public override void Tell(string what, string says = "") => Other?.Heard(what, says);
    }
}
