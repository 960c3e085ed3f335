using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Storage.Passages;

namespace InnerCadence.Storage.Exchange;

/// <summary>The traits of every passage of a study: computed, so that no query can say them.</summary>
public sealed class TraitsTable(WrittenPassages written)
{
    public const string Name = "traits";

    private static readonly string[] Head = ["player", "title", "take", "bar", "kind", "first_hand", "first_voice", "last_voice", "starts",
        "lands", "quarters", "strokes", "toms", "linear", "double_stops", "ornaments", "bar_form"];

    public async Task<Sheet> ReadAsync(StudyId study, CancellationToken stop) =>
        new(Head, [.. (await written.OfStudyAsync(study, stop)).Select(p => (Row: p, Traits: Traits.Of(p.Passage)))
            .Where(x => x.Traits is not null).Select(x => RowOf(x.Row, x.Traits!))]);

    private static IReadOnlyList<object?> RowOf(WrittenPassage p, Traits t) =>
    [
        p.Player, p.Title, p.Take, p.Bar, p.Kind, t.FirstHand?.ToString().ToLowerInvariant(), t.FirstVoice?.Code, t.LastVoice?.Code,
            t.Starts, t.Lands, t.Length.Value / (double)Tick.PerQuarter, t.Strokes,
        t.Direction.ToString().ToLowerInvariant(), t.Linear, t.DoubleStops, t.Ornaments == Ornaments.None ? null : t.Ornaments.ToString()
            .ToLowerInvariant(), string.Join(' ', BarForm.Of(p.Passage).Select(b => b.Letter)),
    ];
}
