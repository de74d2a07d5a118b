namespace Mordel.Core.Runs;

/// <summary>How a line is to be left, as agreed with whoever it feeds.</summary>
public enum Leaving
{
    /// <summary>Each valve as it was found.</summary>
    AsFound,

    /// <summary>On: both shutoffs open, every cock shut.</summary>
    InService,

    /// <summary>Off and drained: SO1 shut, SO2 and two cocks open.</summary>
    Drained,
}

/// <summary>Names and words for how a line is left.</summary>
public static class Leavings
{
    /// <summary>All of them with their names in files.</summary>
    public static readonly (Leaving Leaving, string Name, string Says)[] All =
    [
        (Leaving.InService, "in-service", "on, in service"),
        (Leaving.Drained, "drained", "off and drained"),
        (Leaving.AsFound, "as-found", "as it was found"),
    ];

    /// <summary>Its name in files.</summary>
    public static string Name(this Leaving leaving) => All.First(l => l.Leaving == leaving).Name;

    /// <summary>In words.</summary>
    public static string Says(this Leaving leaving) => All.First(l => l.Leaving == leaving).Says;

    /// <summary>The one with a name; null where there is none.</summary>
    public static Leaving? Named(string? name) =>
        All.Where(l => l.Name == name).Select(l => (Leaving?)l.Leaving).FirstOrDefault();
}
