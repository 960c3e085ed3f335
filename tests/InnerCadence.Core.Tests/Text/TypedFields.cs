using CsCheck;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Text;

/// <summary>What people type is read as they mean it, or told what to write instead; never both, never neither.</summary>
public class TypedFields
{
    private readonly List<string> told = [];

    [Theory]
    [InlineData("96", 96.0)]
    [InlineData(" 132.5 ", 132.5)]
    [InlineData("~118", 118.0)]
    [InlineData("c. 118", 118.0)]
    [InlineData("about 118 bpm", 118.0)]
    [InlineData("120-124", 122.0)]
    [InlineData("120 – 124", 122.0)]
    [InlineData("120 to 124?", 122.0)]
    [InlineData("", null)]
    [InlineData("  ", null)]
    public void A_tempo_may_be_rough_and_the_middle_of_a_span_counts(string typed, double? bpm)
    {
        Typed.Tempo(typed, told.Add).ShouldBe(bpm);
        told.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("fast")]
    [InlineData("19.9")]
    [InlineData("401")]
    [InlineData("124-120")]
    [InlineData("10-20")]
    [InlineData("-96")]
    [InlineData("1e2")]
    [InlineData("96,5")]
    public void What_is_no_tempo_is_told_with_the_bounds(string typed)
    {
        Typed.Tempo(typed, told.Add).ShouldBeNull();
        told.ShouldHaveSingleItem().ShouldBe($"‘{typed}’ is no tempo: write quarters a minute from 20 to 400, such as 96 or 132.5.");
    }

    [Theory]
    [InlineData("12", 12)]
    [InlineData(" 1 ", 1)]
    [InlineData("", null)]
    [InlineData(null, null)]
    public void A_number_is_whole(string? typed, int? number)
    {
        Typed.Number(typed, told.Add, 1, 40, "an issue").ShouldBe(number);
        told.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("0")]
    [InlineData("41")]
    [InlineData("3.5")]
    [InlineData("+3")]
    [InlineData("9999999999")]
    [InlineData("three")]
    public void What_is_no_number_of_them_is_told_with_the_bounds(string typed)
    {
        Typed.Number(typed, told.Add, 1, 40, "an issue").ShouldBeNull();
        told.ShouldHaveSingleItem().ShouldBe($"‘{typed}’ is not an issue: write a whole number from 1 to 40.");
    }

    [Theory]
    [InlineData("1:40", 100, null)]
    [InlineData("1:40-1:50", 100, 110.0)]
    [InlineData("1:40 – 1:50.5", 100, 110.5)]
    [InlineData("100", 100, null)]
    public void A_place_is_a_time_or_a_span(string typed, double from, double? to)
    {
        var span = Typed.Span(typed, told.Add).ShouldNotBeNull();
        (span.At.Milliseconds, span.To?.Milliseconds).ShouldBe(((int)(from * 1000), to is { } end ? (int)(end * 1000) : null));
        told.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("1:50-1:40", "‘1:50-1:40’ ends before it begins.")]
    [InlineData("1:50-1:50", "‘1:50-1:50’ ends before it begins.")]
    [InlineData("1:70", "‘1:70’ is no time: write minutes and seconds, such as 3:12 or 1:32.410.")]
    [InlineData("1:40-soon", "‘soon’ is no time: write minutes and seconds, such as 3:12 or 1:32.410.")]
    public void What_is_no_place_is_told(string typed, string says)
    {
        Typed.Span(typed, told.Add).ShouldBeNull();
        told.ShouldBe([says]);
    }

    [Theory]
    [InlineData("1971", "1971")]
    [InlineData("12 March 1971", "1971-03-12")]
    [InlineData("13/4/1971", "1971-04-13")]
    public void A_date_is_as_it_stands_on_a_sleeve(string typed, string date)
    {
        Typed.Date(typed, told.Add).ShouldNotBeNull().ToString().ShouldBe(date);
        told.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("3/4/1971", "‘3/4/1971’ may be 1971-04-03 or 1971-03-04: write the one that is meant.")]
    [InlineData("long ago", "‘long ago’ is no date: ")]
    public void What_may_be_two_dates_or_none_is_told(string typed, string says)
    {
        Typed.Date(typed, told.Add).ShouldBeNull();
        told.ShouldHaveSingleItem().ShouldStartWith(says);
    }

    [Fact]
    public void Two_readings_of_a_day_are_one_where_its_file_says_which_comes_first()
    {
        Typed.Date("3/4/1971", told.Add, DayMonth.MonthFirst).ShouldBe(PartialDate.Parse("1971-03-04"));
        Typed.Date("unknown", told.Add).ShouldBeNull();
        told.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("spring 1971", true)]
    [InlineData("1971-03", false)]
    public void The_words_of_a_sleeve_are_kept_where_they_say_more_than_the_date(string typed, bool kept) =>
        Typed.Said(typed, Typed.Date(typed, told.Add)).ShouldBe(kept ? typed : "");

    [Fact]
    public void What_was_said_is_kept_as_far_as_a_name_goes()
    {
        Typed.Said(null, "96").ShouldBe("");
        Typed.Said("96", (string?)null).ShouldBe("");
        Typed.Said(" 96 ", "96").ShouldBe("");
        Typed.Said("about 96", "96").ShouldBe("about 96");
        Typed.Said(new string('x', 300), "96").Length.ShouldBe(Typed.Name);
    }

    [Theory]
    [InlineData("33", 33, 33)]
    [InlineData("33-64", 33, 64)]
    [InlineData("33 – 64", 33, 64)]
    [InlineData("64-33", null, null)]
    [InlineData("0-4", null, null)]
    [InlineData("33-65", null, null)]
    [InlineData("1-2-3", null, null)]
    [InlineData("-4", null, null)]
    [InlineData("", null, null)]
    [InlineData(null, null, null)]
    public void Bars_lie_inside_those_that_there_are(string? typed, int? first, int? last) =>
        Typed.BarSpan(typed, 64).ShouldBe(first is null ? null : (first.Value, last!.Value));

    [Theory]
    [InlineData("40", "of 40")]
    [InlineData("1-40", "1 of 40")]
    [InlineData("1-16, 33-48", "1 of 16, 33 of 16")]
    [InlineData("1-16; 33", "1 of 16, 33 of 1")]
    [InlineData("1-16,", "1 of 16")]
    [InlineData("0", null)]
    [InlineData("65", null)]
    [InlineData("1-16, x", null)]
    [InlineData(",", null)]
    [InlineData("", null)]
    public void What_was_searched_is_an_amount_or_bars(string typed, string? searched) =>
        (Typed.Searched(typed, 64) is { } spans ? string.Join(", ", spans.Select(s => $"{s.From} of {s.Bars}".Trim())) : null)
            .ShouldBe(searched);

    [Theory]
    [InlineData(null, "4/4", true)]
    [InlineData("5/8 7/8", "5/8 7/8", true)]
    [InlineData("5/8, 7/8", "5/8, 7/8", false)]
    [InlineData("common", "common", false)]
    public void Meters_come_in_turn(string? typed, string meters, bool read)
    {
        Typed.Meters(typed, told.Add).ShouldBe(meters);
        told.Count.ShouldBe(read ? 0 : 1);
    }

    [Theory]
    [InlineData("t1 ft", "T1 FT", true)]
    [InlineData("", "", true)]
    [InlineData("SN", "SN", false)]
    public void Toms_are_named_by_their_codes(string typed, string toms, bool read)
    {
        Typed.Toms(typed, told.Add).ShouldBe(toms);
        told.Count.ShouldBe(read ? 0 : 1);
    }

    [Fact]
    public void A_choice_is_one_of_those_that_are_offered()
    {
        Typed.Choice(" Live ", ["studio", "live"], told.Add).ShouldBe("live");
        told.ShouldBeEmpty();
        Typed.Choice("radio", ["studio", "live"], told.Add).ShouldBe("studio");
        told.ShouldBe(["Choose one of studio, live."]);
    }

    [Fact]
    public void A_text_is_told_what_keeps_it_from_being_kept()
    {
        Typed.Text("  a name ", told.Add).ShouldBe("a name");
        Typed.Text("two\nlines\tand a tab", told.Add, most: Typed.Note);
        told.ShouldBeEmpty();
        Typed.Text(" ", told.Add, "Give it a name.");
        Typed.Text("a\0b", told.Add);
        Typed.Text(new string('x', 201), told.Add);
        told.ShouldBe(["Give it a name.", Typed.Unkeepable, "This is 201 characters long; 200 are kept. Shorten it."]);
    }

    /// <summary>Texts near enough to what is meant that something of them is often read.</summary>
    private static readonly Gen<string> Near = Gen.OneOf(Gen.String[Gen.Char["0123456789:-–.,/ c~?x"], 0, 12], Gen.String[0, 12]);

    [Fact]
    public void Whatever_is_typed_is_read_or_told_and_blank_is_neither() => Near.Sample(typed =>
    {
        void Once<T>(Func<Action<string>, T?> read) where T : struct
        {
            var said = 0;
            var found = read(_ => said++) is not null;
            said.ShouldBe(found || string.IsNullOrWhiteSpace(typed) ? 0 : 1, typed);
        }
        Once<double>(tell => Typed.Tempo(typed, tell));
        Once<int>(tell => Typed.Number(typed, tell, 1, 400, "a number"));
        Once<ClockTime>(tell => Typed.Clock(typed, tell));
        Once<int>(tell => Typed.Date(typed, tell) is null && !SleeveDate.IsUnknown(typed) ? null : 1);
        if (Typed.BarSpan(typed, 64) is { } bars) (1 <= bars.First && bars.First <= bars.Last && bars.Last <= 64).ShouldBeTrue(typed);
        foreach (var span in Typed.Searched(typed, 64) ?? [])
            ((span.From ?? 1) + span.Bars - 1).ShouldBeInRange(1, 64, typed);
    });
}
