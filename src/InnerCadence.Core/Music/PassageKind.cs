namespace InnerCadence.Core.Music;

/// <summary>What a passage is in the music; a groove where nobody says.</summary>
public readonly record struct PassageKind : IWord<PassageKind>
{
    private readonly string? word;

    private PassageKind(string word) => this.word = word;

    public static PassageKind Groove => default;
    public static PassageKind Fill { get; } = new("fill");
    public static IReadOnlyList<PassageKind> All { get; } =
        [Groove, Fill, new("lick"), new("set-up"), new("pick-up"), new("ending"), new("solo")];

    /// <summary>As it is kept, typed and shown.</summary>
    public string Word => word ?? "groove";

    /// <summary>It matters less which drum it was.</summary>
    public bool IsOrnamental => this != Groove;

    public override string ToString() => Word;
}
