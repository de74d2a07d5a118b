using System.Data.Common;
using System.Runtime.CompilerServices;
using Microsoft.AspNetCore.Identity;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Query;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Data.CompiledModel;

namespace Mordel.Data;

/// <summary>How the database file is opened, everywhere.</summary>
public static class StoreOptions
{
    /// <summary>The database's file in a data folder.</summary>
    public const string FileName = "mordel.db";

    // Of Identity's forms the one with passkeys; it asks whoever hosts the store which is wanted.
    private static readonly IServiceProvider Alone = new ServiceCollection().WithPasskeys().BuildServiceProvider();

    /// <summary>Says which of Identity's forms the store has.</summary>
    public static IServiceCollection WithPasskeys(this IServiceCollection services) =>
        services.Configure<IdentityOptions>(o => o.Stores.SchemaVersion = IdentitySchemaVersions.Version3);

    /// <summary>Uses the file in a data folder.</summary>
    public static DbContextOptionsBuilder UseMordelFile(this DbContextOptionsBuilder options, string folder)
    {
        ArgumentNullException.ThrowIfNull(options);
        if (options.Options.FindExtension<CoreOptionsExtension>()?.ApplicationServiceProvider is null)
            options.UseApplicationServiceProvider(Alone);
        return options
            .UseSqlite($"Data Source={Path.Combine(folder, FileName)};Foreign Keys=True;Default Timeout=15")
            // Else it is looked for among the assembly's attributes for every context.
            .UseModel(StoreModel.Instance)
            .AddInterceptors(new Durable());
    }

    /// <summary>Uses a PostgreSQL server.</summary>
    /// <param name="options">What is set up.</param>
    /// <param name="connection">How it is reached, in the words of its driver.</param>
    public static DbContextOptionsBuilder UseMordelServer(this DbContextOptionsBuilder options, string connection)
    {
        ArgumentNullException.ThrowIfNull(options);
        if (options.Options.FindExtension<CoreOptionsExtension>()?.ApplicationServiceProvider is null)
            options.UseApplicationServiceProvider(Alone);
        return options
            .UseNpgsql(connection)
            .ReplaceService<IQuerySqlGeneratorFactory, PostgresOrder>()
            .AddInterceptors(new ServerText());
    }

    /// <summary>Opens the store at an address, outside of any host.</summary>
    /// <param name="address">Where it is.</param>
    /// <param name="more">What else is wanted of the options.</param>
    public static Store Open(this StoreAddress address, Action<DbContextOptionsBuilder>? more = null)
    {
        ArgumentNullException.ThrowIfNull(address);
        if (address.Connection is { } connection)
        {
            var server = new DbContextOptionsBuilder<PostgresStore>();
            server.UseMordelServer(connection);
            more?.Invoke(server);
            return new PostgresStore(server.Options);
        }

        var file = new DbContextOptionsBuilder<Store>();
        file.UseMordelFile(address.Folder);
        more?.Invoke(file);
        return new(file.Options);
    }

    /// <summary>Bytes that the rows take, with what waits beside them.</summary>
    public static async Task<long> Bytes(this StoreAddress address, Store store, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(address);
        ArgumentNullException.ThrowIfNull(store);
        return address.IsServer
            ? await store
                .Database.SqlQueryRaw<long>("SELECT pg_database_size(current_database()) AS \"Value\"")
                .SingleAsync(cancel)
            : new DirectoryInfo(address.Folder).EnumerateFiles($"{FileName}*").Sum(f => f.Length);
    }

    // An acknowledged entry must survive the process and the power: write-ahead log, synced at every commit. Whoever
    // meets another process's writer is woken by the database itself, within milliseconds.
    private sealed class Durable : DbConnectionInterceptor
    {
        private const string Pragmas = "PRAGMA busy_timeout=15000; PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL;";

        // What has been said to a handle holds as long as it lives, and the pool hands it out again and again.
        private static readonly ConditionalWeakTable<object, object> Told = [];

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData)
        {
            if (IsTold(connection) || OnlyReads(connection))
                return;
            using var command = connection.CreateCommand();
            command.CommandText = Pragmas;
            command.ExecuteNonQuery();
            Tell(connection);
        }

        public override async Task ConnectionOpenedAsync(
            DbConnection connection,
            ConnectionEndEventData eventData,
            CancellationToken cancellationToken = default
        )
        {
            if (IsTold(connection) || OnlyReads(connection))
                return;
            await using var command = connection.CreateCommand();
            command.CommandText = Pragmas;
            await command.ExecuteNonQueryAsync(cancellationToken);
            Tell(connection);
        }

        private static bool IsTold(DbConnection connection) =>
            connection is SqliteConnection { Handle: { } handle } && Told.TryGetValue(handle, out _);

        private static void Tell(DbConnection connection)
        {
            if (connection is SqliteConnection { Handle: { } handle })
                Told.AddOrUpdate(handle, Pragmas);
        }

        // Whether a database is there is asked read-only; a backup that was put back is not in WAL yet and could not be
        // brought into it then.
        private static bool OnlyReads(DbConnection connection) =>
            new SqliteConnectionStringBuilder(connection.ConnectionString).Mode == SqliteOpenMode.ReadOnly;
    }
}

/// <summary>For making migrations: <c>dotnet ef migrations add NAME --project src/Mordel.Data</c>.</summary>
public sealed class StoreFactory : IDesignTimeDbContextFactory<Store>
{
    public Store CreateDbContext(string[] args) =>
        new((DbContextOptions<Store>)new DbContextOptionsBuilder<Store>().UseMordelFile(Path.GetTempPath()).Options);
}

/// <summary>
/// For making migrations of a server: <c>dotnet ef migrations add NAME --context PostgresStore --output-dir
/// Postgres/Migrations --project src/Mordel.Data</c>.
/// </summary>
public sealed class PostgresStoreFactory : IDesignTimeDbContextFactory<PostgresStore>
{
    public PostgresStore CreateDbContext(string[] args) =>
        (PostgresStore)new StoreAddress(Path.GetTempPath(), "Host=nowhere.invalid;Database=mordel").Open();
}
