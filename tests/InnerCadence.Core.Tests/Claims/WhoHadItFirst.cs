using InnerCadence.Core.Claims;
using static InnerCadence.Core.Tests.Claims.Made;

namespace InnerCadence.Core.Tests.Claims;

public class WhoHadItFirst
{
    private static readonly HadItFirst Test = new(Nell, Idea, Oda);
    private static Core.Evidence.Performance[] Silence(int n, string recorded = "1963") =>
        [.. Enumerable.Range(50, n).Select(i => Recording(i, 0, recorded: recorded, player: Oda))];

    [Fact]
    public void It_stands_where_the_dates_are_apart_and_the_others_silence_is_strong()
    {
        var stand = Of(Test, [Recording(1, 3, recorded: "1964", issued: "1965-05"), Recording(2, 5, recorded: "1967", player: Oda),
            .. Silence(4)]);
        stand.Standing.ShouldBe(Standing.Supported);
        stand.Reason.ShouldContain("Nell has it by 1964-12-31, Oda not before 1967-01-01. 256 bars by Oda up to 1964-12-31 are without it");
        stand.Reason.ShouldEndWith("A record with it was out by 1965-05-31: Oda could have heard it.");
        stand.Breaks.ShouldBe("One certain sighting by Oda before 1964-01-01.");
    }

    [Fact]
    public void It_falls_where_the_other_certainly_had_it_earlier()
    {
        var stand = Of(Test, [Recording(1, 3, recorded: "1966"), Recording(2, 5, recorded: "1965", player: Oda)]);
        stand.Standing.ShouldBe(Standing.Contradicted);
        stand.Counter.ShouldNotBeEmpty();
    }

    [Theory]
    [InlineData("1964 to 1966", "1965", "the dates overlap")]
    [InlineData("1964", "", "without a date")]
    [InlineData("", "1967", "No recording in which Nell certainly plays it has a date")]
    public void Dates_that_do_not_tell_leave_it_open(string own, string theirs, string why)
    {
        var stand = Of(Test, [Recording(1, 3, recorded: own), Recording(2, 5, recorded: theirs, player: Oda), .. Silence(4)]);
        (stand.Standing, stand.Reason.Contains(why)).ShouldBe((Standing.Open, true), stand.Reason);
    }

    [Fact]
    public void A_weak_silence_or_none_leaves_it_open_and_says_how_much_more_would_do()
    {
        Of(Test, [Recording(1, 3, recorded: "1964"), Recording(2, 5, recorded: "1967", player: Oda)]).Reason.ShouldContain(
            "the silence means nothing");
        var weak = Of(Test, [Recording(1, 3, recorded: "1964"), Recording(2, 5, recorded: "1967", player: Oda),
            Recording(3, 0, bars: 20, recorded: "1963", player: Oda)]);
        weak.Standing.ShouldBe(Standing.Open);
        weak.Settles!.ShouldContain("more bars by Oda up to 1964-12-31 searched without it");
    }

    [Fact]
    public void Where_somebody_else_may_drum_nothing_is_proved_and_nothing_disproved()
    {
        // Her only early one is disputed: what is certain comes later than the other's.
        Of(Test, [Recording(1, 3, recorded: "1964", sure: false), Recording(2, 3, recorded: "1968"),
            Recording(3, 5, recorded: "1966", player: Oda), .. Silence(4)]).Standing.ShouldBe(Standing.Open);
        // The other's early one is disputed.
        Of(Test, [Recording(1, 3, recorded: "1964"), Recording(2, 5, recorded: "1963", player: Oda, sure: false),
            Recording(3, 5, recorded: "1966", player: Oda)]).Standing.ShouldBe(Standing.Open);
    }

    [Fact]
    public void Without_the_other_there_is_nothing_to_be_before() =>
        Of(Test, [Recording(1, 3), .. Silence(4)]).Reason.ShouldContain("nothing to be before");

    [Fact]
    public void A_borrowing_needs_hearing()
    {
        string? Hearing(string? issued) => Precedence.Of([Recording(1, 3, recorded: "1964", issued: issued)],
            [Recording(2, 5, recorded: "1967", player: Oda)], "Nell", "Oda").Hearing;
        Hearing("1970")!.ShouldContain("could only have heard it played");
        Hearing("1966 to 1968")!.ShouldContain("the dates do not say");
        Hearing(null)!.ShouldContain("is not known");
    }
}
