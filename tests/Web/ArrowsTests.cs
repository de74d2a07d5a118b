using System.Reflection;
using Mordel.Core.Units;
using Mordel.Data;
using Mordel.DemoData;
using Mordel.Documents.Reports;
using NetArchTest.Rules;

namespace Mordel.Web.Tests;

/// <summary>Arrows go one way: Web and Cli to Data, Documents and StandIns, these to Core, Core to nothing.</summary>
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

    [Theory]
    [InlineData("Mordel.Core", "Mordel.Data", "Mordel.Documents", "Mordel.DemoData", "Mordel.Web", "Mordel.Cli")]
    [InlineData("Mordel.Data", "Mordel.Documents", "Mordel.DemoData", "Mordel.Web", "Mordel.Cli", "")]
    [InlineData("Mordel.Documents", "Mordel.Data", "Mordel.DemoData", "Mordel.Web", "Mordel.Cli", "")]
    [InlineData("Mordel.DemoData", "Mordel.Documents", "Mordel.Web", "Mordel.Cli", "", "")]
    public void Arrows_between_projects_go_one_way(string from, params string[] never)
    {
        var assembly = new[]
        {
            Core,
            typeof(Store).Assembly,
            typeof(ReportPdf).Assembly,
            typeof(DemoTown).Assembly,
        }.Single(a => a.GetName().Name == from);
        Assert.DoesNotContain(assembly.GetReferencedAssemblies(), a => never.Contains(a.Name));
    }

    [Theory]
    [InlineData("Collections", "Units,Rigs,Rules,Procedures,Verdicts,Runs,Reports,Formats,Drawings,Views")]
    [InlineData("Units", "Rigs,Rules,Procedures,Verdicts,Runs,Reports,Formats,Drawings,Views")]
    [InlineData("Rigs", "Rules,Procedures,Verdicts,Runs,Reports,Formats,Drawings,Views")]
    [InlineData("Rules", "Procedures,Verdicts,Runs,Reports,Formats,Drawings,Views")]
    [InlineData("Procedures", "Verdicts,Runs,Reports,Formats,Drawings,Views")]
    [InlineData("Verdicts", "Procedures,Runs,Reports,Formats,Drawings,Views")]
    [InlineData("Runs", "Reports,Formats,Drawings,Views")]
    [InlineData("Reports", "Formats,Drawings,Views,Training,AutoTest")]
    [InlineData("Formats", "Drawings,Views")]
    [InlineData("Drawings", "Runs,Formats,Views,Training")]
    [InlineData("Water", "Procedures,Verdicts,Runs,Reports,Formats,Drawings,Views,AutoTest,Training")]
    [InlineData("AutoTest", "Reports,Formats,Drawings,Views,Training")]
    [InlineData("Training", "Reports,Formats,Views")]
    public void Each_folder_of_the_core_depends_only_on_those_before_it(string folder, string after)
    {
        var result = Types
            .InAssembly(Core)
            .That()
            .ResideInNamespace($"Mordel.Core.{folder}")
            .ShouldNot()
            .HaveDependencyOnAny([.. after.Split(',').Select(f => $"Mordel.Core.{f}")])
            .GetResult();
        Assert.True(result.IsSuccessful, string.Join(", ", result.FailingTypeNames ?? []));
    }

    [Theory]
    [InlineData("Rows", "Setups,Seals,Lists,Commands,Upgrade,Startup")]
    [InlineData("Startup", "Setups,Seals,Lists,Commands,Upgrade")]
    [InlineData("Setups", "Seals,Lists,Commands,Upgrade")]
    [InlineData("Seals", "Lists,Commands,Upgrade")]
    [InlineData("Lists", "Commands,Upgrade")]
    [InlineData("Commands", "Upgrade")]
    public void Each_folder_of_the_data_depends_only_on_those_before_it(string folder, string after)
    {
        var result = Types
            .InAssembly(typeof(Store).Assembly)
            .That()
            .ResideInNamespace($"Mordel.Data.{folder}")
            .ShouldNot()
            .HaveDependencyOnAny([.. after.Split(',').Select(f => $"Mordel.Data.{f}")])
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
