using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Mordel.Data.Startup;

/// <summary>What a database can refuse for reasons outside of any request, in words.</summary>
public static class StoreTrouble
{
    // Primary result codes of SQLite.
    private const int Busy = 5,
        Locked = 6,
        NoMemory = 7,
        ReadOnly = 8,
        InputOutput = 10,
        Corrupt = 11,
        Full = 13,
        CannotOpen = 14,
        Constraint = 19,
        NoDatabase = 26;

    // What a server adds to them.
    private const int Unreachable = 1001,
        NotLetIn = 1002,
        NotThere = 1003;

    /// <summary>What is wrong and what to do; null when the exception is about something else.</summary>
    public static string? Says(Exception e) =>
        Code(e) switch
        {
            Busy or Locked => "The database is busy with something long. Try again in a moment.",
            NoMemory => "There is not enough memory for the database. Close other programs and try again.",
            ReadOnly =>
                "The database cannot be written: the disk or the file is read-only. Mend that; nothing that was "
                    + "acknowledged is lost.",
            InputOutput =>
                "The disk under the database fails to read or write. Look after the disk; keep a copy of the "
                    + "data folder.",
            Corrupt or NoDatabase =>
                "The database is damaged. Stop Mordel, keep a copy of the data folder, and put the last backup "
                    + "back in its place.",
            Full => "The disk is full. Make room; nothing that was acknowledged is lost.",
            CannotOpen =>
                "The database cannot be opened: the data folder is gone or not readable. Put it back or give it to "
                    + "the user that runs Mordel.",
            Unreachable =>
                "The database server does not answer. It is asked again by itself; nothing that was acknowledged is "
                    + "lost.",
            NotLetIn =>
                "The database server does not let Mordel in. See to the user, the password and the rights in --store.",
            NotThere => "The database server has no database of that name. Make it, or mend the name in --store.",
            _ => null,
        };

    /// <summary>Whether what was to be added is there already: two requests that met.</summary>
    public static bool IsThereAlready(Exception e) => Code(e) == Constraint;

    /// <summary>Whether another has it for the moment: no trouble that lasts.</summary>
    public static bool IsBusy(Exception e) => Code(e) is Busy or Locked;

    /// <summary>Whether the server is away, or has gone in the middle.</summary>
    public static bool IsUnreachable(Exception e) => Code(e) == Unreachable;

    private static int Code(Exception e) =>
        e switch
        {
            SqliteException sqlite => sqlite.SqliteErrorCode,
            PostgresException server => Code(server.SqlState),
            // It has gone, or not come up yet.
            NpgsqlException => Unreachable,
            DbUpdateException { InnerException: { } inner } => Code(inner),
            InvalidOperationException { InnerException: { } inner } => Code(inner),
            _ => 0,
        };

    // By the classes of the server's own codes.
    private static int Code(string state) =>
        state switch
        {
            "53100" => Full,
            "53200" => NoMemory,
            "3D000" => NotThere,
            "25006" => ReadOnly,
            "58030" => InputOutput,
            "XX001" or "XX002" => Corrupt,
            "40001" or "40P01" or "55P03" or "53300" => Busy,
            "57P01" or "57P02" or "57P03" => Unreachable,
            _ when state.StartsWith("23", StringComparison.Ordinal) => Constraint,
            _ when state.StartsWith("08", StringComparison.Ordinal) => Unreachable,
            _ when state.StartsWith("28", StringComparison.Ordinal) || state == "42501" => NotLetIn,
            _ => 0,
        };
}
