using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;
using CsvHelper;

namespace InnerCadence.Storage.Exchange;

/// <summary>A table to take away, as CSV or as JSON.</summary>
/// <param name="Head">Names of the columns.</param>
/// <param name="Rows">A cell is a text, a number, yes or no, or nothing.</param>
public sealed record Sheet(IReadOnlyList<string> Head, IReadOnlyList<IReadOnlyList<object?>> Rows)
{
    public static IReadOnlyList<string> Formats { get; } = ["csv", "json"];

    public static string MediaOf(string format) => format == "json" ? "application/json" : "text/csv; charset=utf-8";

    public byte[] As(string format) => format == "json" ? Json() : Csv();

    /// <remarks>A field that a spreadsheet would take for a formula begins with an apostrophe; an import takes it off again.</remarks>
    private byte[] Csv()
    {
        using var text = new MemoryStream();
        using (var csv = CsvWriter.Create(text, CsvWriterOptions.Default with { Injection = CsvInjection.Escape }, leaveOpen: true))
        {
            foreach (var row in Rows.Prepend(Head))
            {
                foreach (var cell in row) csv.WriteField(cell switch
                {
                    null => "",
                    bool yes => yes ? "yes" : "",
                    IFormattable number =>
                    number.ToString(null, CultureInfo.InvariantCulture),
                    _ => cell.ToString()!
                });
                csv.EndRecord();
            }
        }
        return text.ToArray();
    }

    /// <summary>An object a row; nothing is null, not an empty text.</summary>
    private byte[] Json()
    {
        using var text = new MemoryStream();
        using (var json = new Utf8JsonWriter(text, new() { Indented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping }))
        {
            json.WriteStartArray();
            foreach (var row in Rows)
            {
                json.WriteStartObject();
                for (var i = 0; i < Head.Count; i++)
                {
                    json.WritePropertyName(Head[i]);
                    JsonSerializer.Serialize(json, row[i]);
                }
                json.WriteEndObject();
            }
            json.WriteEndArray();
        }
        return text.ToArray();
    }
}
