using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hands;

/// <summary>hands.md, "Sticking options".</summary>
public class Stickings
{
    private static readonly StickingSettings Usual = StickingSettings.Usual;
    private static Passage Read(string text) => CountLines.Parse(text).Passage;
    private static StickingOptions Of(string text, string school = "natural-lead", Handedness hands = Handedness.Right, double tempo = 100,
        int most = 5, params (Voice, Side)[] tied) => Sticking.Of(
        Read(text), Usual with
        {
            School = School.Find(school)!,
            Handedness = hands,
            Tempo = Bpm.Of(tempo)!.Value,
            Tied = tied.ToDictionary(t => t.Item1, t => t.Item2)
        }, most);

    [Theory]
    [InlineData("SN: 1 e & a", "RLRL")]
    [InlineData("HH: 1 & 2 &", "RRRR", "ride-hand")]
    [InlineData("SN: 1R e & a 2L", "RLRLL", "doubles")]
    [InlineData("T1: 1 e\nFT: 1& a", "RLRL", "alternate")]
    public void The_cheapest_is_what_a_drummer_would_try_first(string text, string letters, string school = "natural-lead") =>
        Of(text, school, tempo: letters == "RRRR" ? 60 : 100).Options.Select(o => o.Letters).Take(2).ShouldContain(letters);

    [Fact]
    public void Marks_and_tied_voices_are_kept()
    {
        var options = Of("SN: 1L e & a\nCB: 2", tied: (Voice.Cowbell, Side.Right)).Options;
        options.Count.ShouldBe(5);
        options.ShouldAllBe(o => o.Hands.First() == Side.Left && o.Hands.Last() == Side.Right);
    }

    [Fact]
    public void Schools_differ_where_they_should()
    {
        const string text = "HH: 8ths\nSN: 2 4 4a";
        Of(text, "ride-hand").Options[0].Letters.ShouldBe("RRBRRRBRL");
        Of("SN: 1 e & 2 e &", "alternate").Options[0].Letters.ShouldBe("RLRLRL");
        Of("SN: 1 e & 2 e &", "natural-lead").Options[0].Letters.ShouldBe("RLRRLR",
            "the lead hand on the beats and ands, as if the missing note were played");
    }

    [Fact]
    public void A_cost_has_its_reasons_in_words()
    {
        var option = Of("SN: 1R R 2L> e".Replace(" R ", " eR "), tempo: 120).Options[0];
        option.Reasons.ShouldContain(r => r.StartsWith("a double of the lead hand on the e of 1"));
        option.Reasons.ShouldContain("the weak hand on an accent on 2");
        option.Reasons.ShouldContain("nothing crossed");
    }

    [Fact]
    public void More_hands_than_a_body_has_are_said()
    {
        Of("SN: 1f\nHH: 1").Problems.ShouldHaveSingleItem().ShouldBe("1: three hands are asked for (hat and a flam on the snare).");
        Of("XS: 1\nSN: 1a", tempo: 200).Problems.ShouldBeEmpty();
        Of("XS: 1\nSN: 1e", tempo: 120).Problems.ShouldHaveSingleItem().ShouldContain("from cross-stick to open snare");
        Of("CB: 1\nRD: 1", tied: [(Voice.Cowbell, Side.Right), (Voice.Ride, Side.Right)]).Problems.ShouldHaveSingleItem()
            .ShouldContain("both tied to the right hand");
        Of("BD: 1 2").Options.ShouldBeEmpty();
    }

    [Fact]
    public void Phantom_strokes_stick_as_though_the_missing_notes_were_there()
    {
        Sticking.Phantom(Read("SN: 1e & a 2 & a"), Usual)!.Letters.ShouldBe("LRLRRL");
        Sticking.Phantom(Read("SN: 1l 2 2l"), Usual with { Handedness = Handedness.Left })!.Letters.ShouldBe("LRR");
        Sticking.Phantom(Read("BD: 1"), Usual).ShouldBeNull();
    }

    /// <summary>The last strokes and the first are neighbours where the passage repeats.</summary>
    [Fact]
    public void A_passage_that_repeats_is_stuck_round_its_join()
    {
        var sixes = Read("meter 3/8\nSN: 1 1l 2 2l 3") with { Looped = true };
        var settings = Usual with { School = School.Find("alternate")!, Tempo = Bpm.Of(120)!.Value };
        foreach (var option in Sticking.Of(sixes, settings, 4).Options)
            if ((option.Letters + option.Letters).Contains("RRR") || (option.Letters + option.Letters)
                .Contains("LLL")) option.Reasons.ShouldContain(r => r.Contains("three times and more"), option.Letters);
        var over = Sticking.Of(Read("SN: 1R eR & a 2 e & aR") with { Looped = true },
            settings with { Tempo = Bpm.Of(60)!.Value }).Options[0];
        over.Reasons.ShouldContain(r => r.StartsWith("lead hand three times and more") && r.EndsWith("over the join"),
            string.Join("; ", over.Reasons));
    }

    [Fact]
    public void The_join_is_searched_exactly()
    {
        foreach (var text in (string[])["SN: 1 e & a 2", "SN: 1 e & a\nFT: 2 & 3", "meter 3/4\nSN: 1 & a 2> e\nT1: 3 &",
            "meter 1/4\nSN: 1 e a", "meter 2/4\nHH: 1 & 2 &\nSN: 2a", "SN: 1"])
            foreach (var school in School.All)
            {
                var (passage, settings) = (Read(text) with { Looped = true }, Usual with { School = school, Tempo = Bpm.Of(112)!.Value });
                var count = passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).Select(s => s.At).Distinct().Count();
                var costs = Enumerable.Range(0, 1 << count).Select(bits => Enumerable.Range(0, count)
                    .Select(i => (bits >> i & 1) == 0 ? Side.Right : Side.Left).ToList())
                    .Select(mains => Sticking.CostOf(passage, settings, mains)).Order().Take(4);
                Sticking.Of(passage, settings, 4).Options.Select(o => o.Cost).ShouldBe(costs, $"{text} {school.Word}");
            }
    }

    [Fact]
    public void An_option_can_be_written_into_the_passage()
    {
        var passage = Read("SN: 1 e & a\nBD: 1");
        var text = CountWriter.Write(Of("SN: 1 e & a\nBD: 1").Options[0].In(passage));
        Read(text).Strokes.Where(s => s.Voice == Voice.Snare).Select(s => s.Side).ShouldBe([Side.Right, Side.Left, Side.Right, Side.Left]);
    }

    private static readonly Gen<string> Figure = Gen.Select(
        Among.These("SN", "T1", "FT", "HH", "CR"), Among.These("1", "1e", "1&", "1a", "2", "2>", "2e", "2&", "2a", "1f", "1L",
            "2R").Array[1, 4], Among.These("SN", "FT", "RD"), Among.These("1", "1&", "2", "2&").Array[0, 2])
        .Select((one, places, two, more) => $"{one}: {string.Join(' ', places.DistinctBy(p => p.TrimEnd('>', 'f', 'L', 'R')))}"
            + (more.Length > 0 && two != one ? $"\n{two}: {string.Join(' ', more.Distinct())}" : ""));

    [Fact]
    public void The_search_is_exact() => Gen.Select(Figure, Among.These([.. School.All]), Gen.Int[60, 200]).Sample((text, school, tempo) =>
    {
        var settings = Usual with { School = school, Tempo = Bpm.Of(tempo)!.Value };
        var passage = Read(text);
        var problems = new List<string>();
        var moments = HandMoment.Of(passage, settings.Tempo, settings.Tied, problems);
        var costs = Enumerable.Range(0, 1 << moments.Count)
            .Select(bits => Enumerable.Range(0, moments.Count).Select(i => (bits >> i & 1) == 0 ? Side.Right : Side.Left).ToArray())
            .Where(mains => mains.Select((m, i) => (m, i))
                .All(x => (moments[x.i].Fixed[0] ?? x.m) == x.m && (moments[x.i].Fixed.Count < 2 || moments[x.i].Fixed[1] != x.m)))
            .Select(mains => Sticking.CostOf(passage, settings, mains)).Order().Take(4);
        Sticking.Of(passage, settings, 4).Options.Select(o => o.Cost).ShouldBe(costs, $"{text} {school.Word} {tempo}");
    }, iter: 2000);

    [Fact]
    public void Options_satisfy_every_fixed_stroke() => Figure.Sample(text =>
    {
        var passage = Read(text);
        foreach (var option in Sticking.Of(passage, Usual, 8).Options)
            passage.Strokes.Where(s => s.Voice.Limbs == LimbClass.Hand).Zip(option.Hands)
                .ShouldAllBe(x => x.First.Side == null || x.First.Side == x.Second);
    }, iter: 1000);

    [Fact]
    public void Mirrored_input_gives_mirrored_options() => Figure.Sample(text =>
    {
        static Side Other(Side s) => s == Side.Right ? Side.Left : Side.Right;
        var passage = Read(text);
        var mirrored = passage with { Strokes = [.. passage.Strokes.Select(s => s.Side is { } side ? s with { Side = Other(side) } : s)] };
        var (right, left) = (Sticking.Of(passage, Usual).Options,
            Sticking.Of(mirrored, Usual with { Handedness = Handedness.Left }).Options);
        left.Select(o => (string.Concat(o.Hands.Select(h => Other(h))), o.Cost))
            .ShouldBe(right.Select(o => (string.Concat(o.Hands), o.Cost)));
    }, iter: 1000);
}
