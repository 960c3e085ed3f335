using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace InnerCadence.Web.Tests.Api;

/// <summary>Moves on a text through the API, and the pictures the scripts ask for.</summary>
public class Editing(Application application) : IClassFixture<Application>
{
    private const string Groove = "HH: 8ths\nSN: 2 4\nBD: 1 3\n";

    private async Task<(HttpStatusCode Status, string Said)> EditAsync(object move)
    {
        var answer = await application.Client.PostAsJsonAsync("/api/count-lines/edit", move, TestContext.Current.CancellationToken);
        var told = JsonNode.Parse(await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))!;
        return (answer.StatusCode, (told["text"] ?? told["detail"])!.ToString());
    }

    [Theory]
    [InlineData("toggle", 2520, "SN", "HH: 8ths\nSN: 1e 2 4\nBD: 1 3\n")]
    [InlineData("remove", 10080, "SN", "HH: 8ths\nSN: 4\nBD: 1 3\n")]
    [InlineData("ghost", 10080, "SN", "HH: 8ths\nSN: (2) 4\nBD: 1 3\n")]
    [InlineData("accent", 30240, "SN", "HH: 8ths\nSN: 2 4>\nBD: 1 3\n")]
    [InlineData("open", 35280, "HH", "HH: 8ths 4&o\nSN: 2 4\nBD: 1 3\n")]
    public async Task A_move_answers_with_the_text_after_it(string move, int at, string voice, string expected) =>
        (await EditAsync(new { text = Groove, @do = move, strokes = new[] { new { at, voice } } })).ShouldBe((HttpStatusCode.OK, expected));

    [Theory]
    [InlineData(10080, "HH: 8ths\nSN: (2) 4\nBD: 1 3\n")]
    [InlineData(0, "HH: 8ths\nSN: (1) 2 4\nBD: 1 3\n")]
    public async Task A_mark_that_sets_comes_with_its_stroke_where_there_is_none(int at, string expected) =>
        (await EditAsync(new { text = Groove, @do = "mark", mark = "ghost", sets = true, strokes = new[] { new { at, voice = "SN" } } }))
            .ShouldBe((HttpStatusCode.OK, expected));

    [Fact]
    public async Task A_shift_takes_strokes_along_and_a_drum_too()
    {
        (await EditAsync(new
        {
            text = Groove,
            @do = "shift",
            by = 5040,
            strokes = new[] { new { at = 0, voice = "BD" }, new { at = 20160, voice = "BD" } }
        }))
            .ShouldBe((HttpStatusCode.OK, "HH: 8ths\nSN: 2 4\nBD: 1& 3&\n"));
        (await EditAsync(new { text = Groove, @do = "shift", voice = "T1", strokes = new[] { new { at = 30240, voice = "SN" } } }))
            .ShouldBe((HttpStatusCode.OK, "HH: 8ths\nSN: 2\nBD: 1 3\nT1: 4\n"));
    }

    [Fact]
    public async Task What_cannot_be_done_is_said()
    {
        (await EditAsync(new
        {
            text = Groove,
            @do = "shift",
            by = 5040,
            strokes = new[] { new { at = 0, voice = "HH" } }
        })).Said.ShouldStartWith("There is no room");
        (await EditAsync(new { text = Groove, @do = "ghost", strokes = new[] { new { at = 0, voice = "SN" } } })).Said.ShouldBe(
            "No stroke is there.");
        (await EditAsync(new { text = Groove, @do = "toggle", strokes = new[] { new { at = 999999, voice = "SN" } } })).Said.ShouldBe(
            "A stroke lies outside the passage.");
        (await EditAsync(new { text = Groove, @do = "toggle", strokes = new[] { new { at = 0, voice = "KAZOO" } } })).Said.ShouldBe(
            "‘KAZOO’ is no voice here.");
        (await EditAsync(new { text = Groove, @do = "paint" })).Said.ShouldStartWith("do is one of");
        (await EditAsync(new { text = "SN: 9", @do = "canonical" })).Said.ShouldStartWith("Line 1 has a problem");
        (await EditAsync(new { text = Groove, @do = "toms", toms = "7" })).Said.ShouldStartWith("Say 1 to 4 toms");
        (await EditAsync(new { text = Groove, @do = "repeat-bar", bar = 9 })).Said.ShouldStartWith("There is no such bar");
    }

    [Fact]
    public async Task Taps_become_a_line_of_their_voice_and_doubtful_ones_are_marked()
    {
        var answer = await application.Client.PostAsJsonAsync("/api/count-lines/tapped",
            new { text = "tempo 120\nHH: 8ths\n", voice = "SN", onsets = new[] { 0.51, 1.49, 1.76 } },
            TestContext.Current.CancellationToken);
        var told = (await answer.Content.ReadFromJsonAsync<JsonNode>(TestContext.Current.CancellationToken))!;
        told["text"]!.ToString().ShouldBe("tempo 120\nHH: 8ths\nSN: 2 4 &\n");
        told["strokes"]!.GetValue<int>().ShouldBe(3);
        told["played"]!.ToJsonString().ShouldBe("""[[10080,"SN",10,null],[30240,"SN",-10,null],[35280,"SN",10,null]]""");
        var bad = await application.Client.PostAsJsonAsync("/api/count-lines/tapped",
            new { text = "HH: 8ths", voice = "SN", onsets = new[] { 0.5 } }, TestContext.Current.CancellationToken);
        bad.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await bad.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain("Say the tempo first");
    }

    [Fact]
    public async Task A_staff_tells_every_sign_and_leaves_hidden_voices_out()
    {
        async Task<JsonNode> Staff(string query) => (await (await application.Client.PostAsJsonAsync("/api/count-lines/parse?picture=staff"
            + query, new { text = "HH: 8ths\nSN: 2 (2a) 4>f | %\nBD: 1t\n" }, TestContext.Current.CancellationToken))
            .Content.ReadFromJsonAsync<JsonNode>(TestContext.Current.CancellationToken))!["picture"]!;
        var staff = await Staff("&bar=7");
        staff["firstBar"]!.GetValue<int>().ShouldBe(7);
        var bar = staff["bars"]![0]!;
        bar["meter"]!.ToString().ShouldBe("4/4");
        var heads = bar["hands"]!.AsArray().SelectMany(s => s!["heads"]!.AsArray()).Select(h => h!["voice"]!.ToString()).ToList();
        heads.Count(v => v == "HH").ShouldBe(8);
        heads.Count(v => v == "SN").ShouldBe(3);
        bar["hands"]!.AsArray().Count(s => s!["graces"]!.GetValue<int>() == 1 && s["accent"]!.GetValue<bool>()).ShouldBe(1);
        bar["feet"]!.AsArray().First(s => s!["tuplet"] is not null)!["tuplet"]!.ToJsonString().ShouldBe("[0,3,2]");
        (await Staff("&hide=HH"))["bars"]![0]!["hands"]!.AsArray().SelectMany(s => s!["heads"]!.AsArray())
            .ShouldAllBe(h => h!["voice"]!.ToString() == "SN");
    }

    [Fact]
    public async Task Another_click_is_heard_and_a_value_that_is_none_is_refused()
    {
        async Task<HttpResponseMessage> Click(string click) =>
            await application.Client.PostAsJsonAsync("/api/sound/performance", new { text = "tempo 60\nSN: 1\n", click },
            TestContext.Current.CancellationToken);
        var told = (await (await Click("3/8")).Content.ReadFromJsonAsync<JsonNode>(TestContext.Current.CancellationToken))!;
        told["beats"]!.AsArray().Select(b => b![0]!.GetValue<double>()).ShouldBe([0, 1.5, 3]);
        (await Click("1/7")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Click("often")).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }
}
