using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>Only here, not here, more here: a side that nobody searched says nothing.</summary>
public class SidesFirst
{
    private static SideBySide Row(long idea, (int Events, int Bars) one, (int Events, int Bars) two, double low = 0, double high = 9,
        double q = 0.5, int outside = 0)
    {
        static Answer Side((int Events, int Bars) side, int outside = 0) => Answer.Of([]) with
        {
            Events = side.Events,
            Bars = side.Bars,
            Outside = outside,
            Titles = [new("Piece", side.Events, side.Bars, 1, 1), new("Other", side.Events, side.Bars, 1, 1)],
        };
        return new(idea, Side(one), Side(two, outside), new(new(1, low, high), q, null!, null!), q, null, 3, 3);
    }

    [Fact]
    public void Each_idea_stands_where_it_belongs_the_surest_first()
    {
        var said = SidesInWords.Of([Row(1, (4, 200), (0, 100)), Row(2, (9, 200), (0, 100), q: 0.01), Row(3, (0, 200), (5, 100)),
            Row(4, (8, 200), (1, 100), low: 1.4), Row(5, (1, 200), (6, 100), high: 0.7), Row(6, (3, 200), (2, 100)),
                Row(7, (4, 200), (0, 0)),
            Row(8, (0, 200), (0, 100)), Row(9, (5, 200), (0, 100), low: 1.2, outside: 1), Row(10, (5, 200), (0, 100), outside: 2)]);
        said.OnlyHere.Select(r => r.Idea).ShouldBe([2, 1]);
        said.NotHere.Select(r => r.Idea).ShouldBe([3]);
        said.MoreHere.Select(r => r.Idea).ShouldBe([4, 9], "what is known outside what was searched is no never");
        said.LessHere.Select(r => r.Idea).ShouldBe([5]);
    }

    [Fact]
    public void Surely_is_one_rule_for_either_side()
    {
        var hers = Row(1, (9, 200), (1, 100), low: 1.4, q: 0.01);
        (hers.IsSignature, hers.IsSignatureOfOther).ShouldBe((true, false));
        (hers with { RecordingsWith = 2 }).IsSignature.ShouldBeFalse("two recordings are too few");
        var theirs = Row(1, (1, 200), (9, 100), high: 0.7, q: 0.01);
        (theirs.IsSignature, theirs.IsSignatureOfOther).ShouldBe((false, true));
        (theirs with { OtherRecordingsWith = 2 }).IsSignatureOfOther.ShouldBeFalse();
        (theirs with { Q = 0.2 }).IsSignatureOfOther.ShouldBeFalse();
    }
}
