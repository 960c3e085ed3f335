using System.Diagnostics;
using System.Globalization;
using System.Text;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Playing;
using InnerCadence.Storage.Exchange;
using InnerCadence.Web.Interchange;
using InnerCadence.Web.Telling;

namespace InnerCadence.Web.Tests.Faults;

/// <summary>
/// Every reader against files made bad: it answers, soon, and takes no more memory than it may. A sample runs with the others; <c>./test
/// faults</c> tries as many as INNER_CADENCE_FUZZ says.
/// </summary>
public class AnyBytes : StorageTests
{
    /// <summary>Far above what anything takes; without bounds a few of them take minutes, or gigabytes.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(20);
    private const long MostBytes = 1L << 30;

    private static readonly int Tries = int.TryParse(Environment.GetEnvironmentVariable("INNER_CADENCE_FUZZ"),
        CultureInfo.InvariantCulture, out var n) ? n : 300;

    private const string Counts =
        "title Any\nmeter 4/4 7/8(2+2+3)\ntempo 96 @2 90\nfeel swing 60%\nvoice P1 gong, crash\nHH: 8ths 4&o | % -3 | 16ths>\nSN: 2 "
        + "(2a) 4f | 2T1 3[5] | %\nBD: 1 3& | 1R 2L | -\nLV: 1 p < 3 f\nST: R L R L ...\nlick 16t @3\nST: R L L K\nON: SN T1 T1 BD";
    private const string Tab = "meter 4/4\nHH|x-x-x-x-|o-x-X-x-|\nSN|--x---x-|--g-f-d-|\nBD|x---x---|x-x-x---|\n\nHH|xxxxxxxx|";
    private const string Article =
        "# On *fills*\n\nShe [[claim:1]] and [[rate:2]], [[cite:thole-1974]].\n\n> a **quote**\n\n| a | b |\n|---|---|\n| 1 | "
        + "[x](http://a.example) |\n\n1. one\n   - two[^1]\n\n[^1]: note";
    private const string Csv = "title;take;ensemble;date;meter;tempo;bars\nKelp Road;1;Harbour Light;1967-03;4/4;96;64\n\"Lee; "
        + "Shore\";;;1968;7/8;120,5;32\n";

    private static byte[] Midi => new MidiFile(96, [new(0, 9, 36, 90), new(48, 9, 42, 60), new(96, 9, 38, 100), new(100, 9, 49, 100),
        new(192, 9, 33, 90)], [], [], "Any").Write();
    private static string Xml => MusicXml.Write(CountLines.Parse("meter 4/4\ntempo 96\nHH: 8ths\nSN: 2 (2a) 4f\nBD: 1 3& 4[3]").Passage,
        PercussionMap.General, "Any").ToString();

    [Fact]
    public void Count_lines() => Try(m => m.Text(Counts, Tab), text =>
    {
        var read = CountLines.Parse(text);
        CountLines.Parse(CountWriter.Write(read.Passage)).Passage.Strokes.Count.ShouldBe(read.Passage.Strokes.Count, text);
        foreach (var _ in ReadBack.Of(read.Passage)) { }
    });

    [Fact]
    public void Drum_tab() => Try(m => m.Text(Tab, Counts), text => CountWriter.Write(DrumTab.Parse(text).Passage));

    [Fact]
    public void Midi_files() => Try(m => m.Bytes(Midi, Midi), bytes => ScoreFiles.Read(bytes, out _));

    [Fact]
    public void Music_xml() => Try(m => m.Text(Xml, "<note><chord/></note>"), text => ScoreFiles.Read(Encoding.UTF8.GetBytes(text), out _));

    [Fact]
    public void Json() => Try(m => m.Text($"{{\"canonical\": {System.Text.Json.JsonSerializer.Serialize(Counts)}, \"a\": [1, {{}}]}}",
        "[[[[{\"a\":"), text => ScoreFiles.Read(Encoding.UTF8.GetBytes(text), out _));

    [Fact]
    public void Heads_of_wav_files()
    {
        var good = Wav.Write(new float[64], 1);
        Try(m => m.Bytes(good, good), bytes => WavHead.Read(bytes, bytes.Length + 88200));
    }

    [Fact]
    public void Articles() => Try(m => m.Text(Article, "> > > [[[["), text =>
    {
        ArticleMarkup.Frozen(ArticleMarkup.Render(text, r => ($"<b>{r.Code.Length}</b>", false)));
        ArticleMarkup.Frozen(text);
    });

    [Fact]
    public void Tables() => Try(m => m.Text(Csv, ",,,\"\n"), text =>
    {
        try
        {
            CsvTable.Read(Encoding.UTF8.GetBytes(text)).Head.Count.ShouldBeLessThanOrEqualTo(CsvTable.MostColumns);
        }
        catch (InvalidDataException e)
        {
            e.Message.ShouldNotBeEmpty();
        }
    });

    [Fact]
    public async Task Archives_of_studies()
    {
        await WriteAsync(await RecordAsync("Piece", 64), "HH: 8ths\nSN: 2 4\nBD: 1 3");
        await NameAsync("stumble", "SN: 2");
        var archive = new StudyArchive(Source);
        var good = (await archive.WriteAsync(Study, Stop))!;
        // 761 once lacked a number that a reader took for granted.
        foreach (var i in Enumerable.Range(0, Math.Max(1, Tries / 3)).Append(761))
        {
            var bytes = new Mutations(i).Zip(good);
            var watch = Stopwatch.StartNew();
            var (report, problem) = await Catching(i, () => archive.LookAsync(new MemoryStream(bytes), null, Stop));
            (report is null).ShouldBe(problem is not null);
            watch.Elapsed.ShouldBeLessThan(Longest, $"archive {i}");
        }
    }

    private static async Task<T> Catching<T>(int number, Func<Task<T>> read)
    {
        try
        {
            return await read();
        }
        catch (Exception e)
        {
            throw new InvalidOperationException($"Number {number} broke its reader", e);
        }
    }

    private static void Try<T>(Func<Mutations, T> make, Action<T> read)
    {
        for (var i = 0; i < Tries; i++)
        {
            var bad = make(new(i));
            var (watch, before) = (Stopwatch.StartNew(), GC.GetAllocatedBytesForCurrentThread());
            try
            {
                read(bad);
            }
            catch (Exception e) when (e is not ShouldAssertException)
            {
                throw new InvalidOperationException(
                    $"Number {i} broke its reader: {(bad is byte[] bytes ? Convert.ToBase64String(bytes) : bad)}", e);
            }
            watch.Elapsed.ShouldBeLessThan(Longest, $"number {i}");
            (GC.GetAllocatedBytesForCurrentThread() - before).ShouldBeLessThan(MostBytes, $"number {i}");
        }
    }
}
