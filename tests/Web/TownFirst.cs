using Xunit.Abstractions;

[assembly: TestCollectionOrderer("Mordel.Web.Tests.TownFirst", "Mordel.Web.Tests")]

namespace Mordel.Web.Tests;

/// <summary>
/// The tests of a town come one after the other and take longest: both towns begin at once, and the others follow.
/// </summary>
public sealed class TownFirst : ITestCollectionOrderer
{
    /// <inheritdoc/>
    public IEnumerable<ITestCollection> OrderTestCollections(IEnumerable<ITestCollection> testCollections) =>
        testCollections
            .OrderByDescending(c => c.DisplayName.EndsWith("town", StringComparison.Ordinal))
            .ThenBy(c => c.DisplayName, StringComparer.Ordinal);
}
