using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Playing;

namespace InnerCadence.Web.Tests.Api;

/// <summary>Sounds that are sent: their strokes, beats, and a passage measured against them. They are the core's own, so the truth is
/// known; how good the ear is on others is asked elsewhere.</summary>
public class HeardThroughTheApi(Application application) : IClassFixture<Application>
{
    private const string Groove = "tempo 100\nHH: 8ths | %x3\nSN: 2 4 | %x3\nBD: 1 3& | %x3";

    private static float[] Mix(string text) => Mixdown.Render(Rendition.Of(CountLines.Parse(text).Passage), key => Synth.Render(key));

    private static byte[] Sound(string text) => Wav.Write(Mix(text), 2);

    private async Task<(HttpStatusCode Status, JsonElement Answer)> PostAsync(string address, HttpContent content)
    {
        var stop = TestContext.Current.CancellationToken;
        using var response = await application.Client.PostAsync(address, content, stop);
        return (response.StatusCode, JsonDocument.Parse(await response.Content.ReadAsStringAsync(stop)).RootElement.Clone());
    }

    private static ByteArrayContent AsWav(byte[] sound) => new(sound) { Headers = { ContentType = new MediaTypeHeaderValue("audio/wav") } };

    [Fact]
    public async Task Strokes_come_one_by_one_with_voice_and_loudness_beats_with_bar_lines()
    {
        var (status, answer) = await PostAsync("/api/sound/onsets", AsWav(Sound(Groove)));
        status.ShouldBe(HttpStatusCode.OK);
        answer.GetProperty("ear").GetBoolean().ShouldBeTrue();
        var onsets = answer.GetProperty("onsets").EnumerateArray().ToList();
        onsets.Count(o => o.GetProperty("family").GetString() == "snare").ShouldBeInRange(7, 9);
        onsets.ShouldAllBe(o => o.GetProperty("loudness").GetDouble() > 0 && o.GetProperty("voice").GetString()!.Length > 2
            && o.GetProperty("confidence").GetDouble() >= 0.5);
        onsets.Select(o => o.GetProperty("at").GetDouble()).ShouldBeInOrder();
        answer.GetProperty("beats").EnumerateArray().ShouldNotBeEmpty();
        answer.GetProperty("tempo").EnumerateArray().Sum(t => t.GetProperty("weight").GetDouble()).ShouldBe(1, 0.01);
        answer.GetProperty("echoes").GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task An_echo_of_it_all_is_told()
    {
        var (mix, delay) = (Mix(Groove.Replace("tempo 100", "tempo 80")), 2 * 7056);
        for (var i = mix.Length - 1; i >= delay; i--) mix[i] += 0.4f * mix[i - delay];
        var (_, answer) = await PostAsync("/api/sound/onsets", AsWav(Wav.Write(mix, 2)));
        var echo = answer.GetProperty("echoes").EnumerateArray().ShouldHaveSingleItem();
        echo.GetProperty("after").GetDouble().ShouldBe(0.16, 0.0002);
        echo.GetProperty("decibels").GetDouble().ShouldBe(-8, 2);
        echo.GetProperty("from").GetDouble().ShouldBe(0);
    }

    private static MultipartFormDataContent Form(string text, string at, byte[]? sound)
    {
        var form = new MultipartFormDataContent { { new StringContent(text), "text" }, { new StringContent(at), "at" } };
        if (sound is not null) form.Add(AsWav(sound), "sound", "passage.wav");
        return form;
    }

    [Fact]
    public async Task A_passage_is_measured_against_its_sound()
    {
        // One snare is left out of the sound, a kick is in it that is not written; the tempo told is 1.5 % wrong.
        var (status, answer) = await PostAsync("/api/sound/measure", Form(Groove.Replace("tempo 100", "tempo 101.5"), "0.11",
            Sound("tempo 100\nHH: 8ths | %x3\nSN: 2 4 | 2 | 2 4 | %\nBD: 1 3& | 1 3& | 1 3& 4& | 1 3&")));
        status.ShouldBe(HttpStatusCode.OK);
        answer.GetProperty("strokes").GetArrayLength().ShouldBeGreaterThan(40);
        answer.GetProperty("bars").EnumerateArray().Select(b => b.GetProperty("bpm").GetDouble())
            .ShouldAllBe(bpm => Math.Abs(bpm - 100) < 1);
        answer.GetProperty("missing").EnumerateArray().Select(m => (m.GetProperty("tick").GetInt32() / Core.Music.Tick.PerQuarter,
            m.GetProperty("voice").GetString()))
            .ShouldContain((7, "SN"));
        answer.GetProperty("extra").EnumerateArray().ShouldContain(e => e.GetProperty("family").GetString() == "kick");
        answer.GetProperty("timekeeper").GetString().ShouldBe("HH");
        answer.GetProperty("voices").EnumerateArray().Single(v => v.GetProperty("voice").GetString() == "HH").GetProperty("meanMs")
            .GetDouble()
            .ShouldBe(0, 0.5);
    }

    [Fact]
    public async Task An_idea_is_found_where_it_was_planted()
    {
        const string played = "tempo 100\nHH: 8ths | % | 1 2 3 | 8ths | % | 1 2 3 | 8ths\nSN: 2 4 | % | 2 4 e & | 2 4 | % | 2 4 e & | 2 "
            + "4\nBD: 1 3 | %x6";
        var form = new MultipartFormDataContent
        {
            { new StringContent("""{"text":"SN: 4 e &","rules":{"placement":"same-place-in-the-bar"}}"""), "idea" }, { new StringContent("100"), "tempo" },
            { new StringContent("4/4"), "meter" }, { new StringContent("""[{"bar":1,"at":0.1}]"""), "marks" },
        };
        form.Add(AsWav(Sound(played)), "sound", "played.wav");
        var (status, answer) = await PostAsync("/api/sound/find", form);
        status.ShouldBe(HttpStatusCode.OK, answer.ToString());
        var places = answer.GetProperty("places").EnumerateArray().ToList();
        places.Take(2).Select(p => p.GetProperty("bar").GetInt32()).Order().ShouldBe([3, 6]);
        places[0].GetProperty("strokes").GetArrayLength().ShouldBe(3);
        places[0].GetProperty("at").GetDouble().ShouldBe(places[0].GetProperty("bar").GetInt32() == 3 ? 6.7 : 13.9, 0.01);
    }

    [Fact]
    public async Task What_cannot_be_measured_is_refused_in_a_sentence()
    {
        foreach (var (text, at, sound, says) in ((string, string, byte[]?, string)[])[
            ("", "0", Sound(Groove), "text"), (Groove, "soon", Sound(Groove), "at is"), (Groove, "0", null, "sound is"),
                (Groove, "0", [1, 2, 3], "WAV")])
        {
            var (status, answer) = await PostAsync("/api/sound/measure", Form(text, at, sound));
            status.ShouldBe(HttpStatusCode.BadRequest);
            answer.GetProperty("detail").GetString()!.ShouldContain(says);
        }
    }
}
