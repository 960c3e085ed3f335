using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Storage.Exchange;

/// <summary>A field of a recording that a column of a file can hold.</summary>
/// <param name="Property">Under which a fault is told of it.</param>
/// <param name="Heads">By which it is guessed.</param>
public sealed record ImportField(string Word, string Label, string Property, string[] Heads, Action<RecordingText, string> Put);

/// <summary>Which column of a file holds which field of a recording.</summary>
public static class ImportColumns
{
    /// <summary>Of so many cells most must be of a kind before a column is guessed by them; of names and words of ours some are enough.
    /// </summary>
    private const int Looked = 200;
    private const double Most = 0.7, Some = 0.3;

    /// <summary>In the order of an export.</summary>
    public static readonly IReadOnlyList<ImportField> Fields =
    [
        new("title", "title", nameof(RecordingText.Title), ["title", "piece", "song", "tune", "track", "name"], (r, v) => r.Title = v),
        new("take", "take", nameof(RecordingText.Take), ["take", "version"], (r, v) => r.Take = v),
        new("player", "who drums", nameof(RecordingText.Player), ["player", "drummer", "drums", "who drums"], (r, v) => r.Player = v),
        new("sure", "how sure", nameof(RecordingText.Sure), ["sure", "certainty", "how sure"], (r, v) => r.Sure = v),
        new("ensemble", "ensemble", nameof(RecordingText.Ensemble), ["ensemble", "band", "group", "artist", "orchestra"],
            (r, v) => r.Ensemble = v),
        new("release", "release", nameof(RecordingText.Release), ["release", "album", "record"], (r, v) => r.Release = v),
        new("recorded", "recorded", nameof(RecordingText.Recorded), ["recorded", "recording date", "date recorded", "date", "year"],
            (r, v) => r.Recorded = v),
        new("issued", "issued", nameof(RecordingText.Issued), ["issued", "release date", "released", "date issued"], (r, v) =>
            r.Issued = v),
        new("kind", "kind", nameof(RecordingText.Kind), ["kind", "type", "live or studio"], (r, v) => r.Kind = v),
        new("meter", "meter", nameof(RecordingText.Meter), ["meter", "time signature", "metre"], (r, v) => r.Meter = v),
        new("tempo", "tempo", nameof(RecordingText.Tempo), ["tempo", "bpm"], (r, v) => r.Tempo = v),
        new("tempo_read", "tempo read as", nameof(RecordingText.TempoRead), ["tempo_read", "tempo read as"], (r, v) => r.TempoRead = v),
        new("duration", "lasts", nameof(RecordingText.Duration), ["duration", "length", "lasts", "time"], (r, v) => r.Duration = v),
        new("bars", "bars", nameof(RecordingText.TotalBars), ["bars", "total bars"], (r, v) => r.TotalBars = v),
        new("searched", "bars searched", nameof(RecordingText.Searched), ["searched", "bars searched"], (r, v) => r.Searched = v),
        new("closeness", "how closely", nameof(RecordingText.Closeness), ["closeness", "how closely"], (r, v) => r.Closeness = v),
        new("searched_on", "searched on", nameof(RecordingText.SearchedOn), ["searched_on", "searched on"], (r, v) => r.SearchedOn = v),
        new("note", "note", nameof(RecordingText.Note), ["note", "notes", "comment", "comments", "remarks"], (r, v) => r.Note = v),
    ];

    public static ImportField? Find(string? word) => Fields.FirstOrDefault(f => f.Word == word);

    /// <summary>Field to column, from 0, guessed from the head; each column once.</summary>
    public static Dictionary<string, int> Guess(IReadOnlyList<string> head)
    {
        var columns = new Dictionary<string, int>();
        foreach (var field in Fields)
        {
            var at = Enumerable.Range(0, head.Count).FirstOrDefault(i => !columns.ContainsValue(i)
                && field.Heads.Contains(head[i].ToLowerInvariant()), -1);
            if (at >= 0) columns[field.Word] = at;
        }
        return columns;
    }

    /// <summary>Field to column: by the heads, then by words in them, then by what stands in the columns.</summary>
    public static Dictionary<string, int> Guess(CsvTable table, Study study)
    {
        var columns = Guess(table.Head);
        IEnumerable<int> Free() => Enumerable.Range(0, table.Head.Count).Where(i => !columns.ContainsValue(i));
        // What a head ends on says more than what it begins with: a song’s length is a length.
        foreach (var at in Free().ToList())
        {
            var words = Words(table.Head[at]);
            if (Fields.Where(f => !columns.ContainsKey(f.Word)).Select(f => (f.Word, Last: f.Heads.Max(h => Array.LastIndexOf(words, h))))
                .Where(f => f.Last >= 0).OrderByDescending(f => f.Last).FirstOrDefault() is { Word: { } found }) columns[found] = at;
        }
        foreach (var (word, share, isOne) in ByContents(study).Where(c => !columns.ContainsKey(c.Word)))
        {
            var at = Free().FirstOrDefault(i => Cells(table, i) is { Count: > 0 } cells && cells.Count(isOne) >= share * cells.Count, -1);
            if (at >= 0) columns[word] = at;
        }
        // The title is the column of words that differ most.
        if (!columns.ContainsKey("title") && Free().Select(i => (At: i, Cells: Cells(table, i)))
            .Where(c => c.Cells.Count(w => w.Any(char.IsLetter)) > Most * c.Cells.Count)
            .OrderByDescending(c => c.Cells.Distinct().Count()).FirstOrDefault() is { Cells.Count: > 0 } best)
            columns["title"] = best.At;
        return columns;
    }

    private static IEnumerable<(string Word, double Share, Func<string, bool> IsOne)> ByContents(Study study) =>
    [
        ("player", Some, cell => study.Players.Any(p => string.Equals(p.Name, cell, StringComparison.OrdinalIgnoreCase))),
        ("kind", Some, cell => RecordingKind.Called(cell) is not null),
        ("meter", Most, cell => cell.Contains('/') && Meter.Parse(cell) is not null),
        ("duration", Most, cell => cell.Contains(':') && ClockTime.Parse(cell) is not null),
        ("tempo", Most, cell => cell.StartsWith('~') || cell.EndsWith("bpm", StringComparison.OrdinalIgnoreCase)),
        ("recorded", Most, cell => cell.Length >= 4 && cell.Any(char.IsDigit) && SleeveDate.Read(cell, DayMonth.DayFirst) is not null),
    ];

    private static string[] Words(string head) => head.ToLowerInvariant().Split([' ', '_', '-', '/', '(', ')', '.'],
        StringSplitOptions.RemoveEmptyEntries);

    private static List<string> Cells(CsvTable table, int column) => [.. table.Rows.Take(Looked)
        .Select(r => column < r.Cells.Count ? Plain(r.Cells[column]) : "").Where(c => c.Length > 0)];

    /// <summary>What stands in a column: its first cells that differ.</summary>
    public static IReadOnlyList<string> Samples(CsvTable table, int column) => [.. Cells(table, column).Distinct().Take(3)];

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

    /// <summary>Without the apostrophe that an export puts before what a spreadsheet would take for a formula.</summary>
    internal static string Plain(string cell) => cell is ['\'', '=' or '+' or '-' or '@', ..] ? cell[1..] : cell;
}
