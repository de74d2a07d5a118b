using Mordel.Data.Processes;

namespace Mordel.Web.Hosting;

/// <summary>Listens to the other processes of the installation.</summary>
public sealed class NeighbourWorker(Neighbours neighbours) : Worker
{
    protected override Task Work(CancellationToken stopping) => neighbours.Run(stopping);
}
