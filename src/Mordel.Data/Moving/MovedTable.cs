using System.Data.Common;
using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Microsoft.EntityFrameworkCore.Storage;

namespace Mordel.Data.Moving;

/// <summary>A table as two kinds of database have it: the same columns, each kept in its own way.</summary>
internal sealed class MovedTable
{
    private MovedTable(string name, IReadOnlyList<MovedColumn> columns, IReadOnlyList<int> key) =>
        (Name, Columns, Key) = (name, columns, key);

    /// <summary>Its name.</summary>
    public string Name { get; }

    /// <summary>Its columns, in the order in which they are read.</summary>
    public IReadOnlyList<MovedColumn> Columns { get; }

    /// <summary>Which of them are its key, in the key's order.</summary>
    public IReadOnlyList<int> Key { get; }

    /// <summary>The columns, as a question names them.</summary>
    public string Names => string.Join(", ", Columns.Select(c => $"\"{c.Name}\""));

    /// <summary>The key, as a question names it.</summary>
    public string KeyNames => string.Join(", ", Key.Select(k => $"\"{Columns[k].Name}\""));

    /// <summary>All tables of the store, those first that others refer to.</summary>
    public static IReadOnlyList<MovedTable> All(Store from, Store to)
    {
        var there = to.Model.GetRelationalModel().Tables.ToDictionary(t => t.Name, StringComparer.Ordinal);
        var left = from.Model.GetRelationalModel().Tables.OrderBy(t => t.Name, StringComparer.Ordinal).ToList();
        var done = new List<ITable>();
        while (left.Count > 0)
        {
            var next = left.Where(t => t.ForeignKeyConstraints.All(f => done.Contains(f.PrincipalTable))).ToList();
            if (next.Count == 0)
                throw new InvalidOperationException($"{left[0].Name} refers to what refers to it.");
            done.AddRange(next);
            left.RemoveAll(next.Contains);
        }

        return [.. done.Select(t => Of(t, there[t.Name]))];
    }

    private static MovedTable Of(ITable from, ITable to)
    {
        var columns = from.Columns.OrderBy(c => c.Name, StringComparer.Ordinal).ToList();
        return new(
            from.Name,
            [.. columns.Select(c => new MovedColumn(c.Name, KeptValue.Of(c), KeptValue.Of(to.FindColumn(c.Name)!)))],
            [.. from.PrimaryKey!.Columns.Select(c => columns.IndexOf((IColumn)c))]
        );
    }
}

/// <summary>A column, as either side keeps it.</summary>
internal sealed record MovedColumn(string Name, KeptValue From, KeptValue To);

/// <summary>How one kind of database keeps the values of a column.</summary>
internal sealed class KeptValue
{
    private static readonly MethodInfo Reading = typeof(KeptValue).GetMethod(
        nameof(Field),
        BindingFlags.NonPublic | BindingFlags.Static
    )!;
    private readonly RelationalTypeMapping? mapping;
    private readonly Func<DbDataReader, int, object> read;

    private KeptValue(RelationalTypeMapping? mapping, Type kept)
    {
        this.mapping = mapping;
        read = Reading.MakeGenericMethod(kept).CreateDelegate<Func<DbDataReader, int, object>>();
    }

    /// <summary>Of a column; one that holds a document is text, however it is kept.</summary>
    public static KeptValue Of(IColumn column)
    {
        if (!column.PropertyMappings.Any())
            return new(null, typeof(string));
        var mapping = column.PropertyMappings[0].TypeMapping;
        var kept = mapping.Converter?.ProviderClrType ?? mapping.ClrType;
        return new(mapping, Nullable.GetUnderlyingType(kept) ?? kept);
    }

    /// <summary>The value in a row, as the store's rows have it; null for nothing.</summary>
    public object? Read(DbDataReader row, int at)
    {
        if (row.IsDBNull(at))
            return null;
        var kept = read(row, at);
        return mapping?.Converter is { } converter ? converter.ConvertFromProvider(kept) : kept;
    }

    /// <summary>The value as it is kept here.</summary>
    public object? Write(object? value) =>
        value is not null && mapping?.Converter is { } converter ? converter.ConvertToProvider(value) : value;

    /// <summary>Whether it is a document.</summary>
    public bool IsDocument => mapping is null;

    /// <summary>A parameter for it.</summary>
    public DbParameter Parameter(DbCommand command, string name)
    {
        if (mapping is not null)
            return mapping.CreateParameter(command, name, null, nullable: true);
        var plain = command.CreateParameter();
        plain.ParameterName = name;
        return plain;
    }

    private static object Field<T>(DbDataReader row, int at)
        where T : notnull => row.GetFieldValue<T>(at);
}
