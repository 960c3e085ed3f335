using System.IO.Compression;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Xml;
using System.Xml.Linq;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;

namespace InnerCadence.Web.Interchange;

/// <summary>A file of music as it was read: count lines to look at before anything is kept.</summary>
/// <param name="Kind">MIDI, MusicXML, drum-tab text, count lines.</param>
/// <param name="Doubts">What had to be decided.</param>
/// <param name="Unknown">Notes and instruments that no drum is known for, with how often they come; they are left out.</param>
/// <param name="Offsets">How far a person played from where the strokes are written; none where the file is exact.</param>
public sealed record ReadScore(string Kind, string Text, Passage Passage, IReadOnlyList<string> Doubts,
    IReadOnlyList<(string Called, int Times)> Unknown, IReadOnlyList<StrokeOffset> Offsets);

/// <summary>Reads files of music by what is in them, whatever their names say. Nothing outside the file is ever opened, and nothing grows
/// beyond its bounds.</summary>
public static class ScoreFiles
{
    public const int MostBytes = 4 * 1024 * 1024;
    private const int MostText = 64 * 1024, MostXml = 16 * 1024 * 1024, MostEntries = 1000;
    /// <summary>A score goes ten levels deep; a tree costs the square of its depth.</summary>
    private const int DeepestXml = 64, MostNodes = 2_000_000;
    private static readonly XmlReaderSettings Closed = new()
    {
        DtdProcessing = DtdProcessing.Ignore,
        XmlResolver = null,
        MaxCharactersInDocument = MostXml,
        MaxCharactersFromEntities = 1024
    };

    /// <summary>One of many: a file on which a reader breaks is a file that cannot be read, and the others are none the worse.</summary>
    /// <param name="problem">A sentence where it cannot be read.</param>
    /// <exception cref="OperationCanceledException">Who asked has left.</exception>
    public static ReadScore? ReadOne(byte[] bytes, out string? problem, PercussionMap map, ILogger log, CancellationToken stop)
    {
        try
        {
            return Read(bytes, out problem, map, stop);
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            log.LogError(e, "A file of {Bytes} bytes broke its reader", bytes.Length);
            problem = "It cannot be read: something in it is not as it should be.";
            return null;
        }
    }

    /// <param name="problem">A sentence where it cannot be read.</param>
    /// <exception cref="OperationCanceledException">Who asked has left.</exception>
    public static ReadScore? Read(byte[] bytes, out string? problem, PercussionMap? map = null, CancellationToken stop = default)
    {
        map ??= PercussionMap.General;
        problem = null;
        if (bytes.Length == 0) problem = "The file is empty.";
        else if (bytes.Length > MostBytes) problem =
            $"The file has {bytes.Length / 1024 / 1024} MB; {MostBytes / 1024 / 1024} are read. Cut it first.";
        if (problem is not null) return null;
        if (bytes.AsSpan().StartsWith("MThd"u8)) return Midi(bytes, map, out problem);
        if (bytes.AsSpan().StartsWith("PK\u0003\u0004"u8)) return Compressed(bytes, map, out problem, stop);
        if (TextOf(bytes) is not { } text)
        {
            problem = "This is neither MIDI nor MusicXML nor text.";
            return null;
        }
        return text.TrimStart() switch
        {
            ['<', ..] => Xml(() => new StringReader(text), map, out problem, stop),
            ['{', ..] => Json(text, out problem),
            _ => Lines(text, out problem),
        };
    }

    private static ReadScore? Midi(byte[] bytes, PercussionMap map, out string? problem)
    {
        if (MidiFile.Read(bytes, out var broken) is not { } file)
        {
            problem = broken;
            return null;
        }
        if (MidiPassage.Read(file, map, out problem) is not { } read) return null;
        return new("MIDI", CountWriter.Write(read.Passage, file.Title.Length > 0 ? file.Title : null), read.Passage,
            [.. broken is null ? [] : new[] { broken }, .. read.Doubts], read.Unknown, read.Offsets);
    }

    /// <summary>Read twice: once to see that it is no deeper and no larger than a score, then into a tree.</summary>
    private static ReadScore? Xml(Func<TextReader> text, PercussionMap map, out string? problem, CancellationToken stop)
    {
        XDocument document;
        try
        {
            using (var reader = XmlReader.Create(text(), Closed))
            {
                for (var nodes = 1; reader.Read(); nodes++)
                {
                    if (nodes % 4096 == 0) stop.ThrowIfCancellationRequested();
                    if (reader.Depth <= DeepestXml && nodes <= MostNodes) continue;
                    problem = nodes > MostNodes ? "This XML holds more than a score can."
                        : $"This XML is nested more than {DeepestXml} deep: it is no score.";
                    return null;
                }
            }
            using var again = XmlReader.Create(text(), Closed);
            document = XDocument.Load(again);
        }
        catch (XmlException e)
        {
            problem = $"This XML breaks off or is not well formed, in line {e.LineNumber}.";
            return null;
        }
        stop.ThrowIfCancellationRequested();
        if (MusicXml.Read(document, map, out problem) is not { } read) return null;
        return new("MusicXML", CountWriter.Write(read.Passage), read.Passage, read.Doubts, read.Unknown, []);
    }

    /// <summary>A zip that names its score in META-INF/container.xml.</summary>
    private static ReadScore? Compressed(byte[] bytes, PercussionMap map, out string? problem, CancellationToken stop)
    {
        try
        {
            using var zip = new ZipArchive(new MemoryStream(bytes), ZipArchiveMode.Read);
            if (zip.Entries.Count > MostEntries)
            {
                problem = "This archive holds too many files to be a score.";
                return null;
            }
            if (zip.GetEntry("META-INF/container.xml") is not { } container || Bounded(container, MostText) is not { } listed)
            {
                problem = "This archive is no compressed MusicXML: it does not say where its score is.";
                return null;
            }
            var path = ScoreNamedIn(listed);
            // The name only looks an entry up; it is never a path.
            if (path is null || zip.GetEntry(path) is not { } score)
            {
                problem = "The score that this archive names is not in it.";
                return null;
            }
            if (Bounded(score, MostXml) is not { } inside)
            {
                problem = $"The score in this archive is larger than {MostXml / 1024 / 1024} MB.";
                return null;
            }
            return Xml(() => new StreamReader(new MemoryStream(inside)), map, out problem, stop);
        }
        catch (Exception e) when (e is InvalidDataException or XmlException or ArgumentException or IOException)
        {
            problem = "This archive is broken.";
            return null;
        }
    }

    private static string? ScoreNamedIn(byte[] container)
    {
        using var names = XmlReader.Create(new MemoryStream(container), Closed);
        while (names.Read() && names.Depth <= DeepestXml)
            if (names.NodeType == XmlNodeType.Element && names.LocalName == "rootfile") return names.GetAttribute("full-path");
        return null;
    }

    /// <summary>What an entry holds, whatever length it claims; nothing beyond a bound.</summary>
    private static byte[]? Bounded(ZipArchiveEntry entry, int most)
    {
        using var from = entry.Open();
        using var into = new MemoryStream();
        var buffer = new byte[81920];
        int read;
        while ((read = from.Read(buffer)) > 0)
        {
            into.Write(buffer, 0, read);
            if (into.Length > most) return null;
        }
        return into.ToArray();
    }

    /// <summary>JSON as it is written here carries its count lines.</summary>
    private static ReadScore? Json(string text, out string? problem)
    {
        try
        {
            if (JsonNode.Parse(text, documentOptions: new() { AllowDuplicateProperties = false }) is JsonObject said
                && said["canonical"] is JsonValue counts && counts.TryGetValue<string>(out var lines)) return Lines(lines,
                out problem) is { } read ? read with { Kind = "JSON" } : null;
            problem = "This JSON holds no passage: its count lines would be under “canonical”.";
        }
        catch (JsonException e)
        {
            problem = $"This JSON breaks off, is not well formed or says a key twice, in line {(e.LineNumber ?? 0) + 1}.";
        }
        catch (InvalidOperationException)
        {
            problem = "This JSON holds half a character.";
        }
        return null;
    }

    private static ReadScore? Lines(string text, out string? problem)
    {
        problem = null;
        if (text.Length > MostText)
        {
            problem = $"This text is longer than {MostText / 1024} KB.";
            return null;
        }
        var counts = CountLines.Parse(text);
        // A grid of dashes between bar lines is a tab; count lines have none.
        var isTab = text.Split('\n').Count(l => l.Count(c => c == '-') >= 8 && l.Contains('|')) > 0;
        var read = isTab ? DrumTab.Parse(text) : counts;
        if (read.Passage.Strokes.IsEmpty)
        {
            problem = read.Problems.FirstOrDefault(p => p.Severity == Severity.Error) is { } error
                ? $"No stroke could be read. Line {error.At.Line}: {error.Message}" : "There is no stroke in this text.";
            return null;
        }
        var doubts = read.Problems.Select(p => $"Line {p.At.Line}: {p.Message}").Take(20).ToList();
        return isTab ? new("drum-tab text", CountWriter.Write(read.Passage, read.Title), read.Passage, doubts, [], [])
            : new("count lines", text.Trim() + "\n", read.Passage, doubts, [], []);
    }

    /// <summary>UTF-8 or UTF-16 with its mark; nothing where it is no text.</summary>
    private static string? TextOf(byte[] bytes)
    {
        try
        {
            var (encoding, skip) = bytes switch
            {
                [0xEF, 0xBB, 0xBF, ..] => (new UTF8Encoding(false, true), 3),
                [0xFF, 0xFE, ..] => ((Encoding)new UnicodeEncoding(false, false, true), 2),
                [0xFE, 0xFF, ..] => (new UnicodeEncoding(true, false, true), 2),
                _ => (new UTF8Encoding(false, true), 0),
            };
            var text = encoding.GetString(bytes.AsSpan(skip)).ReplaceLineEndings("\n");
            return text.Any(c => char.IsControl(c) && c is not ('\n' or '\t')) ? null : text;
        }
        catch (DecoderFallbackException)
        {
            return null;
        }
    }

    /// <summary>A MusicXML file; compressed as a zip with its container.</summary>
    public static byte[] MusicXmlBytes(Passage passage, string title, bool compressed, StickingAs sticking = StickingAs.Lyrics)
    {
        var document = MusicXml.Write(passage, PercussionMap.General, title, sticking);
        document.AddFirst(new XDocumentType("score-partwise", "-//Recordare//DTD MusicXML 4.0 Partwise//EN",
            "http://www.musicxml.org/dtds/partwise.dtd", null));
        using var text = new MemoryStream();
        using (var writer = XmlWriter.Create(text, new() { Encoding = new UTF8Encoding(false), Indent = true })) document.Save(writer);
        if (!compressed) return text.ToArray();
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            Put(zip, "META-INF/container.xml", Encoding.UTF8.GetBytes(
                "<?xml version=\"1.0\" encoding=\"UTF-8\"?><container><rootfiles><rootfile full-path=\"score.musicxml\" "
                + "media-type=\"application/vnd.recordare.musicxml+xml\"/></rootfiles></container>"));
            Put(zip, "score.musicxml", text.ToArray());
        }
        return file.ToArray();
    }

    private static void Put(ZipArchive zip, string name, byte[] bytes)
    {
        using var into = zip.CreateEntry(name, CompressionLevel.Optimal).Open();
        into.Write(bytes);
    }
}
