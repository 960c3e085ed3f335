using System.Globalization;
using System.Xml.Linq;
using InnerCadence.Storage.Recordings;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Recordings;

namespace InnerCadence.Web.Tests.Drawing;

/// <summary>The strip of a whole recording, and the stretches of it that are shown.</summary>
public class LongStrips
{
    private static readonly Recording Piece = new() { Id = new(7), Title = "Piece", Meter = "4/4", TotalBars = 64, DurationMs = 128_000 };

    private static Timeline Marked(string form = "") =>
        Timeline.Of(Piece.Meters, null, form, null, "", [new(1, new(0)), new(33, new(64_000)), new(65, new(128_000))]);

    private static StripView View(Timeline timeline, double? from = null, double? to = null, byte[]? sound = null,
        params CoverageRow[] coverage) => new(Piece, timeline, [], coverage, [], sound, from, to);

    private static XElement Draw(StripView view)
    {
        using var text = new StringWriter();
        view.Picture.AsMarkup().WriteTo(text, System.Text.Encodings.Web.HtmlEncoder.Default);
        return XElement.Parse(text.ToString());
    }

    private static List<XElement> Of(XElement picture, string look) =>
        [.. picture.Descendants().Where(e => e.Attribute("class")?.Value == look)];

    private static double Number(XElement element, string name) =>
        double.Parse(element.Attribute(name)!.Value, CultureInfo.InvariantCulture);

    [Fact]
    public void Sections_stand_where_their_bars_are_on_the_clock()
    {
        var picture = Draw(View(Marked("verse 32, chorus 16 of 4/4, verse 16")));
        var sections = Of(picture, "section");
        sections.Count.ShouldBe(3);
        Number(sections[0], "width").ShouldBe(Number(sections[1], "width") * 2, 0.1);
        Number(sections[1], "x").ShouldBe(1196 / 2.0, 0.1);
        Of(picture, "section-name").Select(t => t.Value).ShouldBe(["verse 1", "chorus, 4/4", "verse 2"]);
    }

    [Fact]
    public void What_was_searched_is_drawn_once_and_as_closely_as_it_was()
    {
        var picture = Draw(View(Marked(), null, null, null,
            new() { Closeness = "listened", FromBar = 1, Bars = 32 }, new() { Closeness = "listened", FromBar = 17, Bars = 16 },
                new() { Closeness = "skimmed", FromBar = 1, Bars = 48 }));
        Number(Of(picture, "cover-listened").ShouldHaveSingleItem(), "width").ShouldBe(598, 0.1);
        Number(Of(picture, "cover-skimmed").ShouldHaveSingleItem(), "x").ShouldBe(598, 0.1);
    }

    [Fact]
    public void An_amount_that_is_the_whole_recording_has_its_place_and_another_has_none()
    {
        Of(Draw(View(Marked(), null, null, null, new CoverageRow { Closeness = "listened", Bars = 64 })),
            "cover-listened").Count.ShouldBe(1);
        Of(Draw(View(Marked(), null, null, null, new CoverageRow { Closeness = "listened", Bars = 40 })), "cover-listened").ShouldBeEmpty();
    }

    [Fact]
    public void A_sound_is_drawn_as_loud_as_it_is_in_the_stretch_that_is_shown()
    {
        byte[] sound = [.. Enumerable.Repeat((byte)255, 3200), .. Enumerable.Repeat((byte)0, 3200)];
        string Path(double from, double to) => Of(Draw(View(Marked(), from, to, sound)), "wave").Single().Attribute("d")!.Value;
        Path(0, 60).ShouldContain("v56");
        Path(66, 120).ShouldNotContain("v56");
        Of(Draw(View(Marked())), "wave").ShouldBeEmpty();
    }

    [Theory]
    [InlineData(null, null, 0, 128)]
    [InlineData(10.0, 20.0, 10, 20)]
    [InlineData(-5.0, 500.0, 0, 128)]
    [InlineData(20.0, 10.0, 20, 20.5)]
    [InlineData(200.0, 300.0, 127.5, 128)]
    public void Any_stretch_that_is_asked_for_lies_in_the_recording(double? from, double? to, double shownFrom, double shownTo)
    {
        var view = View(Marked(), from, to);
        (view.From, view.To).ShouldBe((shownFrom, shownTo));
        view.IsWhole.ShouldBe(shownFrom == 0 && shownTo == 128);
    }

    [Fact]
    public void Nearer_farther_earlier_and_later_are_addresses()
    {
        var view = View(Marked(), 32, 96);
        view.Stretch(2, 0).ShouldBe("/recordings/7?from=48&to=80");
        view.Stretch(0.5, 0).ShouldBe("/recordings/7", "all of it");
        view.Stretch(1, 0.5).ShouldBe("/recordings/7?from=64&to=128");
        view.Stretch(1, -0.5).ShouldBe("/recordings/7?from=0&to=64");
        View(Marked(), 100, 128).Stretch(1, 0.5).ShouldBe("/recordings/7?from=100&to=128", "it ends there");
    }

    [Fact]
    public void Without_marks_bars_are_spread_over_the_length_and_without_a_length_there_is_no_clock()
    {
        var guessed = View(Timeline.Of(Piece.Meters, null, "verse 32, chorus 32", null, "", []));
        (guessed.IsGuess, guessed.HasClock, Of(Draw(guessed), "section").Count).ShouldBe((true, true, 2));
        new StripView(Piece with { DurationMs = null }, Timeline.Of(Piece.Meters, 120, "", null, "", []), [], [], [], null, null,
            null).HasClock.ShouldBeFalse();
    }

    [Fact]
    public void Names_that_would_lie_over_each_other_stand_in_rows_of_their_own()
    {
        var strip = new LongStrip
        {
            Label = "strip",
            From = 0,
            To = 100,
            Timeline = Marked(),
            Map = Marked().Map,
            Covered = [],
            TotalBars = 64,
            Marks = [new(10, "cellar door", "match", "/sightings/1"), new(11, "rope ladder", "near", "/sightings/2"),
                new(60, "paddle", "match", "/sightings/3"), new(400, "outside", "match", "/sightings/4")],
        };
        using var text = new StringWriter();
        strip.Draw().AsMarkup().WriteTo(text, System.Text.Encodings.Web.HtmlEncoder.Default);
        var names = XElement.Parse(text.ToString()).Descendants()
            .Where(e => e.Attribute("class")?.Value.StartsWith("found-name", StringComparison.Ordinal) == true).ToList();
        names.Select(n => n.Value).ShouldBe(["cellar door", "rope ladder", "paddle"]);
        Number(names[1], "y").ShouldBe(Number(names[0], "y") + 17);
        Number(names[2], "y").ShouldBe(Number(names[0], "y"));
    }

    [Fact]
    public void The_tempo_is_a_curve_over_its_stretches()
    {
        var timeline = Timeline.Of(Piece.Meters, null, "", null, "",
            [new(1, new(0)), new(17, new(32_000)), new(33, new(62_000)), new(65, new(128_000))]);
        var points = Of(Draw(View(timeline)), "tempo-curve").Single().Attribute("points")!.Value.Split(' ')
            .Select(p => double.Parse(p.Split(',')[1], CultureInfo.InvariantCulture)).ToList();
        points.Count.ShouldBe(3);
        points[1].ShouldBeLessThan(points[0], "the second stretch is faster and lies higher");
        points[2].ShouldBeGreaterThan(points[1]);
    }
}
