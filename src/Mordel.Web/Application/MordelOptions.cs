namespace Mordel.Web.Application;

/// <summary>How this installation runs.</summary>
public sealed class MordelOptions
{
    /// <summary>The section in the configuration.</summary>
    public const string Section = "Mordel";

    /// <summary>The folder with database, keys and logs.</summary>
    public string Data { get; set; } = "data";

    /// <summary>Whether the invented town is loaded and personas can sign in with one click.</summary>
    public bool Demo { get; set; }

    /// <summary>Whether all seals are checked in the background, at the start and every night.</summary>
    public bool WatchSeals { get; set; } = true;

    /// <summary>Whether the outbox is delivered in the background.</summary>
    public bool DeliverOutbox { get; set; } = true;

    /// <summary>
    /// Whether a seal disc that was turned over is a repair in this firm; else it is a stopgap until the part comes.
    /// </summary>
    public bool TurnedDiscHolds { get; set; }

    /// <summary>How often one address may try to sign in within a minute.</summary>
    public int SignInsPerMinute { get; set; } = 120;
}
