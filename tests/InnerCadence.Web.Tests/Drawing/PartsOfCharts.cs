using System.Text.Encodings.Web;
using InnerCadence.Core.Evidence;
using InnerCadence.Web.Drawing;

namespace InnerCadence.Web.Tests.Drawing;

/// <summary>The pictures of numbers, as shapes: what is drawn changes only where somebody meant it to. INNER_CADENCE_PIN=write takes what
/// there is.</summary>
public class PartsOfCharts
{
    private static readonly string Folder = Path.Combine(WorkingCopy.Root, "tests", "fixtures", "shapes");

    public static TheoryData<string> Names => [.. Drawn.Keys];

    private static readonly Dictionary<string, Func<Shape>> Drawn = new()
    {
        ["row-name"] = () => ChartParts.RowName(100, 20, "cellar door", "/ideas/1"),
        ["column-name"] = () => ChartParts.ColumnName(40, 90, "A name that is longer than its place", "the whole of it"),
        ["dots"] = () => new Shape("g").Add(ChartParts.Dot(10, 10, 0, 12)).Add(ChartParts.Dot(30, 10, 0.25, 12))
            .Add(ChartParts.Dot(50, 10, 1, 12)),
        ["matrix"] = () => CompareViews.Matrix([new("her", [("Quay 64", "Quay, 1964"), ("Salt 65", "Salt, 1965")]),
            new("others", [("Lee 66", "Lee, 1966")])],
            [("cellar door", "/ideas/1", [new(2.5, 1, 0, "/a", "2.5 in 100"),
            new(0, 0.4, 1, "/b", "none"), new(null, 0, 0, "/c", "not searched")])]),
        ["timeline"] = () => CompareViews.Timeline([new("cellar door", [(1964.2, "/a", "Quay"), (1966.5, "/b", "Lee")], 1963,
            new("cellar door", [(1965.5, "/c", "Salt")], null))], 1963, 1967),
        ["profile"] = () => CompareViews.Profile([("1", 0.25, 0.5, "/a", "1: 1 of 4"), ("&", 0.75, 0, "/b", "the & of 1: 3 of 4")],
            ("her", "others")),
        ["profile-alone"] = () => CompareViews.Profile([("1", 1, null, "/a", "1: 4 of 4")], ("her", "others")),
        ["forest"] = () => CompareViews.Forest([("cellar door", new Interval(4, 2, 8), "/a"),
            ("rope ladder", new Interval(double.PositiveInfinity, 0.9, double.PositiveInfinity), "/b"), ("paddle", null, "/c")]),
        ["tempo-strip"] = () => CompareViews.TempoStrip([(96, true, "/a", "Quay"), (120, false, "/b", "Salt")], null),
        ["set-of-ideas"] = () => SetOfIdeasViews.Grid("What follows what", ["door", "hinge"],
            [("door", "/ideas/1", [null, new(2, 1, "/a", "2 of 3")]),
            ("hinge", "/ideas/2", [new(1, 0.5, "/b", "1 of 2"), null])]),
    };

    [Theory, MemberData(nameof(Names))]
    public void Are_drawn_as_before(string name)
    {
        using var writer = new StringWriter();
        Drawn[name]().AsMarkup().WriteTo(writer, HtmlEncoder.Default);
        var (now, file) = (writer.ToString().Replace("><", ">\n<"), Path.Combine(Folder, $"{name}.svg"));
        if (Environment.GetEnvironmentVariable("INNER_CADENCE_PIN") == "write")
        {
            Directory.CreateDirectory(Folder);
            File.WriteAllText(file, now + "\n");
        }
        File.ReadAllText(file).TrimEnd().ShouldBe(now);
    }
}
