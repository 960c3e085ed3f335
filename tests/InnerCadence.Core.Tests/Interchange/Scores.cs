using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Interchange;

public class Scores
{
    private static IEnumerable<string> Hands(string text, int bar = 0) =>
        Score.Of(CountLines.Parse(text).Passage)[bar].Hands.Select(Written);

    private static string Written(Sign sign) =>
        $"{(sign.IsRest ? "rest " : "")}{sign.Type}{(sign.Dots == 1 ? "." : "")}{(sign.Tuplet is { } t ? $" {t.Actual}:{t.Normal}" : "")}";

    [Fact]
    public void Plain_counts_are_plain_values() => Hands("SN: 1 & 2 4a").ShouldBe(["8", "8", "4", "rest 4", "rest 8.", "16"]);

    [Fact]
    public void A_silent_bar_is_one_rest() => Score.Of(CountLines.Parse("SN: - | 1").Passage)[0].Hands.Select(Written).ShouldBe(["rest 1"]);

    [Fact]
    public void Triplets_sextuplets_and_odd_groups_are_tuplets() =>
        Hands("SN: 1 t l 2 t 3[6] 4[5]").ShouldBe(["8 3:2", "8 3:2", "8 3:2", "8 3:2", "4 3:2", "16 6:4", "16 6:4", "16 6:4", "16 6:4",
            "16 6:4", "16 6:4", "16 5:4", "16 5:4", "16 5:4", "16 5:4", "16 5:4"]);

    [Fact]
    public void Twelve_eighths_go_in_dotted_beats() => Hands("meter 12/8\nSN: 1 4 5 6 7 10").ShouldBe(["4.", "8", "8", "8", "4.", "4."]);

    [Fact]
    public void Two_in_the_time_of_three_is_a_tuplet_of_the_dotted_beat() => Hands("meter 6/8\nSN: 1 2& 4").ShouldBe(["8.", "8.", "4."]);

    [Fact]
    public void Feet_have_a_voice_of_their_own_and_a_bar_like_the_one_before_says_so()
    {
        var bars = Score.Of(CountLines.Parse("HH: 8ths | %\nBD: 1 3 | %\n").Passage);
        bars[0].Feet.Where(s => !s.IsRest).Select(s => s.Strokes.Single().Voice).ShouldAllBe(v => v == Voice.Kick);
        bars.Select(b => b.AsBefore).ShouldBe([false, true]);
    }

    /// <summary>Each voice of a bar fills it without a gap, and every stroke stands in one sign at its own tick.</summary>
    [Fact]
    public void Signs_fill_every_bar_and_hold_every_stroke() =>
        Gen.Select(Among.These("4/4", "7/8", "12/8", "5/4", "7/8(2+2+3)", "3/16"),
            Gen.Select(Gen.Int[1, 3], Among.These("", "&", "a", "t", "l", "ti", "'", "[5]", "[7]", "[3]"),
            Among.These("SN", "BD", "HH")).Array[1, 6])
            .Sample((meter, strokes) =>
            {
                var text = $"meter {meter}\n" + string.Concat(strokes.Select(s => $"{s.Item3}: {s.Item1}{s.Item2}\n"));
                var passage = CountLines.Parse(text).Passage;
                foreach (var bar in Score.Of(passage))
                {
                    foreach (var voice in (IEnumerable<Sign>[])[bar.Hands, bar.Feet])
                    {
                        var at = bar.At;
                        foreach (var sign in voice)
                        {
                            sign.At.ShouldBe(at, text);
                            sign.Strokes.ShouldAllBe(s => s.At == sign.At);
                            at += sign.Lasts;
                        }
                        at.ShouldBe(bar.At + bar.Meter.Length, text);
                    }
                }
                Score.Of(passage).SelectMany(b => b.Hands.Concat(b.Feet)).Sum(s => s.Strokes.Count).ShouldBe(passage.Strokes.Count);
            }, iter: 2000);
}
