using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Storage.Exchange;

/// <summary>How the rows of a file are read.</summary>
/// <param name="Columns">Field to column, from 0.</param>
/// <param name="Order">Of day and month in dates of three figures.</param>
/// <param name="Kinds">Words of the file for a kind that we do not know, and the kind they were said to be.</param>
/// <param name="Mended">What was put right by hand: line and field, such as 12.recorded, and what stands there instead.</param>
public sealed record ImportReading(IReadOnlyDictionary<string, int> Columns, DayMonth Order, IReadOnlyDictionary<string, string> Kinds,
    IReadOnlyDictionary<string, string> Mended)
{
    public static string CellOf(int line, string field) => FormattableString.Invariant($"{line}.{field}");

    /// <summary>What the file has; empty where it has no such column.</summary>
    public string CellIn(CsvTableRow row, string field) =>
        Columns.TryGetValue(field, out var at) && at < row.Cells.Count ? ImportColumns.Plain(row.Cells[at]) : "";

    public RecordingText TextOf(CsvTableRow row)
    {
        var text = new RecordingText { DayMonth = Order };
        foreach (var field in ImportColumns.Fields)
        {
            if (Mended.Count > 0 && Mended.TryGetValue(CellOf(row.Line, field.Word), out var mended)) field.Put(text, mended);
            else if (Columns.TryGetValue(field.Word, out var at) && at < row.Cells.Count)
                field.Put(text, ImportColumns.Plain(row.Cells[at]));
        }
        if (text.Kind is { } kind && RecordingKind.Called(kind) is null && Kinds.TryGetValue(kind.Trim().ToLowerInvariant(), out var said))
            text.Kind = said;
        return text;
    }

    /// <summary>Words that stand where the kind does and say none, each once, with how often.</summary>
    public IReadOnlyList<(string Word, int Rows)> UnknownKinds(CsvTable table) => !Columns.TryGetValue("kind", out var at) ? []
        : [.. table.Rows.Where(r => at < r.Cells.Count).Select(r => ImportColumns.Plain(r.Cells[at]).ToLowerInvariant())
            .Where(w => w.Length > 0 && RecordingKind.Called(w) is null).GroupBy(w => w).OrderByDescending(g => g.Count())
            .ThenBy(g => g.Key, StringComparer.Ordinal).Select(g => (g.Key, g.Count()))];
}
