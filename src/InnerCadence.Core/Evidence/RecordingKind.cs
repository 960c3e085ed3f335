using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>Where a performance was fixed; in a studio where nobody says.</summary>
public readonly record struct RecordingKind : IWord<RecordingKind>
{
    private readonly string? word;

    private RecordingKind(string word) => this.word = word;

    public static RecordingKind Studio => default;
    public static RecordingKind Live { get; } = new("live");
    public static RecordingKind Rehearsal { get; } = new("rehearsal");
    public static IReadOnlyList<RecordingKind> All { get; } = [Studio, Live, new("broadcast"), Rehearsal];

    public string Word => word ?? "studio";

    public override string ToString() => Word;
}
