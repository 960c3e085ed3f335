using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>Where a performance was fixed, in the words that people have for it.</summary>
public class KindsOfRecordings
{
    [Theory]
    [InlineData("studio", "studio")]
    [InlineData(" Concert ", "live")]
    [InlineData("Radio session", "broadcast")]
    [InlineData("sound check", "rehearsal")]
    public void Are_known_by_other_words_too(string word, string kind) => RecordingKind.Called(word)!.Value.Word.ShouldBe(kind);

    [Fact]
    public void An_unknown_one_is_none() => RecordingKind.Called("gig at the pier").ShouldBeNull();
}
