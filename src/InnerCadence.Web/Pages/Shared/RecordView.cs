using System.Globalization;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>The stretch of a recording that a passage was written down from, as a player plays it.</summary>
/// <param name="Address">Where its sound is: the loops of it, and for an open page the bar lines of what is typed.</param>
/// <param name="Lines">Seconds of the passage's bar lines on the record, and of the end of its last bar; empty where they are not
/// known.</param>
/// <param name="FirstBar">The recording's number of the first of them; nothing where it is not known, or hidden.</param>
/// <param name="Tempo">Quarters a minute over all of them; nothing where they are not known.</param>
/// <param name="Off">By how much the start that was typed is later than the marked bar line, where that is worth a word.</param>
public sealed record RecordView(string Address, IReadOnlyList<Seconds> Lines, int? FirstBar, double? Tempo, Seconds? Off)
{
    /// <summary>What the bar lines come from; nothing where they are not known.</summary>
    public LinesBy? By { get; init; }

    /// <summary>Address of the film that was made at the same time; nothing where there is none.</summary>
    public string? Film { get; init; }

    /// <summary>Which it is, and where, is not to be seen.</summary>
    public bool IsHidden { get; init; }

    public string LinesAsJson => $"[{string.Join(',', Lines.Select(l => Math.Round(l, 4).ToString(CultureInfo.InvariantCulture)))}]";
}

/// <summary>Finds the record behind a passage.</summary>
public sealed class Records(RecordingStore recordings, TimelineStore timelines, SoundStore sounds, RecordPaces paces)
{
    /// <summary>Bars that are heard of a passage in which nothing is written yet.</summary>
    private const int Unwritten = 2;

    /// <returns>Nothing where no sound is at hand that is read here.</returns>
    public async Task<RecordView?> OfAsync(PassageRow passage, CancellationToken stop) =>
        await OfAsync(passage.RecordingId, CountLines.Parse(passage.Text).Passage, passage.Bar, passage.StartsAt, stop);

    /// <summary>The record as a page plays it beside a passage that stays as it is; nothing where its bar lines are not known
    /// either.</summary>
    public async Task<RecordView?> BesideAsync(RecordingId id, Passage passage, int? bar, ClockTime? start, CancellationToken stop) =>
        await OfAsync(id, passage, bar, start, stop) is { Lines.Count: > 1 } record ? record : null;

    public async Task<RecordView?> BesideAsync(PassageRow passage, CancellationToken stop) =>
        await OfAsync(passage, stop) is { Lines.Count: > 1 } record ? record : null;

    /// <summary>The record by what stands in the fields of a page; what cannot be read is not known.</summary>
    public async Task<RecordView?> TypedAsync(RecordingId id, Passage passage, string? bar, string? at, CancellationToken stop)
    {
        var chart = bar?.Contains("chart", StringComparison.OrdinalIgnoreCase) == true
            && await recordings.FindAsync(id, stop) is { } recording
            ? (await timelines.OfAsync(recording, stop)).Chart : null;
        return await OfAsync(id, passage, Chart.BarTyped(bar, chart, _ => { }), Typed.Span(at, _ => { })?.At, stop);
    }

    public async Task<RecordView?> OfAsync(RecordingId id, Passage passage, int? bar, ClockTime? start, CancellationToken stop)
    {
        if (await sounds.OfRecordingAsync(id, stop) is not { Samples: not null } sound
            || await recordings.FindAsync(id, stop) is not { } recording)
            return null;
        var whole = passage.Bars > 0 ? passage : passage with { Meters = recording.Meters, Bars = Unwritten };
        var clock = await paces.ClockOfAsync(recording, sound, whole, bar, start, stop);
        return new($"/recordings/{id}", clock?.Lines ?? [], bar, clock?.TempoOver(whole.Length), clock is { IsDoubtful: true } ? clock.Off
            : null)
        {
            By = clock?.By,
            Film = sound.Film is not null ? $"/recordings/{id}/film" : null,
        };
    }
}
