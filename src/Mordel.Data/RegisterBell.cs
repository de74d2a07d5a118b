using Mordel.Data.Processes;

namespace Mordel.Data;

/// <summary>Rings when a file waits to be checked or taken in, or when rules have changed.</summary>
public sealed class RegisterBell(Neighbours neighbours) : Bell(neighbours);
