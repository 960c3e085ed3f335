using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using AngleSharp.Html.Dom;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>A recording of which nothing is told but its sound.</summary>
public class ProposedByTheEarAlone(Application application) : IClassFixture<Application>
{
    [Fact]
    public async Task Where_nobody_told_a_tempo_or_marked_bars_both_are_the_ears()
    {
        var (id, _) = await HeardAsync("Brass Lantern", sound => sound);
        var proposal = await application.PageAsync($"/recordings/{id}/passages/new?at=0:03.5&hear=2");
        proposal.QuerySelector("#doubt")!.TextContent
            .ShouldMatch(@"by the ear it is 10[345]\.\d quarters a minute, and a bar begins at 0:03\.0");
        CountLines.Parse(proposal.QuerySelector("textarea")!.TextContent).Passage.Strokes.Count(s => s.Voice == Voice.Snare).ShouldBe(4);
        var first = await application.PageAsync($"/recordings/{id}/passages/new?hear=2");
        ((IHtmlInputElement)first.QuerySelector("#Input_StartsAt")!).Value.ShouldStartWith("0:00.7");
    }

    [Fact]
    public async Task A_tempo_that_was_told_roughly_gives_way_to_the_beats_that_were_heard()
    {
        var (id, _) = await HeardAsync("Grey Ladder", sound => sound, tempo: "100");
        var proposal = await application.PageAsync($"/recordings/{id}/passages/new?at=0:00.7&hear=6");
        proposal.QuerySelector("#doubt")!.TextContent.ShouldMatch(@"these bars go at 10[34]\.\d, not at 100\.0");
        var text = CountLines.Parse(proposal.QuerySelector("textarea")!.TextContent).Passage;
        text.Tempo!.Value.Value.ShouldBe(104, 0.6);
        var snares = text.Strokes.Where(s => s.Voice == Voice.Snare).Select(s => s.At.Value / (double)Tick.PerQuarter).ToList();
        snares.Count.ShouldBeGreaterThanOrEqualTo(10, proposal.QuerySelector("textarea")!.TextContent);
        snares.ShouldBeSubsetOf(Enumerable.Range(0, 12).Select(i => 1 + 2.0 * i), "they lie on two and four up to the last bar");
    }

    [Theory]
    [InlineData("Low Orchard", "100", "")]
    [InlineData("High Orchard", "", "tempo 101\n")]
    [InlineData("Far Orchard", "", "")]
    public async Task What_is_written_at_a_clock_time_alone_lies_on_the_beats_that_were_heard(string title, string tempo, string head)
    {
        var (id, _) = await HeardAsync(title, sound => sound, tempo);
        var answer = await application.Client.PostAsJsonAsync($"/recordings/{id}/lines",
            new { text = $"{head}SN: {string.Join(" | ", Enumerable.Repeat("2 4", 6))}", at = "0:00.7" },
            TestContext.Current.CancellationToken);
        var told = (await answer.Content.ReadFromJsonAsync<JsonNode>(TestContext.Current.CancellationToken))!;
        told["by"]!.ToString().ShouldBe("beats");
        var lines = told["lines"]!.AsArray().Select(l => l!.GetValue<double>()).ToList();
        lines.Count.ShouldBe(7);
        foreach (var (line, bar) in lines.Select((line, bar) => (line, bar))) line.ShouldBe(0.7 + bar * 4 * 60 / 104.0, 0.03);
    }

    [Fact]
    public async Task Sixteenths_that_swing_on_the_record_are_proposed_as_sixteenths_that_swing()
    {
        var (id, _) = await HeardAsync("Crooked Mile", sound => sound, "104", "feel swing 16ths 62%\nHH: 16ths\nSN: 2> 4>\nBD: 1 2a 3&");
        var proposal = await application.PageAsync($"/recordings/{id}/passages/new?at=0:00.7&hear=4");
        var text = proposal.QuerySelector("textarea")!.TextContent;
        var read = CountLines.Parse(text).Passage;
        (read.Feel.Swing, read.Feel.SwingSixteenths).ShouldBe((true, true), text);
        read.Feel.SwingShare!.Value.ShouldBe(0.62, 0.03);
        read.Strokes.Count(s => s.At.Value % (Tick.PerQuarter / 4) != 0).ShouldBeLessThanOrEqualTo(2, text);
    }

    [Fact]
    public async Task An_echo_is_told_and_not_taken_for_strokes()
    {
        var (dry, without) = await HeardAsync("Slate Roof", sound => sound);
        without.QuerySelector(".echo").ShouldBeNull();
        var (wet, with) = await HeardAsync("Slate Roof, in the yard", sound =>
        {
            var echoed = sound.ToArray();
            for (var i = 7056; i < echoed.Length; i++) echoed[i] += 0.45f * sound[i - 7056];
            return echoed;
        });
        with.QuerySelector(".echo")!.TextContent.ShouldMatch(@"0:00 to\s+0:19: an echo\s+160 ms after every\s+stroke, [678] dB softer");
        var (struck, found) = (await StrokesAsync(dry), await StrokesAsync(wet));
        struck.Except(found).Concat(found.Except(struck)).Count().ShouldBeLessThanOrEqualTo(2, string.Join(' ', found));

        async Task<string[]> StrokesAsync(int id) => [.. CountLines.Parse((await application.PageAsync(
            $"/recordings/{id}/passages/new?at=0:03.5&hear=2")).QuerySelector("textarea")!.TextContent).Passage.Strokes
            .Select(s => $"{s.Voice.Code} {s.At.Value}")];
    }

    /// <summary>A recording with eight bars at 104 a minute, after 0.7 s of nothing, and its page when the ear has heard it.</summary>
    private async Task<(int Id, IHtmlDocument Listen)> HeardAsync(string title, Func<float[], float[]> through, string tempo = "",
        string text = "HH: 8ths\nSN: 2> 4>\nBD: 1 3&")
    {
        var form = await application.PageAsync("/studies/1/recordings/new");
        ((IHtmlInputElement)form.QuerySelector("#Input_Title")!).Value = title;
        ((IHtmlInputElement)form.QuerySelector("#Input_Tempo")!).Value = tempo;
        var (added, _) = await application.PressAsync(form, "/studies/1/recordings/new", "Add");
        var id = int.Parse(added.RequestMessage!.RequestUri!.Segments[2].Trim('/'), CultureInfo.InvariantCulture);
        var stop = TestContext.Current.CancellationToken;
        var groove = CountLines.Parse(text).Passage;
        var grid = new BarGrid(new MeterCycle([Meter.CommonTime]));
        var map = TempoMap.Of(grid, [new(1, new(0)), new(9, new(18_461))], null)!;
        var played = Simulation.Render(map, grid, 8, new(18.461), [new(1, groove, true)], Synth.Render, 1, SimulatedDay.Of(1, 1972));
        var wav = Wav.Write(through([.. new float[(int)(0.7 * Synth.Rate)], .. played]), 1, Synth.Rate);
        var recording = (await application.Get<RecordingStore>().FindAsync(new(id), stop))!;
        await application.Get<SoundStore>().AttachAsync(recording, await application.Get<SoundFiles>()
            .KeepAsync(new MemoryStream(wav), stop), "unmarked.wav", "audio/wav", wav.Length, 19, false, stop);
        var listen = $"/recordings/{id}/listen";
        await application.WorkAsync(await application.PageAsync(listen), listen, "Listen for strokes and tempo");
        return (id, await application.PageAsync(listen));
    }
}
