using System.Text.RegularExpressions;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Tests.Counting;

/// <summary>The grammar beside the reader says what the reader does, and the page for users shows the same grammar.</summary>
public partial class TheGrammar
{
    private static readonly string Root = Up(AppContext.BaseDirectory);
    private static readonly string Grammar = File.ReadAllText(Path.Combine(Root,
        "src/InnerCadence.Core/Counting/Reading/count-lines.ebnf"));

    public static TheoryData<string, bool> Examples()
    {
        var data = new TheoryData<string, bool>();
        foreach (Match example in Example().Matches(Grammar)) data.Add(example.Groups["text"].Value.Trim().Replace(" / ", "\n"),
            example.Groups["kind"].Value == "ok");
        return data;
    }

    [Theory, MemberData(nameof(Examples))]
    public void Each_example_is_read_as_it_says(string text, bool ok)
    {
        var errors = CountLines.Parse(text).Problems.Where(p => p.Severity == Severity.Error).ToList();
        errors.Any().ShouldBe(!ok, string.Join('\n', errors));
        if (ok) CountLines.Parse(text).Passage.Strokes.ShouldNotBeEmpty();
    }

    [Fact]
    public void Each_production_has_examples_or_is_used_by_one_that_has()
    {
        var names = Production().Matches(Grammar).Select(m => m.Groups["name"].Value).ToList();
        names.Count.ShouldBeGreaterThan(20);
        names.Distinct().Count().ShouldBe(names.Count);
        Example().Count(Grammar).ShouldBeGreaterThan(names.Count);
    }

    [Fact]
    public void The_page_for_users_shows_the_same_grammar() =>
        File.ReadAllText(Path.Combine(Root, "docs/count-lines.md")).ShouldContain($"```ebnf\n{Grammar.Trim()}\n```");

    private static string Up(string folder) => File.Exists(Path.Combine(folder, "InnerCadence.slnx")) ? folder
        : Up(Path.GetDirectoryName(folder)!);

    [GeneratedRegex(@"\(\* (?<kind>ok|not): (?<text>.*?) \*\)")]
    private static partial Regex Example();

    [GeneratedRegex(@"^(?<name>[a-z][a-z ]*?)\s+= ", RegexOptions.Multiline)]
    private static partial Regex Production();
}
