using System.Text.Json;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Sightings;
using InnerCadence.Web.Drawing;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>All sightings of an idea, stacked and aligned on the idea's first stroke.</summary>
public sealed class Concordance
{
    public const string ByDate = "date", ByTempo = "tempo", ByPlace = "place", ByVerdict = "verdict",
        ByDifference = "difference";

    private readonly IReadOnlySet<Voice> scope;
    private readonly ConcordanceStrip strip;

    public Concordance(IdeaRow idea, IReadOnlyList<ListedPlace> places)
    {
        IReadOnlyList<SightingView> sightings = [.. places.Select(p => p.View).OfType<SightingView>()];
        scope = idea.AsIdea().VoicesSeen();
        var longest = sightings.Count == 0 ? Tick.Zero : sightings.Max(s => new Tick(s.Row.EndTick - s.Row.StartTick));
        var bar = idea.AsIdea().Exemplar.Meters.MeterOf(0).Length;
        strip = new ConcordanceStrip(46, bar, longest, bar);
        Rows = places;
    }

    public IReadOnlyList<ListedPlace> Rows { get; }

    public Shape Head() => strip.Head();

    public Shape Strip(SightingView sighting)
    {
        var start = new Tick(sighting.Row.StartTick);
        var edits = EditPlace.Of(sighting.Row.Edits);
        var differing = edits.Where(e => e.PassageTick is not null && e.Voice is not null)
            .Select(e => (new Tick(e.PassageTick!.Value), VoiceOf(sighting.Passage, e.Voice!))).ToHashSet();
        return strip.Draw(
            sighting.Passage, start, new Tick(sighting.Row.EndTick) - start, scope, differing,
            $"{sighting.Row.RecordingName}, {sighting.Where}: {sighting.VerdictWords}");
    }

    /// <summary>A row a place, those heard by hand too: where it is, how it differs, how it was judged.</summary>
    public Sheet AsSheet() => new(
        ["player", "title", "take", "recorded", "clock", "bar", "count", "tempo", "verdict", "cost", "difference", "unsure", "judgement",
            "reason"],
        [.. Rows.Select(place => place.View is { } s
            ? (IReadOnlyList<object?>)
            [
                s.Row.Player, s.Row.Title, s.Row.Take, s.Row.RecordedFrom is { } from && s.Row.RecordedTo is { } to
                    ? new PartialDate(from, to).ToString() : null, s.Clock?.ToString(), s.Bar, s.Count, s.BeatsPerMinute,
                s.Row.Verdict.Word(), s.Row.Cost, s.Row.Summary, s.Row.Unsure, s.JudgementWords, s.Row.Reason,
            ]
            : [place.Heard!.Player, place.Heard.Title, place.Heard.Take, place.Heard.RecordedFrom is { } day
                && place.Heard.RecordedTo is { } last ? new PartialDate(day, last).ToString() : null, place.Heard.At?.ToString(),
                place.Heard.Bar, null, null, "heard", null, null, null, "confirmed", place.Heard.Note])]);

    /// <summary>In the order asked for.</summary>
    public static IEnumerable<ListedPlace> Sorted(IReadOnlyList<ListedPlace> places, string? by) => by switch
    {
        ByTempo => places.OrderBy(p => p.Found?.Tempo?.Value ?? double.MaxValue),
        ByPlace => places.OrderBy(p => p.Found?.InBar ?? new Tick(int.MaxValue)),
        ByDifference => places.GroupBy(p => p.Found?.Difference).OrderBy(g => g.Key is null).ThenBy(g => g.Min(p => p.Found?.Cost))
            .ThenByDescending(g => g.Count()).ThenBy(g => g.Key, StringComparer.Ordinal).SelectMany(g => g),
        ByVerdict => places.OrderBy(p => p.Found is { } found ? (int)found.Verdict : int.MaxValue).ThenBy(p => p.Found?.Cost),
        _ => places.OrderBy(p => p.RecordedFrom ?? DateOnly.MaxValue).ThenBy(p => p.RecordingName, StringComparer.Ordinal)
            .ThenBy(p => p.RecordingId.Value)
            .ThenBy(p => p.Bar ?? int.MaxValue).ThenBy(p => p.Found?.Start),
    };

    /// <summary>Rows of one verdict, recording or year together, groups in the order of their first row; no group leaves them as they
    /// are.</summary>
    public static IEnumerable<ListedPlace> Grouped(IEnumerable<ListedPlace> rows, string? group) =>
        group is null ? rows : rows.GroupBy(r => GroupOf(r, group)).SelectMany(g => g);

    public static string GroupOf(ListedPlace row, string group) => group switch
    {
        "verdict" => row.Found is { } found ? SightingView.VerdictSaid(found.Verdict, found.Judged) : "heard",
        "recording" => row.RecordingName,
        _ => row.RecordedFrom?.Year.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "no date",
    };

    /// <summary>All rows as one picture, each with its place beside it.</summary>
    public Shape Whole(string name)
    {
        const double row = 46, names = 250;
        var (width, height) = (names + ConcordanceStrip.Width + 8, Rows.Count * row + 40);
        var svg = new Shape("svg").With("class", "strip").With("viewBox", FormattableString.Invariant($"0 0 {width} {height}"))
            .With("width", width).With("height", height).With("role", "img")
            .With("aria-label", $"Concordance of {name}: {Rows.Count} sightings");
        svg.Add(new Shape("g").With("transform", FormattableString.Invariant($"translate({names} 4)")).Add(Head()));
        for (var i = 0; i < Rows.Count; i++)
        {
            var y = 30 + i * row;
            svg.Add(Shape.Text("bracket-name", 4, y + 18, $"{Rows[i].RecordedFrom?.Year} {Rows[i].RecordingName}"));
            svg.Add(Shape.Text("clock", 4, y + 34, Rows[i].View is { } view ? $"{view.ClockWords}, {view.Where}, {view.VerdictWords}"
                : Rows[i].HeardWords));
            if (Rows[i].View is { } found) svg.Add(new Shape("g").With("transform", FormattableString.Invariant($"translate({names} {y})"))
                .Add(Strip(found)));
        }
        return svg;
    }

    private static Voice VoiceOf(Passage passage, string code) => passage.Voices.FirstOrDefault(v => v.Code == code) ?? Voice.Find(code)
        ?? Voice.Snare;
}

/// <summary>One row of the list: a sighting in a reading, or an entry made by hand.</summary>
/// <param name="Found">By what a sighting is sorted and grouped.</param>
public sealed record ListedPlace(PlaceOfIdea? Found, HeardRow? Heard)
{
    /// <summary>All that is shown of a sighting; nothing of an entry made by hand, or where it is not shown.</summary>
    public SightingView? View { get; init; }
    /// <summary>By which a page of the list is asked for.</summary>
    public string Key => Found is { } found ? $"{found.Id}" : $"heard-{Heard!.Id}";
    public RecordingId RecordingId => Found?.Recording.Id ?? Heard!.RecordingId;
    public string RecordingName => Found?.Recording.Name ?? Heard!.RecordingName;
    public DateOnly? RecordedFrom => Found is null ? Heard!.RecordedFrom : Found.Recording.RecordedFrom;
    public int? Bar => Found is null ? Heard!.Bar : Found.Bar;
    /// <summary>bar 80, heard by hand</summary>
    public string HeardWords => string.Join(", ", new[] { Heard!.At?.ToString() ?? "", Heard.Bar is { } bar ? $"bar {bar}" : "",
        "heard by hand" }.Where(w => w.Length > 0));

    /// <summary>With what is shown of each.</summary>
    public static async Task<IReadOnlyList<ListedPlace>> ShownAsync(IReadOnlyList<ListedPlace> places, SightingStore sightings,
        CancellationToken stop)
    {
        var rows = await sightings.TheseAsync([.. places.Select(p => p.Found?.Id).OfType<SightingId>()], stop);
        var views = SightingView.Of(rows).ToDictionary(v => v.Row.Id);
        // What was taken away since the list was made is not shown.
        return [.. places.Where(p => p.Found is null || views.ContainsKey(p.Found.Id))
            .Select(p => p.Found is { } found ? p with { View = views[found.Id] } : p)];
    }
}

/// <summary>Where a sighting differs from its exemplar.</summary>
internal sealed record EditPlace(string Kind, int? PatternTick, int? PassageTick, string? Voice, string Text)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web);

    public static IReadOnlyList<EditPlace> Of(string edits) => JsonSerializer.Deserialize<List<EditPlace>>(edits, Json) ?? [];
}
