using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Planning;
using Mordel.Core.Runs;

namespace Mordel.Core.Tests;

/// <summary>Who may sign what on which day is worked out in one place, and it says why not.</summary>
public class SigningRightsTests
{
    private const string Board = "The Board",
        Valley = "The Valley";

    private static readonly DateOnly Day = new(2031, 5, 20);

    private static CertificateFacts Certificate(
        string number = "RG-1",
        int from = -100,
        int until = 100,
        string? authority = null,
        params Rigs.AssemblyType[] types
    ) =>
        new(
            number,
            "A guild",
            [.. types.Length == 0 ? [AssemblyTypes.DC, AssemblyTypes.RP] : types],
            Day.AddDays(from),
            Day.AddDays(until)
        )
        {
            Authority = authority,
        };

    private static SigningRight Right(params CertificateFacts[] certificates) =>
        SigningRights.Of("Ines", certificates, AssemblyTypes.DC, Board, Day);

    [Fact]
    public void Of_several_certificates_the_one_that_lasts_longest_is_signed_with() =>
        Assert.Equal(
            "B",
            Right(Certificate("A"), Certificate("B", until: 200), Certificate("C", until: -1)).With!.Number
        );

    [Fact]
    public void The_first_and_the_last_day_count()
    {
        Assert.NotNull(Right(Certificate(from: 0, until: 0)).With);
        Assert.Null(Right(Certificate(from: 1)).With);
        Assert.Null(Right(Certificate(until: -1)).With);
    }

    [Fact]
    public void What_is_nearest_to_holding_is_named()
    {
        Assert.Contains("RG-1 ended on 19 May 2031", Right(Certificate(until: -1)).Why, StringComparison.Ordinal);
        Assert.Contains("RG-1 begins on 21 May 2031", Right(Certificate(from: 1)).Why, StringComparison.Ordinal);
        Assert.Contains(
            "RG-1 counts with The Valley, not with The Board",
            Right(Certificate(authority: Valley)).Why,
            StringComparison.Ordinal
        );
        Assert.Contains("for other types", Right(Certificate(types: AssemblyTypes.RP)).Why, StringComparison.Ordinal);
        Assert.Equal("Ines has no certificate for a DC that is valid on 20 May 2031.", Right().Why);
    }

    [Fact]
    public void The_planner_and_the_signature_agree_on_every_certificate_day_and_authority() =>
        Gen.Select(
                Gen.Int[-3, 3],
                Gen.Int[-3, 3],
                Gen.Int[-4, 4],
                Gen.Int[0, 2].Select(i => new[] { null, Board, Valley }[i]),
                Gen.Bool.Select(b => b ? Board : Valley),
                Gen.Int[1, 15]
            )
            .Sample(
                (from, until, day, taker, authority, covered) =>
                {
                    Rigs.AssemblyType[] types =
                    [
                        .. AssemblyTypes.Names.Where((_, i) => (covered >> i & 1) == 1).Select(AssemblyTypes.Parse),
                    ];
                    var certificate = Certificate("X", from, until, taker, types);
                    var plan = new PlanTester("1", "Ines")
                    {
                        Certificates =
                        [
                            new(taker, [.. types.Select(t => t.Name)], Day.AddDays(from), Day.AddDays(until)),
                        ],
                        Kits = [new("five-valve", "K", DateOnly.MaxValue)],
                    };
                    foreach (var type in AssemblyTypes.Names)
                    {
                        var right = SigningRights.Of(
                            "Ines",
                            [certificate],
                            AssemblyTypes.Parse(type),
                            authority,
                            Day.AddDays(day)
                        );
                        var against = Fitness.Against(
                            new("s", "A place", 0, 30, authority, type),
                            plan,
                            Day.AddDays(day)
                        );
                        Assert.Equal(right.With is null, against.Contains(PlanLimit.Certificate));
                        Assert.NotEqual(right.With is null, right.Why is null);
                    }
                },
                iter: 3000
            );
}
