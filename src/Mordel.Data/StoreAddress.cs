using Npgsql;

namespace Mordel.Data;

/// <summary>Where the rows of an installation lie: in a file of its data folder, or on a PostgreSQL server.</summary>
/// <param name="Folder">The data folder; keys and files lie in it in any case.</param>
/// <param name="Connection">How the server is reached, in the words of its driver; null for the folder's file.</param>
public sealed record StoreAddress(string Folder, string? Connection = null)
{
    private const string File = "sqlite:",
        Server = "postgres:";

    /// <summary>Whether it is a server that several processes share.</summary>
    public bool IsServer => Connection is not null;

    /// <summary>The database's file; there is none where a server has it.</summary>
    public string DatabaseFile => Path.Combine(Folder, StoreOptions.FileName);

    /// <summary>What people are told of it: never a password.</summary>
    public string Says
    {
        get
        {
            if (Connection is null)
                return DatabaseFile;
            var parts = new NpgsqlConnectionStringBuilder(Connection);
            return $"the database {parts.Database ?? parts.Username} on {parts.Host ?? "this machine"}";
        }
    }

    /// <summary>Where it is: the folder, or what is said of the server.</summary>
    public string Place => IsServer ? Says : Path.GetFullPath(Folder);

    /// <summary>
    /// Reads <c>sqlite:FOLDER</c> or <c>postgres:CONNECTION</c>, the latter as the driver writes it:
    /// <c>postgres:Host=db.example;Database=mordel;Username=mordel</c>.
    /// </summary>
    /// <param name="text">The words; null or empty for the folder's own file.</param>
    /// <param name="folder">The data folder, where the text names none.</param>
    /// <exception cref="FormatException">They are neither; the message says what is wrong.</exception>
    public static StoreAddress Read(string? text, string folder)
    {
        if (string.IsNullOrWhiteSpace(text))
            return new(folder);
        if (text.StartsWith(File, StringComparison.Ordinal) && text.Length > File.Length)
            return new(Path.GetFullPath(text[File.Length..]));
        if (!text.StartsWith(Server, StringComparison.Ordinal))
            throw new FormatException("A store is sqlite:FOLDER or postgres:CONNECTION.");
        try
        {
            var parts = new NpgsqlConnectionStringBuilder(text[Server.Length..]);
            if (string.IsNullOrEmpty(parts.Host))
                throw new FormatException("The store names no host: postgres:Host=…;Database=…;Username=….");
            return new(folder, parts.ConnectionString);
        }
        catch (ArgumentException e)
        {
            throw new FormatException(
                "The store's connection cannot be read: postgres:Host=…;Database=…;Username=…;Password=…. "
                    + e.Message.ReplaceLineEndings(" "),
                e
            );
        }
    }
}
