using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>Only here, not here, more here: a side that nobody searched says nothing.</summary>
public class SidesFirst
{
    private static SideBySide Row(long idea, (int Events, int Bars) one, (int Events, int Bars) two, double low = 0, double high = 9,
        double q = 0.5)
    {
        static Answer Side((int Events, int Bars) side) => Answer.Of([]) with { Events = side.Events, Bars = side.Bars };
        return new(idea, Side(one), Side(two), new(new(1, low, high), q, null!, null!), q, null, 0);
    }

    [Fact]
    public void Each_idea_stands_where_it_belongs_the_surest_first()
    {
        var said = SidesInWords.Of([Row(1, (4, 200), (0, 100)), Row(2, (9, 200), (0, 100), q: 0.01), Row(3, (0, 200), (5, 100)),
            Row(4, (8, 200), (1, 100), low: 1.4), Row(5, (1, 200), (6, 100), high: 0.7), Row(6, (3, 200), (2, 100)), Row(7, (4, 200), (0, 0)),
            Row(8, (0, 200), (0, 100))]);
        said.OnlyHere.Select(r => r.Idea).ShouldBe([2, 1]);
        said.OnlyHere.Select(r => r.IsSure).ShouldBe([true, false]);
        said.NotHere.Select(r => r.Idea).ShouldBe([3]);
        said.MoreHere.Select(r => r.Idea).ShouldBe([4]);
        said.LessHere.Select(r => r.Idea).ShouldBe([5]);
    }
}
