using System.IO.Compression;
using System.Net;
using System.Text;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Storage.Exchange;
using InnerCadence.Web.Interchange;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>MIDI and MusicXML through the API and through the page, with files that are none.</summary>
public class FilesOfMusic(Application application) : IClassFixture<Application>
{
    private const string Groove = "tempo 96\nHH: 8ths 4&o\nSN: 2> (3e) 4>\nBD: 1 3&\n";

    private async Task<(HttpStatusCode Status, byte[] Body)> ConvertAsync(string from, string to, byte[] body)
    {
        var response = await application.Client.PostAsync($"/api/convert?from={from}&to={to}", new ByteArrayContent(body),
            TestContext.Current.CancellationToken);
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
        strokes.Select(s => (s.At, s.Voice, s.Dynamic))
            .ShouldBe(CountLines.Parse(Groove).Passage.Strokes.Select(s => (s.At, s.Voice, s.Dynamic)));
    }

    [Fact]
    public async Task A_passage_is_saved_in_every_format()
    {
        foreach (var (format, start) in new[] { ("midi", "MThd"), ("musicxml", "<?xml"), ("mxl", "PK") })
            Encoding.Latin1.GetString(await application.Client.GetByteArrayAsync($"/passages/3/as/{format}",
                TestContext.Current.CancellationToken)).ShouldStartWith(start);
    }

    /// <summary>Sends files as a person would who chose or dropped them; gives back the page that follows.</summary>
    private async Task<(HttpResponseMessage Response, IHtmlDocument Page)> SendAsync(string from,
        params (string Name, byte[] Bytes)[] files)
    {
        var form = (await application.PageAsync(from)).Forms.Last(f =>
            f.GetAttribute("action")?.StartsWith("/files", StringComparison.Ordinal) == true && f.QuerySelector("[type=file]") is not null);
        using var content = new MultipartFormDataContent();
        foreach (var (name, bytes) in files) content.Add(new ByteArrayContent(bytes), "file", name);
        content.Add(new StringContent(form.QuerySelectorAll("input").OfType<IHtmlInputElement>()
            .Single(i => i.Name == "__RequestVerificationToken").Value), "__RequestVerificationToken");
        var response = await application.Client.PostAsync(form.GetAttribute("action"), content, TestContext.Current.CancellationToken);
        return (response, new HtmlParser().ParseDocument(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)));
    }

    private async Task<(HttpStatusCode Status, IHtmlDocument Page)> OpenAsync(byte[] bytes, string name)
    {
        var (response, page) = await SendAsync("/recordings/3/passages/new", (name, bytes));
        return (response.StatusCode, page);
    }

    [Fact]
    public async Task A_file_is_shown_before_anything_is_kept()
    {
        var (_, midi) = await ConvertAsync("counts", "midi", Encoding.UTF8.GetBytes(Groove));
        var (status, page) = await OpenAsync(midi, "..\\..\\a groove.mid");
        status.ShouldBe(HttpStatusCode.OK);
        page.QuerySelector(".notice")!.TextContent.ShouldContain("a groove.mid, read as MIDI, 1 bar, 13 strokes");
        page.QuerySelector("textarea")!.TextContent.ShouldContain("SN: 2>");
    }

    [Fact]
    public async Task An_idea_is_saved_in_every_format_and_is_the_same_again()
    {
        var idea = await application.PageAsync("/ideas/3");
        var links = idea.QuerySelectorAll("a[download][aria-label^='The idea as']").Select(a => a.GetAttribute("href")!).ToList();
        links.Count.ShouldBe(11);
        (await application.Client.GetStringAsync("/passages/16/as/musicxml?sticking=fingering", TestContext.Current.CancellationToken))
            .ShouldNotContain("<lyric>");
        foreach (var link in links) (await application.Client.GetAsync(link, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.OK, link);
        var counts = await application.Client.GetStringAsync("/ideas/3/as/counts", TestContext.Current.CancellationToken);
        var (_, again) = await ConvertAsync("json", "counts",
            await application.Client.GetByteArrayAsync("/ideas/3/as/json", TestContext.Current.CancellationToken));
        Encoding.UTF8.GetString(again).ShouldBe(counts);
        (await application.Client.GetAsync("/ideas/999/as/counts", TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Tables_and_concordances_come_as_CSV_and_as_JSON_with_the_same_rows()
    {
        var pages = new[] { "/ideas/3?handler=Sheet&format=", "/studies/1/compare?handler=Sheet&format=" }
            .Concat(StudyTables.Names.Append(TraitsTable.Name).Select(t => $"/studies/1/tables/{t}?format="));
        foreach (var page in pages)
        {
            var json = System.Text.Json.Nodes.JsonNode.Parse(await application.Client.GetStringAsync(page + "json",
                TestContext.Current.CancellationToken))!.AsArray();
            using var csv = CsvHelper.CsvReader.FromText(await application.Client.GetStringAsync(page + "csv",
                TestContext.Current.CancellationToken), CsvHelper.CsvReaderOptions.Default);
            var rows = 0;
            while (csv.Read()) rows++;
            json.Count.ShouldBe(rows, page);
            if (rows > 0) json[0]!.AsObject().Select(c => c.Key).ShouldBe(csv.Headers, page);
            (await application.Client.GetAsync(page + "xlsx", TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
                HttpStatusCode.NotFound, page);
        }
        var sightings = System.Text.Json.Nodes.JsonNode.Parse(await application.Client.GetStringAsync("/ideas/3?handler=Sheet&format=json",
            TestContext.Current.CancellationToken))!;
        sightings[0]!["cost"]!.GetValueKind().ShouldBe(System.Text.Json.JsonValueKind.Number);
        var schema = System.Text.Json.Nodes.JsonNode.Parse(await application.Client.GetStringAsync("/studies/1/tables?handler=Schema",
            TestContext.Current.CancellationToken))!;
        schema["$defs"]!["recording"]!["required"]!.AsArray().Select(n => n!.GetValue<string>()).ShouldContain("title");
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
        { "outside entities", [.. "<!DOCTYPE x [<!ENTITY e SYSTEM \"file:///etc/passwd\">]><score-partwise>&e;</score-partwise>"u8],
            "not well formed" },
        { "a growing entity", Encoding.UTF8.GetBytes("<!DOCTYPE x [<!ENTITY a \"" + new string('x', 900) + "\">]><score-partwise>"
            + string.Concat(Enumerable.Repeat("&a;", 900)) + "</score-partwise>"), "not well formed" },
        { "a zip without a score", Zip(("readme.txt", "nothing")), "does not say where its score is" },
        { "a zip with a path", Zip(("META-INF/container.xml", "<c><rootfile full-path=\"../../etc/passwd\"/></c>")), "is not in it" },
        { "a bomb", Zip(("META-INF/container.xml", "<c><rootfile full-path=\"a\"/></c>"), ("a", new string(' ', 17 * 1024 * 1024))),
            "larger than 16 MB" },
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
        foreach (var bytes in (byte[][])[[0xEF, 0xBB, 0xBF, .. Encoding.UTF8.GetBytes(Groove.Replace("\n", "\r\n"))],
            [0xFF, 0xFE, .. Encoding.Unicode.GetBytes(Groove)], Encoding.UTF8.GetBytes(Groove.Replace("\n", "\r"))])
            ScoreFiles.Read(bytes, out var problem).ShouldNotBeNull(problem).Passage.Strokes.Count.ShouldBe(13);
    }

    [Fact]
    public async Task A_study_is_archived_looked_at_and_brought_in_beside_itself()
    {
        var zip = await application.Client.GetByteArrayAsync("/studies/1/tables?handler=Archive", TestContext.Current.CancellationToken);
        var (response, look) = await SendAsync("/", ("study.zip", zip));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var (recordings, passages) = (NumberOf(look, "recordings"), NumberOf(look, "passages"));
        recordings.ShouldBeGreaterThanOrEqualTo(24);
        var into = look.QuerySelectorAll(".tabs a")[1].GetAttribute("href")!;
        var merged = await application.PageAsync(into);
        merged.QuerySelectorAll("#brings tbody tr").Where(r => r.Children[1].TextContent != "0" || r.Children[3].TextContent != "0")
            // Claims stand anew by themselves after what the other tests here added.
            .Select(r => r.Children[0].TextContent).Except(["standings of claims"]).ShouldBeEmpty();
        var (_, desk) = await application.PressAsync(look, response.RequestMessage!.RequestUri!.PathAndQuery, "Bring it in");
        desk.QuerySelector(".notice")!.TextContent.ShouldContain(
            $"{recordings} recordings, {passages} passages, {NumberOf(look, "ideas")} ideas, 8 claims");
        desk.QuerySelector("h1")!.TextContent.ShouldBe("Ilse Marrowby, 1963–75 (2)");

        static int NumberOf(IHtmlDocument page, string what) =>
            int.Parse(page.QuerySelectorAll("#brings tr").Single(r => r.Children[0].TextContent == what).Children[1].TextContent,
                System.Globalization.CultureInfo.InvariantCulture);
    }

    [Fact]
    public async Task Ideas_that_come_with_a_merge_are_looked_for_in_what_was_here()
    {
        var zip = await application.Client.GetByteArrayAsync("/studies/1/tables?handler=Archive", TestContext.Current.CancellationToken);
        // Elsewhere somebody named an idea more.
        var changed = Rezip(zip, "tables/idea.jsonl", text =>
        {
            var row = System.Text.Json.Nodes.JsonNode.Parse(text.Split('\n')[0])!.AsObject();
            (row["id"], row["nickname"], row["text"], row["origin"], row["reading_id"]) = (999, "plain backbeat", "SN: 2 4",
                Guid.NewGuid().ToString(), null);
            return text + row.ToJsonString() + "\n";
        });
        var (response, look) = await SendAsync("/", ("study.zip", changed));
        var into = look.QuerySelectorAll(".tabs a").First(a => a.GetAttribute("href")!.EndsWith("into=1", StringComparison.Ordinal))
            .GetAttribute("href")!;
        var (_, desk) = await application.PressAsync(await application.PageAsync(into), into, "Merge it");
        desk.QuerySelector(".notice")!.TextContent.ShouldContain("1 idea came");
        for (var tries = 0; ; tries++)
        {
            // The archive had no sighting of it.
            var idea = (await application.PageAsync("/studies/1/ideas")).QuerySelectorAll("a")
                .First(link => link.TextContent.Trim() == "plain backbeat").GetAttribute("href")!;
            var waiting = (await application.PageAsync(idea)).QuerySelectorAll("table.numbers tr")
                .Single(r => r.Children[0].TextContent.Trim() == "waiting").Children[1].TextContent.Trim();
            if (int.Parse(waiting, System.Globalization.CultureInfo.InvariantCulture) > 10) break;
            tries.ShouldBeLessThan(1200, waiting);
            await Task.Delay(250, TestContext.Current.CancellationToken);
        }
    }

    private static byte[] Rezip(byte[] zip, string name, Func<string, string> change)
    {
        using var from = new ZipArchive(new MemoryStream(zip));
        return Zip([.. from.Entries.Select(e =>
        {
            using var reader = new StreamReader(e.Open());
            var text = reader.ReadToEnd();
            return (e.FullName, e.FullName == name ? change(text) : text);
        })]);
    }

    [Fact]
    public async Task A_broken_archive_is_said_and_nothing_comes()
    {
        var zip = await application.Client.GetByteArrayAsync("/studies/1/tables?handler=Archive", TestContext.Current.CancellationToken);
        var (response, page) = await SendAsync("/", ("study.zip", zip[..^2000]));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.QuerySelector(".field-error")!.TextContent.ShouldContain("Nothing was kept.");
    }

    [Fact]
    public async Task Many_files_become_passages_each_with_its_line_in_the_report()
    {
        var (_, midi) = await ConvertAsync("counts", "midi", Encoding.UTF8.GetBytes(Groove));
        var (_, json) = await ConvertAsync("counts", "json", Encoding.UTF8.GetBytes(Groove));
        var (response, page) = await SendAsync("/files?study=1", ("../up/Tide table.mid", midi), ("b.json", json),
            ("c.txt", Encoding.UTF8.GetBytes(Groove)), ("photo.png", [0x89, 0x50, 0x4E, 0x47, 13, 10, 0]),
            ("old.zip", Zip(("study.json", "{}"))));
        var address = response.RequestMessage!.RequestUri!.PathAndQuery;
        page.QuerySelector(".lead-line")!.TextContent.ShouldStartWith("3 can be made into passages.");
        page.QuerySelectorAll("#opened tbody tr").Select(r => r.TextContent.Contains("neither MIDI")
            || r.TextContent.Contains("An archive of a study.")).ShouldBe([false, false, false, true, true]);
        var before = (await application.PageAsync("/studies/1/recordings")).QuerySelector("main")!.TextContent;
        before.ShouldNotContain("Tide table");

        await application.PressAsync(page, address, "Make 3 passages");
        IHtmlDocument report;
        for (var tries = 0; ; tries++)
        {
            report = await application.PageAsync(address);
            if (report.QuerySelector(".lead-line")!.TextContent.StartsWith("done", StringComparison.Ordinal)) break;
            tries.ShouldBeLessThan(1200);
            await Task.Delay(250, TestContext.Current.CancellationToken);
        }
        report.QuerySelector(".lead-line")!.TextContent.ShouldBe("done: 3 passages of 5 files.");
        report.QuerySelectorAll("#opened tbody tr td:last-child").Select(c => c.TextContent.Trim()).Take(3)
            .ShouldBe(["Made.", "Made.", "Made."]);
        var made = await application.PageAsync(report.QuerySelector("#opened a")!.GetAttribute("href")!);
        made.QuerySelector("h1")!.TextContent.ShouldBe("Tide table");
        made.QuerySelector("textarea")!.TextContent.ShouldContain("SN: 2>");
        (await application.PressAsync(report, address, "Forget the files")).Page.QuerySelector(".notice")!.TextContent.ShouldContain(
            "the passages made of them stay");
    }

    [Fact]
    public async Task A_table_of_recordings_finds_its_study_and_its_own_page()
    {
        var csv = "title,date,tempo\nNew Piece,1971,100\n"u8.ToArray();
        var (response, _) = await SendAsync("/files?study=1", ("recordings.csv", csv));
        response.RequestMessage!.RequestUri!.AbsolutePath.ShouldStartWith("/imports/");
        // Dropped where there is no study, it asks for one first.
        var (asked, page) = await SendAsync("/", ("recordings.csv", csv));
        ((IHtmlSelectElement)page.QuerySelector("#study")!).Value = "1";
        (response, _) = await application.PressAsync(page, asked.RequestMessage!.RequestUri!.PathAndQuery, "For this study");
        response.RequestMessage!.RequestUri!.AbsolutePath.ShouldStartWith("/imports/");
        // Among others it is taken out by a button.
        (asked, page) = await SendAsync("/studies/1", ("recordings.csv", csv), ("groove.txt", Encoding.UTF8.GetBytes(Groove)));
        (response, _) = await application.PressAsync(page, asked.RequestMessage!.RequestUri!.PathAndQuery, "Look at recordings.csv");
        response.RequestMessage!.RequestUri!.AbsolutePath.ShouldStartWith("/imports/");
    }

    [Fact]
    public async Task What_an_unknown_sound_is_is_asked_once_and_remembered()
    {
        var file = new Core.Interchange.MidiFile(96, [new(0, 9, 36, 90), new(96, 9, 33, 90), new(192, 9, 34, 90)], [], [], "").Write();
        var (response, page) = await SendAsync("/recordings/3/passages/new", ("pads.mid", file));
        var address = response.RequestMessage!.RequestUri!.PathAndQuery;
        page.QuerySelectorAll("#unknown-sounds label").Select(l => l.TextContent.Trim().Split(',')[0]).ShouldBe(["note 33", "note 34"]);
        page.QuerySelectorAll("#unknown-sounds select").OfType<IHtmlSelectElement>().First().Value = "CB";
        page.QuerySelectorAll("#unknown-sounds select").OfType<IHtmlSelectElement>().Last().Value = "-";
        ((IHtmlTextAreaElement)page.QuerySelector("[name='Input.Note']")!).Value = "my own words";
        var (_, again) = await application.PressAsync(page, address, "Remember");
        again.QuerySelector("[name='Input.Note']")!.TextContent.ShouldContain("my own words");
        again.QuerySelector("#unknown-sounds").ShouldBeNull();
        again.QuerySelector("textarea")!.TextContent.ShouldContain("CB:");
        // The next file with it is read at once, also by the API.
        var (_, counts) = await ConvertAsync("midi", "counts", file);
        Encoding.UTF8.GetString(counts).ShouldContain("CB: 2");
        var settings = await application.PageAsync("/settings");
        settings.QuerySelector("#sounds")!.TextContent.ShouldContain("note 33");
    }

    [Fact]
    public async Task A_persons_timing_is_kept_when_that_is_asked_for()
    {
        var passage = CountLines.Parse("tempo 100\nHH: 8ths | %x3\nSN: 2 4 | %x3\nBD: 1 3 | %x3").Passage;
        var random = new Random(5);
        var file = Core.Interchange.MidiPassage.Write(passage, Core.Interchange.PercussionMap.General,
            offsets: [.. passage.Strokes.Select(s => new Core.Timing.StrokeOffset(s.At, s.Voice,
            random.NextDouble() * 4 + (s.Voice.Code == "SN" ? 14 : 0)))]).Write();
        var (response, page) = await SendAsync("/recordings/3/passages/new", ("played.mid", file));
        ((IHtmlInputElement)page.QuerySelector("[name=timing]")!).IsChecked = true;
        // A save that fails over another field does not forget it.
        var address = response.RequestMessage!.RequestUri!.PathAndQuery;
        ((IHtmlInputElement)page.QuerySelector("#Input_StartsAt")!).Value = "noon";
        var (refused, again) = await application.PressAsync(page, address, "Save");
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ((IHtmlInputElement)again.QuerySelector("[name=timing]")!).IsChecked.ShouldBeTrue();
        ((IHtmlInputElement)again.QuerySelector("#Input_StartsAt")!).Value = "";
        page = again;
        var (_, saved) = await application.PressAsync(page, response.RequestMessage!.RequestUri!.PathAndQuery, "Save");
        saved.QuerySelector("#timing")!.TextContent.ShouldContain("behind the hat");
        var written = saved.QuerySelectorAll("a").Select(a => a.GetAttribute("href"))
            .First(h => h?.EndsWith("asPlayed=true", StringComparison.Ordinal) == true)!;
        (await application.Client.GetByteArrayAsync(written, TestContext.Current.CancellationToken))
            .ShouldNotBe(await application.Client.GetByteArrayAsync(written.Replace("?asPlayed=true", ""),
            TestContext.Current.CancellationToken));
    }
}
