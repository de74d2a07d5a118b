using System.CommandLine;
using System.CommandLine.Parsing;
using Mordel.Data;

namespace Mordel.Cli;

/// <summary>Where an installation lies: the options that every command has.</summary>
public sealed class WhereOptions
{
    /// <summary>Where the store is named when no option does.</summary>
    public const string StoreVariable = "MORDEL_STORE";

    /// <summary>The folder.</summary>
    public Option<string?> Data { get; } =
        new("--data")
        {
            Description = "The folder of an installation",
            HelpName = "DIR",
            Recursive = true,
        };

    /// <summary>Where its rows are, if not in that folder.</summary>
    public Option<string?> Store { get; } =
        new("--store")
        {
            Description = "Where its rows are: sqlite:FOLDER, or postgres:Host=…;Database=…;Username=…",
            HelpName = "STORE",
            Recursive = true,
        };

    /// <summary>Makes them.</summary>
    public WhereOptions() => Store.Validators.Add(given => Validate(given, Store.Name));

    /// <summary>Adds an error where an option names no store.</summary>
    internal static void Validate(OptionResult given, string name)
    {
        try
        {
            var text = given.GetValueOrDefault<string?>();
            if (string.IsNullOrWhiteSpace(text))
                throw new FormatException("A store is sqlite:FOLDER or postgres:CONNECTION.");
            _ = StoreAddress.Read(text, ".");
        }
        catch (FormatException e)
        {
            given.AddError($"{name}: {e.Message}");
        }
    }

    /// <summary>The installation that is meant; one's own where none is named.</summary>
    public StoreAddress Own(ParseResult given)
    {
        ArgumentNullException.ThrowIfNull(given);
        return Read(given, given.GetValue(Data) ?? Named(CommandLine.DataVariable) ?? ".");
    }

    /// <summary>The installation that is named, or that is there; null where neither is.</summary>
    public StoreAddress? IfAny(ParseResult given)
    {
        ArgumentNullException.ThrowIfNull(given);
        var own = Own(given);
        return own.IsServer || given.GetValue(Data) is not null || Path.Exists(own.DatabaseFile) && IsNamed(given)
            ? own
            : null;
    }

    private bool IsNamed(ParseResult given) =>
        given.GetValue(Store) is not null || Named(CommandLine.DataVariable) is not null;

    private StoreAddress Read(ParseResult given, string folder)
    {
        try
        {
            return StoreAddress.Read(given.GetValue(Store) ?? Named(StoreVariable), folder);
        }
        catch (FormatException e)
        {
            throw new Mordel.Data.Startup.StartRefusedException($"{StoreVariable}: {e.Message}", e);
        }
    }

    private static string? Named(string variable) =>
        Environment.GetEnvironmentVariable(variable) is { Length: > 0 } named ? named : null;
}
