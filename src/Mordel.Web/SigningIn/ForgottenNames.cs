using System.Threading.Channels;

namespace Mordel.Web.SigningIn;

/// <summary>The names for which a link was asked for; who asks waits for nothing, and learns nothing.</summary>
public sealed class ForgottenNames
{
    private const int Most = 100;

    private readonly Channel<string> waiting = Channel.CreateBounded<string>(
        new BoundedChannelOptions(Most) { FullMode = BoundedChannelFullMode.DropWrite }
    );

    /// <summary>Somebody has asked.</summary>
    public void Add(string userName) => waiting.Writer.TryWrite(userName);

    /// <summary>Them all, as they come.</summary>
    public IAsyncEnumerable<string> All(CancellationToken cancel) => waiting.Reader.ReadAllAsync(cancel);
}
