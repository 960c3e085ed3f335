using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;

namespace InnerCadence.Core.Evidence;

/// <summary>What is known of one recording, whatever idea is asked for.</summary>
public sealed record RecordingFacts
{
    public required long Id { get; init; }
    public required string Name { get; init; }
    public required string Title { get; init; }
    public required long Player { get; init; }
    public RecordingKind Kind { get; init; }
    public string Ensemble { get; init; } = "";
    public PartialDate? Recorded { get; init; }
    public PartialDate? Issued { get; init; }
    /// <summary>As it is felt.</summary>
    public double? Tempo { get; init; }
    public double? Minutes { get; init; }
    public int? TotalBars { get; init; }
    /// <summary>It is certain who drums, as far as the whole recording goes.</summary>
    public bool SureWhoPlays { get; init; } = true;
    public Form Form { get; init; } = Form.Empty;
    public BarGrid Grid { get; init; } = new(MeterCycle.CommonTime);
    /// <summary>Nothing before a bar is marked.</summary>
    public TempoMap? Map { get; init; }
    public ValueList<Search> Searches { get; init; } = [];
    public ValueList<WrittenBars> Written { get; init; } = [];
    public ValueList<DrummedBars> Drummed { get; init; } = [];

    /// <summary>The section of a bar: as the form says, else as it was typed with a passage there; empty where neither says.</summary>
    public string SectionOf(int? bar)
    {
        if (bar is not { } b) return "";
        return Form.SectionOf(b)?.Name ?? Written.FirstOrDefault(w => w.Section.Length > 0 && w.From is { } from && b >= from
            && b < from + w.Bars)?.Section ?? "";
    }

    /// <summary>The form says where the bar lies; else only what is written down does.</summary>
    public bool HasForm(int bar) => bar <= Grid.LastDescribed;

    /// <summary>A span that somebody wrote down goes before what is said of the whole recording.</summary>
    public bool SureWhoPlaysAt(int? bar)
    {
        var over = Drummed.Where(s => bar is { } b && b >= s.From && b < s.From + s.Bars).ToList();
        return over.Count > 0 ? over.All(s => s.Player == Player && s.Certain) : SureWhoPlays;
    }
}

/// <summary>Who drums in a span.</summary>
public sealed record DrummedBars(long Player, bool Certain, int From, int Bars);

/// <summary>What a person made of a sighting.</summary>
public enum Judged { Waiting, Confirmed, NearMiss, Rejected }

public static class JudgedWords
{
    /// <summary>As it is kept; nobody judged what has no word.</summary>
    public static Judged Read(string? word) => word switch
    {
        "confirmed" => Judged.Confirmed,
        "near-miss" => Judged.NearMiss,
        "rejected" =>
        Judged.Rejected,
        _ => Judged.Waiting
    };

    /// <summary>What was confirmed and is no longer found waits like what nobody judged (evidence.md, "Counted once").</summary>
    public static bool Waits(this Judged judged, bool vanished) => judged == Judged.Waiting || (judged == Judged.Confirmed && vanished);

    /// <summary>It is found in the text as it stands, and nobody refused it: so it is shown in pictures.</summary>
    public static bool Stands(this Judged judged, bool vanished) => !vanished && judged != Judged.Rejected;

    /// <summary>It counts as the idea itself where no listener was asked: confirmed, or found as the idea and not judged yet.</summary>
    public static bool IsTakenFor(this Judged judged, Verdict verdict, bool vanished) =>
        !vanished && (judged == Judged.Confirmed || (judged == Judged.Waiting && verdict != Verdict.NearMiss));
}

/// <summary>An idea found in a reading.</summary>
/// <param name="FirstBar">Of its passage in the recording; nothing where that is not known.</param>
/// <param name="Start">In the reading.</param>
/// <param name="Starts">Of the passage on the clock.</param>
/// <param name="Tempo">Of the reading, else of the recording.</param>
/// <param name="Section">As typed with the passage.</param>
/// <param name="Unsure">It rests on strokes that are marked unsure.</param>
/// <param name="PartlyUnheard">It rests on what could not be heard.</param>
/// <param name="Vanished">The text was corrected and it is no longer found.</param>
public sealed record FoundSighting(
    long Id, long Idea, long Recording, long Reading, MeterCycle Meters, int? FirstBar, Tick Start, Tick End, Judged Judged)
{
    public ClockTime? Starts { get; init; }
    public Bpm? Tempo { get; init; }
    public string Section { get; init; } = "";
    public bool BecauseHeard { get; init; }
    public bool Unsure { get; init; }
    public bool PartlyUnheard { get; init; }
    public bool Vanished { get; init; }
}

/// <summary>An idea heard at a place that nobody wrote down.</summary>
public sealed record HeardByHand(long Id, long Idea, long Recording, ClockTime? At, int? Bar);
