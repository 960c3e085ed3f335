namespace InnerCadence.Core.Music;

/// <summary>What a passage is in the music; a groove where nobody says.</summary>
public readonly record struct PassageKind
{
    private readonly string? word;

    private PassageKind(string word) => this.word = word;

    public static PassageKind Groove => default;
    public static PassageKind Fill { get; } = new("fill");
    public static IReadOnlyList<PassageKind> All { get; } =
        [Groove, Fill, new("lick"), new("set-up"), new("pick-up"), new("ending"), new("solo")];

    public static IReadOnlyList<string> Words { get; } = [.. All.Select(kind => kind.Word)];

    /// <summary>As it is kept, typed and shown.</summary>
    public string Word => word ?? "groove";

    /// <summary>It matters less which drum it was.</summary>
    public bool IsOrnamental => this != Groove;

    /// <summary>Nothing where the word is none of them.</summary>
    public static PassageKind? Find(string? word)
    {
        foreach (var kind in All)
            if (kind.Word == word) return kind;
        return null;
    }

    public override string ToString() => Word;
}
