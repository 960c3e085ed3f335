using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;

namespace InnerCadence.Core.Tests.Ideas;

/// <summary>The same figure of the hands, wherever it is laid over the drums.</summary>
public class SameFigures
{
    [Theory]
    [InlineData("SN: 1R eL\nFT: 1&R", 1, "the same drums")]
    [InlineData("T1: 1R eL\nT2: 1&R", 1, "other drums, the same change")]
    [InlineData("SN: 2R eL\nT1: 2&L", 1, "another place, other hands")]
    [InlineData("SN: 1R eL &R", 0, "no change of drum")]
    [InlineData("SN: 1R\nT1: 1eL &R", 0, "changes earlier")]
    [InlineData("SN: 1R &L\nT1: 2R", 0, "another rhythm")]
    public void Goes_by_rhythm_and_by_change_of_drum(string other, int places, string why) =>
        new SameFigure(CountLines.Parse("SN: 1 e\nT1: 1&").Passage).In(CountLines.Parse(other).Passage).Count().ShouldBe(places, why);

    [Fact]
    public void One_stroke_is_no_figure() => new SameFigure(CountLines.Parse("SN: 1\nBD: 1 2").Passage)
        .In(CountLines.Parse("SN: 1").Passage).ShouldBeEmpty();
}
