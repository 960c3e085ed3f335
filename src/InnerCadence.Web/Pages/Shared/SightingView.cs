using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Sightings;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>A sighting as a page shows it: the clock time, the bar and the count that lead back to the sound.</summary>
public sealed class SightingView
{
    private SightingView(SightingRow row, Passage passage)
    {
        (Row, Passage) = (row, passage);
        var (bar, inBar) = passage.Meters.Locate(new(row.StartTick));
        BarInPassage = bar;
        Bar = row.Bar is { } first ? first + bar : null;
        Count = CountNames.Spoken(inBar, passage.Meters.MeterOf(bar));
        var tempo = passage.Tempo ?? (row.Tempo is { } t ? Bpm.Of(t) : null);
        (Clock, Ends) = (At(row.StartTick), At(row.EndTick));
        BeatsPerMinute = tempo?.Value;

        ClockTime? At(int tick)
        {
            var (from, into) = passage.Meters.Locate(new(tick));
            // Marks say where a bar sounds; the nominal tempo drifts off by a second in thirty bars.
            if (row.Bar is { } first && row.Map?.ClockOf(new BarPlace(first + from, into)) is { } clock) return clock;
            return row.PassageStart is { } start && tempo is { } bpm
                ? new ClockTime(Math.Max(0, start.Milliseconds + (int)Math.Round(bpm.SecondsOf(new(tick)).Milliseconds))) : null;
        }
    }

    public SightingRow Row { get; }
    public Passage Passage { get; }
    public int BarInPassage { get; }
    /// <summary>Bar of the recording; nothing where the passage's own is not known.</summary>
    public int? Bar { get; }
    public string Count { get; }
    /// <summary>Clock time of its first stroke, by the bar marks where there are any; nothing where the passage's time or its tempo is not
    /// known either.</summary>
    public ClockTime? Clock { get; }
    /// <summary>Clock time at which its window ends.</summary>
    public ClockTime? Ends { get; }
    public double? BeatsPerMinute { get; }
    /// <summary>Where it is listened to in the recording, in a loop; nothing without a clock time.</summary>
    public string? Listen => (Clock ?? Row.PassageStart) is { } from ? ListenLink.Of(Row.RecordingId, from, Clock is null ? null : Ends)
        : null;

    /// <summary>bar 41, the e of 3</summary>
    public string Where => $"{(Bar is { } bar ? $"bar {bar}" : $"bar {BarInPassage + 1} of the passage")}, {Count}";

    public string ClockWords => Clock is { } clock ? clock.ToString() : Row.PassageStart is { } start ? $"after {start}" : "no time yet";

    public string VerdictWords => VerdictSaid(Row.Verdict, Row.Judged);

    /// <summary>near miss, or what a judgement made of it.</summary>
    public static string VerdictSaid(Verdict verdict, Judged judged) =>
        judged == Judged.Confirmed && verdict == Verdict.NearMiss ? "variant by judgement" : verdict.Word().Replace('-', ' ');

    public string JudgementWords => Row.JudgementWord switch
    {
        null => "waiting",
        "near-miss" => "near miss",
        var word => word,
    } + (Row.Vanished ? ", no longer found" : Row.Changed ? ", changed since" : "");

    /// <summary>Each text is read once, however many sightings lie in it.</summary>
    public static IEnumerable<SightingView> Of(IEnumerable<SightingRow> rows) =>
        rows.Select(row => new SightingView(row, WrittenPassages.Read(row.Text) with { Looped = row.Looped }));
}
