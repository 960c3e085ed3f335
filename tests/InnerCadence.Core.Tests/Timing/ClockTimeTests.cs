using CsCheck;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests.Timing;

public class ClockTimeTests
{
    [Theory]
    [InlineData("1:32.410", 92410, "1:32.410")]
    [InlineData("3:12", 192000, "3:12")]
    [InlineData("0:09.23", 9230, "0:09.230")]
    [InlineData("75", 75000, "1:15")]
    [InlineData("75.5", 75500, "1:15.500")]
    [InlineData("61:05", 3665000, "1:01:05")]
    [InlineData("1:04:05", 3845000, "1:04:05")]
    [InlineData(" 2:05,5 ", 125500, "2:05.500")]
    [InlineData("0:00", 0, "0:00")]
    public void A_time_is_read_and_said(string text, int milliseconds, string said)
    {
        ClockTime.Parse(text).ShouldBe(new ClockTime(milliseconds));
        new ClockTime(milliseconds).ToString().ShouldBe(said);
    }

    [Theory]
    [InlineData("1:75")]
    [InlineData("1:2:3:4")]
    [InlineData("-1:00")]
    [InlineData("99999:00")]
    [InlineData("24:00:00")]
    [InlineData("two minutes")]
    [InlineData("1:")]
    [InlineData("")]
    public void What_is_no_time_is_nothing(string text) => ClockTime.Parse(text).ShouldBeNull();

    [Fact]
    public void Saying_and_reading_are_a_pair() =>
        Gen.Int[0, 86_399_999].Sample(ms => ClockTime.Parse(new ClockTime(ms).ToString()).ShouldBe(new ClockTime(ms)));
}

public class PartialDateTests
{
    [Theory]
    [InlineData("1971", "1971-01-01", "1971-12-31")]
    [InlineData("1971-02", "1971-02-01", "1971-02-28")]
    [InlineData("1972-02", "1972-02-01", "1972-02-29")]
    [InlineData("1971-03-12", "1971-03-12", "1971-03-12")]
    public void A_date_is_as_wide_as_it_is_known(string text, string earliest, string latest)
    {
        var date = PartialDate.Parse(text)!.Value;
        (date.Earliest, date.Latest).ShouldBe((DateOnly.Parse(earliest), DateOnly.Parse(latest)));
        date.ToString().ShouldBe(text);
    }

    [Theory]
    [InlineData("1971-02-30")]
    [InlineData("1971-13")]
    [InlineData("71")]
    [InlineData("0000")]
    [InlineData("12 March 1971")]
    [InlineData("")]
    public void What_is_no_date_is_nothing(string text) => PartialDate.Parse(text).ShouldBeNull();

    [Fact]
    public void A_span_of_other_width_is_said_from_day_to_day() =>
        new PartialDate(new(1971, 3, 2), new(1971, 4, 9)).ToString().ShouldBe("1971-03-02 to 1971-04-09");

    [Theory]
    [InlineData("1957 to 1958")]
    [InlineData("1957-02 to 1957-05")]
    [InlineData("1957-03-02 to 1958-12-31")]
    public void A_span_is_said_as_roughly_as_its_ends_are_known(string span) => PartialDate.Parse(span)!.Value.ToString().ShouldBe(span);
}
