using System.Text;
using CsvHelper;

namespace InnerCadence.Storage.Exchange;

/// <summary>A file of rows and columns as people send them: its separator and its encoding found out.</summary>
/// <param name="Encoding">As it is called: UTF-8, UTF-16, Windows-1252.</param>
public sealed record CsvTable(string Encoding, char Separator, IReadOnlyList<string> Head, IReadOnlyList<CsvTableRow> Rows)
{
    public const int MostBytes = 32 * 1024 * 1024;
    public const int MostRows = 100_000;
    public const int MostColumns = 100;

    /// <exception cref="InvalidDataException">It is empty, no text, or too much; the message says so in a sentence.</exception>
    public static CsvTable Read(byte[] content)
    {
        if (content.Length > MostBytes) throw new InvalidDataException($"The file is larger than {MostBytes / 1024 / 1024} MB: split it.");
        var (text, encoding) = Decode(content);
        if (string.IsNullOrWhiteSpace(text)) throw new InvalidDataException("The file is empty.");
        if (text.Contains('\0')) throw new InvalidDataException("This is no text file: save the table as CSV and choose that file.");
        var separator = Separators.MaxBy(s => Columns(text, s));
        try
        {
            using var csv = CsvReader.FromText(text, CsvReaderOptions.Default with { Separator = separator, TrackLineNumbers = true });
            var rows = new List<CsvTableRow>();
            while (csv.Read())
            {
                if (csv.FieldCount == 0 || (csv.FieldCount == 1 && csv.GetString(0).Trim().Length == 0)) continue;
                if (rows.Count == MostRows) throw new InvalidDataException($"The file has more than {MostRows:#,0} rows: split it.");
                rows.Add(new((int)csv.LineNumber, [.. Enumerable.Range(0, Math.Min(csv.FieldCount, MostColumns))
                    .Select(i => csv.GetString(i).Trim())]));
            }
            string[] head = [.. csv.Headers.Take(MostColumns)
                .Select((h, i) => h.Trim() is { Length: > 0 } name ? name : $"column {i + 1}")];
            if (head.Length < 2 && rows.Count == 0) throw new InvalidDataException(
                "No table was found in the file: its first row names the columns, and each row after it is a recording.");
            return new(encoding, separator, head, rows);
        }
        catch (CsvFormatException e)
        {
            throw new InvalidDataException($"The file is no CSV table: {e.Message}", e);
        }
    }

    private static readonly char[] Separators = [',', ';', '\t', '|'];

    /// <summary>How many columns the first lines have alike with this separator; 0 where they differ.</summary>
    private static int Columns(string text, char separator)
    {
        var (quoted, count, first, lines) = (false, 0, -1, 0);
        foreach (var c in text.AsSpan(0, Math.Min(text.Length, 20_000)))
        {
            if (c == '"') quoted = !quoted;
            else if (!quoted && c == separator) count++;
            else if (!quoted && c == '\n')
            {
                if (first < 0) first = count;
                else if (count != first && count > 0) return count > first ? first : count;
                count = 0;
                if (++lines == 10) break;
            }
        }
        return first < 0 ? count : first;
    }

    private static (string Text, string Encoding) Decode(byte[] content)
    {
        if (content is [0xEF, 0xBB, 0xBF, ..]) return (System.Text.Encoding.UTF8.GetString(content.AsSpan(3)), "UTF-8");
        if (content is [0xFF, 0xFE, ..]) return (System.Text.Encoding.Unicode.GetString(content.AsSpan(2)), "UTF-16");
        if (content is [0xFE, 0xFF, ..]) return (System.Text.Encoding.BigEndianUnicode.GetString(content.AsSpan(2)), "UTF-16");
        try
        {
            return (new UTF8Encoding(false, true).GetString(content), "UTF-8");
        }
        catch (DecoderFallbackException)
        {
            return (CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetString(content), "Windows-1252");
        }
    }
}

/// <param name="Line">Where it begins in the file, from 1.</param>
public sealed record CsvTableRow(int Line, IReadOnlyList<string> Cells);
