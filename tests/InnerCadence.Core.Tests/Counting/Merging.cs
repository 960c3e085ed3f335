using CsCheck;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>Two tabs that changed one text.</summary>
public class Merging
{
    private const string Began = "meter 4/4\nHH: 8ths\nSN: 2 4\nBD: 1 3";

    [Theory]
    [InlineData("meter 4/4\nHH: 16ths\nSN: 2 4\nBD: 1 3", "meter 4/4\nHH: 8ths\nSN: 2 4\nBD: 1 3&",
        "meter 4/4\nHH: 16ths\nSN: 2 4\nBD: 1 3&", 0)]
    [InlineData("meter 4/4\nHH: 8ths\nSN: 2 (2a) 4\nBD: 1 3", "meter 4/4\nHH: 8ths\nSN: 2 4f\nBD: 1 3",
        "meter 4/4\nHH: 8ths\nSN: 2 (2a) 4\n# other tab: SN: 2 4f\nBD: 1 3", 1)]
    [InlineData(Began, "SN: 2", "SN: 2", 0)]
    [InlineData("SN: 2", Began, "SN: 2", 0)]
    [InlineData(Began + "\nFT: 4", "tempo 96\n" + Began, "tempo 96\n" + Began + "\nFT: 4", 0)]
    [InlineData(Began + "\nFT: 4", Began + "\nFT: 4", Began + "\nFT: 4", 0)]
    [InlineData("HH: 8ths\nSN: 2 4\nBD: 1 3", "meter 4/4\nHH: 8ths\nSN: 2 4", "HH: 8ths\nSN: 2 4", 0)]
    public void Both_changes_are_kept(string mine, string other, string merged, int clashes) =>
        TextMerge.Of(Began, mine, other).ShouldBe(new(merged, clashes));

    [Fact]
    public void Where_only_one_changed_it_is_the_change_and_no_line_of_mine_is_ever_lost() =>
        Gen.Select(Text, Text, Text).Sample((began, mine, other) =>
        {
            TextMerge.Of(began, mine, began).ShouldBe(new(mine, 0));
            TextMerge.Of(began, began, other).ShouldBe(new(other, 0));
            TextMerge.Of(began, mine, mine).ShouldBe(new(mine, 0));
            var merged = TextMerge.Of(began, mine, other).Text.Split('\n').Select(l => l.Replace(TextMerge.Aside, "")).ToHashSet();
            foreach (var typed in mine.Split('\n').Concat(other.Split('\n')).Except(began.Split('\n'))) merged.ShouldContain(typed);
        });

    private static readonly string[] Lines = ["SN: 2", "SN: 4", "BD: 1", "HH: 8ths", ""];
    private static readonly Gen<string> Text = Gen.Int[0, 4].Select(i => Lines[i]).List[0, 6].Select(l => string.Join('\n', l));
}
