using System.IO.Compression;
using System.Net;
using System.Text;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using InnerCadence.Core.Counting;
using InnerCadence.Web.Interchange;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>MIDI and MusicXML through the API and through the page, with files that are none.</summary>
public class FilesOfMusic(Application application) : IClassFixture<Application>
{
    private const string Groove = "tempo 96\nHH: 8ths 4&o\nSN: 2> (3e) 4>\nBD: 1 3&\n";

    private async Task<(HttpStatusCode Status, byte[] Body)> ConvertAsync(string from, string to, byte[] body)
    {
        var response = await application.Client.PostAsync($"/api/convert?from={from}&to={to}", new ByteArrayContent(body), TestContext.Current.CancellationToken);
        return (response.StatusCode, await response.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken));
    }

    [Theory]
    [InlineData("midi", "midi")]
    [InlineData("musicxml", "musicxml")]
    [InlineData("mxl", "musicxml")]
    [InlineData("tab", "tab")]
    public async Task Out_and_in_again_by_the_api(string to, string from)
    {
        var (status, file) = await ConvertAsync("counts", to, Encoding.UTF8.GetBytes(Groove));
        status.ShouldBe(HttpStatusCode.OK);
        (status, var again) = await ConvertAsync(from, "counts", file);
        status.ShouldBe(HttpStatusCode.OK);
        var strokes = CountLines.Parse(Encoding.UTF8.GetString(again)).Passage.Strokes;
        strokes.Select(s => (s.At, s.Voice, s.Dynamic)).ShouldBe(CountLines.Parse(Groove).Passage.Strokes.Select(s => (s.At, s.Voice, s.Dynamic)));
    }

    [Fact]
    public async Task A_passage_is_saved_in_every_format()
    {
        foreach (var (format, start) in new[] { ("midi", "MThd"), ("musicxml", "<?xml"), ("mxl", "PK") })
            Encoding.Latin1.GetString(await application.Client.GetByteArrayAsync($"/passages/3/as/{format}", TestContext.Current.CancellationToken)).ShouldStartWith(start);
    }

    private async Task<(HttpStatusCode Status, IHtmlDocument Page)> OpenAsync(byte[] bytes, string name)
    {
        var page = await application.PageAsync("/recordings/3/passages/new");
        var form = page.Forms.Single(f => f.Id == "open-file");
        using var content = new MultipartFormDataContent { { new ByteArrayContent(bytes), "file", name } };
        content.Add(new StringContent(form.QuerySelectorAll("input").OfType<IHtmlInputElement>().Single(i => i.Name == "__RequestVerificationToken").Value), "__RequestVerificationToken");
        var response = await application.Client.PostAsync(form.GetAttribute("action"), content, TestContext.Current.CancellationToken);
        return (response.StatusCode, new HtmlParser().ParseDocument(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)));
    }

    [Fact]
    public async Task A_file_is_shown_before_anything_is_kept()
    {
        var (_, midi) = await ConvertAsync("counts", "midi", Encoding.UTF8.GetBytes(Groove));
        var (status, page) = await OpenAsync(midi, "..\\..\\a groove.mid");
        status.ShouldBe(HttpStatusCode.OK);
        page.QuerySelector(".notice")!.TextContent.ShouldContain("Read as MIDI, 1 bar, 13 strokes");
        page.QuerySelector("textarea")!.TextContent.ShouldContain("SN: 2>");
    }

    public static TheoryData<string, byte[], string> Bad => new()
    {
        { "nothing", [], "empty" },
        { "a picture", [0x89, 0x50, 0x4E, 0x47, 13, 10, 26, 10, 0, 0], "neither MIDI nor MusicXML nor text" },
        { "cut short", [.. "MThd\0\0"u8], "does not begin as one does" },
        { "no zip", [.. "PK\u0003\u0004 and then nothing"u8], "broken" },
        { "a very short zip", [.. "PK\u0003\u0004"u8], "broken" },
        { "half an XML", [.. "<score-partwise><part>"u8], "not well formed" },
        { "another XML", [.. "<html></html>"u8], "no MusicXML" },
        { "a letter", [.. "Dear drummer"u8], "No stroke" },
        { "outside entities", [.. "<!DOCTYPE x [<!ENTITY e SYSTEM \"file:///etc/passwd\">]><score-partwise>&e;</score-partwise>"u8], "not well formed" },
        { "a growing entity", Encoding.UTF8.GetBytes("<!DOCTYPE x [<!ENTITY a \"" + new string('x', 900) + "\">]><score-partwise>" + string.Concat(Enumerable.Repeat("&a;", 900)) + "</score-partwise>"), "not well formed" },
        { "a zip without a score", Zip(("readme.txt", "nothing")), "does not say where its score is" },
        { "a zip with a path", Zip(("META-INF/container.xml", "<c><rootfile full-path=\"../../etc/passwd\"/></c>")), "is not in it" },
        { "a bomb", Zip(("META-INF/container.xml", "<c><rootfile full-path=\"a\"/></c>"), ("a", new string(' ', 17 * 1024 * 1024))), "larger than 16 MB" },
    };

    private static byte[] Zip(params (string Name, string Text)[] entries)
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var (name, text) in entries)
            {
                using var into = zip.CreateEntry(name).Open();
                into.Write(Encoding.UTF8.GetBytes(text));
            }
        return file.ToArray();
    }

    [Theory, MemberData(nameof(Bad))]
    public async Task What_is_no_file_of_music_is_said_in_a_sentence_and_nothing_changes(string what, byte[] bytes, string told)
    {
        var (status, page) = await OpenAsync(bytes, "file.mid");
        status.ShouldBe(HttpStatusCode.UnprocessableEntity, what);
        page.QuerySelector(".field-error")!.TextContent.ShouldContain(told);
    }

    [Fact]
    public void Text_with_marks_and_other_line_ends_is_read()
    {
        foreach (var bytes in (byte[][])[[0xEF, 0xBB, 0xBF, .. Encoding.UTF8.GetBytes(Groove.Replace("\n", "\r\n"))], [0xFF, 0xFE, .. Encoding.Unicode.GetBytes(Groove)], Encoding.UTF8.GetBytes(Groove.Replace("\n", "\r"))])
            ScoreFiles.Read(bytes, out var problem).ShouldNotBeNull(problem).Passage.Strokes.Length.ShouldBe(13);
    }

    private async Task<(HttpResponseMessage Response, IHtmlDocument Page)> BringInAsync(byte[] bytes)
    {
        var form = (await application.PageAsync("/")).Forms.Single(f => f.GetAttribute("action")!.Contains("Archive"));
        using var content = new MultipartFormDataContent { { new ByteArrayContent(bytes), "file", "study.zip" } };
        content.Add(new StringContent(form.QuerySelectorAll("input").OfType<IHtmlInputElement>().Single(i => i.Name == "__RequestVerificationToken").Value), "__RequestVerificationToken");
        var response = await application.Client.PostAsync(form.GetAttribute("action"), content, TestContext.Current.CancellationToken);
        return (response, new HtmlParser().ParseDocument(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)));
    }

    [Fact]
    public async Task A_study_is_archived_and_brought_in_beside_itself()
    {
        var zip = await application.Client.GetByteArrayAsync("/studies/1/tables?handler=Archive", TestContext.Current.CancellationToken);
        var (response, desk) = await BringInAsync(zip);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        desk.QuerySelector(".notice")!.TextContent.ShouldContain("24 recordings, 80 passages, 8 ideas, 8 claims");
        desk.QuerySelector("h1")!.TextContent.ShouldBe("Ilse Marrowby, 1963–75 (2)");
        (response, var again) = await BringInAsync([1, 2, 3]);
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        again.QuerySelector(".field-error")!.TextContent.ShouldContain("broken");
    }
}
