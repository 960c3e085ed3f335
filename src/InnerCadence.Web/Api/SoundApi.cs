using System.Collections.Concurrent;
using System.Text.Json.Nodes;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Sightings;
using InnerCadence.Web.Drawing;

namespace InnerCadence.Web.Api;

/// <param name="Tempo">Quarters a minute where the text names none.</param>
/// <param name="Looped">It repeats: what rings at its end is closed by its start.</param>
/// <param name="Click">A note value such as 1/4 or 3/16; nothing for the pulse.</param>
public sealed record PerformanceRequest(string? Text, double? Tempo, string? Click = null, bool Looped = false);

/// <summary>The sounds of the kit and what a passage plays on them.</summary>
public static class SoundApi
{
    /// <summary>There are some hundred sounds of a second each; each is made once.</summary>
    private static readonly ConcurrentDictionary<SoundKey, float[]> Made = new();

    public static void MapSound(this IEndpointRouteBuilder routes)
    {
        routes.MapGet("/api/sound/voices/{key}.wav", Voice).WithName("Sound").WithTags("sound").WithSummary("One sound of the kit as WAV.");
        routes.MapPost("/api/sound/performance", Perform).WithName("Performance").WithTags("sound")
            .WithSummary("What a text plays: notes, beats and the path of a moving line, in seconds.").Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapPost("/api/sound/onsets", OnsetsAsync).WithName("Onsets").WithTags("sound").WithMetadata(new Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute(MostBytes))
            .WithSummary("The body is a WAV file, read as it comes: what was struck in each band, and tempos it may have. Proposals only.").Produces<JsonObject>().ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapGet("/passages/{passage}/sound.wav", WholeAsync).ExcludeFromDescription();
        routes.MapGet("/recordings/{recording}/sound", AtHandAsync).ExcludeFromDescription();
        routes.MapGet("/sightings/{sighting}/sound", OfSightingAsync).ExcludeFromDescription();
    }

    private static IResult Voice(string key, HttpContext context)
    {
        if (SoundKey.Parse(key) is not { } sound) return Results.Problem($"‘{key}’ is no sound.", statusCode: StatusCodes.Status404NotFound);
        context.Response.Headers.CacheControl = "public, max-age=86400";
        return Results.Bytes(Wav.Write(Sound(sound), 1), "audio/wav");
    }

    private static IResult Perform(PerformanceRequest request)
    {
        if (request.Text is null) return Results.Problem("Send {\"text\": \"…\"}: the count lines to play.", statusCode: StatusCodes.Status400BadRequest);
        var passage = CountLines.Parse(request.Text).Passage with { Looped = request.Looped };
        Tick? click = null;
        if (!string.IsNullOrEmpty(request.Click))
        {
            if (NoteValue.Parse(request.Click) is not { } value || 4L * Tick.PerQuarter * value.Upper % value.Lower != 0)
                return Results.Problem($"‘{request.Click}’ is no note value that a click can have: write for example 1/4, 1/8 or 3/16.", statusCode: StatusCodes.Status400BadRequest);
            click = new Tick((int)(4L * Tick.PerQuarter * value.Upper / value.Lower));
        }
        var performance = Rendition.Of(passage, request.Tempo is { } bpm ? Bpm.Of(bpm) : null, click);
        return Results.Json(new JsonObject
        {
            ["length"] = performance.Length,
            ["tempo"] = (passage.Tempo ?? (request.Tempo is { } t ? Bpm.Of(t) : null) ?? Bpm.Usual).Value,
            ["voices"] = new JsonArray([.. passage.Voices.Select(v => (JsonNode)new JsonObject { ["code"] = v.Code, ["name"] = v.Name, ["layer"] = Strands.LayerOf(v) })]),
            ["notes"] = new JsonArray([.. performance.Notes.Select(n => (JsonNode)new JsonObject
            {
                ["at"] = Math.Round(n.At, 5), ["voice"] = n.Sound.Voice.Code, ["sound"] = n.Sound.ToString(), ["gain"] = Math.Round(n.Gain, 3), ["pan"] = n.Pan,
                ["until"] = n.Until is { } until ? Math.Round(until, 5) : null, ["ghost"] = n.Sound.Dynamic == Dynamic.Ghost,
            })]),
            ["beats"] = new JsonArray([.. performance.Beats.Select(b => (JsonNode)new JsonArray(Math.Round(b.At, 5), b.First))]),
            ["line"] = new JsonArray([.. performance.Line.Select(p => (JsonNode)new JsonArray(Math.Round(p.At, 5), p.Tick.Value))]),
            ["firstBar"] = passage.Bars == 0 ? 0 : Math.Round(performance.Line[1].At, 5),
            ["click"] = new JsonArray("XS-normal-plain-0", "XS-accent-plain-0"),
        });
    }

    private const long MostBytes = 1024L * 1024 * 1024;

    private static async Task<IResult> OnsetsAsync(HttpRequest request, CancellationToken stop)
    {
        var start = new byte[WavHead.Most];
        var filled = await request.Body.ReadAtLeastAsync(start, start.Length, throwOnEndOfStream: false, stop);
        var (head, problem) = WavHead.Read(start.AsSpan(0, filled), filled < start.Length ? filled : request.ContentLength ?? long.MaxValue);
        if (head is null) return Results.Problem(problem, statusCode: StatusCodes.Status400BadRequest);
        var onsets = new Onsets(head.Rate);
        var (bytes, mono) = (new byte[head.FrameBytes * 16384], new float[16384]);
        var (left, rest) = (head.DataBytes, start.AsMemory((int)head.DataStart, filled - (int)head.DataStart));
        while (left > 0)
        {
            var wanted = (int)Math.Min(bytes.Length, left);
            var read = Math.Min(wanted, rest.Length);
            rest[..read].CopyTo(bytes);
            rest = rest[read..];
            if (read < wanted) read += await request.Body.ReadAtLeastAsync(bytes.AsMemory(read, wanted - read), wanted - read, throwOnEndOfStream: false, stop);
            if (read == 0) break;
            left -= read;
            onsets.Add(mono.AsSpan(0, head.Decode(bytes.AsSpan(0, read - read % head.FrameBytes), mono)));
        }
        return Results.Json(new JsonObject
        {
            ["seconds"] = Math.Round(head.Seconds - (double)left / head.FrameBytes / head.Rate, 3),
            ["onsets"] = new JsonArray([.. onsets.Found().Select(o => (JsonNode)new JsonObject
            {
                ["at"] = Math.Round(o.At, 4), ["band"] = o.Band.ToString().ToLowerInvariant(), ["strength"] = Math.Round(o.Strength, 3), ["family"] = o.Family.ToString().ToLowerInvariant(), ["confidence"] = Math.Round(o.Confidence, 3),
            })]),
            ["tempo"] = new JsonArray([.. onsets.Tempos().Select(t => (JsonNode)new JsonObject { ["bpm"] = t.Bpm, ["weight"] = t.Weight })]),
        });
    }

    private static async Task<IResult> WholeAsync(PassageId passage, bool? asPlayed, PassageStore passages, CancellationToken stop)
    {
        if (await passages.FindAsync(passage, stop) is not { } row) return Results.NotFound();
        var performance = Rendition.Of(CountLines.Parse(row.Text).Passage, row.RecordingTempo is { } bpm ? Bpm.Of(bpm) : null, offsets: asPlayed is true ? await passages.OffsetsAsync(passage, stop) : null);
        return Results.Bytes(Wav.Write(Mixdown.Render(performance, Sound), 2), "audio/wav", $"passage-{passage}{(asPlayed is true ? "-as-played" : "")}.wav");
    }

    /// <summary>The file at hand for a recording, in ranges, so that a player can go to any place at once.</summary>
    private static async Task<IResult> AtHandAsync(RecordingId recording, SoundStore sounds, SoundFiles store, CancellationToken stop) =>
        await sounds.OfRecordingAsync(recording, stop) is { } sound && store.Has(sound.Hash)
            ? Results.Stream(store.Open(sound.Hash), sound.Media, enableRangeProcessing: true, entityTag: new($"\"{sound.Hash}\""))
            : Results.NotFound();

    private static async Task<IResult> OfSightingAsync(SightingId sighting, SightingStore sightings, SoundStore sounds, SoundFiles store, CancellationToken stop) =>
        await sightings.FindAsync(sighting, stop) is { } row ? await AtHandAsync(row.RecordingId, sounds, store, stop) : Results.NotFound();

    /// <summary>The samples of one sound of the kit, made once.</summary>
    internal static float[] Sound(SoundKey key) => Made.GetOrAdd(key, Synth.Render);
}
