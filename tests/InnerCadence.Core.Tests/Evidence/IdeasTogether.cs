using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Tests.Evidence;

/// <summary>What follows what, what never is in one tune, which recordings have most.</summary>
public class IdeasTogether
{
    private const long Door = 1, Hinge = 2, Ladder = 3;

    /// <param name="bars">In which the idea begins.</param>
    private static Performance Played(long recording, string title, params int[] bars) => new()
    {
        Recording = new() { Id = recording, Title = title, Name = $"{title} {recording}", Player = 1, TotalBars = 32 },
        Exposure = new(BarSet.Of(1, 32), BarSet.Empty, 0),
        Appearances = [.. bars.Select(bar => new Appearance(bar, null, "", bar, "", null, null, true, true)
            { Start = (bar - 1) * 4, End = (bar - 1) * 4 + 2 })],
    };

    private static SetOfIdeas Set(params (long Idea, Performance[] Performances)[] ideas) =>
        SetOfIdeas.Of(ideas.ToDictionary(i => i.Idea, i => (IReadOnlyList<Performance>)i.Performances));

    [Fact]
    public void What_comes_next_within_four_bars_follows()
    {
        var set = Set((Door, [Played(1, "Quay", 1, 9, 20)]), (Hinge, [Played(1, "Quay", 3, 16)]));
        set.Steps.ShouldBe([new(Door, Hinge, 1, 3), new(Hinge, Door, 1, 2)]);
    }

    [Fact]
    public void Two_ideas_that_meet_in_no_tune_are_told_with_what_chance_makes_of_it()
    {
        Performance[] Of(params int[] with) => [.. Enumerable.Range(1, 8).Select(n =>
            Played(n, $"Tune {n}", with.Contains(n) ? [n] : []))];
        var set = Set((Door, Of(1, 2, 3)), (Hinge, Of(4, 5)), (Ladder, Of(3, 4)));
        var never = set.NeverTogether.ShouldHaveSingleItem();
        (never.One, never.Other, never.WithOne, never.WithOther, never.Of).ShouldBe((Door, Hinge, 3, 2, 8));
        // Two of eight tunes, neither of the three: 5/8 of 4/7.
        never.Never.ShouldBe(5 / 8.0 * 4 / 7, 1e-12);
        never.IsRare.ShouldBeFalse("one of three pairs that were looked at");
        set.Pairs.Single(p => p is { One: Door, Other: Ladder }).Together.ShouldBe(1);

        var apart = Set((Door, [.. Enumerable.Range(1, 16).Select(n => Played(n, $"Tune {n}", n <= 8 ? [1] : []))]),
            (Hinge, [.. Enumerable.Range(1, 16).Select(n => Played(n, $"Tune {n}", n > 8 ? [1] : []))])).NeverTogether.Single();
        // One way in the 12,870 of choosing eight of sixteen.
        apart.Never.ShouldBe(1 / 12870.0, 1e-12);
        apart.IsRare.ShouldBeTrue();
    }

    [Fact]
    public void Takes_of_a_tune_are_one()
    {
        var set = Set((Door, [Played(1, "Quay", 1), Played(2, "Quay")]), (Hinge, [Played(1, "Quay"), Played(2, "Quay", 5)]));
        set.Pairs.ShouldHaveSingleItem().Together.ShouldBe(1, "one take has the one, another the other");
    }

    [Fact]
    public void The_richest_recording_has_most_ideas_and_then_most_of_them()
    {
        var set = Set((Door, [Played(1, "Quay", 1, 2), Played(2, "Salt", 1), Played(3, "Lee", 4)]),
            (Hinge, [Played(1, "Quay"), Played(2, "Salt", 9), Played(3, "Lee")]));
        set.Recordings.Select(r => r.Id).ShouldBe([2, 1, 3]);
        set.Recordings[0].Events.ShouldBe(2);
    }
}
