using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Music;

/// <summary>Dates in the words in which they stand on sleeves.</summary>
public class DatesOfSleeves
{
    [Theory]
    [InlineData("1971", "1971")]
    [InlineData("1971-03", "1971-03")]
    [InlineData("1974-11", "1974-11")]
    [InlineData("March 1972", "1972-03")]
    [InlineData("Mar. 1972", "1972-03")]
    [InlineData("Sept 1969", "1969-09")]
    [InlineData("12 March 1972", "1972-03-12")]
    [InlineData("12th of March, 1972", "1972-03-12")]
    [InlineData("March 12, 1972", "1972-03-12")]
    [InlineData("Mar 12-14, 1972", "1972-03-12 to 1972-03-14")]
    [InlineData("12/13 March 1972", "1972-03-12 to 1972-03-13")]
    [InlineData("March/April 1972", "1972-03 to 1972-04")]
    [InlineData("spring 1972", "1972-03 to 1972-05")]
    [InlineData("Fall of 1972", "1972-09 to 1972-11")]
    [InlineData("winter 1971/72", "1971-12 to 1972-02")]
    [InlineData("1974/75", "1974 to 1975")]
    [InlineData("1974-75", "1974 to 1975")]
    [InlineData("1974–1976", "1974 to 1976")]
    [InlineData("1970s", "1970 to 1979")]
    [InlineData("the '60s", "1960 to 1969")]
    [InlineData("early 1970s", "1970 to 1973")]
    [InlineData("late 1972", "1972-09 to 1972-12")]
    [InlineData("c. 1970", "1969 to 1971")]
    [InlineData("circa 1970", "1969 to 1971")]
    [InlineData("~1970", "1969 to 1971")]
    [InlineData("1970?", "1969 to 1971")]
    [InlineData("before 1970", "1960 to 1969")]
    [InlineData("after 1970", "1971 to 1980")]
    [InlineData("12.3.1972", "1972-03-12")]
    [InlineData("13/3/72", "1972-03-13")]
    [InlineData("3/13/1972", "1972-03-13")]
    [InlineData("4/4/1972", "1972-04-04")]
    [InlineData("[March 1972]", "1972-03")]
    public void Are_spans(string text, string span) => SleeveDate.Read(text)!.Value.ToString().ShouldBe(span);

    [Theory]
    [InlineData("last summer")]
    [InlineData("1972-13-40")]
    [InlineData("31 February 1972")]
    [InlineData("32 March 1972")]
    [InlineData("1976 to 1972")]
    [InlineData("Marching 1972")]
    [InlineData("")]
    [InlineData("circa")]
    public void Are_none(string text) => SleeveDate.Read(text).ShouldBeNull();

    [Theory]
    [InlineData("3/4/1972 13/4/1972", DayMonth.DayFirst)]
    [InlineData("3/4/1972 4/13/72", DayMonth.MonthFirst)]
    [InlineData("13/4/1972 4/13/1972", DayMonth.Unsaid)]
    [InlineData("3/4/1972 13.4.1972 1972", DayMonth.Unsaid)]
    public void Written_alike_show_which_comes_first(string dates, DayMonth order) =>
        SleeveDate.OrderIn(dates.Split(' ')).ShouldBe(order);

    [Fact]
    public void Day_and_month_are_asked_for_where_they_could_be_either()
    {
        SleeveDate.AsksForOrder("3/4/1972").ShouldBeTrue();
        SleeveDate.Read("3/4/1972", DayMonth.DayFirst)!.Value.ToString().ShouldBe("1972-04-03");
        SleeveDate.Read("3/4/1972", DayMonth.MonthFirst)!.Value.ToString().ShouldBe("1972-03-04");
        SleeveDate.AsksForOrder("13/4/1972").ShouldBeFalse();
    }
}
