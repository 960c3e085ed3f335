using System.Globalization;
using System.Text.Encodings.Web;
using System.Xml.Linq;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Web.Drawing;

namespace InnerCadence.Web.Tests.Drawing;

/// <summary>What the strands show of a passage.</summary>
public class Pictures
{
    [Fact]
    public void Each_stroke_is_a_bead_with_a_title_that_says_what_it_is()
    {
        var svg = Draw("HH: 8ths 4&o\nSN: 2> (2a) 4fR\nBD: 1 3&?");
        Beads(svg).Count.ShouldBe(13);
        Titles(svg).ShouldContain("hat on the & of 4, open");
        Titles(svg).ShouldContain("snare on the a of 2, ghost");
        Titles(svg).ShouldContain("snare on 4, flam, right hand");
        Titles(svg).ShouldContain("kick on the & of 3, unsure");
        Looks(svg, "cap").ShouldBe(1);
        Looks(svg, "satellite").ShouldBe(1);
        Looks(svg, "bead ghost").ShouldBe(1);
        Looks(svg, "bead unsure").ShouldBe(1);
        Looks(svg, "tail").ShouldBe(1);
    }

    [Fact]
    public void Cymbals_stand_above_drums_and_feet_below()
    {
        var voices = Texts(Draw("BD: 1\nSN: 2\nCR: 1\nHH: 3\nFT: 4\nHF: 2"), "voice");
        voices.ShouldBe(["crash", "hat", "floor tom", "snare", "kick", "hat foot"]);
    }

    [Fact]
    public void Time_runs_in_proportion()
    {
        var x = Beads(Draw("SN: 1 2 2a 4")).Select(b => Number(b, "cx")).ToList();
        var beat = x[1] - x[0];
        (x[2] - x[1]).ShouldBe(beat * 0.75, 0.05);
        (x[3] - x[0]).ShouldBe(beat * 3, 0.05);
    }

    [Theory]
    [InlineData("SN: 1 a", "1e&a2e&a3e&a4e&a")]
    [InlineData("SN: 1 t l 2", "1tl2e&a3e&a4e&a")]
    [InlineData("SN: 1 ti ta", "1tit&lta2e&a3e&a4e&a")]
    [InlineData("meter 7/8\nSN: 1", "1&2&3&4&5&6&7&")]
    public void Counts_stand_above_as_they_are_spoken(string text, string counts) =>
        string.Concat(Draw(text).Descendants().Where(e => e.Attribute("class")?.Value.StartsWith("count", StringComparison.Ordinal) == true)
            .Select(e => e.Value)).ShouldBe(counts);

    [Fact]
    public void Counts_are_dark_where_something_sounds()
    {
        var sounding = Draw("SN: 2 a").Descendants().Where(e =>
            e.Attribute("class")?.Value.EndsWith("sounds", StringComparison.Ordinal) == true).Select(e => e.Value);
        sounding.ShouldBe(["2", "a"]);
    }

    [Fact]
    public void An_open_hat_rings_until_the_next_stroke_of_hand_or_foot()
    {
        var svg = Draw("HH: 1o 4\nHF: 2");
        var tail = svg.Descendants().Single(e => e.Attribute("class")?.Value == "tail");
        var foot = Number(Beads(svg)[1], "cx");
        Number(tail, "x2").ShouldBeInRange(foot - 12, foot);
    }

    [Fact]
    public void Long_passages_go_on_in_rows_and_no_bead_leaves_the_picture()
    {
        var svg = Draw("HH: 8ths | %*\nSN: 2 4 | %x15");
        Beads(svg).Select(b => Number(b, "cy")).Distinct().Count().ShouldBe(16);
        var (width, height) = (Number(svg, "width"), Number(svg, "height"));
        Beads(svg).ShouldAllBe(b => Number(b, "cx") > 60 && Number(b, "cx") < width && Number(b, "cy") < height);
    }

    [Fact]
    public void A_bar_not_heard_is_shaded_and_says_so() => Titles(Draw("SN: 2 4\nBD: ?")).ShouldContain("kick not heard in bar 1");

    [Fact]
    public void Both_hands_at_once_are_one_letter() => Texts(Draw("HH: 1R 2R\nSN: 1L 3L"), "hand").ShouldBe(["B", "R", "L"]);

    [Fact]
    public void Sightings_are_brackets_with_their_nickname_and_overlapping_ones_take_another_line()
    {
        Bracket[] brackets = [new(new(0), new(20160), "one", false, "/sightings/1"), new(new(10080), new(30240), "other", true, null)];
        var svg = Element(Strands.Draw(CountLines.Parse("SN: 16ths").Passage, new() { Brackets = brackets }));
        var names = svg.Descendants().Where(e => e.Attribute("class")?.Value.StartsWith("bracket-name", StringComparison.Ordinal) == true)
            .ToList();
        names.Select(n => n.Value).ShouldBe(["one", "other"]);
        Number(names[0], "y").ShouldNotBe(Number(names[1], "y"));
        svg.Descendants().Count(e => e.Name.LocalName == "a").ShouldBe(1);
    }

    [Fact]
    public void Columns_to_pick_from_join_without_gaps_and_end_at_the_end()
    {
        var cells = Element(Strands.Draw(CountLines.Parse("meter 5/8 3/4\nSN: 1 t l | 2").Passage, new() { Pickable = true }))
            .Descendants().Where(e => e.Attribute("class")?.Value == "cell").ToList();
        cells[0].Attribute("data-from")!.Value.ShouldBe("1.1");
        cells[^1].Attribute("data-to")!.Value.ShouldBe("end");
        foreach (var (cell, next) in cells.Zip(cells.Skip(1))) cell.Attribute("data-to")!.Value.ShouldBe(
            next.Attribute("data-from")!.Value);
    }

    [Fact]
    public void The_json_tree_is_the_markup()
    {
        var shape = Strands.Draw(CountLines.Parse("HH: 8ths 4&o\nSN: 2> (2a) 4f").Passage, new() { Pickable = true });
        var json = shape.AsJson();
        Count(json).ShouldBe(Element(shape).DescendantsAndSelf().Count());

        static int Count(System.Text.Json.Nodes.JsonNode node) =>
            1 + (node[2] is System.Text.Json.Nodes.JsonArray children ? children.Sum(c => Count(c!)) : 0);
    }

    [Fact]
    public void Names_are_escaped() =>
        Markup(Strands.Draw(CountLines.Parse("voice P1 <b>gong & co</b>, crash\nP1: 1").Passage, new()))
            .ShouldContain("&lt;b&gt;gong &amp; co&lt;/b&gt;");

    [Fact]
    public void An_empty_passage_draws_nothing_and_does_not_fail() => Beads(Draw("")).ShouldBeEmpty();

    [Fact]
    public void A_concordance_strip_aligns_on_the_first_stroke_and_shows_context_in_grey()
    {
        var passage = CountLines.Parse("HH: 8ths | %\nSN: 2 4 | 2> 4").Passage;
        var strip = new ConcordanceStrip(46, new(40320), new(20160), new(40320));
        HashSet<Voice> scope = [Voice.Snare];
        var early = Element(strip.Draw(passage, new(10080), new(20160), scope, [], "one"));
        var late = Element(strip.Draw(passage, new(50400), new(20160), scope, [(new(50400), Voice.Snare)], "two"));
        double First(XElement svg, string look) => Number(svg.Descendants().First(e => e.Attribute("class")?.Value == look).Elements()
            .Single(e => e.Name.LocalName == "circle"), "cx");
        First(early, "stroke").ShouldBe(First(late, "stroke differs"), 0.01);
        early.Descendants().Count(e => e.Attribute("class")?.Value == "stroke context").ShouldBeGreaterThan(5);
    }

    [Fact]
    public void A_ring_has_a_circle_a_voice_and_the_same_strokes_as_the_strands()
    {
        var passage = CountLines.Parse("HH: 8ths | %\nSN: 2 (2a) 4 | 2 4\nBD: 1 3& | 1").Passage;
        var ring = Ring.Draw(passage).AsJson().ToJsonString();
        System.Text.RegularExpressions.Regex.Count(ring, "\"class\":\"bead").ShouldBe(passage.Strokes.Count);
        System.Text.RegularExpressions.Regex.Count(ring, "\"strand around\"").ShouldBe(3);
        ring.ShouldContain("snare, bar 1, the a of 2");
        Ring.Draw(Passage.Empty).AsJson().ToJsonString().ShouldContain("nothing sounds yet");
    }

    [Fact]
    public void Even_groups_are_even_polygons()
    {
        // Four quarters of one bar lie at the top, right, bottom and left of their circle.
        var ring = Ring.Draw(CountLines.Parse("SN: 1 2 3 4").Passage).AsJson().ToJsonString();
        ring.ShouldContain("230,84 376,230 230,376 84,230");
    }

    [Fact]
    public void A_picture_as_a_file_brings_its_looks_and_is_well_formed()
    {
        var svg = XElement.Parse(StandaloneSvg.Of(Strands.Draw(CountLines.Parse("SN: 2 (2a)").Passage, new())));
        svg.Elements().First().Name.LocalName.ShouldBe("style");
        svg.Attribute("viewBox").ShouldNotBeNull();
    }

    private static XElement Draw(string text) => Element(Strands.Draw(CountLines.Parse(text).Passage, new()));

    private static XElement Element(Shape shape) => XElement.Parse(Markup(shape));

    private static string Markup(Shape shape)
    {
        using var writer = new StringWriter(CultureInfo.InvariantCulture);
        shape.AsMarkup().WriteTo(writer, HtmlEncoder.Default);
        return writer.ToString();
    }

    private static List<XElement> Beads(XElement svg) =>
        [.. svg.Descendants().Where(e => e.Attribute("class")?.Value.StartsWith("bead", StringComparison.Ordinal) == true)];

    private static IEnumerable<string> Titles(XElement svg) => svg.Descendants().Where(e => e.Name.LocalName == "title")
        .Select(e => e.Value);

    private static IEnumerable<string> Texts(XElement svg, string look) => svg.Descendants().Where(e => e.Attribute("class")?.Value == look)
        .Select(e => e.Value);

    private static int Looks(XElement svg, string look) => svg.Descendants().Count(e => e.Attribute("class")?.Value == look);

    private static double Number(XElement element, string attribute) =>
        double.Parse(element.Attribute(attribute)!.Value, CultureInfo.InvariantCulture);

    [Fact]
    public void A_ring_shows_the_bar_in_which_a_voice_was_not_heard()
    {
        var ring = Ring.Draw(CountLines.Parse("SN: 2 4 | 2 4\nBD: ? | 1").Passage).AsJson().ToJsonString();
        ring.ShouldContain("kick not heard in bar 1");
    }

    [Fact]
    public void Strands_mark_what_differs_and_cross_what_is_missing()
    {
        var passage = CountLines.Parse("SN: 2 4").Passage;
        var strands = Strands.Draw(passage, new()
        {
            Differing = new HashSet<(Tick, Voice)> { (new(10080), Voice.Snare) },
            Missing = [new(Tick.Zero, Voice.Kick)],
            Also = [Voice.Kick]
        }).AsJson().ToJsonString();
        strands.ShouldContain("stroke differs");
        strands.ShouldContain("no kick here");
    }
}
