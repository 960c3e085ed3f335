using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace InnerCadence.Web.Tests.Api;

/// <summary>The checked cases once more, through the API, and its answers to bad questions.</summary>
public class ApiVectors(Application application) : IClassFixture<Application>
{
    [Fact]
    public async Task Every_case_of_matching_holds_through_the_api()
    {
        foreach (var found in Cases("ideas"))
        {
            var answer = await PostAsync("/api/ideas/match",
                new JsonObject { ["idea"] = found["idea"]!.DeepClone(), ["passage"] = found["passage"]!.DeepClone() });
            var sightings = answer["sightings"]!.AsArray();
            sightings.Select(Line).ShouldBe(found["expect"]!.AsArray().Select(Line), found["name"]!.ToString());
            foreach (var sighting in sightings)
            {
                sighting!["summary"]!.ToString().ShouldNotBeEmpty();
                if ((int)sighting["cost"]! > 0) sighting["edits"]!.AsArray().Count.ShouldBeGreaterThan(0);
            }
        }
    }

    [Fact]
    public async Task Every_case_of_presence_and_rate_holds_through_the_api()
    {
        foreach (var found in Cases("evidence").Where(c => c["call"]!.ToString() is "presence" or "rate"))
        {
            var answer = await PostAsync($"/api/evidence/{found["call"]}", found["in"]!.DeepClone().AsObject());
            foreach (var (name, value) in found["expect"]!.AsObject())
            {
                if (name == "status") answer[name]!.ToString().ShouldBe(value!.ToString());
                else answer[name]!.GetValue<double>().ShouldBe(value!.GetValue<double>(),
                    Math.Max(1e-9, Math.Abs(value.GetValue<double>()) * 1e-6), found["name"]!.ToString());
            }
        }
    }

    [Fact]
    public async Task Every_case_of_comparing_holds_through_the_api()
    {
        foreach (var found in Cases("evidence").Where(c => c["call"]!.ToString() is "contrast" or "adjust" or "threshold" or "times"))
            Same(await PostAsync($"/api/evidence/{found["call"]}", found["in"]!.DeepClone().AsObject()), found["expect"]!,
                found["name"]!.ToString());
    }

    [Fact]
    public async Task Every_case_of_rhythm_that_has_a_call_holds_through_the_api()
    {
        foreach (var found in Cases("rhythm"))
        {
            var (name, expect) = (found["name"]!.ToString(), found["expect"]!.AsObject());
            if (found["kind"]!.ToString() == "realign")
                Same(await PostAsync("/api/rhythm/realign",
                    new JsonObject { ["cycleTicks"] = found["cycleTicks"]!.DeepClone(), ["meters"] = found["meters"]!.DeepClone() }),
                    expect, name);
            if (found["kind"]!.ToString() != "describe") continue;
            var answer = await PostAsync("/api/rhythm/describe",
                new JsonObject { ["text"] = found["text"]!.DeepClone(), ["looped"] = found["looped"]!.DeepClone() });
            foreach (var (what, value) in expect)
            {
                if (what != "groupings") Same(answer[what]!, value!, name);
                else answer[what]!.AsArray().Select(g => g!.ToJsonString()).ShouldContain(value![0]!.ToJsonString(), name);
            }
        }
    }

    /// <summary>Numbers to a millionth, all else as it is; what the answer has beside is left.</summary>
    private static void Same(JsonNode? answer, JsonNode? expected, string name)
    {
        switch (expected)
        {
            case null:
                answer.ShouldBeNull(name);
                break;
            case JsonObject members:
                foreach (var (key, value) in members) Same(answer![key], value, $"{name}, {key}");
                break;
            case JsonArray items:
                answer!.AsArray().Count.ShouldBe(items.Count, name);
                for (var i = 0; i < items.Count; i++) Same(answer![i], items[i], $"{name} {i}");
                break;
            default:
                if (double.TryParse(expected.ToString(), System.Globalization.CultureInfo.InvariantCulture,
                    out var number)) answer!.GetValue<double>().ShouldBe(number, Math.Max(Math.Abs(number) * 1e-6, 1e-24), name);
                else answer!.ToString().ShouldBe(expected.ToString(), name);
                break;
        }
    }

    [Fact]
    public async Task Reading_gives_strokes_words_canonical_text_and_a_picture()
    {
        var answer = await PostAsync("/api/count-lines/parse?picture=strands",
            new JsonObject { ["text"] = "meter 7/8(2+2+3)\ntempo 96\nHH: 8ths 4&o\nSN: 3>fR (6a)?\nBD: ?" });
        answer["meters"]!.AsArray().Single()!.ToString().ShouldBe("7/8(2+2+3)");
        answer["bars"]!.GetValue<int>().ShouldBe(1);
        answer["tempo"]!.GetValue<double>().ShouldBe(96);
        answer["unheard"]!.ToJsonString().ShouldBe("""[{"bar":1,"voice":"BD"}]""");
        var accent = answer["strokes"]!.AsArray().Single(s => s!["voice"]!.ToString() == "SN" && s["dynamic"]!.ToString() == "accent")!;
        accent.ToJsonString()
            .ShouldBe("""{"tick":10080,"voice":"SN","dynamic":"accent","limb":"RH","openness":null,"ornaments":["flam"],"unsure":false,"optional":false,"notes":[],"length":null,"limbUnsure":false,"echo":false,"grace":null,"ornamentUnsure":false,"level":0}""");
        answer["readBack"]!.AsArray().Count.ShouldBe(3);
        answer["canonical"]!.ToString().ShouldStartWith("meter 7/8(2+2+3)\ntempo 96\nHH: 8ths 4&o\n");
        answer["picture"]![0]!.ToString().ShouldBe("svg");
    }

    [Fact]
    public async Task Tempo_modulation_and_swing_are_worked_out()
    {
        var tempo = await PostAsync("/api/time/tempo", new JsonObject { ["taps"] = new JsonArray(0.0, 0.5, 1.0, 1.5, 1.55, 2.0) });
        (Math.Round(tempo["bpm"]!.GetValue<double>(), 6), tempo["used"]!.GetValue<int>(), tempo["dropped"]!.GetValue<int>())
            .ShouldBe((120, 5, 1));
        (await PostAsync("/api/time/modulation", new JsonObject { ["bpm"] = 80, ["oldValue"] = "1/6", ["newValue"] = "1/4" }))[
            "bpm"]!.GetValue<double>().ShouldBe(120, 1e-9);
        var beats = new JsonArray([.. Enumerable.Range(0, 8).Select(i => (JsonNode)new JsonArray(i * 0.6, i * 0.6 + 0.4, i * 0.6 + 0.6))]);
        (await PostAsync("/api/time/swing", new JsonObject { ["beats"] = beats }))["ratio"]!.GetValue<double>().ShouldBe(2, 1e-9);
        (await PostAsync("/api/time/swing", new JsonObject { ["beats"] = new JsonArray() }))["n"]!.GetValue<int>().ShouldBe(0);
    }

    [Fact]
    public async Task A_drum_tab_is_turned_into_count_lines_and_back()
    {
        async Task<string> Convert(string from, string to, string text) =>
            await (await application.Client.PostAsync($"/api/convert?from={from}&to={to}", new StringContent(text),
                TestContext.Current.CancellationToken)).EnsureSuccessStatusCode().Content.ReadAsStringAsync(
                TestContext.Current.CancellationToken);
        var counts = await Convert("tab", "counts", "HH|xxxxxxxx|\nSN|--X---X-|");
        counts.ShouldBe("HH: 8ths\nSN: 2> 4>\n");
        (await Convert("counts", "tab", counts)).ShouldBe("HH|xxxxxxxx|\nSN|--X---X-|\n");
        JsonNode.Parse(await Convert("tab", "json", "ZZ|x-------|"))!["problems"]!.AsArray().Count.ShouldBe(1);
        (await Convert("counts", "svg", counts)).ShouldStartWith("<svg");
        (await Convert("counts", "wav", counts)).ShouldStartWith("RIFF");
        (await application.Client.PostAsync("/api/convert?from=tab&to=counts", new StringContent("ZZ|x-------|"),
            TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }

    [Theory]
    [InlineData("/api/time/tempo", """{"taps":[0,0.5,1]}""")]
    [InlineData("/api/time/tempo", "{}")]
    [InlineData("/api/time/modulation", """{"bpm":80,"oldValue":"a","newValue":"1/4"}""")]
    [InlineData("/api/time/modulation", """{"bpm":-1,"oldValue":"1/4","newValue":"1/4"}""")]
    [InlineData("/api/time/swing", """{"beats":[[1,0.5,2]]}""")]
    [InlineData("/api/convert?from=pdf&to=counts", """{}""")]
    [InlineData("/api/count-lines/parse", "{}")]
    [InlineData("/api/count-lines/parse?picture=hologram", """{"text":""}""")]
    [InlineData("/api/ideas/match", """{"idea":{"text":"SN: 1"}}""")]
    [InlineData("/api/ideas/match", """{"idea":{"text":"SN: 1","rules":{"voicing":"colour"}},"passage":{"text":"SN: 1"}}""")]
    [InlineData("/api/ideas/match", """{"idea":{"text":"SN: 1","rules":{"swang":"as-written"}},"passage":{"text":"SN: 1"}}""")]
    [InlineData("/api/ideas/match", """{"idea":{"text":"SN: 9"},"passage":{"text":"SN: 1"}}""")]
    [InlineData("/api/ideas/match", """{"idea":{"text":"SN: 1","scope":["QQ"]},"passage":{"text":"SN: 1"}}""")]
    [InlineData("/api/ideas/match", "not json")]
    [InlineData("/api/evidence/presence", """{"k":3,"n":2}""")]
    [InlineData("/api/evidence/rate", """{"events":-1,"bars":2}""")]
    [InlineData("/api/evidence/rate", """{"events":1,"bars":0}""")]
    [InlineData("/api/evidence/rate", """{"titles":[{"events":1,"bars":0}]}""")]
    [InlineData("/api/evidence/rate", """{"titles":[null]}""")]
    [InlineData("/api/evidence/presence", """{"titles":[{"with":3,"searched":2}]}""")]
    [InlineData("/api/evidence/times", """{"one":{"titles":[{"events":1,"bars":-4}]},"two":{"titles":[]}}""")]
    [InlineData("/api/evidence/times", """{"one":{}}""")]
    [InlineData("/api/rhythm/realign", """{"cycleTicks":10080,"meters":[null]}""")]
    public async Task A_bad_question_is_answered_with_problem_json(string address, string body)
    {
        var response = await application.Client.PostAsync(address, new StringContent(body, System.Text.Encoding.UTF8, "application/json"),
            TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        response.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
    }

    private async Task<JsonObject> PostAsync(string address, JsonObject body)
    {
        var response = await application.Client.PostAsJsonAsync(address, body, TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        return (await response.Content.ReadFromJsonAsync<JsonObject>(TestContext.Current.CancellationToken))!;
    }

    private static string Line(JsonNode? s) =>
        $"{s!["startTick"]} x{s["factor"]} {s["verdict"]} {s["cost"]} {s["transforms"]!.ToJsonString()} "
            + $"{(s["unsure"] is { } n ? (int)n : 0)}";

    private static IEnumerable<JsonNode> Cases(string file)
    {
        using var stream = File.OpenRead(Path.Combine(AppContext.BaseDirectory, "vectors", file + ".json"));
        return [.. JsonNode.Parse(stream)!.AsArray().Select(c => c!.DeepClone())];
    }
}
