using System.Collections.Immutable;

namespace InnerCadence.Core.Music;

/// <summary>A stretch of drumming as written down: bars, strokes in time, and what could not be heard.</summary>
public sealed record Passage(MeterCycle Meters, int Bars, ImmutableArray<Stroke> Strokes)
{
    public static readonly Passage Empty = new(MeterCycle.CommonTime, 0, []);

    public Bpm? Tempo { get; init; }
    public Feel Feel { get; init; } = Feel.Straight;
    /// <summary>Nothing where the text does not say.</summary>
    public Handedness? Hands { get; init; }
    /// <summary>Where bar 1 begins to sound; zero without a pickup.</summary>
    public Tick Pickup { get; init; }
    /// <summary>Bars, from 0, in which a voice could not be heard: nothing may be concluded from them.</summary>
    public ImmutableHashSet<(int Bar, Voice Voice)> Unheard { get; init; } = [];
    /// <summary>The passage repeats: its end runs on into its start.</summary>
    public bool Looped { get; init; }

    public Tick Length => Meters.StartOf(Bars);

    /// <summary>The voices that sound, in canonical order.</summary>
    public IReadOnlyList<Voice> Voices => [.. Strokes.Select(s => s.Voice).Distinct().Order()];

    /// <summary>Strokes by tick, then in canonical voice order.</summary>
    public static ImmutableArray<Stroke> InOrder(IEnumerable<Stroke> strokes) =>
        [.. strokes.OrderBy(s => s.At.Value).ThenBy(s => s.Voice.Order)];
}
