using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>The fields of a recording as typed.</summary>
public sealed class RecordingInput
{
    public string? Title { get; set; }
    public string? Take { get; set; }
    public string? Player { get; set; }
    public string? Ensemble { get; set; }
    public string? Release { get; set; }
    public string? Recorded { get; set; }
    public string? Kind { get; set; } = "studio";
    public string? Meter { get; set; } = "4/4";
    public string? Tempo { get; set; }
    public string? Duration { get; set; }
    public string? TotalBars { get; set; }
    public string? Searched { get; set; }
    public string? Closeness { get; set; } = "listened";
    public string? Note { get; set; }
    public int Version { get; set; }

    public static RecordingInput Of(Recording recording) => new()
    {
        Title = recording.Title,
        Take = recording.Take,
        Player = recording.PlayerId.ToString(),
        Ensemble = recording.Ensemble,
        Release = recording.Release,
        Recorded = recording.Recorded?.ToString(),
        Kind = recording.Kind,
        Meter = recording.Meter,
        Tempo = recording.Tempo?.ToString("0.###", CultureInfo.InvariantCulture),
        Duration = recording.Duration?.ToString(),
        TotalBars = recording.TotalBars?.ToString(CultureInfo.InvariantCulture),
        Note = recording.Note,
        Version = recording.Version,
    };

    /// <summary>Nothing, with the problems told, where a field cannot be read.</summary>
    public RecordingDraft? Read(ModelStateDictionary problems, Study study)
    {
        var title = problems.Text("Input.Title", Title, "Which piece is it? Write its title.");
        var kind = problems.Choice("Input.Kind", Kind, RecordingDraft.Kinds);
        var player = study.Players.FirstOrDefault(p => p.Id.ToString() == Player) ?? study.Subject;
        var meter = problems.Text("Input.Meter", string.IsNullOrWhiteSpace(Meter) ? "4/4" : Meter);
        if (meter.Split(' ', StringSplitOptions.RemoveEmptyEntries).Any(m => Core.Music.Meter.Parse(m) is null))
            problems.AddModelError("Input.Meter", $"‘{Meter}’ is no meter: write for example 4/4, or 5/8 7/8 for bars in turn.");
        var draft = new RecordingDraft
        {
            PlayerId = player.Id,
            Title = title,
            Take = problems.Text("Input.Take", Take),
            Ensemble = problems.Text("Input.Ensemble", Ensemble),
            Release = problems.Text("Input.Release", Release),
            Recorded = problems.Date("Input.Recorded", Recorded),
            Kind = kind,
            Meter = meter,
            Tempo = problems.Tempo("Input.Tempo", Tempo),
            Duration = problems.Clock("Input.Duration", Duration),
            TotalBars = problems.Number("Input.TotalBars", TotalBars, 1, Limits.Bars, "a number of bars"),
            Note = problems.Text("Input.Note", Note, most: Limits.Note),
        };
        return problems.IsValid ? draft : null;
    }

    /// <summary>What was searched, where the form says so.</summary>
    public CoverageDraft? ReadSearched(ModelStateDictionary problems, DateOnly today)
    {
        var bars = problems.Number("Input.Searched", Searched, 0, Limits.Bars, "a number of bars");
        var closeness = problems.Choice("Input.Closeness", Closeness, Choices);
        if (bars is { } n && int.TryParse(TotalBars, out var total) && n > total)
            problems.AddModelError("Input.Searched", $"The recording has {total} bars: {n} cannot have been searched.");
        return bars is > 0 && problems.IsValid ? new(Enum.Parse<Closeness>(closeness, true), null, bars.Value, null, today) : null;
    }

    public static readonly IReadOnlyList<string> Choices = ["skimmed", "listened", "transcribed"];
}
