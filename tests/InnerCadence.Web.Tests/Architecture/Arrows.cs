using ArchUnitNET.Loader;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Schema;

namespace InnerCadence.Web.Tests.Architecture;

/// <summary>Which room may lean on which; no circles.</summary>
public partial class Arrows
{
    private static readonly ArchUnitNET.Domain.Architecture Rooms =
        new ArchLoader().LoadAssemblies(typeof(Tick).Assembly, typeof(Database).Assembly, typeof(Program).Assembly).Build();

    /// <summary>Folders of the core from the bottom up, and what each may lean on.</summary>
    public static TheoryData<string, string[]> Folders => new()
    {
        { "Music", [] },
        { "Text", ["Music"] },
        { "Counting", ["Music"] },
        { "Counting.Reading", ["Music", "Text", "Counting"] },
        { "Counting.Writing", ["Music", "Counting", "Counting.Reading"] },
        { "Counting.Editing", ["Music", "Text", "Counting", "Counting.Reading", "Counting.Writing"] },
        { "Likeness", ["Music"] },
        { "Timing", ["Music", "Text", "Counting"] },
        { "Rhythm", ["Music", "Counting", "Counting.Writing", "Counting.Editing", "Likeness"] },
        { "Hands", ["Music", "Counting", "Counting.Writing", "Likeness"] },
        { "Ideas", ["Music", "Counting", "Likeness", "Rhythm"] },
        { "Evidence", ["Music", "Counting", "Ideas", "Timing"] },
        { "Discovery", ["Music", "Counting", "Counting.Writing", "Counting.Editing", "Likeness", "Rhythm", "Ideas", "Evidence"] },
        { "Claims", ["Music", "Counting", "Rhythm", "Discovery", "Evidence"] },
        { "Playing", ["Music", "Counting", "Timing"] },
        { "Hearing", ["Music", "Counting", "Timing"] },
        { "Looking", ["Music", "Counting", "Likeness", "Ideas", "Timing", "Hearing", "Evidence"] },
        { "Practice", ["Music", "Counting", "Hands"] },
        { "Interchange", ["Music", "Text", "Counting", "Counting.Reading", "Counting.Writing", "Timing"] },
        { "Counting.Words", ["Music", "Text", "Counting", "Counting.Reading", "Counting.Writing", "Interchange"] },
        { "Telling", ["Music", "Counting", "Evidence", "Timing"] },
    };

    /// <summary>Folders of the other two rooms; every step of the work has a folder of pages.</summary>
    private static readonly string[] Others =
    [
        "Storage.Schema", "Storage.Studies", "Storage.Recordings", "Storage.Passages", "Storage.Ideas", "Storage.Sightings",
            "Storage.Evidence", "Storage.Claims", "Storage.Listening", "Storage.Practice",
        "Storage.Exchange", "Storage.Upkeep", "Web", "Web.Background", "Web.Api", "Web.Drawing", "Web.Telling", "Web.Interchange",
            "Web.Pages", "Web.Pages.Shared", "Web.Pages.Article", "Web.Pages.Blind",
        "Web.Pages.Claims", "Web.Pages.Compare", "Web.Pages.Ensembles", "Web.Pages.Files", "Web.Pages.Ideas", "Web.Pages.Imports",
            "Web.Pages.Jobs", "Web.Pages.Passages", "Web.Pages.Practice",
        "Web.Pages.Recordings", "Web.Pages.Releases", "Web.Pages.Report", "Web.Pages.Rudiments", "Web.Pages.Sessions",
            "Web.Pages.Sightings", "Web.Pages.Studies",
    ];

    private static IEnumerable<ArchUnitNET.Domain.IType> Own =>
        Rooms.Types.Where(t => Name(t).StartsWith("InnerCadence.", StringComparison.Ordinal) && !t.Name.Contains('<'));

    [Fact]
    public void Every_folder_is_listed() =>
        Own.Select(t => Name(t)["InnerCadence.".Length..]).Distinct().Except(Folders.Select(f => $"Core.{f.Data.Item1}")).Except(Others)
            .ShouldBeEmpty();

    [Fact]
    public void No_two_public_types_of_a_room_share_a_name() =>
        Own.Where(t => t is ArchUnitNET.Domain.Class { Visibility: ArchUnitNET.Domain.Visibility.Public }
            or ArchUnitNET.Domain.Interface { Visibility: ArchUnitNET.Domain.Visibility.Public }
            or ArchUnitNET.Domain.Struct { Visibility: ArchUnitNET.Domain.Visibility.Public }
            or ArchUnitNET.Domain.Enum { Visibility: ArchUnitNET.Domain.Visibility.Public })
            .Where(t => !t.FullName.Contains('+')).GroupBy(t => (Name(t).Split('.')[1], t.Name)).Where(g => g.Count() > 1)
                .Select(g => g.Key.Name).ShouldBeEmpty();

    [Fact]
    public void The_root_of_the_pages_holds_five() =>
        Directory.EnumerateFiles(Path.Combine(WorkingCopy.Root, "src/InnerCadence.Web/Pages")).Select(Path.GetFileName)
            .Where(f => !f!.StartsWith('_')).Select(f => f!.Split('.')[0]).Distinct().Order()
            .ShouldBe(["Error", "Guide", "Index", "Keys", "Settings"]);

    /// <summary>A page asks the account, the claims, the ideas; it does not do their work.</summary>
    [Fact]
    public void No_page_estimates_contrasts_or_matches()
    {
        string[] work = ["Estimates", "Contrasts", "Resampling", "Permutation", "Matcher", "Judge", "Pattern", "ByTitles"];
        Own.Where(t => Name(t).StartsWith("InnerCadence.Web.Pages", StringComparison.Ordinal))
            .SelectMany(t => t.Dependencies.Where(d => work.Contains(d.Target.Name) && Name(d.Target)
                .StartsWith("InnerCadence.Core", StringComparison.Ordinal)).Select(d => $"{t.Name} uses {d.Target.Name}"))
            .Distinct().ShouldBeEmpty();
    }

    [Fact]
    public void No_page_holds_a_number_of_ticks() => Pages("*.cs*").Where(f => TickNumber().IsMatch(File.ReadAllText(f))).ShouldBeEmpty();

    /// <summary>A script draws, listens and asks; what a meter, a tempo or a threshold means is said by the server.</summary>
    [Fact]
    public void No_script_holds_a_meter_a_rule_of_tempo_or_a_threshold() =>
        Directory.EnumerateFiles(Path.Combine(WorkingCopy.Root, "src/InnerCadence.Web/wwwroot/modules"), "*.js")
            .Select(f => (Name: Path.GetFileName(f), Found: RuleInScript().Match(File.ReadAllText(f)).Value)).Where(f => f.Found.Length > 0)
                .Select(f => $"{f.Name}: {f.Found}").ShouldBeEmpty();

    /// <summary>What a judgement, a verdict and what vanished come to is decided by the account's facts (evidence.md, "Counted
    /// once").</summary>
    [Fact]
    public void No_query_and_no_page_sums_or_filters_sightings_by_what_was_made_of_them()
    {
        // The account's facts themselves, and what writes a judgement or a scan.
        string[] theirs = ["EvidenceOfIdeas.cs", "Scan.cs", "HeardStore.cs"];
        new[] { "src/InnerCadence.Storage", "src/InnerCadence.Web" }.SelectMany(room => WorkingCopy.Files(room, "*.cs")
            .Concat(WorkingCopy.Files(room, "*.cshtml")))
            .Where(f => !theirs.Contains(Path.GetFileName(f)))
            .Select(f => (Name: Path.GetFileName(f), Found: SightingsCounted().Match(File.ReadAllText(f)).Value))
                .Where(f => f.Found.Length > 0).Select(f => $"{f.Name}: {f.Found}").ShouldBeEmpty();
    }

    [System.Text.RegularExpressions.GeneratedRegex(
        """\bx\.(?:judgement|verdict)\s*(?:=|<>|is\b|in\b)|\b(?:count|sum)\([^)]*\)[^;"]{0,40}\bfrom sighting"""
            + """|\.(?:Count|Sum|Where|Any|All)\([^;\n<]{0,80}(?:\bJudgement|\bVerdict|\bVanished)\b\s*(?:==|!=|is\b)""")]
    private static partial System.Text.RegularExpressions.Regex SightingsCounted();

    private static IEnumerable<string> Pages(string files) =>
        Directory.EnumerateFiles(Path.Combine(WorkingCopy.Root, "src/InnerCadence.Web/Pages"), files, SearchOption.AllDirectories);

    [System.Text.RegularExpressions.GeneratedRegex(@"\bPerQuarter|\bPerWhole|\b(?:1680|2520|3360|5040|10080|20160|40320)\b")]
    private static partial System.Text.RegularExpressions.Regex TickNumber();

    /// <summary>A meter written out, sixty divided by a tempo, ticks of a quarter, the factor of an interval.</summary>
    [System.Text.RegularExpressions.GeneratedRegex(
        "\"\\d{1,2}/(?:1|2|4|8|16|32)\"|\\b60(?:\\.0)? */ *\\w*(?:tempo|bpm)|\\b10080\\b|\\b1\\.96\\b",
        System.Text.RegularExpressions.RegexOptions.IgnoreCase)]
    private static partial System.Text.RegularExpressions.Regex RuleInScript();

    private static string Name(ArchUnitNET.Domain.IType type) => type.Namespace?.FullName ?? "";

    [Theory, MemberData(nameof(Folders))]
    public void A_folder_of_the_core_leans_only_on_those_below_it(string folder, string[] below)
    {
        var used = Rooms.Types.Where(t => Name(t) == $"InnerCadence.Core.{folder}")
            .SelectMany(t => t.Dependencies.Select(d => Name(d.Target)))
            .Where(n => n.StartsWith("InnerCadence.", StringComparison.Ordinal))
            .Select(n => n.Replace("InnerCadence.Core.", "")).Distinct();
        used.Except(below).Except([folder]).ShouldBeEmpty();
    }

    [Fact]
    public void The_core_knows_no_other_room_and_no_outside_world()
    {
        string[] outside = ["InnerCadence.Storage", "InnerCadence.Web", "Npgsql", "Dapper", "Microsoft.AspNetCore", "System.IO",
            "System.Net"];
        var used = Rooms.Types.Where(t => Name(t).StartsWith("InnerCadence.Core", StringComparison.Ordinal))
            .SelectMany(t => t.Dependencies.Select(d => Name(d.Target))).Distinct();
        used.Where(n => outside.Any(o => n == o || n.StartsWith(o + ".", StringComparison.Ordinal))).ShouldBeEmpty();
    }

    [Fact]
    public void Storage_does_not_know_the_web() =>
        Rooms.Types.Where(t => Name(t).StartsWith("InnerCadence.Storage", StringComparison.Ordinal))
            .SelectMany(t => t.Dependencies.Select(d => Name(d.Target)))
            .Where(n => n.StartsWith("InnerCadence.Web", StringComparison.Ordinal)
                || n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal))
            .ShouldBeEmpty();

    [Fact]
    public void Sql_stands_in_storage_only()
    {
        var files = Directory.EnumerateFiles(Path.Combine(WorkingCopy.Root, "src"), "*.cs*", SearchOption.AllDirectories)
            .Where(f => !f.Contains("InnerCadence.Storage")
                && !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}"));
        files.Where(f => System.Text.RegularExpressions.Regex.IsMatch(File.ReadAllText(f),
            @"""\s*(select|insert into|update|delete from)\s", System.Text.RegularExpressions.RegexOptions.IgnoreCase))
            .ShouldBeEmpty();
    }
}
