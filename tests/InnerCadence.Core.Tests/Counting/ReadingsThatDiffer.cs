using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>Two readings of one passage against each other.</summary>
public class ReadingsThatDiffer
{
    [Theory]
    [InlineData("SN: 2 4", "SN: 2 4", "")]
    [InlineData("SN: 2 4", "SN: 2> (4)", "bar 1, 2: the snare accented; bar 1, 4: the snare as a ghost")]
    [InlineData("SN: 1 2", "SN: 1\nFT: 2", "bar 1, 2: floor tom instead of snare")]
    [InlineData("SN: 1 2\nBD: 3", "SN: 1", "bar 1, 2: no snare; bar 1, 3: no kick")]
    [InlineData("SN: 1", "SN: 1 | 3e", "bar 2, the e of 3: snare as well; 2 bars instead of 1")]
    [InlineData("HH: 4o\nSN: 1fR 2", "HH: 4\nSN: 1 2?",
        "bar 1, 1: the snare without flam, by an unknown hand; bar 1, 2: the snare unsure; bar 1, 4: the hat closed")]
    public void What_they_hear_differently_is_told_in_order(string preferred, string other, string told) =>
        string.Join("; ", ReadingDifference.Between(CountLines.Parse(preferred).Passage, CountLines.Parse(other).Passage)
            .Select(d => d.Words)).ShouldBe(told);
}
