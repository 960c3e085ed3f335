using CsCheck;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Counting;

public class MovesAndRewriting
{
    private const string Groove =
        "# heard twice\ntempo 96\nHH: 8ths 4&o      | 8ths\nSN: 2 (2a) 4       | 2 4  # the answer\nkick: 1 3&         | 1 & 3&\n";

    private static Passage Read(string text) => CountLines.Parse(text).Passage;

    private static Tick Eighth(int n) => new(n * Tick.PerQuarter / 2);

    private static string Put(string text, Passage changed) =>
        Rewriting.Put(text, changed).Text ?? throw new InvalidOperationException(Rewriting.Put(text, changed).Why);

    [Fact]
    public void A_stroke_set_changes_its_bar_and_leaves_every_other_word_as_typed()
    {
        var now = Put(Groove, Move.Toggle(Read(Groove), Eighth(8 + 1), Voice.Snare));
        now.ShouldBe(Groove.Replace("2 4  # the answer", "1& 2 4  # the answer"));
    }

    [Fact]
    public void A_stroke_taken_out_and_set_again_gives_the_same_strokes()
    {
        var read = Read(Groove);
        var without = Move.Toggle(read, Tick.Zero, Voice.Kick);
        without.Strokes.Count.ShouldBe(read.Strokes.Count - 1);
        Move.Toggle(without, Tick.Zero, Voice.Kick).Strokes.ShouldBe(read.Strokes);
    }

    [Fact]
    public void A_voice_without_a_line_gets_one_at_the_end()
    {
        var now = Put(Groove, Move.Toggle(Read(Groove), Tick.Zero, Voice.Crash));
        now.ShouldBe(Groove + "CR: 1 | -\n");
    }

    [Fact]
    public void Ghost_and_accent_come_and_go_and_only_hats_open()
    {
        var read = Read(Groove);
        (Tick, Voice)[] backbeat = [(Eighth(2), Voice.Snare)];
        var ghosted = Move.Mark(read, backbeat, StrokeMark.Ghost);
        ghosted.Strokes.Single(s => s.At == Eighth(2) && s.Voice == Voice.Snare).Dynamic.ShouldBe(Dynamic.Ghost);
        Move.Mark(ghosted, backbeat, StrokeMark.Ghost).Strokes.ShouldBe(read.Strokes);
        Move.Mark(read, backbeat, StrokeMark.Open).Strokes.ShouldBe(read.Strokes);
        Move.Mark(read, [(Eighth(7), Voice.Hat)], StrokeMark.Open).Strokes.Single(s =>
            s.At == Eighth(7) && s.Voice == Voice.Hat).Openness.ShouldBe(Openness.Closed);
    }

    [Fact]
    public void A_place_that_is_pressed_goes_round_stroke_accent_ghost_none_and_a_bar_comes_with_the_first()
    {
        var texts = new List<string> { "" };
        for (var press = 0; press < 4; press++) texts.Add(Put(texts[^1], Move.Turn(Read(texts[^1]), Eighth(2), Voice.Snare)));
        texts.Select(t => t.Trim()).ShouldBe(["", "SN: 2", "SN: 2>", "SN: (2)", "SN: -"]);
    }

    [Theory]
    [InlineData("SN: 2", "flam", "SN: 2f")]
    [InlineData("SN: 2f", "flam", "SN: 2")]
    [InlineData("SN: 2fT1??", "flam", "SN: 2")]
    [InlineData("SN: 2d", "buzz", "SN: 2dz")]
    [InlineData("HH: 2o", "loose", "HH: 2~")]
    [InlineData("HH: 2o_3", "open", "HH: 2")]
    [InlineData("SN: 2", "open", "SN: 2")]
    [InlineData("SN: 2R", "left", "SN: 2L")]
    [InlineData("SN: 2R", "echo", "SN: 2=")]
    [InlineData("SN: 2=", "right", "SN: 2R")]
    [InlineData("SN: 2?", "unsure", "SN: 2")]
    [InlineData("SN: 2", "optional", "SN: 2*")]
    public void Marks_come_and_go(string before, string mark, string after)
    {
        var read = Read(before);
        Put(before, Move.Mark(read, [(read.Strokes[0].At, read.Strokes[0].Voice)], StrokeMark.Find(mark)!)).ShouldBe(after);
    }

    [Fact]
    public void A_grace_stroke_is_put_on_a_drum_and_a_technique_has_a_word()
    {
        (Tick, Voice)[] two = [(Eighth(2), Voice.Snare)];
        var flam = Put("SN: 2", Move.GraceOn(Read("SN: 2"), two, Voice.Tom1));
        flam.ShouldBe("SN: 2fT1");
        Put(flam, Move.GraceOn(Read(flam), two, Voice.Snare)).ShouldBe("SN: 2f");
        var edge = Put("SN: 2", Move.Mark(Read("SN: 2"), two, StrokeMark.Note("edge")));
        edge.ShouldBe("SN: 2{edge}");
        Put(edge, Move.Mark(Read(edge), two, StrokeMark.Note("edge"))).ShouldBe("SN: 2");
    }

    [Fact]
    public void A_bar_more_and_another_meter_from_a_bar_on()
    {
        Put("SN: 2 4", Move.AddBar(Read("SN: 2 4"))).ShouldBe("SN: 2 4 | -");
        Read(Put("", Move.AddBar(Read("")))).Bars.ShouldBe(1);
        Put("SN: 2 4 | 1z_3", Move.DropBar(Read("SN: 2 4 | 1z_3"))).ShouldBe("SN: 2 4");
        Put("meter 4/4 3/4\nHH: 8ths | 4ths # ride?\nSN: 4z_2 | 3\nLV: 1 p < | 2 f", Move.DropBar(Read(
            "meter 4/4 3/4\nHH: 8ths | 4ths # ride?\nSN: 4z_2 | 3\nLV: 1 p < | 2 f"))).ShouldContain("SN: 4z_1");
        const string three = "HH: 4ths | 1 2 3 | 4ths@1-3\nBD: 1 | 1 | 1\n";
        var changed = Move.InMeter(Read(three), 1, Meter.Parse("3/4")!)!;
        changed.Meters.ToString().ShouldBe("4/4 3/4 3/4");
        var text = Put(three, changed);
        text.ShouldStartWith("meter 4/4 3/4 3/4");
        Read(text).Strokes.Count.ShouldBe(Read(three).Strokes.Count);
        // All bars: the cycle is said once.
        Put("SN: 2 | 3", Move.InMeter(Read("SN: 2 | 3"), 0, Meter.Parse("3/4")!)!).Trim().ShouldBe("meter 3/4\nSN: 2 | 3");
        Move.InMeter(Read("SN: 4"), 0, Meter.Parse("3/4")!).ShouldBeNull("its stroke would have no place");
        Move.InMeter(Read(""), 0, Meter.Parse("7/8")!)!.Meters.ToString().ShouldBe("7/8");
    }

    [Fact]
    public void A_shift_onto_another_stroke_or_out_of_the_passage_is_refused()
    {
        var read = Read(Groove);
        Move.Shift(read, [(Eighth(0), Voice.Hat)], Eighth(1)).ShouldBeNull();
        Move.Shift(read, [(Eighth(0), Voice.Kick)], new Tick(-1)).ShouldBeNull();
        Move.Shift(read, [(Eighth(0), Voice.Kick)], Eighth(1))!.Strokes.ShouldContain(s => s.At == Eighth(1) && s.Voice == Voice.Kick);
        var onTom = Move.Shift(read, [(Eighth(7), Voice.Hat)], Tick.Zero, Voice.Tom1)!.Strokes.Single(s => s.Voice == Voice.Tom1);
        onTom.Openness.ShouldBeNull("a tom is neither open nor closed");
    }

    [Fact]
    public void Repeating_the_last_bar_adds_one_and_repeating_an_earlier_one_replaces_the_next()
    {
        var longer = Move.RepeatBar(Read(Groove), 1);
        longer.Bars.ShouldBe(3);
        Read(Put(Groove, longer)).Strokes.ShouldBe(longer.Strokes);
        var same = Move.RepeatBar(Read(Groove), 0);
        same.Bars.ShouldBe(2);
        same.Strokes.Count(s => s.Voice == Voice.Kick && s.At >= Eighth(8)).ShouldBe(2);
    }

    [Fact]
    public void With_a_sticking_line_the_whole_text_is_written_and_comments_stay()
    {
        const string text = "# from the film\nSN: 16ths@1-1\nST: RLRR\n";
        var now = Put(text, Move.Toggle(Read(text), Eighth(4), Voice.Tom1));
        now.ShouldStartWith("# from the film\n");
        var strokes = Read(now).Strokes;
        strokes.Count(s => s.Side is not null).ShouldBe(4);
        strokes.ShouldContain(s => s.Voice == Voice.Tom1 && s.Side == null);
    }

    [Fact]
    public void A_text_with_an_error_is_left_alone_and_the_way_out_is_said()
    {
        var result = Rewriting.Put("SN: 1 2\nBD: 9\n", Read("SN: 1\n"));
        result.Text.ShouldBeNull();
        result.Why.ShouldBe("Line 2 has a problem: put it right first, so that nothing typed is lost.");
    }

    [Fact]
    public void Whatever_is_toggled_the_text_says_it_afterwards() =>
        Gen.Select(Among.These(Groove, "meter 7/8\nSN: 1 2t | %*\nBD: 1 | 3&\n", "lick 16t @3\nST: R  L  L  K  R  L\n",
            "ST: R L | %\nSN: 1 3 | %\nBD: ? | 2\n", "pickup 4\nSN: 4 | 2 4\n"), Gen.Int[0, 31],
            Among.These(Voice.Snare, Voice.Kick, Voice.Hat, Voice.FloorTom))
            .Sample((text, place, voice) =>
            {
                var read = Read(text);
                var at = new Tick(place * Tick.PerQuarter / 4);
                if (at < read.Pickup || at >= read.Length) return;
                var changed = Move.Toggle(read, at, voice);
                var result = Rewriting.Put(text, changed);
                if (result.Text is null) result.Why.ShouldNotBeNullOrEmpty();
                else Read(result.Text).Strokes.ShouldBe(changed.Strokes);
            }, iter: 500);

    [Fact]
    public void Tidying_keeps_strokes_title_and_comments()
    {
        const string text = "title Lull\n# slow\nbass: 1 3 # soft\nHH: 1 & 2 & 3 & 4 &\n";
        var tidy = Rewriting.Canonical(text);
        tidy.ShouldBe("# slow\ntitle Lull\nHH: 8ths\nBD: 1 3  # soft\n");
        Read(tidy).Strokes.ShouldBe(Read(text).Strokes);
    }

    [Fact]
    public void Colours_lie_in_their_lines_and_never_overlap() =>
        Gen.OneOf(Gen.String[Gen.Char["HSN:1234e&a|%(>o)#x\n 8ths@{}[]_-*?"], 0, 80], Gen.Const(Groove)).Sample(text =>
        {
            var lines = text.Split('\n');
            var spans = CountLines.Parse(text).Looks;
            foreach (var (at, _) in spans)
            {
                at.Length.ShouldBePositive();
                (at.Column - 1 + at.Length).ShouldBeLessThanOrEqualTo(lines[at.Line - 1].Length);
            }
            foreach (var (a, b) in spans.Zip(spans.Skip(1)))
                (b.At.Line > a.At.Line || b.At.Column >= a.At.Column + a.At.Length).ShouldBeTrue($"{a} and {b} in ‘{text}’");
        }, iter: 3000);

    [Fact]
    public void Voices_directives_comments_ghosts_and_marks_have_looks_of_their_own()
    {
        var looks = CountLines.Parse("tempo 96\nSN: 2> (2a) | %  # soft\n").Looks.Select(c => (c.At.Line, c.At.Column, c.At.Length, c.Look))
            .ToList();
        looks.ShouldBe([(1, 1, 5, Look.Directive), (2, 1, 2, Look.Voice), (2, 6, 1, Look.Mark), (2, 8, 4, Look.Ghost),
            (2, 13, 1, Look.Bar), (2, 15, 1, Look.Bar), (2, 18, 6, Look.Comment)]);
    }

    [Theory]
    [InlineData("HH: 8ths@1-2> | %x2", new[] { "HH Voice", "8ths@1-2 Run", "> Mark", "| Bar", "%x2 Bar" })]
    [InlineData("lick 16t @3\nST: R Lf (R)\nON: SN T1 | SN",
        new[] { "lick Directive", "ST Voice", "f Mark", "R Ghost", "ON Voice", "| Bar" })]
    [InlineData("LV: 1 p < 4 f || %*", new[] { "LV Voice", "|| Bar", "%* Bar" })]
    [InlineData("SN: 2fT1?? (1 2", new[] { "SN Voice", "fT1?? Mark", "(1 2 Ghost" })]
    public void Looks_are_what_the_reader_understood(string text, string[] looks)
    {
        var lines = text.Split('\n');
        CountLines.Parse(text).Looks.Select(l => $"{lines[l.At.Line - 1].Substring(l.At.Column - 1, l.At.Length)} {l.Look}")
            .ShouldBe(looks);
    }

    [Fact]
    public void A_word_that_is_no_voice_and_a_count_that_is_none_have_no_look() =>
        CountLines.Parse("XY: 1 2>\nSN: 2> 9banana>").Looks.Select(l => (l.At.Line, l.Look)).ShouldBe([(2, Look.Voice), (2, Look.Mark)]);

    [Fact]
    public void What_lies_beyond_the_limit_of_a_text_is_not_coloured() =>
        CountLines.Parse(new string('(', 3_000_000)).Looks.ShouldAllBe(c => c.At.Column <= 64 * 1024);

    [Fact]
    public void Every_stroke_knows_the_words_that_wrote_it()
    {
        var read = CountLines.Parse("SN: 2 (2a)\nBD: 8ths | %\n");
        read.Places.Count.ShouldBe(read.Passage.Strokes.Count);
        read.Places.Single(p => p.Voice == Voice.Snare && p.At == Eighth(2)).Words.ShouldBe(new(1, 5, 1));
        read.Places.Where(p => p.Voice == Voice.Kick && p.At >= Eighth(8)).Select(p => p.Words).Distinct()
            .ShouldBe([new(2, 12, 1)], "a repeat sign wrote them all");
    }
}
