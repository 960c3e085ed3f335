using System.Collections.Immutable;

namespace InnerCadence.Core.Music;

/// <summary>A stretch of drumming as written down: bars, strokes in time, and what could not be heard.</summary>
public sealed record Passage(MeterCycle Meters, int Bars, ValueList<Stroke> Strokes)
{
    public static readonly Passage Empty = new(MeterCycle.CommonTime, 0, []);

    /// <summary>At the start; nothing where the text does not say.</summary>
    public Bpm? Tempo { get; init; }
    /// <summary>Where the tempo changes after the start, in order of time; empty without a tempo.</summary>
    public ValueList<TempoChange> TempoChanges { get; init; } = [];
    public Levels Levels { get; init; } = Levels.None;
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

    /// <summary>The tempo from place to place, the first at zero; empty without one.</summary>
    public IReadOnlyList<TempoChange> Tempos => Tempo is { } tempo ? [new(Tick.Zero, tempo), .. TempoChanges] : [];

    /// <summary>What the drummer played: echoes are left out.</summary>
    public Passage Played() => Strokes.Any(s => s.Echo) ? this with { Strokes = [.. Strokes.Where(s => !s.Echo)] } : this;

    /// <summary>How loud the kit is at a stroke, in steps from mf.</summary>
    public double LevelOf(Stroke stroke) => Levels.At(stroke.At, stroke.Voice);

    /// <summary>The voices that sound, in canonical order.</summary>
    public IReadOnlyList<Voice> Voices => [.. Strokes.Select(s => s.Voice).Distinct().Order()];

    /// <summary>A stroke of the hands has no hand.</summary>
    public bool HasUnknownHands => Strokes.Any(s => s.Voice.Limbs == LimbClass.Hand && s.Side is null);

    /// <summary>Strokes by tick, then in canonical voice order.</summary>
    public static ValueList<Stroke> InOrder(IEnumerable<Stroke> strokes) =>
        [.. strokes.OrderBy(s => s.At.Value).ThenBy(s => s.Voice.Order)];
}
