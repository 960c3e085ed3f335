using System.Text.Json.Nodes;
using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Core.Tests.Rhythm;

public class RhythmVectors
{
    public static TheoryData<string> Names => Vectors.Names("rhythm", _ => true);

    [Theory, MemberData(nameof(Names))]
    public void Holds(string name)
    {
        var found = JsonNode.Parse(Vectors.Named("rhythm", name).GetRawText())!;
        var expect = found["expect"]!.AsObject();
        switch (found["kind"]!.ToString())
        {
            case "grouping":
                var lengths = Grouping.Lengths([.. found["markerTicks"]!.AsArray().Select(t => new Tick((int)t!))],
                    new((int)found["cycleTicks"]!))!.Value;
                (string.Join('+', lengths.Groups), lengths.Unit)
                    .ShouldBe((string.Join('+', expect["groups"]!.AsArray().Select(g => g!.ToString())), expect["unit"]!.ToString()));
                break;
            case "realign":
                var aligned = Realignment.Of(new((int)found["cycleTicks"]!),
                    new([.. found["meters"]!.AsArray().Select(m => Meter.Parse(m!.ToString())!)]))!;
                (aligned.Bars, aligned.Starts.Count).ShouldBe(((long)expect["bars"]!, (int)expect["repetitions"]!));
                aligned.Starts.Select(s => (s.Bar, s.Beat, s.Rest.Value))
                    .ShouldBe(expect["starts"]!.AsArray().Select(s => ((int)s!["bar"]!, (int)s["beat"]!, (int)s["tick"]!)));
                break;
            default:
                var passage = CountLines.Parse(found["text"]!.ToString()).Passage with { Looped = (bool)found["looped"]! };
                foreach (var (what, value) in expect) Check(what, value!.AsArray(), passage);
                break;
        }
    }

    private static void Check(string what, JsonArray expected, Passage passage)
    {
        switch (what)
        {
            case "groupings":
                var groupings = Grouping.Of(passage).Select(g => (g.Markers, string.Join('+', g.Groups), g.Unit, g.Bars, g.CrossesBarLine))
                    .ToList();
                foreach (var e in expected)
                    groupings.ShouldContain((e!["markers"]!.ToString(),
                        string.Join('+', e["groups"]!.AsArray().Select(g => g!.ToString())), e["unit"]!.ToString(), (int)e["bars"]!,
                        (bool)e["crossesBarLine"]!));
                break;
            case "crossRhythms":
                CrossRhythm.Of(passage).Select(c => (c.Markers, c.Ratio))
                    .ShouldBe(expected.Select(e => (e!["markers"]!.ToString(), e["ratio"]!.ToString())));
                break;
            case "barForm":
                BarForm.Of(passage).Select(b => b.Letter).ShouldBe(expected.Select(e => e!.ToString()));
                break;
            case "skeleton":
                Skeleton.Of(passage).Strokes.Select(s => (s.At.Value, s.Voice.Code))
                    .ShouldBe(expected.Select(e => ((int)e![0]!, e[1]!.ToString())));
                break;
            case "hotSpots":
                Skeleton.Of(passage).HotSpots.Select(s => (s.Beat, Math.Round(s.Bits, 6)))
                    .ShouldBe(expected.Select(e => ((int)e!["beat"]!, (double)e["bits"]!)));
                break;
            default: throw new InvalidOperationException(what);
        }
    }

    [Fact]
    public void Notes_say_how_a_bar_differs_from_the_nearest_one_before()
    {
        var bars = BarForm.Of(CountLines.Parse("HH: 8ths | % | 8ths\nSN: 2 4 | % | 2 (4)\nBD: 1 3& | % | 1\n").Passage, 9);
        bars.Select(b => b.Note).ShouldBe(["", "as bar 9", "as bar 9, without the kick on the & of 3, the snare on 4 as a ghost"]);
        BarForm.Of(CountLines.Parse("SN: 1 | 2 3 4\n").Passage).Select(b => (b.Letter, b.Note)).ShouldBe([("A", ""), ("B", "")]);
    }

    [Fact]
    public void Two_primes_of_a_bar_are_told_apart_and_each_comes_back_under_its_own_name() =>
        BarForm.Of(CountLines.Parse("HH: 8ths | 8ths 1&o | 8ths 2&o | 8ths 1&o | 4ths\n").Passage).Select(b => b.Letter)
            .ShouldBe(["A", "A'", "A''", "A'", "B"]);

    [Fact]
    public void Groups_that_come_again_in_fewer_bars_are_said_once_and_never_in_less_than_one()
    {
        var looped = CountLines.Parse("SN: 2 4 | 2 4\nHH: 1 1& 2 | %\n").Passage with { Looped = true };
        var snare = Grouping.Of(looped).Single(g => g.Markers == "SN");
        (snare.ToString(), snare.Bars).ShouldBe(("4+4 eighths", 1));
        Grouping.Of(looped).Single(g => g.Markers == "HH").ToString().ShouldBe("1+1+6 eighths");
        Grouping.Of(CountLines.Parse("T1: 1 1& 2 | -\n").Passage)
            .ShouldNotContain(g => g.Markers == "T1", "a drum used in one fill groups nothing");
    }

    [Fact]
    public void Pairs_are_strokes_closer_to_each_other_than_to_their_neighbours()
    {
        var passage = CountLines.Parse("BD: 1 1e 3 3e\nSN: 2 4\n").Passage with { Looped = true };
        Markers.Of(passage).Single(m => m.Name == Markers.Pairs).At.Select(t => t.Value).ShouldBe([0, 20160]);
        Markers.Of(CountLines.Parse("SN: 4ths\n").Passage with { Looped = true }).ShouldNotContain(m => m.Name == Markers.Pairs);
    }

    [Fact]
    public void A_crooked_figure_can_be_taken_up_where_its_groups_start()
    {
        var passage = CountLines.Parse("HH: 8ths 1> 4&> | 8ths 2&>\n").Passage with { Looped = true };
        var accents = Grouping.Of(passage).Single(g => g.Markers == "accents");
        var entry = ReEntry.Of(passage, accents)!;
        entry.Places.Select(p => (p.Bar, p.Count, p.OnBeatOrAnd))
            .ShouldBe([(0, "1", true), (0, "the & of 4", true), (1, "the & of 2", true)]);
        entry.Waits.Select(w => w.Value).ShouldBe([0, 15120]);
        ReEntry.Of(passage, Grouping.Of(CountLines.Parse("SN: 1 3\n").Passage).Single(g => g.Markers == "SN"))
            .ShouldBeNull("one bar from the beat needs none");
    }

    [Fact]
    public void Cycles_of_changing_meters_are_said_in_real_bars_and_beats()
    {
        var found = Realignment.Of(new(4 * 5040), new([Meter.Parse("7/8")!, Meter.Parse("6/8")!, Meter.Parse("6/8")!]))!;
        (found.Bars, found.Starts.Count).ShouldBe((12, 19));
        found.Starts.Take(3).Select(s => (s.Bar, s.Beat, s.Rest.Value)).ShouldBe([(1, 1, 0), (1, 5, 0), (2, 2, 0)]);
    }

    [Fact]
    public void The_plainest_grouping_comes_first()
    {
        // The hat alone would divide it into four; the accents say 7+4+5 in two bars.
        var passage = CountLines.Parse("HH: 8ths 1> 4&> | 8ths 2&>\nSN: 1 2& 3 | 1 2& 3\nBD: 1 2 3& | 1 2 3&").Passage with
        {
            Looped =
            true
        };
        var plainest = Grouping.Plainest(Grouping.Of(passage))!;
        Grouping.Of(passage).Where(g => g.Groups.Distinct().Count() > 1).ShouldAllBe(g => g.Groups.Count >= plainest.Groups.Count);
        Grouping.Plainest([]).ShouldBeNull();
    }

    [Fact]
    public void A_pattern_of_two_bars_has_a_skeleton_for_each_and_a_groove_of_one_has_one()
    {
        static Passage Read(string text) => CountLines.Parse(text).Passage;
        var two = Read("HH: 8ths | % | % | %\nSN: 2 4 | 2 3& | 2 4 | 2 3&\nBD: 1 3 | 1& 2& 4 | 1 3 | 1& 2& 4");
        Skeleton.OfPattern(two).Select(s => s.Text).ShouldBe(["HH: 8ths\nSN: 2 4\nBD: 1 3\n", "HH: 8ths\nSN: 2 3&\nBD: 1& 2& 4\n"]);
        Skeleton.PatternOf(Read("SN: 2 4 | 2 4 | 2 4 | 2 4")).ShouldBe(1);
        Skeleton.PatternOf(Read("SN: 2 4 | 1 3 4 4&")).ShouldBe(1, "it does not come round");
        Skeleton.PatternOf(Read("SN: 2 4 | 2 4 | 2 4 | 1 1& 2& 3 | 2 4 | 2 4 | 2 4 | 1 1& 2& 3")).ShouldBe(4);
    }

    [Fact]
    public void Group_lengths_add_up_to_the_cycle() => Gen.Select(Gen.Int[0, 31].Array[1, 10], Gen.Bool).Sample((places, looped) =>
    {
        var text = "SN: " + string.Join(' ', places.Distinct().Order()
            .Select(p => $"{p / 4 % 4 + 1}{(string[])["", "e", "&", "a"] switch { var s => s[p % 4] }}").Distinct());
        var passage = CountLines.Parse(text).Passage with { Looped = looped };
        foreach (var grouping in Grouping.Of(passage))
        {
            var unit = grouping.Unit switch { "8ths" => 5040, "16ths" => 2520, var other => throw new InvalidOperationException(other) };
            grouping.Groups.Sum().ShouldBe(passage.Meters.StartOf(grouping.Bars).Value / unit, text);
        }
    });

    [Fact]
    public void A_lower_threshold_never_has_fewer_strokes() =>
        Gen.Select(Gen.Int[0, 15].Array[1, 6].Array[2, 5], Gen.Double[0, 1], Gen.Double[0, 1]).Sample((bars, a, b) =>
    {
        var text = "BD: " + string.Join(" | ", bars.Select(bar =>
            string.Join(' ', bar.Distinct().Order().Select(p => $"{p / 4 + 1}{"_e&a"[p % 4]}".Replace("_", "")))));
        var passage = CountLines.Parse(text).Passage;
        Skeleton.Of(passage, Math.Min(a, b)).Strokes.Count.ShouldBeGreaterThanOrEqualTo(Skeleton.Of(passage, Math.Max(a, b)).Strokes.Count);
        Skeleton.Of(passage, 0).Shares.Values.ShouldAllBe(s => s > 0 && s <= 1);
    });
}
