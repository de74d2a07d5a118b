using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Outside;
using Mordel.Core.Reports;
using Mordel.Data.Hosting;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Documents.Interchange;
using Mordel.Documents.Letters;
using Mordel.Documents.Photos;
using Mordel.Documents.Reports;
using Mordel.Simulators;

namespace Mordel.Data.Tests;

/// <summary>An installation that tests work on, whoever hosts it.</summary>
public interface IInstallation : IAsyncDisposable
{
    /// <summary>What can be asked for.</summary>
    IServiceProvider Services { get; }

    /// <summary>The data folder.</summary>
    string Folder { get; }

    /// <summary>Where its rows lie.</summary>
    StoreAddress Address { get; }
}

/// <summary>What tests do with an installation.</summary>
public static partial class InstallationWork
{
    public static async Task<T> With<T, TService>(this IInstallation installation, Func<TService, Task<T>> work)
        where TService : notnull
    {
        await using var scope = installation.Services.CreateAsyncScope();
        return await work(scope.ServiceProvider.GetRequiredService<TService>());
    }

    public static Task<T> InStore<T>(this IInstallation installation, Func<Store, Task<T>> work) =>
        installation.With(work);

    /// <summary>
    /// Alters rows behind everybody's back. Names are written without quotes; what begins with a capital and goes on
    /// small is one, and a server wants it quoted.
    /// </summary>
    public static Task<int> Alter(this IInstallation installation, string sql, params object[] values) =>
        installation.InStore(s => s.Database.ExecuteSqlRawAsync(Quoted(sql), values));

    /// <summary>The same words with the names in quotes.</summary>
    public static string Quoted(string sql) =>
        Names().Replace(sql, m => m.Groups["name"].Success ? $"\"{m.Value}\"" : m.Value);

    [GeneratedRegex("""'(?:[^']|'')*'|"[^"]*"|\b(?<name>[A-Z][a-z]\w*)\b""")]
    private static partial Regex Names();

    /// <summary>The options by which a command is told where it lies.</summary>
    public static string[] Named(this IInstallation installation) =>
        installation.Address.Connection is { } server
            ? ["--data", installation.Folder, "--store", $"postgres:{server}"]
            : ["--data", installation.Folder];

    public static Task<SealedReport?> Report(this IInstallation installation, Guid run) =>
        installation.With<SealedReport?, FindRun>(find => find.Report(run, CancellationToken.None));

    public static Task<InstallationResult> CheckAll(this IInstallation installation) =>
        installation.With<InstallationResult, InstallationCheck>(check =>
            check.All(_ => Task.CompletedTask, CancellationToken.None)
        );
}

/// <summary>Hides nothing, and knows what it has hidden by a mark.</summary>
public sealed class MarkedBox : ISecretBox
{
    private const string Mark = "marked:";

    /// <inheritdoc/>
    public string Hide(string words) => Mark + words;

    /// <inheritdoc/>
    public string? Show(string kept) => kept.StartsWith(Mark, StringComparison.Ordinal) ? kept[Mark.Length..] : null;
}

/// <summary>The store with all that stands on it, without the web, on a data folder of its own.</summary>
public class StoreHost(TimeProvider? clock = null) : IInstallation
{
    private ServiceProvider? services;
    private StoreAddress? address;

    /// <inheritdoc/>
    public string Folder { get; } = Directory.CreateTempSubdirectory("mordel-data-").FullName;

    /// <inheritdoc/>
    public StoreAddress Address => address ??= EmptyStore.At(Folder);

    /// <inheritdoc/>
    public IServiceProvider Services => services ??= Open();

    private ServiceProvider Open()
    {
        var all = new ServiceCollection();
        all.AddLogging();
        all.AddSingleton(clock ?? TimeProvider.System);
        all.AddSingleton<IPaperSetter, ReportPdf>();
        all.AddSingleton<IPhotoReader, PhotoReader>();
        all.AddSingleton<ITableReader, TableReader>();
        all.AddSingleton<ISecretBox, MarkedBox>();
        all.AddIdentityCore<Account>()
            .AddRoles<IdentityRole<Guid>>()
            .AddEntityFrameworkStores<Store>()
            .AddTokenProvider<AuthenticatorTokenProvider<Account>>(TokenOptions.DefaultAuthenticatorProvider);
        all.AddMordelData(Address, new(Simulated: false));
        all.AddLetters(new("The testers", "office@testers.invalid"));
        all.AddSimulatedOutside();
        var made = all.BuildServiceProvider();
        Task.Run(() => Begin(made)).GetAwaiter().GetResult();
        return made;
    }

    private static async Task Begin(ServiceProvider made)
    {
        await using var scope = made.CreateAsyncScope();
        await scope.ServiceProvider.PrepareStore(_ => { }, CancellationToken.None);
        await scope.ServiceProvider.EnsureRoles();
    }

    public async ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        if (services is not null)
            await services.DisposeAsync();
        if (address is not null)
            EmptyStore.End(address);
        Directory.Delete(Folder, recursive: true);
    }
}

/// <summary>The hamlet on a store without the web.</summary>
public sealed class SmallInstallation : Hamlet
{
    public SmallInstallation()
        : this(new()) { }

    private SmallInstallation(SimulatedClock clock)
        : base(new StoreHost(clock), clock) { }
}
