namespace Mordel.Data.Outbox;

/// <summary>Rings when something new lies in the outbox.</summary>
public sealed class OutboxBell : Bell;
