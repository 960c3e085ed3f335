using InnerCadence.Core.Practice;

namespace InnerCadence.Core.Tests.Practice;

public class DaysOfPractice
{
    private static readonly DateOnly Monday = new(2026, 3, 2);

    private static PracticeRound Round(double tempo, Outcome? outcome, int? pain = null, int day = 0) =>
        new(Monday.AddDays(day), tempo, outcome, pain);

    [Fact]
    public void A_day_tells_its_fastest_clean_round_and_its_worst_pain() =>
        PracticeDay.Of([Round(80, Outcome.Clean), Round(92, Outcome.Failed), Round(84, Outcome.Clean), Round(84, null, 1)])
            .ShouldHaveSingleItem().ShouldBe(new(Monday, 84, 2, 1, 1));

    [Fact]
    public void Days_come_oldest_first_and_one_without_a_clean_round_has_no_best()
    {
        var days = PracticeDay.Of([Round(90, Outcome.Clean, day: 1), Round(80, Outcome.Failed)]);
        days.Select(d => d.Best).ShouldBe([null, 90]);
    }

    [Theory]
    [InlineData(3, 2, 0, true)]
    [InlineData(2, 2, 0, false)]
    [InlineData(3, 0, 1, true)]
    [InlineData(9, 0, 2, false)]
    public void A_day_went_well_with_more_clean_rounds_than_failures_and_no_pain_that_stops(int clean, int failed, int pain, bool well) =>
        new PracticeDay(Monday, 80, clean, failed, pain).WentWell.ShouldBe(well);
}
