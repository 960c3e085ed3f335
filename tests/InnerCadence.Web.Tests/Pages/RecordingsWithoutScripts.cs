using System.Net;
using System.Net.Http.Json;
using System.Text;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Everything about recordings as a browser without scripts does it, with good input and bad, and two tabs.</summary>
public class RecordingsWithoutScripts(Application application) : IClassFixture<Application>
{
    [Theory]
    [InlineData("/recordings/3/edit", "Input.Note", "from the other tab", "Note “from the other tab”")]
    [InlineData("/ensembles/1", "Input.Note", "a quintet", "Note “a quintet”")]
    [InlineData("/releases/1", "Input.Dates", "1960", "Dates “1960”")]
    [InlineData("/studies/1/edit", "Input.Question", "another question", "Question “another question”")]
    [InlineData("/ideas/3/edit", "Input.Note", "another note", "Note “another note”")]
    [InlineData("/recordings/9/tempo", "Marks", "1 0:01\n9 0:19", "2 marks: 1 0:01; 9 0:19.")]
    [InlineData("/recordings/9/tempo", "ChartRepeats", "9-16 x2", "with “9-16 x2”")]
    public async Task The_second_of_two_tabs_is_told_what_is_kept_and_keeps_what_it_typed(string address, string field, string first,
        string told)
    {
        var (one, two) = (await application.PageAsync(address), await application.PageAsync(address));
        (await application.SendAsync(one, address, (field, first))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        var mine = field == "Marks" ? "1 0:02\n9 0:20" : field == "ChartRepeats" ? "1-4 x3" : field == "Input.Dates" ? "1961" : "mine";
        var (response, page) = await application.SendAsync(two, address, (field, mine));
        response.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        page.QuerySelector(".validation-summary-errors")!.TextContent.ShouldContain(told);
        Value(page, field).ShouldBe(mine);
        (await application.SendAsync(page, address, (field, mine))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        Value(await application.PageAsync(address), field).ShouldBe(mine);
    }

    [Theory]
    [InlineData("/recordings/10/tempo", "Marks", "one 0:01", "is no mark")]
    [InlineData("/recordings/10/tempo", "Marks", "1 0:10\n2 0:05", "does not come after")]
    [InlineData("/recordings/10/tempo", "Marks", "1 0:00\n1000 0:10", "outside 20 to 400")]
    [InlineData("/recordings/10/tempo", "ChartRepeats", "9 to 16 twice", "cannot be read")]
    [InlineData("/recordings/10/tempo", "ChartFirstBar", "first", "is not a bar")]
    [InlineData("/recordings/10", "FormText", "verse, chorus 8", "is no section")]
    [InlineData("/recordings/10", "Search.Bars", "0:30-0:10", "from when to when")]
    [InlineData("/recordings/10", "Search.Bars", "90-10", "which, such as 33-64")]
    [InlineData("/recordings/10", "Search.On", "yesterday", "is no day")]
    [InlineData("/recordings/10/issues", "Issue.Speed", "fast", "is no speed")]
    [InlineData("/recordings/10/issues", "Issue.Offset", "later", "is no offset")]
    [InlineData("/recordings/10/issues", "Issue.Issued", "soon", "is no date")]
    [InlineData("/recordings/10/issues", "Drummed.Bars", "all", "such as 33-64")]
    [InlineData("/ensembles/2", "Input.Dates", "long ago", "is no date")]
    [InlineData("/ensembles/2", "Input.Name", "", "What is it called")]
    [InlineData("/studies/1/recordings/sheet", "Input[3].Tempo", "quick", "is no tempo")]
    [InlineData("/studies/1/recordings/sheet", "Input[3].Player", "Nobody", "has no player")]
    [InlineData("/recordings/10/edit", "Input.Issued", "1950", "before it was recorded")]
    [InlineData("/recordings/10/edit", "Input.Duration", "0:00", "longer than nothing")]
    public async Task Bad_input_is_told_and_stays(string address, string field, string typed, string told)
    {
        var (response, page) = await application.SendAsync(await application.PageAsync(address), address, (field, typed));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        Value(page, field).ShouldBe(typed);
        page.QuerySelectorAll(".field-error").Select(e => e.TextContent).ShouldContain(e => e.Contains(told));
    }

    [Fact]
    public async Task Marks_that_no_tempo_joins_are_kept_when_they_are_meant()
    {
        const string address = "/recordings/12/tempo";
        var (_, page) = await application.SendAsync(await application.PageAsync(address), address, ("Marks", "1 0:00\n2 1:00\n3 1:02"));
        (await application.SendAsync(page, address, ("Meant", "true"))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        Value(await application.PageAsync(address), "Marks").ShouldBe("1 0:00\n2 1:00\n3 1:02");
    }

    [Fact]
    public async Task A_place_is_told_by_bar_beat_clock_and_chart()
    {
        const string address = "/recordings/11/tempo";
        await application.SendAsync(await application.PageAsync(address), address, ("Marks", "1 0:01\n5 0:09"));
        await application.SendAsync(await application.PageAsync(address), address, ("ChartFirstBar", "3"), ("ChartRepeats", "1-2 x2"));
        async Task<string> Where(string place) => (await application.PageAsync($"{address}?place={Uri.EscapeDataString(place)}"))
            .QuerySelector("#answer")!.TextContent;
        (await Where("3")).ShouldBe("bar 3, count 1, bar 1 of the chart, 0:05.");
        (await Where("3.3")).ShouldBe("bar 3, count 3, bar 1 of the chart, 0:06.");
        (await Where("0:06.5")).ShouldBe("bar 3, count 4, bar 1 of the chart, 0:06.500.");
        (await Where("chart 2")).ShouldBe("bar 4, count 1, bar 2 of the chart, 0:07 and bar 6, count 1, bar 2 of the chart, time 2, 0:11.");
        (await Where("3.9")).ShouldContain("has the counts 1 to 4");
        (await Where("here")).ShouldContain("is no place");
        (await Where("0:00")).ShouldContain("before bar 1");
    }

    [Fact]
    public async Task What_was_searched_by_the_clock_shows_its_bars_and_can_be_taken_out_and_put_in_again()
    {
        await application.SendAsync(await application.PageAsync("/recordings/12/tempo"), "/recordings/12/tempo",
            ("Marks", "1 0:00\n17 0:32"));
        var (_, page) = await application.SendAsync(await application.PageAsync("/recordings/12"), "/recordings/12",
            ("Search.Bars", "0:08-0:16"), ("Search.ByWhom", "me"));
        var row = page.QuerySelectorAll("#searched tbody tr").Single(r => r.TextContent.Contains("5 to 8"));
        row.TextContent.ShouldContain("(0:08–0:16)");
        var (_, without) = await application.SendAsync(page, row.QuerySelector("form")!.GetAttribute("action")!, []);
        var gone = await PostAsync(page, row.QuerySelector("form")!.GetAttribute("action")!);
        gone.QuerySelectorAll("#searched tbody tr").ShouldAllBe(r => !r.TextContent.Contains("5 to 8"));
        var back = await PostAsync(gone, gone.QuerySelector("#undo")!.Closest("form")!.GetAttribute("action")!);
        back.QuerySelector("#searched")!.TextContent.ShouldContain("5 to 8");
        back.QuerySelector("#searched")!.TextContent.ShouldContain("me");
        without.ShouldNotBeNull();
    }

    [Fact]
    public async Task An_issue_converts_clock_times_and_comes_back_when_it_was_taken_out()
    {
        const string address = "/recordings/13/issues";
        await application.SendAsync(await application.PageAsync(address), address, ("Issue.Label", "Foghorn"), ("Issue.Speed", "102"),
            ("Issue.Offset", "1.5"));
        var page = await application.PageAsync(address + "?clock=1:42");
        page.QuerySelector("table.list tbody")!.TextContent.ShouldContain("1:41.500");
        var gone = await PostAsync(page, page.QuerySelector("table.list tbody form")!.GetAttribute("action")!);
        gone.QuerySelector("table.list")?.TextContent.ShouldNotContain("Foghorn");
        (await PostAsync(gone, gone.QuerySelector("#undo")!.Closest("form")!.GetAttribute("action")!))
            .QuerySelector("table.list")!.TextContent.ShouldContain("102 %");
    }

    [Fact]
    public async Task A_chain_of_modulations_is_worked_out_up_to_its_fault()
    {
        var page = await application.PageAsync("/studies/1/modulation?bpm=80&steps="
            + Uri.EscapeDataString("1/6 = 1/4, 3/16 = 1/4 in 4/4 to 7/8, what"));
        page.QuerySelectorAll(".step b").Select(b => b.TextContent).ShouldBe(["80 → 120", "120 → 160"]);
        page.QuerySelector(".field-error")!.TextContent.ShouldContain("‘what’ is no step");
        page.QuerySelectorAll("svg.pulses").Length.ShouldBe(2);
    }

    [Theory]
    [InlineData("", "is empty")]
    [InlineData("\0\u0001\u0002", "is no text file")]
    [InlineData("only one line", "No table was found")]
    public async Task A_file_that_is_no_table_is_told_and_nothing_is_added(string content, string told)
    {
        var page = await application.PageAsync("/studies/1/recordings/import");
        (await UploadAsync(page, "/studies/1/recordings/import", "../../x.csv", Encoding.UTF8.GetBytes(content),
            HttpStatusCode.UnprocessableEntity)).QuerySelector("#file-error")!.TextContent.ShouldContain(told);
    }

    [Fact]
    public async Task A_file_without_a_title_cannot_be_imported_until_a_column_is_named_one()
    {
        var page = await UploadAsync(await application.PageAsync("/studies/1/recordings/import"), "/studies/1/recordings/import", "x.csv",
            Encoding.UTF8.GetBytes("Nr,Jahr\n7,1970\n"), HttpStatusCode.OK);
        var address = page.QuerySelector("form[method=post]")!;
        page.QuerySelector("#found")!.TextContent.ShouldContain("0 rows can be read");
        var import = (await application.Client.GetAsync("/imports/1", TestContext.Current.CancellationToken)).IsSuccessStatusCode
            ? "/imports/1" : "/imports/2";
        var (response, refused) = await application.SendAsync(page, import, ("begin", "true"));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        refused.TextContentOf("main").ShouldContain("No column is the title");
        var (_, mapped) = await application.SendAsync(refused, import, ("holds[0]", "title"), ("holds[1]", "recorded"),
            ("begin", "false"));
        mapped.QuerySelector("#found")!.TextContent.ShouldContain("1 rows can be read");
        // The other column is the title now: what was chosen last holds.
        var (_, other) = await application.SendAsync(mapped, import, ("holds[1]", "title"), ("begin", "false"));
        ((IHtmlSelectElement)other.QuerySelector("#holds_1")!).Value.ShouldBe("title");
        other.QuerySelector("#unused")!.TextContent.ShouldContain("Nr");
        address.ShouldNotBeNull();
    }

    [Fact]
    public async Task A_session_can_be_kept_by_hand_and_a_bad_stamp_stays_in_its_field()
    {
        var listen = await application.PageAsync("/recordings/15/listen");
        var (response, session) = await application.SendAsync(listen, "/recordings/15/listen", ("by", "me"), ("reaction", "100"));
        var address = response.RequestMessage!.RequestUri!.AbsolutePath;
        address.ShouldStartWith("/sessions/");
        var (bad, page) = await application.SendAsync(session, address, ("clock", "soon"), ("note", "brushes"));
        bad.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (Value(page, "clock"), Value(page, "note")).ShouldBe(("soon", "brushes"));
        var (_, kept) = await application.SendAsync(page, address, ("clock", "1:02.5"), ("kind", "fill"), ("note", "brushes"));
        kept.QuerySelector("#stamps tbody")!.TextContent.ShouldContain("1:02.500");
        kept.QuerySelector("#stamps tbody")!.TextContent.ShouldContain("brushes");
        var over = await PostAsync(kept, kept.QuerySelector("#end")!.GetAttribute("action")!);
        over.QuerySelector("h1")!.TextContent.ShouldStartWith("Listened to");
        over.QuerySelector("#stamps .btn")!.GetAttribute("href")!.ShouldContain("/recordings/15/passages/new?stamp=");
    }

    [Fact]
    public async Task A_session_for_nothing_does_not_begin_and_its_form_stays()
    {
        var listen = await application.PageAsync("/recordings/16/listen");
        foreach (var box in listen.QuerySelectorAll("input[type=checkbox]").OfType<IHtmlInputElement>()) box.IsChecked = false;
        var (response, page) = await application.SendAsync(listen, "/recordings/16/listen", ("by", "Nobody else"), ("reaction", "120"));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        page.TextContentOf("main").ShouldContain("everything, or at least one idea");
        (Value(page, "by"), Value(page, "reaction")).ShouldBe(("Nobody else", "120"));
    }

    [Fact]
    public async Task A_sound_is_served_in_ranges_and_one_that_is_none_is_refused()
    {
        var listen = await application.PageAsync("/recordings/17/listen");
        var attach = listen.QuerySelectorAll("form").Single(f => f.QuerySelector("#file") is not null).GetAttribute("action")!;
        (await UploadAsync(listen, attach, "letter.wav", "a letter, not a sound"u8.ToArray(), HttpStatusCode.UnprocessableEntity))
            .TextContentOf("main").ShouldContain("Nothing was attached");
        await UploadAsync(listen, attach, "tone.wav", InnerCadence.Core.Playing.Wav.Write(new float[44100], 1), HttpStatusCode.OK);
        using var request = new HttpRequestMessage(HttpMethod.Get, "/recordings/17/sound") { Headers = { Range = new(100, 199) } };
        var part = await application.Client.SendAsync(request, TestContext.Current.CancellationToken);
        (part.StatusCode, part.Content.Headers.ContentLength).ShouldBe((HttpStatusCode.PartialContent, 100L));
        (await application.Client.GetAsync("/recordings/18/sound", TestContext.Current.CancellationToken)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_sound_that_only_a_browser_decodes_gets_its_picture_from_there_once()
    {
        var listen = await application.PageAsync("/recordings/19/listen");
        var attach = listen.QuerySelectorAll("form").Single(f => f.QuerySelector("#file") is not null).GetAttribute("action")!;
        byte[] broken = [.. "fLaC"u8, .. new byte[100]];
        (await UploadAsync(listen, attach, "side.flac", broken, HttpStatusCode.UnprocessableEntity))
            .QuerySelector(".field-error")!.TextContent
            .ShouldBe("side.flac: It is no sound or film that can be read, or it is cut off. Nothing was attached.");
        // As it was attached where the tool that reads it is not installed.
        var stop = TestContext.Current.CancellationToken;
        var recording = (await application.Get<RecordingStore>().FindAsync(new(19), stop))!;
        await application.Get<SoundStore>().AttachAsync(recording, await application.Get<SoundFiles>()
            .KeepAsync(new MemoryStream(broken), stop),
            "side.flac", "audio/flac", broken.Length, null, false, stop);
        var page = await application.PageAsync("/recordings/19/listen");
        page.QuerySelector("#hearing")!.GetAttribute("data-overview").ShouldBe("make");
        async Task<HttpStatusCode> SendAsync(byte[] columns, double seconds)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post,
                "/recordings/19/overview")
            { Content = JsonContent.Create(new { columns, seconds }) };
            request.Headers.Add("RequestVerificationToken", page.QuerySelector("meta[name=token]")!.GetAttribute("content"));
            return (await application.Client.SendAsync(request, TestContext.Current.CancellationToken)).StatusCode;
        }
        (await SendAsync([], 2)).ShouldBe(HttpStatusCode.BadRequest);
        (await SendAsync([1, 2, 3], -1)).ShouldBe(HttpStatusCode.BadRequest);
        (await SendAsync([.. Enumerable.Repeat((byte)200, 100)], 2)).ShouldBe(HttpStatusCode.OK);
        (await application.PageAsync("/recordings/19/listen")).QuerySelector("svg.longstrip .wave").ShouldNotBeNull();
        (await SendAsync([.. Enumerable.Repeat((byte)1, 100)], 2)).ShouldBe(HttpStatusCode.NotFound, "it has one");
    }

    private static string Value(IHtmlDocument page, string field) => page.QuerySelector($"[name='{field}']") switch
    {
        IHtmlTextAreaElement area => area.Value,
        { } other => other.GetAttribute("value") ?? "",
        null => throw new InvalidOperationException($"No field {field}."),
    };

    private async Task<IHtmlDocument> PostAsync(IHtmlDocument page, string address)
    {
        var token = ((IHtmlInputElement)page.QuerySelector("[name=__RequestVerificationToken]")!).Value;
        var response = await application.Client.PostAsync(address, new FormUrlEncodedContent([new("__RequestVerificationToken", token)]),
            TestContext.Current.CancellationToken);
        response.EnsureSuccessStatusCode();
        return new HtmlParser().ParseDocument(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
    }

    private async Task<IHtmlDocument> UploadAsync(IHtmlDocument page, string address, string name, byte[] content, HttpStatusCode expected)
    {
        var token = ((IHtmlInputElement)page.QuerySelector("[name=__RequestVerificationToken]")!).Value;
        using var form = new MultipartFormDataContent { { new StringContent(token), "__RequestVerificationToken" },
            { new ByteArrayContent(content), "file", name } };
        var response = await application.Client.PostAsync(address, form, TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(expected);
        return new HtmlParser().ParseDocument(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
    }
}

internal static class PageText
{
    public static string TextContentOf(this IHtmlDocument page, string css) => page.QuerySelector(css)!.TextContent;
}
