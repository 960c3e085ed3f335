using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Tests.Counting;

namespace InnerCadence.Core.Tests.Interchange;

/// <summary>Drum-tab text in and out.</summary>
public class DrumTabs
{
    public static TheoryData<string> Cases => Vectors.Names("drum-tab", _ => true);

    [Theory, MemberData(nameof(Cases))]
    public void A_tab_gives_what_the_case_says(string name) => ExpectedReading.Check("drum-tab", name, DrumTab.Parse);

    [Theory, MemberData(nameof(Cases))]
    public void A_tab_as_count_lines_has_the_same_strokes(string name)
    {
        var passage = DrumTab.Parse(Vectors.Named("drum-tab", name).GetProperty("text").GetString()!).Passage;
        CountLines.Parse(CountWriter.Write(passage)).Passage.Strokes.ShouldBe(passage.Strokes);
    }

    private static readonly (string Head, int[] Grids)[] Meters = [("", [8, 12, 16, 24, 32]), ("meter 7/8\n", [7, 14, 21, 28, 42]),
        ("meter 3/4\n", [6, 9, 12, 18, 24])];
    private static readonly Gen<string> Tab = Gen.Select(
        Gen.Int[0, 2].Select(i => Meters[i]),
        Gen.Select(Gen.OneOf(Gen.Const("HH"), Gen.Const("SN"), Gen.Const("CR"), Gen.Const("BD")), Gen.Int[0, 4],
            Gen.OneOf(Gen.Const('x'), Gen.Const('X'), Gen.Const('g'), Gen.Const('f'), Gen.Const('-')).Array[48]).Array[1, 3],
        (meter, lines) => meter.Head + string.Join('\n', lines.DistinctBy(l => l.Item1)
            .Select(l => $"{l.Item1}|{new string(l.Item3[..meter.Grids[l.Item2]])}|")));

    [Fact]
    public void Writing_a_tab_and_reading_it_gives_the_same_strokes() => Tab.Sample(text =>
    {
        var read = DrumTab.Parse(text);
        read.Problems.ShouldBeEmpty(text);
        var (written, lost) = DrumTab.Write(read.Passage);
        lost.ShouldBeEmpty();
        DrumTab.Parse(written).Passage.Strokes.ShouldBe(read.Passage.Strokes, $"{text}\n--\n{written}");
    });

    [Fact]
    public void Any_text_can_be_read_as_a_tab() => Gen.String[Gen.Char["HSNBDx-Xo|#gfdb \nmeter4/7"], 0, 100]
        .Sample(text => DrumTab.Parse(text));

    [Theory]
    [InlineData("HH: 8ths\nSN: 2 (2a) 4", "HH|x-x-x-x-x-x-x-x-|", "SN|----x--g----x---|")]
    [InlineData("HH: 8ths | 8ths\nSN: 2 4 | 2 4t", "HH|xxxxxxxx|x--x--x--x--x--x--x--x--|", "SN|--x---x-|------x-------------x---|")]
    public void The_lines_of_one_bar_have_one_grid(string text, string hat, string snare) =>
        DrumTab.Write(CountLines.Parse(text).Passage).Text.ShouldBe($"{hat}\n{snare}\n");

    [Fact]
    public void What_a_tab_cannot_hold_is_told()
    {
        var (text, lost) = DrumTab.Write(CountLines.Parse("SN: 1R 2[5]\nHH: 8ths").Passage);
        text.ShouldContain("HH|xxxxxxxx|");
        lost.ShouldContain(l => l.StartsWith("Bar 1: a stroke of the snare"));
        lost.ShouldContain("Hands and feet are not in it.");
    }
}
