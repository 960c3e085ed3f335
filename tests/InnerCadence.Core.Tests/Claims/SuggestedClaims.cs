using InnerCadence.Core.Claims;
using static InnerCadence.Core.Tests.Claims.Made;

namespace InnerCadence.Core.Tests.Claims;

public class SuggestedClaims
{
    private static readonly Material Rich = With([
        .. Enumerable.Range(1, 6).Select(i => Recording(i, 5, recorded: "1967", tempo: 120, form: "verse 32, chorus 32")),
            .. Enumerable.Range(11, 6).Select(i => Recording(i, 0, recorded: "1964", tempo: 80)),
        .. Enumerable.Range(21, 6).Select(i => Recording(i, 0, player: Oda))], []);

    [Fact]
    public void Only_what_is_supported_and_not_made_yet_is_suggested()
    {
        var found = Suggestions.Of(Rich, Nell, [Oda], [], most: 10);
        found.ShouldAllBe(s => s.Stand.Standing == Standing.Supported);
        found.Select(s => s.Test.Word).ShouldBe(["more-than", "only-section", "only-phrase-bar", "only-above", "never-before", "present"],
            ignoreOrder: true);
        Suggestions.Of(Rich, Nell, [Oda], [new MoreThan(Nell, Idea, Oda), new OnlyTempo(Nell, Idea, 90, true)], most: 10)
            .Select(s => s.Test.Word).ShouldBe(["only-section", "only-phrase-bar", "never-before", "present"], ignoreOrder: true);
    }

    [Fact]
    public void Nothing_is_suggested_of_nothing() => Suggestions.Of(With(), Nell, [Oda], []).ShouldBeEmpty();
}
