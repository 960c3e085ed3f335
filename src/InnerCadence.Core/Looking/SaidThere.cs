using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>What a person said of a place that the ear found.</summary>
public readonly record struct SaidThere : IWord<SaidThere>
{
    private readonly string? word;

    private SaidThere(string word) => this.word = word;

    public static SaidThere Yes => default;
    public static SaidThere Maybe { get; } = new("maybe");
    public static SaidThere No { get; } = new("no");

    public static IReadOnlyList<SaidThere> All { get; } = [Yes, Maybe, No];

    public string Word => word ?? "yes";

    public override string ToString() => Word;
}
