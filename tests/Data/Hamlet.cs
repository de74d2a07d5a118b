using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Simulation;
using Mordel.Core.Units;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Simulators;

namespace Mordel.Data.Tests;

/// <summary>
/// An installation with one tester, one kit and a few valves, filled through the application's own commands; quick to
/// make, free to be broken.
/// </summary>
public abstract class Hamlet(IInstallation inner, SimulatedClock clock) : IInstallation
{
    /// <summary>A signature.</summary>
    public const string Drawn = "M10 10 L200 90 L300 40 L420 120";

    public SimulatedClock Clock => clock;
    public Guid Tester { get; private set; }
    public List<Guid> Assemblies { get; } = [];

    /// <inheritdoc/>
    public IServiceProvider Services => inner.Services;

    /// <inheritdoc/>
    public string Folder => inner.Folder;

    /// <inheritdoc/>
    public StoreAddress Address => inner.Address;

    public ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        return inner.DisposeAsync();
    }

    /// <summary>The tester, the kit and one valve of each of these types.</summary>
    public async Task<Hamlet> Filled(params AssemblyType[] types)
    {
        await this.InStore(async s =>
        {
            var tester = new Account
            {
                Id = Guid.NewGuid(),
                UserName = "moa",
                NormalizedUserName = "MOA",
                FullName = "Moa Ferrin",
                SecurityStamp = "x",
            };
            var today = DateOnly.FromDateTime(DateTime.Now);
            s.Users.Add(tester);
            foreach (var role in new[] { Roles.Tester, Roles.Owner })
                s.UserRoles.Add(
                    new() { UserId = tester.Id, RoleId = (await s.Roles.FirstAsync(r => r.Name == role)).Id }
                );
            var kit = new KitRow
            {
                Id = Guid.NewGuid(),
                KeeperId = tester.Id,
                Kind = "five-valve",
                Make = "Gallibrand",
                Model = "G5",
                Serial = "K-9",
                Unit = "psid",
                Resolution = 0.1m,
                Accuracy = 0.2m,
                FullScale = 15m,
                CalibratedOn = today.AddDays(-40),
                CalibratedBy = "The bench",
                CalibrationDue = today.AddDays(320),
            };
            s.Kits.Add(kit);
            s.Calibrations.Add(Calibrate.Of(kit, new("Wilma"), DateTimeOffset.UnixEpoch));
            s.Certificates.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    AccountId = tester.Id,
                    Number = "C-1",
                    Types = "DC RP PVB SVB",
                    IssuedBy = "The guild",
                    ValidFrom = today.AddYears(-1),
                    ValidUntil = today.AddYears(1),
                }
            );
            var owner = new OwnerRow
            {
                Id = Guid.NewGuid(),
                Name = "Mill Inns",
                Address = "2 Weir Street",
                Phone = "0199 100 001",
            };
            var board = new AuthorityRow
            {
                Id = Guid.NewGuid(),
                Name = "Water Board",
                ProfileId = "psid-standard",
            };
            var place = new PlaceRow
            {
                Id = Guid.NewGuid(),
                Owner = owner,
                Name = "Mill inn",
                Address = "1 Weir Street",
                District = "Millrace",
                Contact = "Ane Kolb, landlady",
                Access = "Back door",
            };
            foreach (var type in types)
            {
                var valve = new AssemblyRow
                {
                    Id = Guid.NewGuid(),
                    Place = place,
                    Authority = board,
                    Tag = $"A-{Assemblies.Count + 1}",
                    Type = type.ToString(),
                    Body = type == AssemblyTypes.RP ? "four-cock" : null,
                    Make = "Corvane",
                    Model = "Twin 40",
                    Size = "1 in",
                    Serial = $"C-{70 + Assemblies.Count}",
                    Flow = "Upward",
                    Location = "Cellar",
                    Serves = "kitchen",
                    Hazard = type == AssemblyTypes.RP ? "high" : "low",
                    Protection = "containment",
                    InstalledOn = new(2020, 5, 1),
                    HowToFind = "Behind the casks",
                };
                s.Assemblies.Add(valve);
                Assemblies.Add(valve.Id);
            }

            Tester = tester.Id;
            return await s.SaveChangesAsync();
        });
        return this;
    }

    /// <summary>A run that has begun at a stop of its own.</summary>
    public async Task<Guid> Begun(int assembly = 0)
    {
        var stop = await this.InStore(async s =>
        {
            var row = new StopRow
            {
                Id = Guid.NewGuid(),
                Day = new(2030, 1, 1),
                TesterId = Tester,
                Order = 1,
                AssemblyId = Assemblies[assembly],
                Minutes = 20,
            };
            s.Stops.Add(row);
            await s.SaveChangesAsync();
            return row.Id;
        });
        var begun = await this.With<Reply<Guid>, BeginRun>(b => b.For(stop, Tester, true, CancellationToken.None));
        Assert.Null(begun.Refusal);
        return begun.Value;
    }

    /// <summary>A whole run as the simulated tester leaves it, each entry arriving as it is made.</summary>
    /// <param name="assembly">Which assembly.</param>
    /// <param name="springs">Its springs; healthy ones when left out.</param>
    public async Task<Guid> Tested(int assembly = 0, Springs? springs = null)
    {
        var id = await Begun(assembly);
        var run = await Run(id);
        var situation = new Situation
        {
            Rig = run.Plan.Rig,
            Springs = springs ?? Springs.Healthy(run.Plan.Rig.Body.Type),
            FullScale = (double)run.Plan.FullScale.In(DifferentialUnit.Psid),
        };
        var visit = new SimulatedVisit
        {
            Start = run.Setup.BegunAt,
            Contact = "Ane Kolb",
            Papers = 10,
            NewId = Guid.NewGuid,
        };
        var log = new SimulatedTester(SchoolCatalogue.Afresh(run.Plan), situation, visit: visit).Perform().Log;
        Clock.Offset = log.Entries.Last().At - TimeProvider.System.GetUtcNow();
        var taken = await this.With<Reply<TakenEntries>, TakeEntries>(t =>
            t.Into(id, Tester, [.. log.Entries], CancellationToken.None)
        );
        Assert.Null(taken.Refusal);
        return id;
    }

    public Task<RunFile> Run(Guid id) =>
        this.With<RunFile, FindRun>(async f => (await f.For(id, new(Tester, false), CancellationToken.None))!);

    public async Task<Reply<Guid>> Sign(Guid run, params EntryBody[] beside) =>
        await this.With<Reply<Guid>, SealRun>(async seal =>
            await seal.By(
                run,
                Tester,
                new("Moa Ferrin", Drawn, (await Run(run)).Log.Count, beside),
                CancellationToken.None
            )
        );

    /// <summary>A signed run.</summary>
    public async Task<Guid> Signed(int assembly = 0, Springs? springs = null, params EntryBody[] beside)
    {
        var id = await Tested(assembly, springs);
        Assert.Null((await Sign(id, beside)).Refusal);
        return id;
    }

    public async Task Amend(Guid run, string text) =>
        Assert.Null(
            (await this.With<Reply<Guid>, AmendRun>(a => a.With(run, Tester, text, CancellationToken.None))).Refusal
        );
}
