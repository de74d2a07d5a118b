using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.EntityFrameworkCore.Storage;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;

namespace Mordel.Data;

/// <summary>The database. Pages do not query it directly: each list and each command has a class of its own.</summary>
public class Store : IdentityDbContext<Account, IdentityRole<Guid>, Guid>
{
    private readonly WriterQueue writers;

    /// <summary>Opens the file of a data folder.</summary>
    /// <param name="options">How it is opened.</param>
    /// <param name="writers">Where writers wait for their turn; null where nobody else writes.</param>
    public Store(DbContextOptions<Store> options, WriterQueue? writers = null)
        : this((DbContextOptions)options, writers) { }

    /// <summary>Opens another kind of database.</summary>
    protected Store(DbContextOptions options, WriterQueue? writers)
        : base(options) => this.writers = writers ?? new();

    public DbSet<CertificateRow> Certificates => Set<CertificateRow>();
    public DbSet<KitRow> Kits => Set<KitRow>();
    public DbSet<AuthorityRow> Authorities => Set<AuthorityRow>();
    public DbSet<OwnerRow> Owners => Set<OwnerRow>();
    public DbSet<PlaceRow> Places => Set<PlaceRow>();
    public DbSet<AssemblyRow> Assemblies => Set<AssemblyRow>();
    public DbSet<StopRow> Stops => Set<StopRow>();
    public DbSet<WorkingHoursRow> WorkingHours => Set<WorkingHoursRow>();
    public DbSet<ProposalRow> Proposals => Set<ProposalRow>();
    public DbSet<ProposalStepRow> ProposalSteps => Set<ProposalStepRow>();
    public DbSet<RunRow> Runs => Set<RunRow>();
    public DbSet<EntryRow> Entries => Set<EntryRow>();
    public DbSet<AmendmentRow> Amendments => Set<AmendmentRow>();
    public DbSet<KeptTextRow> KeptTexts => Set<KeptTextRow>();
    public DbSet<CalibrationRow> Calibrations => Set<CalibrationRow>();
    public DbSet<LoanRow> Loans => Set<LoanRow>();
    public DbSet<ComparisonRow> Comparisons => Set<ComparisonRow>();
    public DbSet<PaperRow> Papers => Set<PaperRow>();
    public DbSet<OutboxEventRow> OutboxEvents => Set<OutboxEventRow>();
    public DbSet<SealRow> Seals => Set<SealRow>();
    public DbSet<ChainRow> Chains => Set<ChainRow>();
    public DbSet<LedgerRow> Ledger => Set<LedgerRow>();
    public DbSet<SigningKeyRow> PublicKeys => Set<SigningKeyRow>();
    public DbSet<EarlierSealRow> EarlierSeals => Set<EarlierSealRow>();
    public DbSet<AuditRow> Audit => Set<AuditRow>();
    public DbSet<AuditEndRow> AuditEnds => Set<AuditEndRow>();
    public DbSet<AlarmRow> AlarmRows => Set<AlarmRow>();
    public DbSet<ProfileRow> Profiles => Set<ProfileRow>();
    public DbSet<TokenRow> Tokens => Set<TokenRow>();
    public DbSet<SessionRow> Sessions => Set<SessionRow>();
    public DbSet<ResultRow> JudgedItems => Set<ResultRow>();
    public DbSet<OutboxRow> Outbox => Set<OutboxRow>();
    public DbSet<DiagnosisRow> Diagnoses => Set<DiagnosisRow>();
    public DbSet<ObservationRow> Observations => Set<ObservationRow>();
    public DbSet<LinkRow> Links => Set<LinkRow>();
    public DbSet<LetterRow> Letters => Set<LetterRow>();
    public DbSet<NoticeRow> Notices => Set<NoticeRow>();
    public DbSet<NoticeTemplateRow> NoticeTemplates => Set<NoticeTemplateRow>();
    public DbSet<NoticeSwitchRow> NoticeSwitches => Set<NoticeSwitchRow>();
    public DbSet<ConsentRow> Consents => Set<ConsentRow>();
    public DbSet<IncomingRow> Incoming => Set<IncomingRow>();
    public DbSet<ModelBuildRow> ModelBuilds => Set<ModelBuildRow>();
    public DbSet<RateResetRow> RateResets => Set<RateResetRow>();
    public DbSet<RepairRow> Repairs => Set<RepairRow>();
    public DbSet<RepairEntryRow> RepairEntries => Set<RepairEntryRow>();
    public DbSet<FollowUpRow> FollowUps => Set<FollowUpRow>();
    public DbSet<PartItemRow> PartItems => Set<PartItemRow>();
    public DbSet<PartMoveRow> PartMoves => Set<PartMoveRow>();
    public DbSet<AssemblyEventRow> AssemblyEvents => Set<AssemblyEventRow>();
    public DbSet<BroughtTestRow> BroughtTests => Set<BroughtTestRow>();
    public DbSet<StandingCountRow> StandingCounts => Set<StandingCountRow>();
    public DbSet<PartYearRow> PartYears => Set<PartYearRow>();
    public DbSet<DurationRow> Durations => Set<DurationRow>();
    public DbSet<DurationStepRow> DurationSteps => Set<DurationStepRow>();
    public DbSet<StandingRow> Standings => Set<StandingRow>();
    public DbSet<MergeRow> Merges => Set<MergeRow>();
    public DbSet<ChangeRow> Changes => Set<ChangeRow>();
    public DbSet<ImportRow> Imports => Set<ImportRow>();
    public DbSet<ImportLineRow> ImportLines => Set<ImportLineRow>();
    public DbSet<ColumnMemoryRow> ColumnMemories => Set<ColumnMemoryRow>();
    public DbSet<BranchRow> Branches => Set<BranchRow>();
    public DbSet<BranchDistrictRow> BranchDistricts => Set<BranchDistrictRow>();
    public DbSet<BranchPersonRow> BranchPeople => Set<BranchPersonRow>();
    public DbSet<BranchKitRow> BranchKits => Set<BranchKitRow>();
    public DbSet<ClassRow> Classes => Set<ClassRow>();
    public DbSet<ClassMemberRow> ClassMembers => Set<ClassMemberRow>();
    public DbSet<AssignmentRow> Assignments => Set<AssignmentRow>();
    public DbSet<AttemptRow> Attempts => Set<AttemptRow>();

    /// <summary>Who looks at what is saved while this scope has the store.</summary>
    internal IReadOnlyList<ISaveChangesInterceptor> Watchers { get; private set; } = [];

    /// <summary>Whether something of what this scope wrote may last: a commit was asked for.</summary>
    public bool MayLast { get; internal set; }

    /// <summary>Another scope has it from now on.</summary>
    internal Store LentTo(params IReadOnlyList<ISaveChangesInterceptor> watchers)
    {
        (Watchers, MayLast) = (watchers, false);
        return this;
    }

    /// <summary>Begins a transaction that writes, when its turn comes.</summary>
    public async Task<Writing> BeginWriting(CancellationToken cancel)
    {
        var turn = await writers.Take(cancel);
        IDbContextTransaction? begun = null;
        try
        {
            begun = await Database.BeginTransactionAsync(cancel);
            await KeepOthersOut(cancel);
            return new(begun, turn);
        }
        catch
        {
            // Its connection may be what failed.
            if (begun is not null)
                await begun.DisposeAsync();
            turn.Dispose();
            throw;
        }
    }

    /// <summary>Changes rows where they lie, inside the transaction that was begun, or in a turn of its own.</summary>
    public async Task<int> Change(Func<Store, Task<int>> change, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(change);
        return Database.CurrentTransaction is not null
            ? await change(this)
            : await InItsTurn(() => change(this), cancel);
    }

    /// <summary>Saves, inside the transaction that was begun, or in a turn of its own.</summary>
    public override async Task<int> SaveChangesAsync(
        bool acceptAllChangesOnSuccess,
        CancellationToken cancellationToken = default
    )
    {
        Task<int> Save() => base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
        return Database.CurrentTransaction is not null ? await Save() : await InItsTurn(Save, cancellationToken);
    }

    /// <summary>Writes outside of any transaction that was begun, when its turn comes.</summary>
    protected virtual async Task<int> InItsTurn(Func<Task<int>> work, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(work);
        using var turn = await writers.Take(cancel);
        return await work();
    }

    /// <summary>
    /// Waits in a transaction that has begun until no other process writes; a file sees to that itself.
    /// </summary>
    protected virtual Task KeepOthersOut(CancellationToken cancel) => Task.CompletedTask;

    /// <summary>How instants, ids and numbers are kept.</summary>
    protected virtual void KeepAs(ModelConfigurationBuilder values)
    {
        ArgumentNullException.ThrowIfNull(values);
        // Sortable text in UTC: SQLite has no type for an instant.
        values.Properties<DateTimeOffset>().HaveConversion<UtcText>();
        values.Properties<Guid>().HaveConversion<IdText>();
        values.Properties<decimal>().HaveConversion<DigitsText>();
    }

    protected sealed override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        base.ConfigureConventions(configurationBuilder);
        KeepAs(configurationBuilder);
    }

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.Entity<CertificateRow>(e =>
        {
            e.HasOne<Account>().WithMany().HasForeignKey(c => c.AccountId);
            e.HasOne(c => c.Authority).WithMany().HasForeignKey(c => c.AuthorityId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne(c => c.Paper).WithMany().HasForeignKey(c => c.PaperId).OnDelete(DeleteBehavior.Restrict);
            e.Property(c => c.Class).HasDefaultValue("");
            e.HasIndex(c => c.AccountId);
        });
        builder.Entity<OwnerRow>().HasIndex(o => o.Name);
        builder.Entity<PlaceRow>(e =>
        {
            e.HasIndex(p => p.Address);
            e.HasIndex(p => p.District);
            e.HasIndex(p => new { p.East, p.North });
        });
        builder.Entity<PlaceRow>().HasMany(p => p.Assemblies).WithOne(a => a.Place).HasForeignKey(a => a.PlaceId);
        builder.Entity<AssemblyRow>(e =>
        {
            e.HasIndex(a => a.Serial);
            e.HasIndex(a => a.SerialKey);
            e.HasIndex(a => a.Tag).IsUnique();
            // What is due, in its order; of one authority; and what waits for something.
            e.HasIndex(a => new { a.NextDue, a.Tag });
            e.HasIndex(a => new { a.Type, a.NextDue });
            e.HasIndex(a => new { a.LastTestOn, a.Tag });
            e.HasIndex(a => new { a.LastOutcome, a.Tag });
            // The map reads nothing else of an assembly.
            e.HasIndex(a => new
            {
                a.PlaceId,
                a.ReplacedOn,
                a.NextDue,
                a.DueCause,
            });
            e.HasIndex(a => new { a.AuthorityId, a.NextDue });
            e.HasIndex(a => a.Stuck).HasFilter("\"Stuck\" IS NOT NULL");
            e.HasIndex(a => a.MergedIntoId).HasFilter("\"MergedIntoId\" IS NOT NULL");
            e.HasIndex(a => a.ReplacesId).HasFilter("\"ReplacesId\" IS NOT NULL");
            // What will likely fail: few of many.
            e.HasIndex(a => a.ChanceToFail).HasFilter($"\"ChanceToFail\" >= {LikelyToFail.Percent}");
        });
        builder.Entity<StopRow>(e =>
        {
            e.HasOne<Account>().WithMany().HasForeignKey(s => s.TesterId);
            e.HasIndex(s => new { s.TesterId, s.Day });
            e.HasIndex(s => s.Day);
        });
        builder.RunsAndSeals();
        builder.Entity<CalibrationRow>(e =>
        {
            e.HasOne<KitRow>().WithMany().HasForeignKey(c => c.KitId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne(c => c.Paper).WithMany().HasForeignKey(c => c.PaperId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(c => new { c.KitId, c.On });
        });
        builder.Entity<LoanRow>(e =>
        {
            e.HasOne(l => l.Kit).WithMany().HasForeignKey(l => l.KitId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne(l => l.To).WithMany().HasForeignKey(l => l.ToId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(l => l.KitId);
            e.HasIndex(l => l.Until);
        });
        builder.Entity<ComparisonRow>(e =>
        {
            e.HasOne(c => c.One).WithMany().HasForeignKey(c => c.OneId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne(c => c.Other).WithMany().HasForeignKey(c => c.OtherId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<OutboxEventRow>(e =>
        {
            e.HasOne<OutboxRow>().WithMany().HasForeignKey(v => v.OutboxId).OnDelete(DeleteBehavior.Cascade);
            e.HasIndex(v => v.OutboxId);
        });
        builder.Entity<OutboxRow>(e =>
        {
            e.HasOne<RunRow>().WithMany().HasForeignKey(o => o.RunId).OnDelete(DeleteBehavior.Restrict);
            e.Property(o => o.Kind).HasDefaultValue(OutboxRow.Report);
            // The same thing is never written twice.
            e.HasIndex(o => o.Key).IsUnique();
            e.HasIndex(o => new { o.State, o.NextTryAt });
            e.HasIndex(o => new { o.State, o.SettledAt });
            e.HasIndex(o => o.RunId);
        });
        builder.Entity<DiagnosisRow>(e =>
        {
            e.HasOne(d => d.Assembly).WithMany().HasForeignKey(d => d.AssemblyId).OnDelete(DeleteBehavior.Restrict);
            e.HasMany(d => d.Observations)
                .WithOne()
                .HasForeignKey(o => o.DiagnosisId)
                .OnDelete(DeleteBehavior.Restrict);
            // A run has one diagnosis: two tabs that open it meet there.
            e.HasIndex(d => d.RunId).IsUnique();
            e.HasIndex(d => d.OpenedAt);
            e.HasIndex(d => new { d.AssemblyId, d.OpenedAt });
        });
        builder.Entity<ObservationRow>(e =>
        {
            e.HasIndex(o => new { o.DiagnosisId, o.Number }).IsUnique();
            e.HasIndex(o => o.TakesBack).IsUnique();
            e.HasIndex(o => o.At).HasFilter("\"Opened\" IS NOT NULL");
        });
        builder.Entity<ModelBuildRow>().HasKey(b => new { b.Make, b.Model });
        builder.Entity<RateResetRow>().HasIndex(r => r.At);
        builder.Accounts();
        builder.Branches();
        builder.Repairs();
        builder.Office();
        builder.Standing();
        builder.Notices();
        builder.Entity<ProfileRow>().HasIndex(p => new { p.ProfileId, p.Version }).IsUnique();
        builder.Training();
    }
}
