using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using AngleSharp.Html.Dom;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Wherever a passage is shown its record is one key away; what a page asks about it is answered, or refused in a
/// sentence.</summary>
public class TheRecordInTheRoom(Application application) : IClassFixture<Application>
{
    private const int Rate = 8000;
    private static CancellationToken Stop => TestContext.Current.CancellationToken;

    /// <summary>Recording 2 of the demo has its bars marked; here it gets two minutes of a click every half second.</summary>
    private async Task AttachAsync()
    {
        if (await application.Get<SoundStore>().OfRecordingAsync(new(2), Stop) is not null) return;
        var samples = new float[120 * Rate];
        for (var click = 0; click < 240; click++)
            for (var i = 0; i < 200; i++) samples[click * Rate / 2 + i] = (float)Math.Exp(-i / 40.0);
        var wav = Wav.Write(samples, 1, Rate);
        var recording = (await application.Get<RecordingStore>().FindAsync(new(2), Stop))!;
        await application.Get<SoundStore>().AttachAsync(recording, await application.Get<SoundFiles>()
            .KeepAsync(new MemoryStream(wav), Stop), "side.wav",
            "audio/wav", wav.Length, 120, false, Stop);
    }

    private async Task<JsonElement> LinesAsync(object asked)
    {
        var answer = await application.Client.PostAsJsonAsync("/recordings/2/lines", asked, Stop);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        return await answer.Content.ReadFromJsonAsync<JsonElement>(Stop);
    }

    private static double[] Lines(JsonElement answer) => [.. answer.GetProperty("lines").EnumerateArray().Select(l => l.GetDouble())];

    [Theory, InlineData(100), InlineData(50), InlineData(70)]
    public async Task A_loop_is_cut_to_the_sample_at_any_speed(int speed)
    {
        await AttachAsync();
        var wav = await application.Client.GetByteArrayAsync($"/recordings/2/loop.wav?from=10.0&to=12.5&speed={speed}", Stop);
        var head = WavHead.Read(wav, wav.Length).Head!;
        head.Frames.ShouldBe((long)Math.Round(2.5 * Rate * 100 / speed));
        // Before its start the record is silent, and so after its end.
        var before = await application.Client.GetByteArrayAsync("/recordings/2/loop.wav?from=-1&to=0.5", Stop);
        WavHead.Read(before, before.Length).Head!.Frames.ShouldBe((long)(1.5 * Rate));
    }

    [Fact]
    public async Task A_loop_of_a_sound_that_was_replaced_is_asked_for_anew()
    {
        var recording = (await application.Get<RecordingStore>().FindAsync(new(13), Stop))!;
        var tags = new List<string>();
        foreach (var loud in (float[])[0.2f, 0.8f])
        {
            var wav = Wav.Write([.. Enumerable.Repeat(loud, 3 * Rate)], 1, Rate);
            await application.Get<SoundStore>().AttachAsync(recording, await application.Get<SoundFiles>()
                .KeepAsync(new MemoryStream(wav), Stop),
                "side.wav", "audio/wav", wav.Length, 3, false, Stop);
            var answer = await application.Client.GetAsync("/recordings/13/loop.wav?from=0&to=1", Stop);
            answer.Headers.CacheControl!.NoCache.ShouldBeTrue();
            tags.Add(answer.Headers.ETag!.Tag);
        }
        tags.Distinct().Count().ShouldBe(2);
    }

    [Theory]
    [InlineData("from=0&to=61&speed=25")]
    [InlineData("from=0&to=241")]
    [InlineData("from=5&to=5")]
    [InlineData("from=0&to=1&speed=10")]
    [InlineData("from=0&to=1&part=cowbell")]
    [InlineData("from=NaN&to=1")]
    [InlineData("from=0&to=1e300")]
    [InlineData("from=&to=")]
    public async Task A_loop_that_cannot_be_is_refused(string asked)
    {
        await AttachAsync();
        (await application.Client.GetAsync($"/recordings/2/loop.wav?{asked}", Stop)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await application.Client.GetAsync("/recordings/2/energy?from=0&to=241", Stop)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await application.Client.GetAsync("/recordings/9/loop.wav?from=0&to=1", Stop)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await application.Client.GetAsync("/recordings/2/film", Stop)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Theory, InlineData("drums"), InlineData("low"), InlineData("high"), InlineData("left"), InlineData("mid"), InlineData("side")]
    public async Task Every_part_of_a_record_is_as_long_as_the_whole(string part)
    {
        await AttachAsync();
        var wav = await application.Client.GetByteArrayAsync($"/recordings/2/loop.wav?from=3&to=4&part={part}", Stop);
        WavHead.Read(wav, wav.Length).Head!.Frames.ShouldBe(Rate);
    }

    [Fact]
    public async Task Bar_lines_follow_what_is_typed()
    {
        await AttachAsync();
        var marked = Lines(await LinesAsync(new { text = "SN: 2 4 | 2 4", bar = "20", at = "" }));
        marked.Length.ShouldBe(3);
        var off = await LinesAsync(new { text = "SN: 2 4", bar = "20", at = new ClockTime((int)(marked[0] * 1000) + 100).ToString() });
        off.GetProperty("off").GetDouble().ShouldBe(100, 1);
        Lines(off)[0].ShouldBe(marked[0] + 0.1, 0.002, "what was typed was heard there");
        Lines(await LinesAsync(new { text = "tempo 120\nSN: 2 4", bar = "", at = "0:10-0:14" })).ShouldBe([10, 12]);
        Lines(await LinesAsync(new { text = "", bar = "20", at = "" })).Length.ShouldBe(3, "nothing is written yet: two bars are heard");
        Lines(await LinesAsync(new { text = "SN: 2", bar = "many", at = "soon" })).ShouldBeEmpty();
        Lines(await LinesAsync(new { text = (string?)null, bar = (string?)null, at = (string?)null })).ShouldBeEmpty();
    }

    [Fact]
    public async Task Energy_rises_where_something_is_struck()
    {
        await AttachAsync();
        var told = await application.Client.GetFromJsonAsync<JsonElement>("/recordings/2/energy?from=10.25&to=11.25", Stop);
        double[] peak = [.. told.GetProperty("peak").EnumerateArray().Select(p => p.GetDouble())];
        peak.Length.ShouldBe(200);
        (peak[49] < 0.1 && peak[50] > 0.5).ShouldBeTrue("the click at 10.5 s is the fiftieth step");
    }

    [Fact]
    public async Task Every_page_with_a_passage_has_its_record_and_without_a_sound_none()
    {
        await AttachAsync();
        foreach (var page in (string[])["/passages/6", "/passages/6/rhythm", "/passages/6/hands", "/passages/6/own-hands",
            "/recordings/2/passages/new"])
            (await application.PageAsync(page)).QuerySelector("[data-record='/recordings/2'] [data-hears=record]").ShouldNotBeNull(page);
        (await application.PageAsync("/studies/1/pair?one=6&two=5")).QuerySelectorAll("[data-record^='/']").Length.ShouldBe(2);
        foreach (var page in (string[])["/passages/14", "/passages/14/rhythm"])
            (await application.PageAsync(page)).QuerySelector("[data-record^='/']").ShouldBeNull(page);
    }

    [Fact]
    public async Task Blind_the_record_is_played_from_an_address_that_does_not_tell_which_it_is()
    {
        await AttachAsync();
        for (var number = 1; number < 60; number++)
        {
            var page = await application.PageAsync($"/studies/1/blind?seed=7&number={number}");
            if (page.QuerySelector("[data-record^='/']") is not { } player) continue;
            player.GetAttribute("data-record").ShouldStartWith("/sightings/");
            player.GetAttribute("data-bar").ShouldBeNullOrEmpty();
            (await application.Client.GetAsync(player.GetAttribute("data-record") + "/loop.wav?from=1&to=2",
                Stop)).StatusCode.ShouldBe(HttpStatusCode.OK);
            return;
        }
        throw new InvalidOperationException("No excerpt of the recording came.");
    }

    [Fact]
    public async Task What_was_looped_is_written_down_with_its_place_filled_in_and_gone_back_to()
    {
        await AttachAsync();
        const string address = "/recordings/2/passages/new?at=1:00&to=1:04.500&back=listen&speed=50";
        var page = await application.PageAsync(address);
        ((IHtmlInputElement)page.QuerySelector("#Input_Bar")!).Value.ShouldBe("27");
        page.QuerySelector("textarea.counts")!.TextContent.ShouldContain("tempo 106");
        var (response, _) = await application.SendAsync(page, address, ("Input.Text", "SN: 2 4 | 2 4"));
        response.RequestMessage!.RequestUri!.PathAndQuery.ShouldBe("/recordings/2/listen?from=1:00&to=1:04.500&speed=50");
    }

    [Fact]
    public async Task A_bar_of_the_chart_is_understood_where_a_chart_is_laid_beside_it()
    {
        var page = await application.PageAsync("/recordings/4/passages/new");
        var (refused, told) = await application.SendAsync(page, "/recordings/4/passages/new", ("Input.Text", "SN: 2"),
            ("Input.Bar", "chart 66"));
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        told.QuerySelector("#Input_Bar-error")!.TextContent.ShouldContain("No chart is laid beside this recording yet");
        var recording = (await application.Get<RecordingStore>().FindAsync(new(4), Stop))!;
        await application.Get<TimelineStore>().SaveChartAsync(new(4), 3, "", recording.Version, Stop);
        var (response, saved) = await application.SendAsync(told, "/recordings/4/passages/new", ("Input.Text", "SN: 2"),
            ("Input.Bar", "chart 12"));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        ((IHtmlInputElement)saved.QuerySelector("#Input_Bar")!).Value.ShouldBe("14");
    }

    [Fact]
    public async Task A_place_beyond_the_end_is_doubted_and_kept()
    {
        var page = await application.PageAsync("/recordings/5/passages/new");
        var (_, saved) = await application.SendAsync(page, "/recordings/5/passages/new", ("Input.Text", "SN: 2"),
            ("Input.StartsAt", "59:00"));
        saved.QuerySelector(".notice")!.TextContent.ShouldContain("is said to end at");
        ((IHtmlInputElement)saved.QuerySelector("#Input_StartsAt")!).Value.ShouldBe("59:00");
        var (_, refused) = await application.SendAsync(await application.PageAsync("/recordings/5/passages/new"),
            "/recordings/5/passages/new",
            ("Input.Text", "SN: 2"), ("Input.StartsAt", "1:50-1:40"));
        refused.QuerySelector("#Input_StartsAt-error")!.TextContent.ShouldContain("ends before it begins");
    }
}
