using CsCheck;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>Texts that were written before levels, echoes, names and one bar line for two strokes of the pen.</summary>
public class BringingTextsOver
{
    [Theory]
    [InlineData("SN: 2 || 4 # a rest\nBD: 1 | 1 | 3", "SN: 2 | | 4 # a rest\nBD: 1 | 1 | 3")]
    [InlineData("lick 8ths\nST: RfRL\nON: SN T1 T2", null)]
    [InlineData("lick 8ths\nST: LfRBK\nON: SN T1 CR+SN BD", "lick 8ths\nST: Lf RBK\nON: SN T1 CR+SN BD")]
    [InlineData("hihat: 8ths\nSN: 2 4", "# hihat: 8ths\nSN: 2 4")]
    [InlineData("7/8\nSN: 2 4", "# 7/8\nSN: 2 4")]
    [InlineData("tempo 96\nbpm 120\nSN: 2 4", null)]
    [InlineData("HH: 8ths 4&o\nSN: 2 (2a) 4\nBD: 1 3&", null)]
    public void What_would_be_read_otherwise_is_written_so_that_its_strokes_stay(string text, string? now) =>
        OldTexts.BroughtOver(text).ShouldBe(now);

    [Theory]
    [InlineData("SN: 2 || 4", "SN: 2 | | 4")]
    [InlineData("SN: 2 || 4=", null)]
    [InlineData("SN: 2 | 4", null)]
    public void A_draft_is_brought_over_where_it_can_be_an_old_one(string text, string? now) =>
        OldTexts.DraftBroughtOver(text).ShouldBe(now);

    [Fact]
    public void Every_old_text_says_today_what_it_said_then() => Gen.Select(
        Among.These("", "tempo 96\n", "bpm 96\n", "7/8\n", "tempo 96 @2 100\n"),
        Gen.Select(Among.These("HH", "SN", "hihat", "BD", "Side Stick", "LV"),
            Among.These("2", "8ths", "eighths", "3=", "2fT1", "3??", "1 p", "", "-", "%").Array[1, 4],
            Among.These("|", " | ", "||", " || ")).Array[1, 4],
        Among.These("", "\nST: RfRBLK ...", "\nlick 8ths\nST: RfRBL\nON: SN SN SN SN", "\nlick 16ths @1 x3\nON: SN . FT"))
            .Sample((head, lines, lick) =>
    {
        var text = head + string.Join('\n', lines.Select(l => $"{l.Item1}: {string.Join(l.Item3, l.Item2)}")) + lick;
        var (then, now) = (CountLines.Parse(text, Language.First).Passage, CountLines.Parse(OldTexts.BroughtOver(text) ?? text).Passage);
        now.Bars.ShouldBe(then.Bars, text);
        now.Strokes.ShouldBe(then.Strokes, text);
    }, iter: 3000);
}
