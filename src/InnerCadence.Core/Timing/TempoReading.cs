using InnerCadence.Core.Music;

namespace InnerCadence.Core.Timing;

/// <summary>A tempo may be felt at half or at double what is written.</summary>
public readonly record struct TempoReading : IWord<TempoReading>
{
    private readonly string? word;
    private readonly int octaves;

    private TempoReading(string word, int octaves) => (this.word, this.octaves) = (word, octaves);

    public static TempoReading AsWritten => default;
    public static IReadOnlyList<TempoReading> All { get; } = [AsWritten, new("half", -1), new("double", 1)];

    /// <summary>How many times the written tempo the felt one is.</summary>
    public double Times => Math.ScaleB(1, octaves);

    public string Word => word ?? "as written";

    public override string ToString() => Word;
}
