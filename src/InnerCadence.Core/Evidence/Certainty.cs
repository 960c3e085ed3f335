using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>How sure it is who drums; only what is certain is in every number.</summary>
public readonly record struct Certainty : IWord<Certainty>
{
    private readonly string? word;

    private Certainty(string word) => this.word = word;

    public static Certainty Certain => default;
    public static Certainty Likely { get; } = new("likely");
    public static Certainty Disputed { get; } = new("disputed");
    public static IReadOnlyList<Certainty> All { get; } = [Certain, Likely, Disputed];

    public bool IsCertain => this == Certain;

    public string Word => word ?? "certain";

    public override string ToString() => Word;
}
