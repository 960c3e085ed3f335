using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Words;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>What holds for every text.</summary>
public class CountLineProperties
{
    private static readonly Gen<string> Word = Gen.OneOf(
        "1", "2", "3", "4", "e", "&", "a", "2&", "3a", "1e", "4l", "3t", "2ti", "3&ta", "4'", "2e'", "1>", "2>R", "3&f", "4d?", "(1a)",
            "(2 e)", "3{edge}",
        "8ths", "16ths@3-4", "8t", "3x16ths@1&-4", "(16ths@2)", "32nds@4", "-2", "-@3-4", "2[5]", "3[7/2]", "1[6:2,4-5]>", "2:", "4&_1",
            "1z_3", "3=", "(2&=)", "2fT1", "4dFT??", "1f??", "3z???", "eighths@1-2", "2fRDR");

    private static readonly Gen<string> Bar = Gen.OneOf(Word.List[1, 6].Select(words => string.Join(' ', words)),
        Gen.OneOf("-", "%", "%x2", "?", "8ths", "% 3 -1"));

    private static readonly Gen<string> Text = Gen.Select(
        Gen.OneOf("", "meter 7/8\n", "meter 5/8 3/4\n", "meter 12/8\n", "feel swing 66%\n", "tempo 132.5\nmeter 2/2\n", "meter 9/16\n",
            "tempo 96 @1.3& 104\n", "tempo 3/8=60 @1.2 1/4=91.5\n"),
        Gen.Select(Gen.OneOf("HH", "SN", "BD", "FT", "CR", "HF"), Bar.List[1, 5]).List[1, 5],
        Gen.OneOf("", "", "\nLV: 1 p < 3 f", "\nLV: 2 ff > 4& pp\nLV SN, FT: 1& mf", "\nLV: 1 mp <| 1 f",
            "\nlick 16ths @1.2 x3\nON: T1 . FT=").Select(Gen.OneOf("", "", "\nST: R L r l ...", "\nST: ... | R - B L ...",
            "\nST: R L R L B B B B R L R L", "\nSF: R l - L ...", "\nhands left\nST: B B B ..."), (level, hands) => level + hands),
        Gen.OneOf("", "", "\nlick 32nds @t\nON: SN>z_4 (T1) . FTf", "\nlick 16t @2\nST: R r L K B\nON: SN T1 T2 BD CR+SN",
            "\nlick 8t @2.1e\nST: l (R) r\nlick 8t @2.1e\nST: r . l\nON: T3 . T3"),
        (head, lines, sticking, lick) => head + string.Join('\n', lines.Select(line => $"{line.Item1}: {string.Join(" | ", line.Item2)}"))
            + sticking + lick);

    [Fact]
    public void Reading_what_is_written_gives_the_same_passage() => Text.Sample(text =>
    {
        var passage = CountLines.Parse(text).Passage;
        var written = CountWriter.Write(passage);
        var again = CountLines.Parse(written);
        again.Problems.ShouldBeEmpty($"{text}\n--\n{written}");
        again.Passage.Bars.ShouldBe(passage.Bars, written);
        again.Passage.Strokes.ShouldBe(passage.Strokes, $"{text}\n--\n{written}");
        again.Passage.Unheard.ShouldBe(passage.Unheard, ignoreOrder: true);
        again.Passage.Levels.ShouldBe(passage.Levels, $"{text}\n--\n{written}");
        again.Passage.Tempos.ShouldBe(passage.Tempos);
        CountWriter.Write(again.Passage).ShouldBe(written);
    }, iter: 3000);

    [Fact]
    public void Any_text_is_read_without_an_exception() =>
        Gen.String[Gen.Char["0123456789|:%x-*?@()[]{}~><=opfdzrcRLVeati&+'_ \n#SNBHDT/…–’tml"], 0, 120].Sample(text =>
        {
            var read = AsTyped.Parse(text);
            foreach (var problem in read.Problems)
            {
                problem.At.Line.ShouldBeInRange(1, text.Split('\n').Length);
                problem.At.Column.ShouldBeGreaterThan(0);
                problem.At.Length.ShouldBeGreaterThan(0);
                problem.Message.ShouldEndWith(".");
            }
            ReadBack.Of(read.Passage);
        }, iter: 20_000);

    [Fact]
    public void What_is_read_back_says_the_same_passage() => Gen.Select(Text, Gen.OneOf("", "", "pickup 3\n", "pickup 2&\n"),
        Gen.OneOf("", "", "count triplet\n")).Sample((text, pickup, school) =>
    {
        var read = CountLines.Parse(pickup + school + text);
        // Where triplets are counted 1 & a, fewer places lead to what no count names.
        if (school.Length > 0 && text.Contains("lick")) return;
        if (read.Passage.Bars == 0 || (read.Passage.Strokes.Count == 0 && read.Passage.Unheard.Count == 0)) return;
        ExpectedReading.ReadBackSays(read, school);
        if (school.Length > 0 && pickup.Length == 0) ExpectedReading.ReadBackSays(read);
    }, iter: 2000);

    [Fact]
    public void A_level_to_the_end_stands_beside_probable_hands() =>
        ExpectedReading.ReadBackSays(CountLines.Parse("pickup 2&\nmeter 12/8\nSN: 2[5] 4l 2&\nLV: 1 mp <| 1 f\nST: R L r l ..."));

    [Fact]
    public void A_mistake_in_one_line_costs_no_other_line_anything() => Text.Sample(text =>
    {
        var sound = CountLines.Parse(text).Passage.Strokes.Where(s => s.Voice != Voice.Ride);
        CountLines.Parse(text + "\nRD: zz 99 &&").Passage.Strokes.Where(s => s.Voice != Voice.Ride).ShouldBe(sound);
    });

    [Fact]
    public void Bars_and_ticks_convert_both_ways() =>
        Gen.Select(Gen.OneOf("4/4", "7/8", "5/8 7/8 5/8", "3/4 2/2"), Gen.Int[-200_000, 2_000_000]).Sample((meters, tick) =>
        {
            var cycle = new MeterCycle([.. meters.Split(' ').Select(m => Meter.Parse(m)!)]);
            var (bar, inBar) = cycle.Locate(new(tick));
            (cycle.StartOf(bar) + inBar).ShouldBe(new Tick(tick));
            inBar.Value.ShouldBeInRange(0, cycle.MeterOf(bar).Length.Value - 1);
        });
}
