using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Catalogue;
using static Mordel.Core.Register.FieldKind;

namespace Mordel.Core.Register;

/// <summary>The fields of a test that was made elsewhere.</summary>
public static class TestFields
{
    /// <summary>A reading as it was brought in, <c>1.8 psid</c>; null where it is none.</summary>
    /// <returns>The value, and the unit where one is said.</returns>
    public static (decimal Value, string? Unit)? Reading(string? said) =>
        said?.Split(' ') is [var number, .. var unit]
        && decimal.TryParse(number, NumberStyles.Number, CultureInfo.InvariantCulture, out var value)
            ? (value, unit is [var symbol] ? symbol : null)
            : null;

    /// <summary>The day of a test made elsewhere.</summary>
    public static RegisterField TestDay { get; } =
        new("test day", FieldOf.Test, "Tested on")
        {
            Kind = Day,
            IsTyped = false,
            Heads =
            [
                "testday",
                "testdate",
                "lasttest",
                "lasttestdate",
                "datetested",
                "dateoftest",
                "testedon",
                "lasttested",
            ],
        };

    /// <summary>Its outcome.</summary>
    public static RegisterField Outcome { get; } =
        new("outcome", FieldOf.Test, "Outcome")
        {
            Kind = Choice,
            IsTyped = false,
            Choices =
            [
                new("pass", "passed", ["pass", "passed", "p", "ok", "satisfactory", "good", "y", "yes"]),
                new("fail", "failed", ["fail", "failed", "f", "notok", "unsatisfactory", "bad", "n", "no"]),
                new("incomplete", "incomplete", ["incomplete", "notcomplete", "partial"]),
                new(
                    "not-testable",
                    "could not be tested",
                    ["nottestable", "nottested", "couldnotbetested", "noaccess"]
                ),
            ],
            Heads =
            [
                "outcome",
                "result",
                "testresult",
                "lastresult",
                "passfail",
                "passorfail",
                "overallresult",
                "status",
            ],
        };

    /// <summary>Who tested.</summary>
    public static RegisterField Tester { get; } =
        OfTest("tester", "Tester", 120, "tester", "testername", "testedby", "technician");

    /// <summary>With which certificate.</summary>
    public static RegisterField Certificate { get; } =
        OfTest("certificate", "Certificate", 60, "certificate", "certnumber", "certificatenumber", "certno", "licence");

    /// <summary>With which kit.</summary>
    public static RegisterField TestKit { get; } =
        OfTest("kit", "Kit", 120, "kit", "gauge", "testkit", "gaugeserial", "kitserial");

    /// <summary>What was remarked.</summary>
    public static RegisterField Remarks { get; } =
        OfTest("remarks", "Remarks", 1000, "remarks", "comments", "notes", "testnotes", "comment");

    /// <summary>Where the test comes from, in words.</summary>
    public static RegisterField Source { get; } = OfTest("source", "Brought in from", 200, "source", "broughtinfrom");

    /// <summary>What was read, one field an item.</summary>
    public static ImmutableArray<RegisterField> Readings { get; } =
    [.. TestItem.All.Select(i => OfTest(i.Id, i.Name, 40, [RegisterField.Bare(i.Id), RegisterField.Bare(i.Name)]))];

    private static RegisterField OfTest(string id, string label, int most, params ImmutableArray<string> heads) =>
        new(id, FieldOf.Test, label)
        {
            Most = most,
            IsTyped = false,
            Heads = heads,
        };
}
