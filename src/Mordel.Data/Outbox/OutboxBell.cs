using Mordel.Data.Processes;

namespace Mordel.Data.Outbox;

/// <summary>Rings when something new lies in the outbox.</summary>
public sealed class OutboxBell(Neighbours neighbours) : Bell(neighbours);
