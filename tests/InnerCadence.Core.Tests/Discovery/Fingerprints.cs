using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Discovery;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Core.Tests.Discovery;

public class Fingerprints
{
    private static IEnumerable<TitledBar> Bars(string text, int times, string title = "A piece") =>
        Enumerable.Range(0, times).SelectMany(i => Bar.Of(CountLines.Parse(text).Passage, i)).Select(bar => new TitledBar(bar, title));

    /// <summary>Twelve titles a side, each with a groove kept up.</summary>
    private static IEnumerable<TitledBar> Titles(Func<int, string> groove, int bars = 16) =>
        Enumerable.Range(0, 12).SelectMany(t => Bars(groove(t), bars, $"Title {t}"));

    [Fact]
    public void What_stands_out_is_said_in_words_in_both_directions()
    {
        var print = Fingerprint.Of(Titles(t => t < 10 ? "SP: 1a\nSN: 2 4\n" : "SN: 2 4\nBD: 1\n"),
            Titles(t => t == 0 ? "SP: 1a\nSN: 2 4\nBD: 1\n" : "SN: 2 4\nBD: 1\n"), Meter.CommonTime, 4);
        (print.Bars, print.Titles, print.OtherTitles).ShouldBe((192, 12, 12));
        print.Outstanding.Select(c => c.Words).ShouldBe(["no kick on 1: in 160 of 192 bars; others 0 of 192",
            "splash on the a of 1: in 160 of 192 bars; others 16 of 192"], ignoreOrder: true);
        var splash = print.Cells.Single(c => c.Voice == Voice.Splash && c.With > 0);
        splash.Share!.Value.ShouldBe(10 / 12.0, 1e-12);
        (splash.Share.Interval.Low < 0.75 && splash.OthersShare!.Interval.High > 0.2).ShouldBeTrue("twelve titles are no 192 witnesses");
    }

    /// <summary>Two players with the same habits: each title has a groove of its own, kept up for sixteen bars.</summary>
    [Fact]
    public void Players_with_the_same_habits_hardly_ever_stand_apart()
    {
        string[] grooves = ["SN: 2 4\nBD: 1 3&", "SN: 2 4\nBD: 1 2& 3&", "SN: 2 4\nBD: 1 1a 3", "SN: 2 (2a) 4\nBD: 1 3",
            "SN: 2 4 4a\nBD: 1e 3&", "SN: 3\nBD: 1 4&"];
        var wrong = 0;
        for (var study = 0; study < 60; study++)
        {
            var random = new Random(study);
            IEnumerable<TitledBar> Player() => Titles(_ => grooves[random.Next(grooves.Length)]);
            if (Fingerprint.Of(Player(), Player(), Meter.CommonTime, 4).Outstanding.Count > 0) wrong++;
        }
        wrong.ShouldBeLessThanOrEqualTo(8, "5 % of 60 are 3");
    }

    [Fact]
    public void With_few_titles_nothing_stands_out_however_many_bars()
    {
        var print = Fingerprint.Of(Bars("SP: 1a\nSN: 2 4\n", 400), Bars("SN: 2 4\nBD: 1\n", 400), Meter.CommonTime, 4);
        (print.FewTitles, print.Outstanding.Count).ShouldBe((true, 0));
        print.Cells.ShouldAllBe(c => c.Corrected == null);
    }

    [Fact]
    public void A_bar_in_which_a_voice_was_not_heard_says_nothing_of_it()
    {
        var print = Fingerprint.Of(Bars("SN: 2 4\nBD: ?\n", 10).Concat(Bars("SN: 2 4\nBD: 1\n", 5)), Bars("BD: 1\n", 4), Meter.CommonTime,
            4);
        print.Cells.First(c => c.Voice == Voice.Kick).Of.ShouldBe(5);
    }

    [Fact]
    public void Only_the_asked_strokes_on_the_asked_grid_count_and_other_meters_are_left_out()
    {
        var bars = Bars("SN: (2a) 4> 3t\n", 3).Concat(Bars("meter 3/4\nSN: 1\n", 9)).ToList();
        var ghosts = Fingerprint.Of(bars, [], Meter.CommonTime, 4, StrokeAspect.Ghost);
        ghosts.Bars.ShouldBe(3);
        ghosts.Cells.Where(c => c.With > 0).Select(c => (c.Count, c.With)).ShouldBe([("the a of 2", 3)]);
        ghosts.Outstanding.ShouldBeEmpty("there is nobody to compare with");
    }

    [Fact]
    public void A_habit_is_counted_by_titles_and_corrected_over_all_habits()
    {
        static IReadOnlyList<TitledPassage> Fills(Func<int, string> fill) =>
            [.. Enumerable.Range(0, 40).Select(i => (i, Read: CountLines.Parse(fill(i)).Passage))
                .Select(x => new TitledPassage(x.Read, Traits.Of(x.Read)!, $"Title {x.i % 10}"))];
        var rows = HabitTable.Of(Fills(_ => "SN: 3L e & a"), Fills(i => i % 10 < 2 ? "SN: 3L e & a" : "SN: 3R e & a"));
        var left = rows.Single(r => r.Habit.Word == "left-first");
        (left.With, left.Of, left.OthersWith, left.OthersOf).ShouldBe((40, 40, 8, 40));
        (left.StandsOut, left.Share!.Value, left.OthersShare!.Value).ShouldBe((true, 1, 0.2));
        (left.Share.Interval.Low < 0.8).ShouldBeTrue("ten titles are no forty witnesses");
        rows.Where(r => r != left).ShouldAllBe(r => !r.StandsOut);
    }

    [Fact]
    public void Bars_stand_with_the_commonest_they_are_like()
    {
        var texts = new[] { "HH: 8ths\nSN: 2 4\nBD: 1 3", "HH: 8ths\nSN: 2 4\nBD: 1 3", "HH: 8ths\nSN: 2 4\nBD: 1 3 3&", "T1: 1 2 3 4",
            "HH: 8ths\nSN: 2 4\nBD: 1" };
        var families = BarFamilies.Of([.. texts.Select(t => CountLines.Parse(t).Passage)
            .Select(p => (p.Meters.MeterOf(0), (IReadOnlyList<Stroke>)[.. p.Strokes]))]);
        families.Select(f => (f.Exemplar, string.Join(' ', f.Members.Select(m => $"{m.Bar}:{m.Cost}"))))
            .ShouldBe([(0, "0:0 1:0 2:4 4:4"), (3, "3:0")]);
        BarFamilies.Of([]).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("T1: 1R 1e\nT2: 1& 1a\nFT: 2",
        "starts on 1 on the tom 1 with the right hand; lands on 2 on the floor tom; down the toms; linear; 5 strokes")]
    [InlineData("CR: 1\nSN: 1 2&f\nBD: 1", "starts on 1 on the crash; lands on the & of 2 on the snare; 1 double stop; flam; 4 strokes")]
    [InlineData("T1: 1 3\nFT: 2", "starts on 1 on the tom 1; lands on 3 on the tom 1; up and down the toms; linear; 3 strokes")]
    public void Traits_are_told_in_words(string text, string words) => Traits.Of(CountLines.Parse(text).Passage)!.Words.ShouldBe(words);

    [Fact]
    public void An_empty_passage_has_no_traits() => Traits.Of(Passage.Empty).ShouldBeNull();
}
