using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;
using Mordel.Core.Outside;
using Mordel.Core.Serialization;
using Mordel.Data.Accounts;
using Mordel.Data.Audit;
using Mordel.Data.Backups;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Assemblies;
using Mordel.Data.Commands.Bench;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Commands.Field;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Commands.Office;
using Mordel.Data.Commands.Parts;
using Mordel.Data.Commands.Repairs;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Files;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Outbox;
using Mordel.Data.Processes;
using Mordel.Data.Seals;
using Mordel.Data.Setups;
using Mordel.Data.Startup;
using Mordel.Data.Upgrade;

namespace Mordel.Data.Hosting;

/// <summary>What whoever hosts the store can ask for.</summary>
public static class DataServices
{
    /// <summary>
    /// Adds the store at an address with its keys and files, and all that stands on it; clock, accounts and what
    /// sets paper are the host's.
    /// </summary>
    /// <param name="services">What the host has.</param>
    /// <param name="address">Where its rows lie; keys and files lie in its folder.</param>
    /// <param name="installation">What the whole installation is.</param>
    /// <param name="more">What else the host wants of the store's options.</param>
    public static IServiceCollection AddMordelData(
        this IServiceCollection services,
        StoreAddress address,
        Installation installation,
        Action<IServiceProvider, DbContextOptionsBuilder>? more = null
    ) =>
        services
            .WithPasskeys()
            .AddStore(address, (all, options) =>
            {
                options.AddInterceptors(new StoreWatch());
                if (address.IsServer)
                    options.AddInterceptors(new CommitWatch());
                more?.Invoke(all, options);
            })
            .AddScoped<WhoAsks>()
            .AddScoped<AuditWriter>()
            .AddScoped<BranchRight>()
            .AddScoped<AuditLog>()
            .AddScoped<IAlsoChecked>(all => all.GetRequiredService<AuditLog>())
            .AddScoped<RebuildLists>()
            .AddSingleton<OpenDoors>()
            .AddSingleton<SessionMemory>()
            .AddSingleton<SignInTries>()
            .AddScoped<Sessions>()
            .AddScoped(all => new OpenStore(
                all.GetRequiredService<Store>(),
                address,
                all.GetRequiredService<TimeProvider>()
            ))
            .AddSingleton(installation)
            .AddSingleton(address)
            .AddProcesses(address.Connection)
            .AddSingleton(_ => new LinkSecrets(address.Folder))
            .AddScoped<KeepLinks>()
            .AddSingleton(_ => new SigningKeys(address.Folder))
            .AddSingleton<IFiles>(_ => new FolderFiles(Path.Combine(address.Folder, "files")))
            .AddSingleton<WriterQueue>()
            .AddSingleton<OpenRuns>()
            .AddSingleton<EntryQueue>()
            .AddSingleton(_ => new RequestWork())
            .AddSingleton(_ => new AtlasShelf())
            .AddSingleton<SetupStore>()
            .AddSingleton<ISetupParts>(s => s.GetRequiredService<SetupStore>())
            .AddLists()
            .AddCommands()
            .AddSeals()
            .AddOutbox();

    // One process with a file is alone; those that share a server know of each other.
    private static IServiceCollection AddProcesses(this IServiceCollection services, string? connection)
    {
        services.AddSingleton(new ServerWatch(connection));
        return connection is null
            ? services.AddSingleton<Neighbours>().AddSingleton<Leases>().AddSingleton<WindowCounts, OwnCounts>()
            : services
                .AddSingleton<Neighbours>(all => new PostgresNeighbours(
                    connection,
                    all.GetRequiredService<ILogger<PostgresNeighbours>>()
                ))
                .AddSingleton<Leases>(_ => new PostgresLeases(connection))
                .AddSingleton<WindowCounts>(all => new PostgresCounts(
                    connection,
                    all.GetRequiredService<TimeProvider>()
                ));
    }

    // Stores are lent out and come back: to make one takes longer than most questions to it.
    private static IServiceCollection AddStore(
        this IServiceCollection services,
        StoreAddress address,
        Action<IServiceProvider, DbContextOptionsBuilder> more
    ) =>
        address.Connection is { } connection
            ? services
                .AddPooledDbContextFactory<PostgresStore>((all, o) => more(all, o.UseMordelServer(connection)))
                .AddScoped(Lent<PostgresStore>)
            : services
                .AddPooledDbContextFactory<Store>((all, o) => more(all, o.UseMordelFile(address.Folder)))
                .AddScoped(Lent<Store>);

    private static Store Lent<T>(IServiceProvider scope)
        where T : Store =>
        scope
            .GetRequiredService<IDbContextFactory<T>>()
            .CreateDbContext()
            .LentTo(scope.GetRequiredService<AuditWriter>(), scope.GetRequiredService<BranchRight>());

    private static IServiceCollection AddLists(this IServiceCollection services) =>
        services
            .AddScoped<TodayList>()
            .AddSingleton<ProblemMemory>()
            .AddScoped<ProposalList>()
            .AddScoped<RoundsAhead>()
            .AddScoped<TesterCalendar>()
            .AddScoped<VanLoads>()
            .AddScoped<StopLines>()
            .AddScoped<RoundAboard>()
            .AddScoped<FindStop>()
            .AddScoped<FindRun>()
            .AddScoped<RunList>()
            .AddScoped<ProfileList>()
            .AddScoped<DueProjection>()
            .AddScoped<SealArchive>()
            .AddScoped<StandingProjection>()
            .AddScoped<StandingList>()
            .AddScoped<RulePreview>()
            .AddScoped<ChangeList>()
            .AddScoped<ImportList>()
            .AddScoped<DueList>()
            .AddScoped<BranchList>()
            .AddScoped<Duplicates>()
            .AddSingleton<MapMemory>()
            .AddScoped<RegisterMap>()
            .AddScoped<ShownList>()
            .AddScoped<RegisterExport>()
            .AddScoped<Exports>()
            .AddScoped(all => RegisterIndex.Of(all.GetRequiredService<Store>()))
            .AddScoped<RegisterSearch>()
            .AddScoped<Passport>()
            .AddScoped<KitsAndPeopleList>()
            .AddScoped<BenchList>()
            .AddScoped<DiagnosisList>()
            .AddScoped<RepairFindings>()
            .AddScoped<ModelBuilds>()
            .AddScoped<RepairList>()
            .AddScoped<PartsList>()
            .AddScoped<WeighDiagnosis>()
            .AddScoped<OutboxList>()
            .AddScoped<ConsentList>()
            .AddScoped<OwnerPage>()
            .AddScoped<PublicReports>()
            .AddScoped<TagList>()
            .AddScoped<KitPage>()
            .AddScoped<TesterRights>()
            .AddScoped<InstallationState>()
            .AddScoped<AboutPerson>()
            .AddScoped<NoticeList>();

    private static IServiceCollection AddCommands(this IServiceCollection services) =>
        services
            .AddScoped<MakeSetup>()
            .AddScoped<BeginRun>()
            .AddScoped<RoundPasses>()
            .AddScoped<BringRun>()
            .AddScoped<TakeEntries>()
            .AddScoped<SealRun>()
            .AddScoped<AmendRun>()
            .AddScoped<TakeOverRecord>()
            .AddScoped<MakeProfile>()
            .AddScoped<AddKit>()
            .AddScoped<AddPerson>()
            .AddScoped<ColourHoses>()
            .AddScoped<ApiKeys>()
            .AddScoped<KeepPapers>()
            .AddScoped<Calibrate>()
            .AddScoped<LendKit>()
            .AddScoped<CompareKits>()
            .AddScoped<AddCertificate>()
            .AddScoped<AddAssembly>()
            .AddScoped<SayHowBuilt>()
            .AddScoped<ChangeLog>()
            .AddScoped<EditRegister>()
            .AddScoped<RecordEvent>()
            .AddScoped<MoveAssembly>()
            .AddScoped<ReplaceAssembly>()
            .AddScoped<ChangeMany>()
            .AddScoped<PrintTags>()
            .AddScoped<MergeAssemblies>()
            .AddSingleton<RegisterBell>()
            .AddSingleton<RunningImports>()
            .AddScoped<BeginImport>()
            .AddScoped<CheckImport>()
            .AddScoped<ApplyImport>()
            .AddScoped<UndoImport>()
            .AddScoped<BringBack>()
            .AddScoped<AddStop>()
            .AddScoped<AddStops>()
            .AddSingleton<PlanBell>()
            .AddScoped<RoundProblems>()
            .AddScoped<ProposeRounds>()
            .AddScoped<ChangeProposal>()
            .AddScoped<AcceptRounds>()
            .AddScoped<KeepCalendars>()
            .AddScoped<KeepWorkingHours>()
            .AddScoped<KeepBranches>()
            .AddScoped<HandIn>()
            .AddScoped<KeepDiagnosis>()
            .AddScoped<AskWhoeverIsThere>()
            .AddScoped<TakeRemark>()
            .AddScoped<ResetRates>()
            .AddScoped<RunClass>()
            .AddScoped<BeginRepair>()
            .AddScoped<BeginRetest>()
            .AddScoped<TakeRepairEntry>()
            .AddScoped<KeepPhoto>()
            .AddScoped<KeepParts>()
            .AddScoped<MakeOwner>()
            .AddScoped<KeepPasswords>()
            .AddScoped<KeepRoles>()
            .AddScoped<KeepWaysIn>()
            .AddScoped<ForgetPerson>()
            .AddScoped<AnswerVisit>()
            .AddScoped<TellOwners>()
            .AddScoped<KeepNotices>()
            .AddScoped<SendAgain>()
            .AddScoped<SendReports>();

    private static IServiceCollection AddOutbox(this IServiceCollection services) =>
        services
            .AddSingleton<OutboxBell>()
            .AddScoped<OutboxWriter>()
            .AddScoped<ReportFiles>()
            .AddScoped<LaterRulings>()
            .AddScoped<OutboxDelivery>()
            .AddScoped<NoticeTemplates>()
            .AddScoped<NoticeLetters>()
            .AddScoped<NoticeWriter>()
            .AddScoped<NoticePreview>()
            .AddScoped<Reminders>()
            .AddScoped<IncomingLetters>();

    private static IServiceCollection AddSeals(this IServiceCollection services) =>
        services
            .AddScoped<SetupReader>()
            .AddSingleton<RecordMemory>()
            .AddScoped<SealReader>()
            .AddScoped<SealedRuns>()
            .AddScoped<SealWriter>()
            .AddScoped<SealMaker>()
            .AddScoped<PaperPhotos>()
            .AddScoped<ReportPapers>()
            .AddScoped<ChanceProjection>()
            .AddScoped<Alarms>()
            .AddScoped<InstallationCheck>()
            .AddScoped<SealedPapers>()
            .AddScoped<EarlierRunUpgrade>()
            .AddScoped<SerialKeyUpgrade>();
}
