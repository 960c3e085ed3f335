using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Core.Tests.Rhythm;

/// <summary>What is told of a fill without anybody naming it: where it starts and lands, which way it goes, which hand begins.</summary>
public class TraitsOfAPassage
{
    private static readonly string[] Syllables = ["", "e", "&", "a"];

    private static Traits Of(string text) => Traits.Of(CountLines.Parse(text).Passage)!;

    private static bool? Has(string habit, string text)
    {
        var passage = CountLines.Parse(text).Passage;
        return Habit.Find(habit)!.Has(passage, Traits.Of(passage)!);
    }

    [Theory]
    [InlineData("SN: 3e 3& 3a 4", "starts on the e of 3 on the snare; lands on 4 on the snare; linear; 4 strokes")]
    [InlineData("SN: 3R 3&L\nT1: 4R\nFT: 4&L", "starts on 3 on the snare with the right hand; lands on the & of 4 on the floor tom; "
        + "down the toms; linear; 4 strokes")]
    [InlineData("T1: 3 4&\nFT: 3& 4",
        "starts on 3 on the tom 1; lands on the & of 4 on the tom 1; up and down the toms; linear; 4 strokes")]
    [InlineData("SN: 4f\nCR: 4", "starts on 4 on the crash; lands on 4 on the crash; 1 double stop; flam; 2 strokes")]
    [InlineData("BD: 4", "starts on 4 on the kick; lands on 4 on the kick; linear; 1 stroke")]
    public void Are_said_in_a_few_words(string text, string words) => Of(text).Words.ShouldBe(words);

    [Theory]
    [InlineData("T1: 1 2\nFT: 3", TomDirection.Down)]
    [InlineData("FT: 1 2\nT1: 3", TomDirection.Up)]
    [InlineData("T1: 1 3\nFT: 2", TomDirection.Mixed)]
    [InlineData("T1: 1 2 3", TomDirection.Level)]
    [InlineData("T1: 1\nSN: 2 3", TomDirection.None)]
    [InlineData("SN: 1 2 3", TomDirection.None)]
    public void Toms_go_one_way_or_both(string text, TomDirection direction) => Of(text).Direction.ShouldBe(direction);

    [Fact]
    public void The_first_hand_is_not_known_where_two_begin_or_nobody_says()
    {
        Of("SN: 1L 2R").FirstHand.ShouldBe(Side.Left);
        Of("SN: 1 2R").FirstHand.ShouldBeNull();
        Of("SN: 1L\nCR: 1R").FirstHand.ShouldBeNull();
        Of("BD: 1\nSN: 1&L").FirstHand.ShouldBe(Side.Left, "a foot is no hand");
    }

    [Fact]
    public void Of_what_sounds_together_a_hand_high_on_the_kit_leads()
    {
        var traits = Of("BD: 1 2\nSN: 1 2\nCR: 2");
        (traits.FirstVoice, traits.LastVoice).ShouldBe((Voice.Snare, Voice.Crash));
        (traits.Linear, traits.DoubleStops, traits.Strokes, traits.Length.Value).ShouldBe((false, 1, 5, Tick.PerQuarter));
    }

    [Fact]
    public void A_silent_passage_has_none_and_an_echo_counts_as_silence()
    {
        Traits.Of(CountLines.Parse("SN: -").Passage).ShouldBeNull();
        Of("SN: 1 2=").Lands.ShouldBe("1");
    }

    [Theory]
    [InlineData("left-first", "SN: 1L 2R", true)]
    [InlineData("left-first", "SN: 1R 2L", false)]
    [InlineData("left-first", "SN: 1 2", null)]
    [InlineData("linear", "SN: 1\nBD: 1&", true)]
    [InlineData("linear", "SN: 1\nBD: 1", false)]
    [InlineData("double-stops", "SN: 1\nT1: 1", true)]
    [InlineData("double-stops", "SN: 1\nBD: 1", false)]
    [InlineData("flam-or-drag", "SN: 1 2d", true)]
    [InlineData("flam-or-drag", "SN: 1 2z", false)]
    [InlineData("down-the-toms", "T1: 1\nFT: 2", true)]
    [InlineData("down-the-toms", "SN: 1 2", null)]
    [InlineData("off-the-beat", "SN: 3& 4", true)]
    [InlineData("off-the-beat", "SN: 3 4", false)]
    [InlineData("kick-alone", "SN: 1\nBD: 1 1&", true)]
    [InlineData("kick-alone", "SN: 1\nBD: 1", false)]
    public void Habits_are_had_or_not_or_not_known(string habit, string text, bool? has) => Has(habit, text).ShouldBe(has);

    [Fact]
    public void Every_habit_is_found_by_its_word_and_has_one_of_its_own()
    {
        Habit.All.ShouldAllBe(h => Habit.Find(h.Word) == h);
        Habit.Find("loud").ShouldBeNull();
    }

    [Fact]
    public void Where_a_passage_begins_changes_none_but_where_it_starts_and_lands() =>
        Gen.Select(Gen.Select(Gen.Int[0, 15], Gen.OneOf("SN", "T1", "FT", "BD", "CR")).Array[1, 8], Gen.Int[1, 3])
            .Sample((strokes, bars) =>
        {
            string Lines(int silent) => string.Join('\n', strokes.Distinct().GroupBy(s => s.Item2).Select(g => $"{g.Key}: "
                + string.Concat(Enumerable.Repeat("- | ", silent))
                + string.Join(' ', g.Select(s => s.Item1).Order().Select(p => $"{p / 4 + 1}{Syllables[p % 4]}"))));
            var (here, later) = (Of(Lines(0)), Of(Lines(bars)));
            later.ShouldBe(here, Lines(bars));
            here.Words.ShouldEndWith($"{here.Strokes} {(here.Strokes == 1 ? "stroke" : "strokes")}");
            here.Length.Value.ShouldBeLessThan(4 * Tick.PerQuarter);
        });
}
