using System.Collections.Concurrent;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Sightings;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Api;

/// <param name="Tempo">Quarters a minute where the text names none.</param>
/// <param name="Looped">It repeats: what rings at its end is closed by its start.</param>
/// <param name="Click">A note value such as 1/4 or 3/16; nothing for the pulse.</param>
/// <param name="Lines">Seconds of the bar lines on a record that it is played along, that of the first bar first; nothing for the text's
/// own tempo. Bars beyond them last as long as the last one.</param>
public sealed record PerformanceRequest(string? Text, double? Tempo, string? Click = null, bool Looped = false,
    IReadOnlyList<double>? Lines = null, IReadOnlyList<IReadOnlyList<System.Text.Json.JsonElement>>? Offsets = null);

/// <param name="Bar">As it is typed, of the recording or of the chart beside it; so too the clock time.</param>
public sealed record LinesRequest(string? Text, string? Bar, string? At);

/// <param name="Eager">How far thresholds are lowered; below zero only what is sure is shown.</param>
public sealed record BesideRequest(string? Text, string? Bar, string? At, double? Eager);

/// <param name="Lines">Seconds on the record; empty where they are not known.</param>
/// <param name="Off">Milliseconds by which the typed start is later than the marked bar line, where that is worth a word.</param>
/// <param name="By">What they come from: marks, beats that are heard, or a tempo.</param>
public sealed record LinesAnswer(IReadOnlyList<double> Lines, int? Bar, double? Off, string? By = null);

/// <param name="Step">Seconds between two values.</param>
/// <param name="Heard">What the ear heard of each family, by name; null where it has not heard the sound.</param>
public sealed record EnergyAnswer(double Step, IReadOnlyList<double> Peak, IReadOnlyList<double> Low, IReadOnlyList<double> Middle,
    IReadOnlyList<double> High, RidgesAnswer? Heard);

/// <param name="From">Seconds of the first values.</param>
public sealed record RidgesAnswer(double From, double Step, IReadOnlyDictionary<string, IReadOnlyList<double>> Families);

/// <param name="Layer">By which it is heard and hidden together with others.</param>
public sealed record VoiceAnswer(string Code, string Name, int Layer);

/// <param name="Sound">Key of its samples.</param>
/// <param name="Until">When it is cut short; null if it rings out.</param>
public sealed record NoteAnswer(double At, string Voice, string Sound, double Gain, double Pan, double? Until, bool Ghost);

/// <param name="Beats">Pairs of seconds and whether it is the first of its bar.</param>
/// <param name="Line">Pairs of seconds and tick.</param>
/// <param name="FirstBar">Seconds that bar 1 lasts.</param>
/// <param name="Click">Keys of the click's two sounds.</param>
/// <param name="Bars">Seconds of each bar line, and of the end.</param>
public sealed record PerformanceAnswer(
    double Length, double Tempo, IReadOnlyList<VoiceAnswer> Voices, IReadOnlyList<NoteAnswer> Notes, IReadOnlyList<object[]> Beats,
        IReadOnlyList<object[]> Line, double FirstBar, IReadOnlyList<string> Click, IReadOnlyList<double> Bars);

/// <summary>The sounds of the kit and what a passage plays on them.</summary>
public static class SoundApi
{
    /// <summary>There are some hundred sounds of a second each; each is made once.</summary>
    private static readonly ConcurrentDictionary<SoundKey, float[]> Made = new();

    public static void MapSound(this IEndpointRouteBuilder routes)
    {
        routes.MapGet("/api/sound/voices/{key}.wav", Voice).WithName("Sound").WithTags("sound").WithSummary("One sound of the kit as WAV.");
        routes.MapPost("/api/sound/performance", Perform).WithName("Performance").WithTags("sound")
            .WithSummary("What a text plays: notes, beats and the path of a moving line, in seconds.").Produces<PerformanceAnswer>()
                .ProducesProblem(StatusCodes.Status400BadRequest);
        routes.MapGet("/passages/{passage}/sound.wav", WholeAsync).ExcludeFromDescription();
        routes.MapGet("/recordings/{recording}/sound", AtHandAsync).ExcludeFromDescription();
        routes.MapGet("/recordings/{recording}/film", FilmAsync).ExcludeFromDescription();
        routes.MapGet("/sightings/{sighting}/sound", OfSightingAsync).ExcludeFromDescription();
        routes.MapGet("/sightings/{sighting}/written.wav", WrittenAsync).ExcludeFromDescription();
        routes.MapPost("/recordings/{recording}/lines", LinesAsync).ExcludeFromDescription();
        routes.MapPost("/recordings/{recording}/beside", BesideAsync).ExcludeFromDescription();
        routes.MapGet("/recordings/{recording}/energy", EnergyAsync).ExcludeFromDescription();
        routes.MapGet("/recordings/{recording}/loop.wav", LoopAsync).ExcludeFromDescription();
        routes.MapGet("/sightings/{sighting}/loop.wav", LoopOfSightingAsync).ExcludeFromDescription();
    }

    private static IResult Voice(string key, HttpContext context)
    {
        if (SoundKey.Parse(key) is not { } sound) return Results.Problem($"‘{key}’ is no sound.",
            statusCode: StatusCodes.Status404NotFound);
        context.Response.Headers.CacheControl = "public, max-age=86400";
        return Results.Bytes(Wav.Write(Sound(sound), 1), "audio/wav");
    }

    private static IResult Perform(PerformanceRequest request)
    {
        if (request.Text is null) return Results.Problem("Send {\"text\": \"…\"}: the count lines to play.",
            statusCode: StatusCodes.Status400BadRequest);
        var passage = CountLines.Parse(request.Text).Passage with { Looped = request.Looped };
        Tick? click = null;
        if (!string.IsNullOrEmpty(request.Click))
        {
            if (NoteValue.Parse(request.Click) is not { } value || 4L * Tick.PerQuarter * value.Upper % value.Lower != 0)
                return Results.Problem($"‘{request.Click}’ is no note value that a click can have: write for example 1/4, 1/8 or 3/16.",
                    statusCode: StatusCodes.Status400BadRequest);
            click = new Tick((int)(4L * Tick.PerQuarter * value.Upper / value.Lower));
        }
        if (request.Lines is { } told && (told.Count < 2 || told.Any(at => !double.IsFinite(at)) || told.Zip(told.Skip(1))
            .Any(p => p.Second <= p.First)))
            return Results.Problem("Bar lines are two or more seconds, each later than the one before.",
                statusCode: StatusCodes.Status400BadRequest);
        Seconds[]? lines = request.Lines is { } given ? [.. given.Select(at => new Seconds(at - given[0]))] : null;
        var performance = Rendition.Of(passage, request.Tempo is { } bpm ? Bpm.Of(bpm) : null, click, Offsets(request.Offsets), lines);
        return Results.Ok(new PerformanceAnswer(
            performance.Length, (passage.Tempo ?? (request.Tempo is { } t ? Bpm.Of(t) : null) ?? Bpm.Usual).Value,
            [.. passage.Voices.Select(v => new VoiceAnswer(v.Code, v.Name, Strands.LayerOf(v)))],
            [.. performance.Notes.Select(n => new NoteAnswer(
                Math.Round(n.At, 5), n.Sound.Voice.Code, n.Sound.ToString(), Math.Round(n.Gain, 3), n.Pan, n.Until is { } until
                    ? Math.Round(until, 5) : null, n.Sound.Dynamic == Dynamic.Ghost))],
            [.. performance.Beats.Select(b => new object[] { Math.Round(b.At, 5), b.First })],
                [.. performance.Line.Select(p => new object[] { Math.Round(p.At, 5), p.Tick.Value })],
            passage.Bars == 0 ? 0 : Math.Round(performance.Line.Single(p => p.Tick == passage.Meters.StartOf(1)).At, 5),
                ["XS-normal-plain-0", "XS-accent-plain-0"],
            [.. Enumerable.Range(0, passage.Bars + 1).Select(b => performance.Line.First(p => p.Tick == passage.Meters.StartOf(b)).At)
                .Select(at => Math.Round(at, 5))]));
    }

    /// <summary>Those that are places, voices and milliseconds up to half a second.</summary>
    private static List<StrokeOffset> Offsets(IReadOnlyList<IReadOnlyList<System.Text.Json.JsonElement>>? told) =>
    [
        .. (told ?? []).Where(o => o.Count == 3 && o[0].TryGetInt32(out _) && o[2].TryGetDouble(out var ms) && Math.Abs(ms) <= 500)
            .Select(o => (At: o[0].GetInt32(), Voice: Core.Music.Voice.Find(o[1].ToString()), Ms: o[2].GetDouble()))
                .Where(o => o.Voice is not null)
            .Select(o => new StrokeOffset(new(o.At), o.Voice!, o.Ms)).DistinctBy(o => (o.At, o.Voice)),
    ];

    private static async Task<IResult> WholeAsync(PassageId passage, bool? asPlayed, PassageStore passages, MeasurementStore measurements,
        CancellationToken stop)
    {
        if (await passages.FindAsync(passage, stop) is not { } row) return Results.NotFound();
        var performance = Rendition.Of(CountLines.Parse(row.Text).Passage, row.RecordingTempo is { } bpm ? Bpm.Of(bpm) : null,
            offsets: asPlayed is true ? await measurements.PlayedAsync(row, stop) : null);
        return Results.Bytes(Wav.Write(Mixdown.Render(performance, Sound), 2), "audio/wav",
            $"passage-{passage}{(asPlayed is true ? "-as-played" : "")}.wav");
    }

    /// <summary>The file at hand for a recording, in ranges, so that a player can go to any place at once.</summary>
    private static async Task<IResult> AtHandAsync(RecordingId recording, SoundStore sounds, SoundFiles store, CancellationToken stop) =>
        await sounds.OfRecordingAsync(recording, stop) is { } sound ? Kept(store, sound.Played.Hash, sound.Played.Media)
            : Results.NotFound();

    /// <summary>The film at hand for a recording, as a browser plays it.</summary>
    private static async Task<IResult> FilmAsync(RecordingId recording, SoundStore sounds, SoundFiles store, CancellationToken stop) =>
        await sounds.OfRecordingAsync(recording, stop) is { Film: { } film, FilmMedia: { } media } ? Kept(store, film, media)
            : Results.NotFound();

    private static IResult Kept(SoundFiles store, string hash, string media) => store.Has(hash)
        ? Results.Stream(store.Open(hash), media, enableRangeProcessing: true, entityTag: new($"\"{hash}\"")) : Results.NotFound();

    /// <summary>Where the bar lines of what is typed fall on the record.</summary>
    private static async Task<IResult> LinesAsync(RecordingId recording, LinesRequest request, Records records, CancellationToken stop) =>
        await records.TypedAsync(recording, CountLines.Parse(request.Text ?? "").Passage, request.Bar, request.At, stop) is { } record
            ? Results.Ok(new LinesAnswer([.. record.Lines.Select(l => Math.Round(l, 4))], record.FirstBar, record.Off?.Milliseconds,
                record.By?.ToString().ToLowerInvariant())) : Results.NotFound();

    /// <summary>What the ear hears of the place beside what is typed; no content where it has not heard the record, or the place is not
    /// known.</summary>
    private static async Task<IResult> BesideAsync(RecordingId recording, BesideRequest request, EarBeside ear, CancellationToken stop) =>
        await ear.OfAsync(recording, request.Text ?? "", request.Bar, request.At, Math.Clamp(request.Eager ?? 0, -0.4, 0.4),
            stop) is { } beside
            ? Results.Ok(beside) : Results.NoContent();

    /// <summary>How loud the sound and its bands are between two times.</summary>
    private static async Task<IResult> EnergyAsync(RecordingId recording, double from, double to, SoundStore sounds, Excerpts excerpts,
        EarAtOnce atOnce, CancellationToken stop)
    {
        if (!new Excerpt(new(from), new(to), 100, SoundPart.Whole).IsPossible) return Results.Problem(
            $"A stretch lasts up to {Excerpt.Longest.Value:0} s.", statusCode: StatusCodes.Status400BadRequest);
        if (await sounds.OfRecordingAsync(recording, stop) is not { Samples: { } hash }) return Results.NotFound();
        var (samples, rate) = await excerpts.SamplesAsync(hash, new(from), new(to), stop);
        if (samples is null) return Results.NotFound();
        var energy = BandEnergy.Of(SidesAsOne.Of(samples), rate);
        var heard = await atOnce.OfAsync(hash, new(from), new(to), stop);
        var ridges = heard is null ? null : new RidgesAnswer(Ridges.FirstFrame(new(from)) * Ridges.Step, Ridges.Step,
            Ridges.Of(heard, new(from), new(to)).ToDictionary(r => r.Key.ToString().ToLowerInvariant(),
                r => (IReadOnlyList<double>)[.. r.Value.Select(v => Math.Round(v, 3))]));
        return Results.Ok(new EnergyAnswer(BandEnergy.Step, Told(energy.Peak), Told(energy.Low), Told(energy.Middle), Told(energy.High),
            ridges));

        static IReadOnlyList<double> Told(IReadOnlyList<float> values) => [.. values.Select(v => Math.Round(v, 3))];
    }

    /// <summary>Some seconds of the sound at a speed, exactly as long as they are, so that a loop of it keeps time.</summary>
    private static async Task<IResult> LoopAsync(RecordingId recording, double from, double to, int? speed, string? part, SoundStore sounds,
        Excerpts excerpts, HttpContext context, CancellationToken stop)
    {
        if (!Enum.TryParse<SoundPart>(part ?? nameof(SoundPart.Whole), ignoreCase: true, out var heard) || !Enum.IsDefined(heard))
            return Results.Problem($"‘{part}’ is no part of a sound.", statusCode: StatusCodes.Status400BadRequest);
        var excerpt = new Excerpt(new(from), new(to), speed ?? 100, heard);
        if (!excerpt.IsPossible) return Results.Problem(
            $"A loop lasts up to {Excerpt.Longest.Value:0} s as it is heard, at {Excerpt.Slowest} to {Excerpt.Fastest} %.",
                statusCode: StatusCodes.Status400BadRequest);
        if (await sounds.OfRecordingAsync(recording, stop) is not { Samples: { } hash }
            || await excerpts.WavAsync(hash, excerpt, stop) is not { } wav)
            return Results.NotFound();
        // Another file may be attached in its place: a browser asks whether this is still its sound.
        context.Response.Headers.CacheControl = "private, no-cache";
        return Results.Bytes(wav, "audio/wav", entityTag: new($"\"{hash}\""));
    }

    /// <summary>The same without telling which recording it is.</summary>
    private static async Task<IResult> LoopOfSightingAsync(SightingId sighting, double from, double to, int? speed, string? part,
        SightingStore sightings, SoundStore sounds, Excerpts excerpts, HttpContext context, CancellationToken stop) =>
        await sightings.FindAsync(sighting, stop) is { } row
            ? await LoopAsync(row.RecordingId, from, to, speed, part, sounds, excerpts, context, stop) : Results.NotFound();

    private static async Task<IResult> OfSightingAsync(SightingId sighting, SightingStore sightings, SoundStore sounds, SoundFiles store,
        CancellationToken stop) =>
        await sightings.FindAsync(sighting, stop) is { } row ? await AtHandAsync(row.RecordingId, sounds, store, stop) : Results.NotFound();

    /// <summary>A place as it is written: its strokes alone by the synth, from the first until the last has rung out.</summary>
    /// <param name="percent">Of its tempo.</param>
    private static async Task<IResult> WrittenAsync(SightingId sighting, SightingStore sightings, double? percent, CancellationToken stop)
    {
        if (await sightings.FindAsync(sighting, stop) is not { } row) return Results.NotFound();
        var view = SightingView.Of([row]).Single();
        var passage = view.Passage with { Looped = false };
        var (from, to) = (new Tick(row.StartTick), new Tick(Math.Min(row.EndTick, passage.Length.Value)));
        if (from >= to) return Results.NotFound();
        var speed = percent is { } asked && double.IsFinite(asked) ? Math.Clamp(asked, ListenLink.Slowest, 150) / 100 : 1;
        var tempo = Bpm.Of(Math.Clamp((view.BeatsPerMinute ?? Bpm.Usual.Value) * speed, 20, 400))!.Value;
        var played = Rendition.Of(Core.Counting.Editing.Excerpt.Cut(passage, from, to) with { Tempo = null, TempoChanges = [] }, tempo);
        if (played.Notes.Count == 0) return Results.NotFound();
        var lead = Before - played.Notes.Min(n => n.At);
        var samples = Mixdown.Render(played, Sound, lead);
        var heard = (int)((played.Notes.Max(n => n.At) + lead + RingsOut) * Synth.Rate) * 2;
        return Results.File(Wav.Write(samples[..Math.Min(heard, samples.Length)], 2), "audio/wav");
    }

    /// <summary>Seconds before the first stroke of a place and after its last.</summary>
    private const double Before = 0.1, RingsOut = 0.9;

    /// <summary>The samples of one sound of the kit, made once.</summary>
    internal static float[] Sound(SoundKey key) => Made.GetOrAdd(key, Synth.Render);
}
