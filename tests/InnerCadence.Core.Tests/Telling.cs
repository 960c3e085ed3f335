using InnerCadence.Core.Music;
using InnerCadence.Core.Telling;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Tests;

public class ReferencesOfAnArticle
{
    [Theory]
    [InlineData("rate:cellar door", "rate", "cellar door", true)]
    [InlineData(" Claim : 12 ", "claim", "12", true)]
    [InlineData("example:passage 4", "example", "passage 4", false)]
    public void Are_a_kind_and_an_argument(string text, string kind, string argument, bool live)
    {
        var reference = Reference.Parse(text)!;
        (reference.Kind, reference.Argument, reference.IsLive).ShouldBe((kind, argument, live));
        Reference.Parse(reference.Code).ShouldBe(reference);
    }

    [Theory]
    [InlineData("link")]
    [InlineData("tempo:cellar door")]
    [InlineData("rate:")]
    [InlineData("rate:two\nlines")]
    public void Anything_else_stays_text(string text) => Reference.Parse(text).ShouldBeNull();

    [Theory]
    [InlineData("12", 12, null, null)]
    [InlineData("12@1:32.4", 12, 92_400, null)]
    [InlineData("12 @ 0:05 / 3", 12, 5000, 3)]
    public void A_source_has_a_recording_a_time_and_an_issue(string text, int recording, int? ms, int? issue) =>
        SourcePlace.Parse(text).ShouldBe(new(recording, ms is { } at ? new ClockTime(at) : null, issue));

    [Theory]
    [InlineData("twelve")]
    [InlineData("12@soon")]
    [InlineData("12@1:72")]
    [InlineData("99999999999999999999")]
    public void A_source_that_cannot_be_read_is_none(string text) => SourcePlace.Parse(text).ShouldBeNull();
}
