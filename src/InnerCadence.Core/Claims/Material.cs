using InnerCadence.Core.Discovery;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Core.Claims;

/// <summary>A bar that is written down, with its strokes.</summary>
/// <param name="Number">In its recording; nothing where that is not known.</param>
public sealed record PlayedBar(long Player, long Recording, string Title, string Name, int? Number, Bar Bar, long Passage);

/// <summary>A fill that is written down.</summary>
public sealed record PlayedFill(long Player, string Title, string Words, long Passage, Passage Fill, Traits Traits);

/// <summary>All that claims are held against.</summary>
/// <param name="Ideas">Every recording of the study for each idea.</param>
/// <param name="Bars">Bars written down for another reason than that an idea was heard in them, or listened to anyway; each bar of a
/// recording once.</param>
public sealed record Material(Names Names, IReadOnlyDictionary<long, IReadOnlyList<Performance>> Ideas, ValueList<PlayedBar> Bars,
    ValueList<PlayedFill> Fills)
{
    /// <summary>Each voice against the timekeeper on each recording that was measured against its sound.</summary>
    public ValueList<RecordedGap> Gaps { get; init; } = [];

    public IReadOnlyList<Performance> Of(long idea, long player) =>
        Ideas.TryGetValue(idea, out var all) ? [.. all.Where(p => p.Player == player)] : [];
}
