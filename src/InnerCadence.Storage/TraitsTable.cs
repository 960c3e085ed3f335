using System.Globalization;
using CsvHelper;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Storage;

/// <summary>The traits of every passage of a study as CSV: computed, so that no query can say them.</summary>
public sealed class TraitsTable(WrittenPassages written)
{
    public const string Name = "traits";

    public async Task<byte[]> WriteAsync(StudyId study, CancellationToken stop)
    {
        using var text = new MemoryStream();
        using (var csv = CsvWriter.Create(text, CsvWriterOptions.Default with { Injection = CsvInjection.Escape }, leaveOpen: true))
        {
            Row(csv, ["player", "title", "take", "bar", "kind", "first_hand", "first_voice", "last_voice", "starts", "lands", "quarters", "strokes", "toms", "linear", "double_stops", "ornaments", "bar_form"]);
            foreach (var p in await written.OfStudyAsync(study, stop))
            {
                var passage = p.Passage;
                if (Traits.Of(passage) is not { } t) continue;
                Row(csv,
                [
                    p.Player, p.Title, p.Take, Say(p.Bar), p.Kind, t.FirstHand?.ToString().ToLowerInvariant() ?? "", t.FirstVoice?.Code ?? "", t.LastVoice?.Code ?? "", t.Starts, t.Lands,
                    Say(t.Length.Value / (double)Tick.PerQuarter), Say(t.Strokes), t.Direction.ToString().ToLowerInvariant(), t.Linear ? "yes" : "", Say(t.DoubleStops),
                    t.Ornaments == Ornaments.None ? "" : t.Ornaments.ToString().ToLowerInvariant(), string.Join(' ', BarForm.Of(passage).Select(b => b.Letter)),
                ]);
            }
        }
        return text.ToArray();
    }

    private static string Say<T>(T? value) => string.Create(CultureInfo.InvariantCulture, $"{value}");

    private static void Row(CsvWriter csv, IEnumerable<string> fields)
    {
        foreach (var field in fields) csv.WriteField(field);
        csv.EndRecord();
    }
}
