using System.Text.RegularExpressions;

namespace InnerCadence.Core.Tests;

/// <summary>Where the code cites a rule, the rule is there to be read.</summary>
public partial class CitedRules
{
    [Fact]
    public void Every_citation_leads_to_a_heading_or_a_term()
    {
        var root = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(root, "InnerCadence.slnx"))) root = Path.GetDirectoryName(root)!;
        var cited = Directory.EnumerateFiles(Path.Combine(root, "src"), "*.cs", SearchOption.AllDirectories)
            .Where(f => !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}"))
            .SelectMany(f => Citation().Matches(Continued().Replace(File.ReadAllText(f), " "))
                .Select(m => (File: Path.GetFileName(f), Page: m.Groups["page"].Value, Term: m.Groups["term"].Value))).ToList();
        cited.Count.ShouldBeGreaterThan(40);
        cited.Where(c => !Leads(Path.Combine(root, "docs/rules", c.Page + ".md"), c.Term))
            .Select(c => $"{c.File} cites {c.Page}.md, \"{c.Term}\"").ShouldBeEmpty();
    }

    private static bool Leads(string page, string term) =>
        File.Exists(page) && Regex.IsMatch(File.ReadAllText(page),
            $@"^#+ {Regex.Escape(term)}|\*\*{Regex.Escape(term)}|^\| {Regex.Escape(term)} ",
            RegexOptions.Multiline | RegexOptions.IgnoreCase);

    /// <summary>A comment that goes on in the next line.</summary>
    [GeneratedRegex(@"\n\s*///? ")]
    private static partial Regex Continued();

    [GeneratedRegex(@"(?<page>[a-z][a-z-]*)\.md,? ""(?<term>[^""]+)""")]
    private static partial Regex Citation();
}
