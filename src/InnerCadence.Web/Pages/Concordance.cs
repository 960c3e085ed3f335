using System.Text.Json;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;

namespace InnerCadence.Web.Pages;

/// <summary>All sightings of an idea, stacked and aligned on the idea's first stroke.</summary>
public sealed class Concordance
{
    public const string ByDate = "date", ByTempo = "tempo", ByPlace = "place", ByVerdict = "verdict";

    private readonly IReadOnlySet<Voice> scope;
    private readonly ConcordanceStrip strip;

    public Concordance(IdeaRow idea, IReadOnlyList<SightingView> sightings)
    {
        var matcher = new Matcher(idea.AsIdea());
        scope = matcher.Voices;
        var longest = sightings.Count == 0 ? Tick.Zero : sightings.Max(s => new Tick(s.Row.EndTick - s.Row.StartTick));
        var bar = idea.AsIdea().Exemplar.Meters.MeterOf(0).Length;
        strip = new ConcordanceStrip(46, bar, longest, bar);
        Rows = sightings;
    }

    public IReadOnlyList<SightingView> Rows { get; }

    public Shape Head() => strip.Head();

    public Shape Strip(SightingView sighting)
    {
        var start = new Tick(sighting.Row.StartTick);
        var edits = JsonSerializer.Deserialize<List<EditData>>(sighting.Row.Edits, Json) ?? [];
        var differing = edits.Where(e => e.PassageTick is not null && e.Voice is not null)
            .Select(e => (new Tick(e.PassageTick!.Value), VoiceOf(sighting.Passage, e.Voice!))).ToHashSet();
        return strip.Draw(
            sighting.Passage, start, new Tick(sighting.Row.EndTick) - start, scope, differing,
            $"{sighting.Row.RecordingName}, {sighting.Where}: {sighting.VerdictWords}");
    }

    /// <summary>In the order asked for; texts are read only where the order or the page needs them.</summary>
    public static IEnumerable<SightingView> Sorted(IReadOnlyList<SightingRow> rows, string? by) => by switch
    {
        ByTempo => SightingView.Of(rows).OrderBy(r => r.BeatsPerMinute ?? double.MaxValue),
        ByPlace => SightingView.Of(rows).OrderBy(r => r.Passage.Meters.Locate(new(r.Row.StartTick)).InBar),
        ByVerdict => SightingView.Of(rows.OrderBy(r => r.Verdict switch { "exact" => 0, "variant" => 1, _ => 2 }).ThenBy(r => r.Cost)),
        _ => SightingView.Of(rows),
    };

    private static Voice VoiceOf(Passage passage, string code) => passage.Voices.FirstOrDefault(v => v.Code == code) ?? Voice.Find(code) ?? Voice.Snare;

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    private sealed record EditData(string Kind, int? PatternTick, int? PassageTick, string? Voice, string Text);
}
