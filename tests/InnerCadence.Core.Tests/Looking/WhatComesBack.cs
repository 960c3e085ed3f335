using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Looking;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Looking;

/// <summary>Stretches that come back in what was heard of several titles, misheard strokes and all.</summary>
public class WhatComesBack
{
    private const double Bar = 2;

    private static SoundBars Lines(int bars) => SoundBars.Marked([.. Enumerable.Range(0, bars + 1)
        .Select(b => (b + 1, new Seconds(1 + Bar * b)))], new([Meter.CommonTime]), null, new(1 + Bar * bars))!;

    private static Passage Heard(Random random, IReadOnlyList<string> bars) => HeardPassage.Of(Lines(bars.Count),
        [.. bars.SelectMany((text, bar) => CountLines.Parse(text).Passage.Strokes.Where(_ => random.NextDouble() > 0.04)
            .Select(s => new HeardStroke(new(1 + Bar * bar + s.At.Value * 0.5 / Tick.PerQuarter + (random.NextDouble() - 0.5) * 0.02),
                s.Voice.Family, s.Voice, null, 0.9, 0.7, null))).OrderBy(h => h.At.Value)]);

    [Fact]
    public void A_planted_stretch_stands_first_and_what_is_shorter_than_half_a_bar_is_left_out()
    {
        var random = new Random(3);
        string[] plain = ["SN: 2 4\nBD: 1 3", "SN: 2 4\nBD: 1 2& 3", "SN: 2 4\nBD: 1 3 3&", "SN: 2 4 4a\nBD: 1 3"];
        Source[] sources = [.. Enumerable.Range(0, 8).Select(title => new Source(Heard(random, [.. Enumerable.Range(0, 40).Select(bar =>
            bar % 10 == 7 ? "SN: 1 1a 2& 3 3e 4\nBD: 1& 2 3& 4&" : plain[random.Next(4)])]), title, title))];
        var cells = HeardCells.Of(sources, 2);
        cells.Count.ShouldBeGreaterThan(0);
        var first = cells[0].Cell.Occurrences;
        first.Count(o => sources[o.Source].Passage.Meters.Locate(o.Start).Bar % 10 == 7).ShouldBeGreaterThan(first.Count * 3 / 4);
        cells.ShouldAllBe(c => c.Cell.Occurrences[0].End - c.Cell.Occurrences[0].Start >= new Tick(Tick.PerQuarter));
    }

    [Fact]
    public void Every_bar_of_a_sound_is_laid_on_its_grid()
    {
        var passage = Heard(new Random(1), ["SN: 2 4\nBD: 1 3", "SN: 2\nBD: 1"]);
        passage.Bars.ShouldBe(2);
        passage.Strokes.ShouldAllBe(s => s.At.Value % Tick.PerQuarter == 0);
    }
}
