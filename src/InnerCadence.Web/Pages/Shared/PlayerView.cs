namespace InnerCadence.Web.Pages.Shared;

/// <summary>What a player plays and where its line moves.</summary>
/// <param name="Picture">Selector of the element that holds the strands.</param>
/// <param name="Source">Id of the field whose text is played; else <paramref name="Text"/> is.</param>
/// <param name="Full">With levels, layers, another click, a climb, and what it can be heard against.</param>
/// <param name="Key">The key that plays and stops.</param>
/// <param name="Record">The stretch of the recording beside it; nothing where no sound is at hand.</param>
/// <param name="Open">The page has fields that say where it lies on the record, and may change.</param>
/// <param name="Paced">What is heard goes at <paramref name="Tempo"/>, the record too.</param>
/// <param name="Foot">At the foot of the window, whatever is scrolled.</param>
public sealed record PlayerView(string Picture, string? Source = null, string? Text = null, double? Tempo = null, bool Loop = false,
    string Key = "p", bool Full = false, IReadOnlyList<Passages.Comparison>? Against = null,
    RecordView? Record = null, bool Foot = false, bool Paced = false, bool Open = false)
{
    /// <summary>Shows no more than its key: another transport of the page says how it is heard.</summary>
    public bool Alone { get; init; }

    /// <summary>How early or late each stroke was played, as JSON: its place, its voice, milliseconds; nothing where nobody
    /// measured.</summary>
    public string? Offsets { get; init; }

    /// <summary>The controls that it shares with every other room.</summary>
    public TransportView Transport => new(Key, Record: Record is not null)
    {
        Sources = Record is not null,
        Looped = Loop || Record is not null,
        Spans = Full ? [("", "all"), ("picked", "picked")] : null,
        Fastest = 150,
        Chief = Foot,
    };
}
