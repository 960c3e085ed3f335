using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Storage.Exchange;

/// <summary>Which column of a file holds which field of a recording.</summary>
public static class ImportColumns
{
    /// <summary>Fields in the order of an export, with the heads by which they are guessed.</summary>
    public static readonly IReadOnlyList<(string Field, string Label, string[] Heads, Action<RecordingText, string> Put)> Fields =
    [
        ("title", "title", ["title", "piece", "song", "tune", "track", "name"], (r, v) => r.Title = v),
        ("take", "take", ["take", "version"], (r, v) => r.Take = v),
        ("player", "who drums", ["player", "drummer", "drums", "who drums"], (r, v) => r.Player = v),
        ("sure", "how sure", ["sure", "certainty", "how sure"], (r, v) => r.Sure = v),
        ("ensemble", "ensemble", ["ensemble", "band", "group", "artist", "orchestra"], (r, v) => r.Ensemble = v),
        ("release", "release", ["release", "album", "record"], (r, v) => r.Release = v),
        ("recorded", "recorded", ["recorded", "recording date", "date recorded", "date", "year"], (r, v) => r.Recorded = v),
        ("issued", "issued", ["issued", "release date", "released", "date issued"], (r, v) => r.Issued = v),
        ("kind", "kind", ["kind", "type", "live or studio"], (r, v) => r.Kind = v),
        ("meter", "meter", ["meter", "time signature", "metre"], (r, v) => r.Meter = v),
        ("tempo", "tempo", ["tempo", "bpm"], (r, v) => r.Tempo = v),
        ("tempo_read", "tempo read as", ["tempo_read", "tempo read as"], (r, v) => r.TempoRead = v),
        ("duration", "lasts", ["duration", "length", "lasts", "time"], (r, v) => r.Duration = v),
        ("bars", "bars", ["bars", "total bars"], (r, v) => r.TotalBars = v),
        ("searched", "bars searched", ["searched", "bars searched"], (r, v) => r.Searched = v),
        ("closeness", "how closely", ["closeness", "how closely"], (r, v) => r.Closeness = v),
        ("searched_on", "searched on", ["searched_on", "searched on"], (r, v) => r.SearchedOn = v),
        ("note", "note", ["note", "notes", "comment", "comments", "remarks"], (r, v) => r.Note = v),
    ];

    /// <summary>Field to column, from 0, guessed from the head; each column once.</summary>
    public static Dictionary<string, int> Guess(IReadOnlyList<string> head)
    {
        var columns = new Dictionary<string, int>();
        foreach (var (field, _, heads, _) in Fields)
        {
            var at = Enumerable.Range(0, head.Count).FirstOrDefault(i => !columns.ContainsValue(i)
                && heads.Contains(head[i].ToLowerInvariant()), -1);
            if (at >= 0) columns[field] = at;
        }
        return columns;
    }

    /// <summary>Day or month first in dates of three figures, where the dates of the file show it.</summary>
    public static DayMonth OrderOf(CsvTable table, IReadOnlyDictionary<string, int> columns) => SleeveDate.OrderIn(Dates(table, columns));

    /// <summary>Dates of the file whose day and month could be either, and none that shows which.</summary>
    public static bool AsksForOrder(CsvTable table, IReadOnlyDictionary<string, int> columns) =>
        OrderOf(table, columns) == DayMonth.Unsaid && Dates(table, columns).Any(SleeveDate.AsksForOrder);

    private static IEnumerable<string> Dates(CsvTable table, IReadOnlyDictionary<string, int> columns) =>
        from field in (string[])["recorded", "issued"]
        where columns.ContainsKey(field)
        from row in table.Rows
        where columns[field] < row.Cells.Count
        select row.Cells[columns[field]];

    public static RecordingText Row(IReadOnlyDictionary<string, int> columns, IReadOnlyList<string> cells)
    {
        var text = new RecordingText();
        foreach (var (field, _, _, put) in Fields)
        {
            if (columns.TryGetValue(field, out var at) && at < cells.Count) put(text, Plain(cells[at]));
        }
        return text;
    }

    /// <summary>Without the apostrophe that an export puts before what a spreadsheet would take for a formula.</summary>
    private static string Plain(string cell) => cell is ['\'', '=' or '+' or '-' or '@', ..] ? cell[1..] : cell;
}
