using System.Buffers.Binary;
using System.Net;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>A place whose record is not at hand is heard as it is written.</summary>
public class HeardAsWritten(Application application) : IClassFixture<Application>
{
    private async Task<double> SecondsAsync(string address)
    {
        var wav = await application.Client.GetByteArrayAsync(address, TestContext.Current.CancellationToken);
        wav.AsSpan(0, 4).SequenceEqual("RIFF"u8).ShouldBeTrue();
        var (rate, data) = (BinaryPrimitives.ReadInt32LittleEndian(wav.AsSpan(28)), wav.Length - 44);
        return (double)data / rate;
    }

    [Fact]
    public async Task From_its_first_stroke_until_the_last_has_rung_out_at_the_speed_that_is_asked_for()
    {
        // The cellar door lasts from the e of 3 to 4, three sixteenths at 104.
        var strokes = 3 * 60 / 104.0 / 4;
        var whole = await SecondsAsync("/sightings/1/written.wav");
        whole.ShouldBe(0.1 + strokes + 0.9, 0.05);
        (await SecondsAsync("/sightings/1/written.wav?percent=50")).ShouldBe(whole + strokes, 0.05);
        (await SecondsAsync("/sightings/1/written.wav?percent=NaN")).ShouldBe(whole, 0.01);
        (await application.Client.GetAsync("/sightings/99999/written.wav", TestContext.Current.CancellationToken)).StatusCode
            .ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Every_place_of_the_list_can_be_heard()
    {
        var page = await application.PageAsync("/ideas/1");
        page.QuerySelectorAll("table.concordance tr.place .hear").Length.ShouldBe(
            page.QuerySelectorAll("table.concordance tr.place[id^='sighting']").Length);
        page.QuerySelector("#in-turn").ShouldNotBeNull();
    }
}
