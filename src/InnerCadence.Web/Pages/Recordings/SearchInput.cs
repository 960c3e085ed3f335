using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Recordings;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>What was searched, as typed: an amount of bars, a span of them or of the clock.</summary>
public sealed class SearchInput
{
    public string? Bars { get; set; }
    public string? Closeness { get; set; } = "listened";
    /// <summary>Numbers of the ideas that were listened for; none for everything.</summary>
    public string[] For { get; set; } = [];
    public string? ByWhom { get; set; }
    public string? On { get; set; }

    /// <summary>96 is an amount, 33-64 the bars from 33 to 64, 1-16, 33-48 two spans, 0:30-1:45 a span of the clock.</summary>
    public CoverageDraft? Read(ModelStateDictionary problems, Recording recording, Timeline timeline, IReadOnlyList<IdeaRow> ideas)
    {
        var closeness = Enum.Parse<Closeness>(problems.Choice("Search.Closeness", Closeness, RecordingText.ClosenessWords), true);
        var by = problems.Text("Search.ByWhom", ByWhom);
        var on = DateOnly.FromDateTime(DateTime.Now);
        if (!string.IsNullOrWhiteSpace(On) && !DateOnly.TryParseExact(On.Trim(), "yyyy-MM-dd", CultureInfo.InvariantCulture,
            DateTimeStyles.None, out on))
            problems.AddModelError("Search.On", $"‘{On}’ is no day: write it as 2026-03-12.");
        IdeaId[] sought = [.. ideas.Where(i => For.Contains(i.Id.ToString())).Select(i => i.Id)];
        if (ReadSpan(recording, timeline) is not { } span)
            problems.AddModelError("Search.Bars",
                $"Write how many bars were searched, such as 96, which, such as 33-64 or 1-16, 33-48, or from when to when, such as "
                + $"0:30-1:45; the recording has "
                + $"{(recording.TotalBars is { } t ? Words.Bars(t) : "an unknown number of bars")}"
                    + $"{(recording.Duration is { } d ? $" and lasts {d}" : "")}.");
        else if (problems.IsValid)
            return new CoverageDraft(closeness, span.From, span.Bars, sought, on)
            {
                Clock = span.Clock,
                ByWhom = by,
                Also = [.. span.Also]
            };
        return null;
    }

    private (int? From, int Bars, (ClockTime, ClockTime)? Clock, IReadOnlyList<(int, int)> Also)? ReadSpan(Recording recording,
        Timeline timeline)
    {
        var parts = (Bars ?? "").Replace('–', '-').Split('-', StringSplitOptions.TrimEntries);
        if (parts.Length == 2 && parts.All(p => p.Contains(':')) && ClockTime.Parse(parts[0]) is { } start
            && ClockTime.Parse(parts[1]) is { } end)
        {
            if (end.CompareTo(start) <= 0 || (recording.Duration is { } lasts && end.CompareTo(lasts) > 0)) return null;
            var (from, bars) = TimelineStore.Searched(timeline, recording, (start, end));
            return (from, bars, (start, end), []);
        }
        return Typed.Searched(Bars, recording.TotalBars ?? UploadLimits.Bars) is { } spans
            ? (spans[0].From, spans[0].Bars, null, [.. spans.Skip(1).Select(m => (m.From!.Value, m.Bars))]) : null;
    }
}
