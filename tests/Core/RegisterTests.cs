using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Planning;
using Mordel.Core.Register;

namespace Mordel.Core.Tests;

/// <summary>Files as people write them, understood; what is not understood is said with its reason.</summary>
public class RegisterTests
{
    private static string Kept(RegisterField field, string text, DayOrder order = DayOrder.Unknown)
    {
        var (value, wrong) = Cleaner.Clean(field, text, order);
        Assert.True(wrong is null, $"{text}: {wrong}");
        return value;
    }

    [Theory]
    [InlineData("RPZ", "RP")]
    [InlineData("R.P.Z.", "RP")]
    [InlineData("Reduced Pressure Zone Assembly", "RP")]
    [InlineData("dcva", "DC")]
    [InlineData("Double Check Valve", "DC")]
    [InlineData("SRVB", "SVB")]
    [InlineData("Pressure vacuum breaker", "PVB")]
    [InlineData(" svb ", "SVB")]
    public void A_type_is_known_in_its_many_spellings(string text, string type) =>
        Assert.Equal(type, Kept(AssemblyFields.Type, text));

    [Theory]
    [InlineData("0.75\"", "3/4 in")]
    [InlineData("3/4", "3/4 in")]
    [InlineData("¾", "3/4 in")]
    [InlineData("1½ inch", "1 1/2 in")]
    [InlineData("1-1/2\"", "1 1/2 in")]
    [InlineData("1.5 in.", "1 1/2 in")]
    [InlineData("2", "2 in")]
    [InlineData("2 inches", "2 in")]
    [InlineData("DN50", "DN 50")]
    [InlineData("50 mm", "DN 50")]
    public void A_size_is_known_in_its_many_spellings(string text, string size) =>
        Assert.Equal(size, Kept(AssemblyFields.Size, text));

    [Theory]
    [InlineData("2026-03-31", DayOrder.Unknown, "2026-03-31")]
    [InlineData("2026/3/1", DayOrder.Unknown, "2026-03-01")]
    [InlineData("31/03/2026", DayOrder.Unknown, "2026-03-31")]
    [InlineData("03/31/2026", DayOrder.Unknown, "2026-03-31")]
    [InlineData("3/4/2026", DayOrder.DayFirst, "2026-04-03")]
    [InlineData("3/4/2026", DayOrder.MonthFirst, "2026-03-04")]
    [InlineData("31.3.26", DayOrder.DayFirst, "2026-03-31")]
    [InlineData("31 Mar 2026", DayOrder.Unknown, "2026-03-31")]
    [InlineData("March 31, 2026", DayOrder.Unknown, "2026-03-31")]
    [InlineData("31-Mar-26", DayOrder.Unknown, "2026-03-31")]
    [InlineData("20260331", DayOrder.Unknown, "2026-03-31")]
    [InlineData("46112", DayOrder.Unknown, "2026-03-31")]
    [InlineData("2026-03-31 14:05:00", DayOrder.Unknown, "2026-03-31")]
    public void A_day_is_known_in_its_many_spellings(string text, DayOrder order, string day) =>
        Assert.Equal(day, Kept(LifeFields.Installed, text, order));

    [Theory]
    [InlineData("31/02/2026")]
    [InlineData("2026-13-01")]
    [InlineData("soon")]
    [InlineData("00/00/0000")]
    [InlineData("29 Feb 2025")]
    [InlineData("13/13/2026")]
    public void A_day_that_never_was_is_said(string text) =>
        Assert.Contains("not a day", Cleaner.Clean(LifeFields.Installed, text).Wrong, StringComparison.Ordinal);

    [Theory]
    [InlineData("Y", "yes")]
    [InlineData("TRUE", "yes")]
    [InlineData("x", "yes")]
    [InlineData("0", "no")]
    [InlineData("No", "no")]
    public void Yes_and_no_are_known_in_their_many_spellings(string text, string kept) =>
        Assert.Equal(kept, Kept(AssemblyFields.FireLine, text));

    [Theory]
    [InlineData("N/A")]
    [InlineData("unknown")]
    [InlineData("")]
    [InlineData("  ")]
    public void What_says_nothing_is_kept_as_nothing(string text) => Assert.Equal("", Kept(AssemblyFields.Size, text));

    [Theory]
    [InlineData("15 April to 15 October", "04-15..10-15")]
    [InlineData("1 Nov - 31 Mar", "11-01..03-31")]
    [InlineData("04-15..10-15", "04-15..10-15")]
    [InlineData("no", "")]
    public void A_season_is_known_as_people_say_it(string text, string season) =>
        Assert.Equal(season, Kept(LifeFields.InSeason, text));

    [Fact]
    public void What_is_kept_reads_back_as_itself() =>
        Gen.Select(
                Gen.Int[0, RegisterFields.All.Length - 1],
                Gen.OneOf(
                    Gen.String[Gen.Char.AlphaNumeric, 0, 12],
                    Gen.String[0, 20],
                    Gen.Int[1, 40_000].Select(n => n.ToString(System.Globalization.CultureInfo.InvariantCulture)),
                    Gen.Date.Select(d => d.ToString("dd/MM/yyyy", System.Globalization.CultureInfo.InvariantCulture))
                ),
                Gen.Int[0, 2]
            )
            .Sample(
                (at, text, order) =>
                {
                    var field = RegisterFields.All[at];
                    var (value, wrong) = Cleaner.Clean(field, text, (DayOrder)order);
                    if (wrong is null)
                        Assert.Equal(new Cleaned(value), Cleaner.Clean(field, value, (DayOrder)order));
                    else
                        Assert.EndsWith(".", wrong);
                },
                iter: 20_000
            );

    [Fact]
    public void The_order_of_day_and_month_is_seen_in_a_column()
    {
        Assert.Equal(DayOrder.DayFirst, Cleaner.OrderOf(["01/02/2026", "31/01/2026"]));
        Assert.Equal(DayOrder.MonthFirst, Cleaner.OrderOf(["01/02/2026", "01/31/2026"]));
        Assert.Equal(DayOrder.Unknown, Cleaner.OrderOf(["01/02/2026", "2026-01-31", "soon"]));
    }

    [Fact]
    public void Columns_are_recognised_by_their_heads_in_any_order_and_by_their_values()
    {
        var columns = ColumnGuess.Of(
            [
                "Customer",
                "Serial #",
                "What is it?",
                "Next Due",
                "Manufacturer",
                "Colour",
                "Service Address",
                "Size (in)",
            ],
            [
                ["Isk Mills", "A-1", "RPZ", "31/12/2026", "Corvane", "green", "2 Weir Street", "0.75"],
                ["Isk Mills", "A-2", "DCVA", "30/11/2026", "Corvane", "blue", "6 Weir Street", "2"],
            ]
        );
        Assert.Equal(
            ["owner", "serial", "type", "due announced", "make", null, "address", "size"],
            columns.Select(c => c.Field)
        );
        Assert.Equal(DayOrder.DayFirst, columns[3].Order);
    }

    [Fact]
    public void What_somebody_said_of_a_head_is_believed_before_anything_else()
    {
        var columns = ColumnGuess.Of(
            ["Serial", "Type", "Number"],
            [
                ["1", "DC", "X-1"],
            ],
            new Dictionary<string, string> { ["number"] = "serial", ["serial"] = "" }
        );
        Assert.Equal([null, "type", "serial"], columns.Select(c => c.Field));
    }

    [Fact]
    public void No_field_is_found_in_two_columns() =>
        Gen.String[Gen.Char.AlphaNumeric, 0, 8]
            .Array[1, 20]
            .Sample(heads =>
            {
                string[] all = [.. heads, "Serial", "serial no", "Type", "Device type", "Size"];
                var fields = ColumnGuess.Of(all, []).Select(c => c.Field).OfType<string>().ToList();
                Assert.Equal(fields.Count, fields.Distinct().Count());
                Assert.Contains("serial", fields);
            });

    [Theory]
    [InlineData("C54-70113", "c54 70113", true)]
    [InlineData("0012345", "12345", true)]
    [InlineData("A1O-5", "A10-5", true)]
    [InlineData("A105", "A106", false)]
    public void Serials_are_alike_where_only_signs_differ(string one, string other, bool alike) =>
        Assert.Equal(alike, SerialKeys.Of(one) == SerialKeys.Of(other));

    [Fact]
    public void A_line_without_serial_or_type_is_wrong_and_says_in_which_column()
    {
        ImportColumn[] columns = [new("SN", "serial"), new("Device Type", "type"), new("Last", "test day")];
        var line = ImportLine.Read(11, ["", "Atmospheric", "31/02/2026"], columns);
        Assert.Equal(
            ["SN", "Device Type", "Last"],
            line.Wrong.Select(w => w.Column).OrderBy(c => Array.FindIndex(columns, x => x.Head == c))
        );
        Assert.Empty(ImportLine.Read(12, ["7", "DC", ""], columns).Wrong);
    }

    [Theory]
    [InlineData("'=cmd()", "=cmd()")]
    [InlineData("'-620", "-620")]
    [InlineData("'tis fine", "'tis fine")]
    public void The_sign_that_keeps_a_spreadsheet_from_running_a_cell_is_taken_away_again(string text, string plain) =>
        Assert.Equal(plain, Cleaner.Plain(text));

    [Fact]
    public void Things_that_happened_are_written_as_they_are_read()
    {
        const string text = "moved 2026-05-01; laid up 2026-10-20; water ran back 2026-11-02";
        Assert.Equal(text, RecordedEvents.Write(RecordedEvents.Read(text)!.Value));
        Assert.Null(RecordedEvents.Read("flew away 2026-05-01"));
        Assert.Null(RecordedEvents.Read("moved yesterday"));
    }

    [Theory]
    [InlineData("06:00-07:30", "06:00..07:30")]
    [InlineData("6 to 7:30", "06:00..07:30")]
    [InlineData("6.30 – 14", "06:30..14:00")]
    [InlineData("22:00..24:00", "22:00..24:00")]
    [InlineData("from dawn", null)]
    [InlineData("8 to 7", null)]
    [InlineData("08:60-09:00", null)]
    public void Hours_in_which_the_water_may_be_off_are_understood_as_people_write_them(string text, string? kept)
    {
        var cleaned = Cleaner.Clean(LifeFields.WaterOff, text);
        Assert.Equal(kept ?? "", cleaned.Value);
        Assert.Equal(kept is null, cleaned.Wrong is not null);
        if (kept is not null)
            Assert.Equal(kept, WaterHours.Parse(kept).ToString());
    }

    [Theory]
    [InlineData("DC", "1 in", false, false, 25)]
    [InlineData("RP", "1 in", false, false, 30)]
    [InlineData("RP", "DN 100", false, true, 55)]
    [InlineData("DC", "6 in", true, false, 70)]
    [InlineData("PVB", "large", true, false, 40)]
    public void A_visit_takes_longer_for_a_relief_valve_a_large_body_a_season_and_a_fire_line(
        string type,
        string size,
        bool seasonal,
        bool fire,
        int minutes
    ) => Assert.Equal(minutes, TestMinutes.Of(AssemblyTypes.Parse(type), size, seasonal, fire));
}
