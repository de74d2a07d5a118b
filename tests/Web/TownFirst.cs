using Xunit.Abstractions;

[assembly: TestCollectionOrderer("Mordel.Web.Tests.TownFirst", "Mordel.Web.Tests")]

namespace Mordel.Web.Tests;

/// <summary>
/// The town's tests come one after the other and take longest: they begin at once, and the others run beside them.
/// </summary>
public sealed class TownFirst : ITestCollectionOrderer
{
    /// <inheritdoc/>
    public IEnumerable<ITestCollection> OrderTestCollections(IEnumerable<ITestCollection> testCollections) =>
        testCollections
            .OrderByDescending(c => c.DisplayName == "town")
            .ThenBy(c => c.DisplayName, StringComparer.Ordinal);
}
