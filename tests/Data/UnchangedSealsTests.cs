using Mordel.Core.Seals;
using Mordel.Data.Seals;
using Mordel.Documents.Reports;

namespace Mordel.Data.Tests;

/// <summary>
/// Reports that an earlier Mordel sealed: by the file and the published key alone they hold, and this version judges
/// them as that one did.
/// </summary>
public class UnchangedSealsTests
{
    private static readonly string Folder = Repository.At("tests", "Data", "Fixtures", "sealed");

    public static TheoryData<string> Files =>
        [.. Directory.GetFiles(Folder).Select(Path.GetFileName).Where(f => f is not "keys.pem").OfType<string>()];

    [Theory]
    [MemberData(nameof(Files))]
    public void A_report_sealed_before_still_holds_and_is_judged_the_same(string file)
    {
        var keys = PublicKeys.Read(File.ReadAllText(Path.Combine(Folder, "keys.pem")))!;
        var bytes = File.ReadAllBytes(Path.Combine(Folder, file));
        var check = new FileCheck(keys);
        var found = check.Of(bytes);
        Assert.Empty(found.Broken);
        Assert.NotEmpty(found.Says);
        Assert.DoesNotContain(found.Says, s => s.Contains("earlier version", StringComparison.Ordinal));
        bytes[bytes.Length / 2] ^= 1;
        Assert.NotEmpty(check.Of(bytes).Broken);
    }
}
