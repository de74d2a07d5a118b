using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging.Abstractions;
using Mordel.Core.Rules;
using Mordel.Data;
using Mordel.Data.Audit;
using Mordel.Data.Backups;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Files;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Setups;
using Mordel.Data.Startup;
using Mordel.Documents.Reports;

namespace Mordel.Cli;

/// <summary>
/// An installation's data folder, as the command line opens it: to read, beside a server that may be running.
/// </summary>
public sealed class Installations : IAsyncDisposable
{
    private readonly WhoAsks who = new();

    private Installations(StoreAddress address)
    {
        Folder = address.Folder;
        Keys = new(address.Folder);
        who.Is(null, $"command line ({Environment.UserName})", "");
        Store = address.Open(o => o.AddInterceptors(new AuditWriter(who, Keys, TimeProvider.System)));
    }

    /// <summary>The folder.</summary>
    public string Folder { get; }

    /// <summary>Its database.</summary>
    public Store Store { get; }

    /// <summary>Its keys; opened when they are needed.</summary>
    public SigningKeys Keys { get; }

    /// <summary>Opens an installation of this version.</summary>
    /// <exception cref="StartRefusedException">There is none, or one of another version.</exception>
    public static async Task<Installations> Open(StoreAddress address)
    {
        ArgumentNullException.ThrowIfNull(address);
        if (!address.IsServer && !File.Exists(address.DatabaseFile))
            throw new StartRefusedException(
                $"There is no installation in {Path.GetFullPath(address.Folder)}. Say where it is: --data DIR."
            );
        var opened = new Installations(address);
        if (await IsBehind(opened.Store, address))
        {
            await opened.DisposeAsync();
            throw new StartRefusedException(
                $"The installation in {address.Place} is of an earlier version. Start it once, so that it is "
                    + "brought up to date."
            );
        }

        return opened;
    }

    private static async Task<bool> IsBehind(Store store, StoreAddress address)
    {
        try
        {
            return (await store.Database.GetPendingMigrationsAsync()).Any();
        }
        catch (Exception e) when (address.IsServer && StoreTrouble.Says(e) is { } says)
        {
            throw new StartRefusedException($"{address.Says}: {says}", e);
        }
    }

    /// <summary>Opens an address, and begins an installation where there is none.</summary>
    /// <exception cref="StartRefusedException">It holds one of another version, or cannot be used.</exception>
    public static async Task<Installations> OpenOrBegin(StoreAddress address)
    {
        ArgumentNullException.ThrowIfNull(address);
        if (address.IsServer || !File.Exists(address.DatabaseFile))
        {
            Directory.CreateDirectory(address.Folder);
            await using var begun = new Installations(address);
            await new OpenStore(begun.Store, address, TimeProvider.System).Run(_ => { }, CancellationToken.None);
            await RegisterIndex.Of(begun.Store).Prepare(CancellationToken.None);
        }

        return await Open(address);
    }

    /// <summary>
    /// The profiles that documents may name there: those that come with Mordel, and its own in the version in force
    /// today.
    /// </summary>
    public async Task<IReadOnlyList<Profile>> Profiles() =>
        await new ProfileList(Store).InForce(TimeProvider.System.Today(), CancellationToken.None);

    /// <summary>Opens what writes the archive of a year.</summary>
    public async Task<SealArchive> Archive()
    {
        await Keys.Open(Store, CancellationToken.None);
        var parts = new SetupStore();
        var reader = Reader(parts, new(Store, TimeProvider.System, NullLogger<Alarms>.Instance));
        var photos = new PaperPhotos(new FolderFiles(Path.Combine(Folder, "files")));
        var papers = new ReportPapers(new ReportPdf(), photos, new(Simulated: false));
        return new(Store, reader, new(papers, Keys, parts), Keys, TimeProvider.System);
    }

    /// <summary>The changes of the database's form that this version knows, in their order.</summary>
    public static IReadOnlyList<string> KnownForms()
    {
        using var store = new StoreAddress(Path.GetTempPath()).Open();
        return [.. store.Database.GetMigrations().Order(StringComparer.Ordinal)];
    }

    /// <summary>Writes down what was done here.</summary>
    public async Task Say(string what, string says, string on = "")
    {
        await Keys.Open(Store, CancellationToken.None);
        await new AuditLog(Store, Keys, who).Write(what, on, says, CancellationToken.None);
    }

    /// <summary>A link to a new password; null where nobody comes in by that name.</summary>
    public async Task<(Guid Account, string Secret)?> PasswordLink(string userName)
    {
        ArgumentNullException.ThrowIfNull(userName);
        var name = userName.ToUpperInvariant();
        var account = await Store.Users.FirstOrDefaultAsync(u => u.NormalizedUserName == name && u.DismissedAt == null);
        if (account is null)
            return null;
        var secrets = new LinkSecrets(Folder);
        var links = new KeepLinks(Store, secrets, TimeProvider.System);
        await links.End(LinkPurposes.Password, account.Id, null, CancellationToken.None);
        var (_, secret) = links.Add(LinkPurposes.Password, account.Id, KeepPasswords.LinkByMail, "command line");
        await Store.SaveChangesAsync();
        return (account.Id, secret);
    }

    /// <summary>Opens what makes the lists anew.</summary>
    public async Task<RebuildLists> Lists()
    {
        await Keys.Open(Store, CancellationToken.None);
        var (clock, parts, profiles) = (TimeProvider.System, new SetupStore(), new ProfileList(Store));
        return new(
            Store,
            Reader(parts, new(Store, clock, NullLogger<Alarms>.Instance)),
            new DueProjection(Store, profiles, clock),
            new ChanceProjection(Store),
            RegisterIndex.Of(Store),
            new StandingProjection(Store, profiles, new SealedRuns(Store, new SetupReader(Store, parts)), clock),
            clock
        );
    }

    private SealReader Reader(SetupStore parts, Alarms alarms) =>
        new(Store, new SetupReader(Store, parts), Keys, alarms);

    /// <summary>Checks every seal.</summary>
    /// <param name="progress">Told how many runs are done.</param>
    public async Task<InstallationResult> Check(Action<int> progress)
    {
        await Keys.Open(Store, CancellationToken.None);
        var alarms = new Alarms(Store, TimeProvider.System, NullLogger<Alarms>.Instance);
        return await new InstallationCheck(
            Store,
            Reader(new(), alarms),
            Keys,
            alarms,
            new AuditLog(Store, Keys, who)
        ).All(
            done =>
            {
                progress(done);
                return Task.CompletedTask;
            },
            CancellationToken.None
        );
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        await Store.DisposeAsync();
        Keys.Dispose();
    }
}
