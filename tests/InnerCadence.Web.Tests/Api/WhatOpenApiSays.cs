using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using InnerCadence.Core.Playing;

namespace InnerCadence.Web.Tests.Api;

/// <summary>The published description says of every call what comes back, and it comes back so.</summary>
public class WhatOpenApiSays(Application application) : IClassFixture<Application>
{
    private const string Text = "tempo 96\\nHH: 8ths 4&o\\nSN: 2fT1 (2a) 4> 3e=\\nBD: 1 3\\nLV: 1 p < 3 f";

    private static readonly Dictionary<string, string> Bodies = new()
    {
        ["/api/count-lines/parse"] = $$"""{"text":"{{Text}}"}""",
        ["/api/count-lines/edit"] = $$"""{"text":"{{Text}}","do":"toggle","strokes":[{"at":2520,"voice":"SN"}]}""",
        ["/api/count-lines/tapped"] = """{"text":"tempo 120\nHH: 8ths\n","voice":"SN","onsets":[0.51,1.49]}""",
        ["/api/count-lines/clicks"] = """{"text":"meter 6/8\nHH: 8ths","tempo":120}""",
        ["/api/ideas/match"] = """{"idea":{"text":"SN: 2 4"},"passage":{"looped":false,"text":"TEXT"}}""".Replace("TEXT", Text),
        ["/api/rhythm/describe"] = $$"""{"text":"{{Text}}","looped":true}""",
        ["/api/rhythm/realign"] = """{"cycleTicks":20160,"meters":["7/8"]}""",
        ["/api/practice/played"] = """{"text":"tempo 100\nSN: 2 4","rounds":1,"strokes":[{"at":0.61,"note":38,"velocity":90},{"at":1.2,"voice":"BD"}]}""",
        ["/api/hands/stickings"] = """{"text":"SN: 16ths@1"}""",
        ["/api/time/tempo"] = """{"taps":[0,0.5,1.01,1.5,2]}""",
        ["/api/time/modulation"] = """{"bpm":80,"oldValue":"1/6","newValue":"1/4"}""",
        ["/api/time/swing"] =
            """{"beats":[[0,0.3,0.5],[0.5,0.8,1],[1,1.3,1.5],[1.5,1.8,2],[2,2.3,2.5],[2.5,2.8,3],[3,3.3,3.5],[3.5,3.8,4]]}""",
        ["/api/evidence/presence"] = """{"k":2,"n":3}""",
        ["/api/evidence/rate"] = """{"titles":[{"events":3,"bars":40},{"events":1,"bars":50}]}""",
        ["/api/evidence/times"] =
            """{"one":{"titles":[{"events":3,"bars":40},{"events":1,"bars":50}]},"two":{"titles":[{"events":1,"bars":40},{"events":1,"bars":50}]}}""",
        ["/api/evidence/contrast"] = """{"rows":[{"a":3,"b":10,"c":2,"d":30}]}""",
        ["/api/evidence/adjust"] = """{"p":[0.01,0.2]}""",
        ["/api/evidence/threshold"] = """{"rows":[{"tempo":100,"with":0,"without":4},{"tempo":140,"with":4,"without":0}]}""",
        ["/api/sound/performance"] = $$"""{"text":"{{Text}}"}""",
    };

    private async Task<JsonObject> DescriptionAsync() =>
        JsonNode.Parse(await application.Client.GetStringAsync("/openapi/v1.json", TestContext.Current.CancellationToken))!.AsObject();

    [Fact]
    public async Task Every_call_says_what_it_answers_and_answers_so()
    {
        var description = await DescriptionAsync();
        var told = 0;
        foreach (var (path, methods) in description["paths"]!.AsObject())
        {
            if (methods!["post"] is not { } post || post["responses"]?["200"]?["content"]?["application/json"]?["schema"] is not
                {
                } schema) continue;
            var answer = await AskAsync(path);
            var resolved = Resolved(description, schema);
            resolved["properties"].ShouldNotBeNull($"{path} says nothing of its answer");
            Fits(description, resolved, answer, path);
            told++;
        }
        told.ShouldBe(Bodies.Count + 4);
    }

    private async Task<JsonNode> AskAsync(string path)
    {
        using HttpContent body = path switch
        {
            "/api/sound/onsets" => new ByteArrayContent(Wav.Write(new float[44100], 1)),
            "/api/sound/measure" => Form(("text", "tempo 100\nHH: 8ths | %\nSN: 2 4 | %\nBD: 1 3 | %"), ("at", "0.1")),
            "/api/sound/find" => Form(("idea", """{"text":"SN: 2 4"}"""), ("tempo", "100"), ("marks", """[{"bar":1,"at":0.1}]""")),
            "/api/convert" => new StringContent(Text.Replace("\\n", "\n")),
            _ => new StringContent(Bodies[path], Encoding.UTF8, "application/json"),
        };
        var response = await application.Client.PostAsync(path == "/api/convert" ? path + "?from=counts&to=json" : path, body,
            TestContext.Current.CancellationToken);
        var text = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.OK, $"{path}: {text}");
        return JsonNode.Parse(text)!;
    }

    /// <summary>A groove as it sounds, with what is said of it.</summary>
    private static MultipartFormDataContent Form(params (string Name, string Value)[] fields)
    {
        var mix = Mixdown.Render(Rendition.Of(Core.Counting.Reading.CountLines.Parse("tempo 100\nHH: 8ths | %\nSN: 2 4 | %\nBD: "
            + "1 3 | %").Passage),
            key => Synth.Render(key));
        var form = new MultipartFormDataContent { { new ByteArrayContent(Wav.Write(mix, 2)), "sound", "groove.wav" } };
        foreach (var (name, value) in fields) form.Add(new StringContent(value), name);
        return form;
    }

    private static JsonNode Resolved(JsonObject description, JsonNode schema) =>
        schema["$ref"]?.GetValue<string>() is { } name ? description["components"]!["schemas"]![name.Split('/')[^1]]!
        : schema["oneOf"] is JsonArray ways ? Resolved(description, ways.First(w => w!["type"]?.ToString() != "null")!) : schema;

    /// <summary>No property comes that the description does not name, and every one that it requires comes.</summary>
    private static void Fits(JsonObject description, JsonNode schema, JsonNode? answer, string where)
    {
        schema = Resolved(description, schema);
        if (answer is JsonArray { Count: > 0 } all && schema["items"] is { } items) Fits(description, items, all[0], where + "[0]");
        if (answer is not JsonObject given || schema["properties"] is not JsonObject properties) return;
        given.Select(p => p.Key).Except(properties.Select(p => p.Key)).ShouldBeEmpty(where);
        (schema["required"]?.AsArray().Select(r => r!.GetValue<string>()) ?? []).Except(given.Select(p => p.Key)).ShouldBeEmpty(where);
        foreach (var (name, value) in given) Fits(description, properties[name]!, value, $"{where}.{name}");
    }

    [Theory]
    [InlineData("meter 6/8\\nHH: 8ths", 120, "-1.5 true; -0.75 false; 0 true; 0.75 false; 1.5 true")]
    [InlineData("meter 7/8(2+2+3) 4/4\\nHH: 8ths | 8ths", 120,
        "-1.75 true; -1.25 false; -0.75 false; 0 true; 0.5 false; 1 false; 1.75 true; 2.25 false")]
    [InlineData("tempo 60 @2 120\\nHH: 8ths | 8ths", null,
        "-4 true; -3 false; -2 false; -1 false; 0 true; 1 false; 2 false; 3 false; 4 true; 4.5 false")]
    public async Task The_click_to_tap_along_with_follows_meters_and_tempos(string text, int? tempo, string begins)
    {
        using var body = new StringContent($"{{\"text\":\"{text}\",\"tempo\":{tempo?.ToString() ?? "null"}}}", Encoding.UTF8,
            "application/json");
        var answer = JsonNode.Parse(await (await application.Client.PostAsync("/api/count-lines/clicks", body,
            TestContext.Current.CancellationToken)).Content.ReadAsStringAsync(TestContext.Current.CancellationToken))!;
        var clicks = answer["clicks"]!.AsArray().Take(begins.Split("; ").Length)
            .Select(c => FormattableString.Invariant($"{c!["at"]!.GetValue<double>():0.####} ")
            + FormattableString.Invariant($"{c["first"]!.GetValue<bool>().ToString().ToLowerInvariant()}"));
        string.Join("; ", clicks).ShouldBe(begins);
    }
}
