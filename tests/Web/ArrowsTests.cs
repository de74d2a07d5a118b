using System.Reflection;
using Mordel.Core.Units;
using Mordel.Data;
using Mordel.DemoData;
using Mordel.Documents.Reports;
using Mordel.Planning;
using Mordel.Simulators;
using NetArchTest.Rules;

namespace Mordel.Web.Tests;

/// <summary>
/// Arrows go one way: Web and Cli to Data, Documents, Planning, Simulators and DemoData, these to Core, Core to none.
/// </summary>
public class ArrowsTests
{
    private static readonly Assembly Core = typeof(Differential).Assembly;

    [Fact]
    public void The_core_has_no_packages_no_files_no_clock_and_no_network()
    {
        Assert.All(Core.GetReferencedAssemblies(), a => Assert.StartsWith("System.", a.Name, StringComparison.Ordinal));
        Assert.DoesNotContain(Core.GetReferencedAssemblies(), a =>
            a.Name is "System.Net.Http" or "System.IO.FileSystem" or "System.Net.Sockets"
        );
        Assert.Empty(
            Types
                .InAssembly(Core)
                .That()
                .HaveDependencyOnAny(
                    "System.IO.File",
                    "System.IO.Directory",
                    "System.IO.FileStream",
                    "System.TimeProvider",
                    "System.Net.Http"
                )
                .GetTypes()
                .Select(t => t.FullName)
        );
    }

    // Each project of the house may know those before it.
    private static readonly string[] Floors =
    [
        "Mordel.Core",
        "Mordel.Simulators",
        "Mordel.Authorities",
        "Mordel.Documents",
        "Mordel.Planning",
        "Mordel.Data",
        "Mordel.DemoData",
        "Mordel.Cli",
        "Mordel.Web",
    ];

    [Fact]
    public void Arrows_between_projects_go_one_way()
    {
        Assembly[] house =
        [
            Core,
            typeof(SimulatedGauge).Assembly,
            typeof(Mordel.Authorities.AuthorityService).Assembly,
            typeof(ReportPdf).Assembly,
            typeof(RoundSolver).Assembly,
            typeof(Store).Assembly,
            typeof(DemoTown).Assembly,
        ];
        Assert.All(house, assembly =>
        {
            var after = Floors.SkipWhile(f => f != assembly.GetName().Name).Skip(1).ToArray();
            Assert.NotEmpty(after);
            Assert.DoesNotContain(assembly.GetReferencedAssemblies(), a => after.Contains(a.Name));
        });
        Assert.DoesNotContain(typeof(Store).Assembly.GetReferencedAssemblies(), a => a.Name == "Mordel.Documents");
    }

    // Each folder of the core may know those before it; docs/architecture.md draws them in this order.
    private static readonly string[] FoldersOfTheCore =
    [
        "Units",
        "Collections",
        "Rigs",
        "Catalogue",
        "Rules",
        "Dues",
        "Register",
        "Verdicts",
        "Procedures",
        "Schools.DoubleCheck",
        "Schools.ReducedPressure",
        "Schools.VacuumBreaker",
        "Runs",
        "Repairs",
        "Hydraulics",
        "Drawing",
        "Simulation",
        "Schools",
        "Diagnosis",
        "Training",
        "Reports",
        "Forecasts",
        "Standing",
        "Planning",
        "Notices",
        "Serialization",
        "Seals",
        "Views",
        "Outside",
    ];

    internal static IEnumerable<string> InOrder => FoldersOfTheCore;

    public static TheoryData<string> Folders => [.. FoldersOfTheCore];

    [Theory]
    [MemberData(nameof(Folders))]
    public void Each_folder_of_the_core_depends_only_on_those_before_it(string folder)
    {
        var after = FoldersOfTheCore
            .SkipWhile(f => f != folder)
            .Skip(1)
            .Where(f => !folder.StartsWith($"{f}.", StringComparison.Ordinal));
        var result = Types
            .InAssembly(Core)
            .That()
            .ResideInNamespaceMatching($@"^Mordel\.Core\.{folder.Replace(".", @"\.", StringComparison.Ordinal)}$")
            .ShouldNot()
            .HaveDependencyOnAny([.. after.Select(f => $"Mordel.Core.{f}")])
            .GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Fact]
    public void Every_folder_of_the_core_stands_in_the_picture() =>
        Assert.Equal(
            Core.GetTypes()
                .Where(t => t.IsPublic)
                .Select(t => t.Namespace!["Mordel.Core.".Length..])
                .Distinct()
                .Order(StringComparer.Ordinal),
            FoldersOfTheCore.Order(StringComparer.Ordinal)
        );

    // Each folder of the data may know those before it.
    private static readonly string[] FoldersOfTheData =
    [
        "Rows",
        "Startup",
        "Accounts",
        "Setups",
        "Seals",
        "Audit",
        "Outbox",
        "Files",
        "Lists",
        "Backups",
        "Commands",
        "Upgrade",
        "Hosting",
    ];

    public static TheoryData<string> DataFolders => [.. FoldersOfTheData[..^1]];

    [Theory]
    [MemberData(nameof(DataFolders))]
    public void Each_folder_of_the_data_depends_only_on_those_before_it(string folder)
    {
        var after = FoldersOfTheData.SkipWhile(f => f != folder).Skip(1);
        var result = Types
            .InAssembly(typeof(Store).Assembly)
            .That()
            .ResideInNamespace($"Mordel.Data.{folder}")
            .ShouldNot()
            .HaveDependencyOnAny([.. after.Select(f => $"Mordel.Data.{f}")])
            .GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Fact]
    public void Pages_do_not_query_the_store_themselves() =>
        Assert.Empty(
            Types
                .InAssembly(typeof(Program).Assembly)
                .That()
                .ResideInNamespace("Mordel.Web.Pages")
                .And()
                .HaveDependencyOn("Mordel.Data.Store")
                .GetTypes()
                .Select(t => t.FullName)
        );
}
