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

    private static readonly Dictionary<string, RecordingKind> Synonyms = new(StringComparer.OrdinalIgnoreCase)
    {
        ["album"] = Studio,
        ["session"] = Studio,
        ["single"] = Studio,
        ["studio session"] = Studio,
        ["concert"] = Live,
        ["gig"] = Live,
        ["in concert"] = Live,
        ["radio"] = All[2],
        ["tv"] = All[2],
        ["television"] = All[2],
        ["radio session"] = All[2],
        ["practice"] = Rehearsal,
        ["sound check"] = Rehearsal,
        ["soundcheck"] = Rehearsal,
    };

    /// <summary>By its word or another for it, in any case.</summary>
    public static RecordingKind? Called(string word) => All.Cast<RecordingKind?>()
        .FirstOrDefault(k => string.Equals(k!.Value.Word, word.Trim(),
        StringComparison.OrdinalIgnoreCase)) ?? (Synonyms.TryGetValue(word.Trim(), out var kind) ? kind : null);

    public string Word => word ?? "studio";

    public override string ToString() => Word;
}
