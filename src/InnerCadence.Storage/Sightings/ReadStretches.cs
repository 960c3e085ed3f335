using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;

namespace InnerCadence.Storage.Sightings;

/// <summary>A reading as it is kept, with what says where it adjoins others.</summary>
internal sealed record ReadingText
{
    public ReadingId Id { get; init; }
    public RecordingId RecordingId { get; init; }
    /// <summary>First bar in the recording.</summary>
    public int? Bar { get; init; }
    public string Text { get; init; } = "";
    public bool Looped { get; init; }

    public Passage AsPassage() => CountLines.Parse(Text).Passage with { Looped = Looped };
}

/// <summary>Passages that are read as one, with the readings of their recording.</summary>
internal readonly record struct ReadStretch(Stretch Stretch, ValueList<ReadingText> Readings);

/// <summary>Reads texts into stretches, and again only if one of them changed: every idea of a study looks through the same.</summary>
internal sealed class ReadStretches
{
    private IReadOnlyList<ReadingText> of = [];
    private IReadOnlyList<ReadStretch> stretches = [];

    public IReadOnlyList<ReadStretch> Of(IReadOnlyList<ReadingText> readings)
    {
        if (!of.SequenceEqual(readings)) (of, stretches) = (readings, Read(readings));
        return stretches;
    }

    private static IReadOnlyList<ReadStretch> Read(IReadOnlyList<ReadingText> readings) =>
        [.. readings.GroupBy(r => r.RecordingId).AsParallel().AsOrdered().SelectMany(recording =>
        {
            IReadOnlyList<ReadingText> own = [.. recording];
            return Stretch.Of([.. own.Select(r => (r.AsPassage(), r.Bar))]).Select(stretch => new ReadStretch(stretch, [.. own]));
        })];
}
