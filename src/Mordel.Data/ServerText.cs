using System.Data.Common;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Mordel.Data;

/// <summary>
/// A server takes no text with a sign of no shape (U+0000) or with half a sign in it, which anybody can send. Such
/// signs are put as the sign for what cannot be shown; a file keeps them.
/// </summary>
public sealed class ServerText : DbCommandInterceptor
{
    private const char CannotBeShown = '\uFFFD';

    /// <summary>The text as a server takes it; the same one where nothing is wrong with it.</summary>
    public static string Of(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        for (var i = 0; i < text.Length; i++)
            if (text[i] == '\0' || IsHalf(text, i))
                return string.Create(text.Length, text, (into, from) =>
                {
                    for (var j = 0; j < into.Length; j++)
                        into[j] = from[j] == '\0' || IsHalf(from, j) ? CannotBeShown : from[j];
                });
        return text;
    }

    /// <inheritdoc/>
    public override InterceptionResult<DbDataReader> ReaderExecuting(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<DbDataReader> result
    ) => Clean(command, result);

    /// <inheritdoc/>
    public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<DbDataReader> result,
        CancellationToken cancellationToken = default
    ) => new(Clean(command, result));

    /// <inheritdoc/>
    public override ValueTask<InterceptionResult<int>> NonQueryExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken = default
    ) => new(Clean(command, result));

    /// <inheritdoc/>
    public override ValueTask<InterceptionResult<object>> ScalarExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<object> result,
        CancellationToken cancellationToken = default
    ) => new(Clean(command, result));

    private static TResult Clean<TResult>(DbCommand command, TResult result)
    {
        foreach (DbParameter parameter in command.Parameters)
            if (parameter.Value is string text)
                parameter.Value = Of(text);
        return result;
    }

    private static bool IsHalf(string text, int at) =>
        char.IsSurrogate(text[at])
        && !(at + 1 < text.Length && char.IsSurrogatePair(text[at], text[at + 1]))
        && !(at > 0 && char.IsSurrogatePair(text[at - 1], text[at]));
}
