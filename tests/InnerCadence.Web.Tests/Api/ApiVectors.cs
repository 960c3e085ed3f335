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
            var answer = await PostAsync("/api/ideas/match", new JsonObject { ["idea"] = found["idea"]!.DeepClone(), ["passage"] = found["passage"]!.DeepClone() });
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
                else answer[name]!.GetValue<double>().ShouldBe(value!.GetValue<double>(), Math.Max(1e-9, Math.Abs(value.GetValue<double>()) * 1e-6), found["name"]!.ToString());
            }
        }
    }

    [Fact]
    public async Task Reading_gives_strokes_words_canonical_text_and_a_picture()
    {
        var answer = await PostAsync("/api/count-lines/parse?picture=strands", new JsonObject { ["text"] = "meter 7/8(2+2+3)\ntempo 96\nHH: 8ths 4&o\nSN: 3>fR (6a)?\nBD: ?" });
        answer["meters"]!.AsArray().Single()!.ToString().ShouldBe("7/8(2+2+3)");
        answer["bars"]!.GetValue<int>().ShouldBe(1);
        answer["tempo"]!.GetValue<double>().ShouldBe(96);
        answer["unheard"]!.ToJsonString().ShouldBe("""[{"bar":1,"voice":"BD"}]""");
        var accent = answer["strokes"]!.AsArray().Single(s => s!["voice"]!.ToString() == "SN" && s["dynamic"]!.ToString() == "accent")!;
        accent.ToJsonString().ShouldBe("""{"tick":10080,"voice":"SN","dynamic":"accent","limb":"RH","openness":null,"ornaments":["flam"],"unsure":false,"optional":false,"notes":[],"length":null,"limbUnsure":false}""");
        answer["readBack"]!.AsArray().Count.ShouldBe(3);
        answer["canonical"]!.ToString().ShouldStartWith("meter 7/8(2+2+3)\ntempo 96\nHH: 8ths 4&o\n");
        answer["picture"]![0]!.ToString().ShouldBe("svg");
    }

    [Theory]
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
    public async Task A_bad_question_is_answered_with_problem_json(string address, string body)
    {
        var response = await application.Client.PostAsync(address, new StringContent(body, System.Text.Encoding.UTF8, "application/json"), TestContext.Current.CancellationToken);
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
        $"{s!["startTick"]} x{s["factor"]} {s["verdict"]} {s["cost"]} {s["transforms"]!.ToJsonString()} {(s["unsure"] is { } n ? (int)n : 0)}";

    private static IEnumerable<JsonNode> Cases(string file)
    {
        using var stream = File.OpenRead(Path.Combine(AppContext.BaseDirectory, "vectors", file + ".json"));
        return [.. JsonNode.Parse(stream)!.AsArray().Select(c => c!.DeepClone())];
    }
}
