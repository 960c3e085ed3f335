using System.Globalization;
using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>A place lies under its model: first strokes in one line, what differs in both, and what is said of it.</summary>
public class JudgingInOnePicture(Application application) : IClassFixture<Application>
{
    /// <summary>Where the idea's strokes stand, those too that are missing.</summary>
    private static List<double> Of(IHtmlDocument page, string picture) =>
        [.. page.QuerySelectorAll($"{picture} svg.laid .stroke:not(.context) circle.bead, {picture} svg.laid circle.expected")
            .Select(c => double.Parse(c.GetAttribute("cx")!, CultureInfo.InvariantCulture)).Order()];

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(5)]
    [InlineData(9)]
    [InlineData(10)]
    [InlineData(14)]
    public async Task First_strokes_stand_in_one_line_and_every_pair_has_a_thread(int sighting)
    {
        var page = await application.PageAsync($"/sightings/{sighting}");
        var (model, here) = (Of(page, "#exemplar"), Of(page, "#here"));
        model.ShouldNotBeEmpty();
        here[0].ShouldBe(model[0], 0.2);
        page.QuerySelectorAll("#exemplar .thread").Length.ShouldBe(page.QuerySelectorAll("#here .thread").Length);
        page.QuerySelectorAll("#here .thread").Length.ShouldBeLessThanOrEqualTo(model.Count);
        var differs = page.QuerySelectorAll("svg.laid .differs, svg.laid .expected").Length > 0;
        page.QuerySelector(".said")!.TextContent.Contains("No difference", StringComparison.Ordinal).ShouldBe(!differs
            && page.QuerySelector(".said b") is null);
    }

    [Fact]
    public async Task The_name_of_the_judge_is_asked_once()
    {
        var page = await application.PageAsync("/sightings/1");
        page.QuerySelector("#judge-name").ShouldNotBeNull();
        await application.SendAsync(page, "/sightings/1", ("judgement", "Confirmed"), ("judge", "Ada Brill"));
        (await application.PageAsync("/sightings/1")).QuerySelector("#judge-name").ShouldBeNull();
        ((IHtmlInputElement)(await application.PageAsync("/settings")).QuerySelector("#Judge")!).Value.ShouldBe("Ada Brill");
    }
}
