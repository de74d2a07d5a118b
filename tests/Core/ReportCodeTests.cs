using CsCheck;
using Mordel.Core.Reports;

namespace Mordel.Core.Tests;

/// <summary>
/// The code at the foot of a report can be read aloud, typed with wet fingers, and finds that report.
/// </summary>
public class ReportCodeTests
{
    private static readonly Gen<string> Records = Gen.Char["0123456789abcdef"].Array[64].Select(c => new string(c));

    [Fact]
    public void A_code_is_read_back_however_it_is_typed() =>
        Records.Sample(
            record =>
            {
                var code = ReportCode.Of(record);
                var printed = code.ToString();
                Assert.Matches("^[0-9A-HJKMNP-TV-Z]{4}-[0-9A-HJKMNP-TV-Z]{4}-[0-9A-HJKMNP-TV-Z]{4}$", printed);
                Assert.Equal(code, ReportCode.Read(printed));
                Assert.Equal(code, ReportCode.Read(printed.ToLowerInvariant().Replace('-', ' ')));
                Assert.Equal(code, ReportCode.Read($"  {printed.Replace("-", "")} "));
                // What the eye takes for another letter is forgiven.
                Assert.Equal(code, ReportCode.Read(printed.Replace('0', 'O').Replace('1', 'l')));
            },
            iter: 2000
        );

    [Fact]
    public void Another_record_has_another_code() =>
        Gen.Select(Records, Records)
            .Sample(
                (one, other) =>
                    Assert.Equal(
                        one[..ReportCode.Length] == other[..ReportCode.Length],
                        ReportCode.Of(one).ToString() == ReportCode.Of(other).ToString()
                    ),
                iter: 2000
            );

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("7K3M-Q9PT-2XW")]
    [InlineData("7K3M-Q9PT-2XWDD")]
    [InlineData("7K3M-Q9PT-2XWU")]
    [InlineData("7K3M/Q9PT/2XWD")]
    public void What_is_no_code_is_not_read(string? typed) => Assert.Null(ReportCode.Read(typed));

    [Fact]
    public void A_text_that_never_ends_is_not_read() => Assert.Null(ReportCode.Read(new string('-', 100_000)));
}
