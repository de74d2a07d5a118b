namespace Mordel.Data.Startup;

/// <summary>
/// Why an installation cannot be started, in sentences that say what to do. Shown as they are, without a stack trace.
/// </summary>
public sealed class StartRefusedException : Exception
{
    /// <summary>Refuses the start.</summary>
    public StartRefusedException(string message)
        : base(message) { }

    /// <summary>Refuses the start because of something else.</summary>
    public StartRefusedException(string message, Exception inner)
        : base(message, inner) { }
}
