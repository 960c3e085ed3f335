using ArchUnitNET.Loader;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Schema;

namespace InnerCadence.Web.Tests.Architecture;

/// <summary>Which room may lean on which; no circles.</summary>
public class Arrows
{
    private static readonly ArchUnitNET.Domain.Architecture Rooms =
        new ArchLoader().LoadAssemblies(typeof(Tick).Assembly, typeof(Database).Assembly, typeof(Program).Assembly).Build();

    /// <summary>Folders of the core from the bottom up, and what each may lean on.</summary>
    public static TheoryData<string, string[]> Folders => new()
    {
        { "Music", [] },
        { "Counting", ["Music"] },
        { "Likeness", ["Music"] },
        { "Timing", ["Music", "Counting", "Likeness"] },
        { "Rhythm", ["Music", "Counting", "Likeness"] },
        { "Hands", ["Music", "Counting", "Likeness"] },
        { "Ideas", ["Music", "Counting", "Likeness", "Rhythm"] },
        { "Discovery", ["Music", "Counting", "Likeness", "Rhythm", "Ideas", "Evidence"] },
        { "Evidence", ["Music", "Counting", "Ideas", "Timing"] },
        { "Practice", ["Music", "Counting", "Hands"] },
        { "Interchange", ["Music", "Counting", "Timing"] },
        { "Sound", ["Music", "Counting", "Timing"] },
        { "Telling", ["Music", "Counting", "Evidence", "Timing"] },
        { "Claims", ["Music", "Counting", "Rhythm", "Discovery", "Evidence"] },
    };

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
        string[] outside = ["InnerCadence.Storage", "InnerCadence.Web", "Npgsql", "Dapper", "Microsoft.AspNetCore", "System.IO", "System.Net"];
        var used = Rooms.Types.Where(t => Name(t).StartsWith("InnerCadence.Core", StringComparison.Ordinal))
            .SelectMany(t => t.Dependencies.Select(d => Name(d.Target))).Distinct();
        used.Where(n => outside.Any(o => n == o || n.StartsWith(o + ".", StringComparison.Ordinal))).ShouldBeEmpty();
    }

    [Fact]
    public void Storage_does_not_know_the_web() =>
        Rooms.Types.Where(t => Name(t).StartsWith("InnerCadence.Storage", StringComparison.Ordinal))
            .SelectMany(t => t.Dependencies.Select(d => Name(d.Target)))
            .Where(n => n.StartsWith("InnerCadence.Web", StringComparison.Ordinal) || n.StartsWith("Microsoft.AspNetCore", StringComparison.Ordinal))
            .ShouldBeEmpty();

    [Fact]
    public void Sql_stands_in_storage_only()
    {
        var files = Directory.EnumerateFiles(Path.Combine(WorkingCopy.Root, "src"), "*.cs*", SearchOption.AllDirectories)
            .Where(f => !f.Contains("InnerCadence.Storage") && !f.Contains($"{Path.DirectorySeparatorChar}obj{Path.DirectorySeparatorChar}"));
        files.Where(f => System.Text.RegularExpressions.Regex.IsMatch(File.ReadAllText(f), @"""\s*(select|insert into|update|delete from)\s", System.Text.RegularExpressions.RegexOptions.IgnoreCase))
            .ShouldBeEmpty();
    }
}
