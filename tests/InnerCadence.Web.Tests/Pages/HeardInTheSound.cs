using System.Net;
using AngleSharp.Html.Dom;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Telling;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>From a sound to a proposed passage, without scripts: the sound is made up from the passages, so the truth is known.</summary>
public class HeardInTheSound(Application application) : IClassFixture<Application>
{
    [Fact]
    public async Task What_is_struck_becomes_a_tempo_and_a_passage_to_put_right()
    {
        const string listen = "/recordings/3/listen";
        var silent = await application.PageAsync("/recordings/3/passages/new?at=0:20&hear=2");
        silent.QuerySelector(".field-error")!.TextContent.ShouldContain("Nothing was heard in the sound yet");
        silent.QuerySelector("#from-sound").ShouldBeNull();

        await application.WorkAsync(await application.PageAsync(listen), listen, "Make a simulated sound from the passages");
        // What is struck in it is heard by itself, after its picture.
        var page = await application.PageAsync(listen);
        for (var tries = 0; page.QuerySelector("a[href*='edit?tempo=']") is null; tries++)
        {
            tries.ShouldBeLessThan(1200);
            await Task.Delay(250, TestContext.Current.CancellationToken);
            page = await application.PageAsync(listen);
        }
        await application.WorkAsync(page, listen, "Hear it again");
        page = await application.PageAsync(listen);
        var tempo = page.QuerySelectorAll("a[href*='edit?tempo=']").First();
        double.Parse(tempo.TextContent, System.Globalization.CultureInfo.InvariantCulture).ShouldBeInRange(95, 97);
        ((IHtmlInputElement)(await application.PageAsync(tempo.GetAttribute("href")!))
            .QuerySelector("#Input_Tempo")!).Value.ShouldBe(tempo.TextContent);

        // Passage 8 was written down as beginning at 0:20; its bar line lies a little before.
        var proposal = await application.PageAsync("/recordings/3/passages/new?at=0:20&hear=2");
        var text = proposal.QuerySelector("textarea")!.TextContent;
        HasBackbeats(text);
        Core.Counting.Reading.CountLines.Parse(text).Passage.Strokes.Count(s => s.Voice == Core.Music.Voice.Hat)
            .ShouldBeGreaterThanOrEqualTo(8);
        ((IHtmlInputElement)proposal.QuerySelector("#Input_Bar")!).Value.ShouldBe("9");
        ((IHtmlInputElement)proposal.QuerySelector("#Input_StartsAt")!).Value.ShouldBe("0:19.919");
        var (response, saved) = await application.PressAsync(proposal, "/recordings/3/passages/new", "Save");
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        saved.QuerySelector(".lead-line")!.TextContent.ShouldContain("bars 9–10");

        // Asked for in the form, it leaves what is typed there, and the text can be put back.
        const string stamped = "/recordings/3/passages/new?stamp=1&at=0:20";
        var typed = await application.PageAsync(stamped);
        ((IHtmlTextAreaElement)typed.QuerySelector("textarea.counts")!).Value = "SN: 1";
        ((IHtmlTextAreaElement)typed.QuerySelector("[name='Input.Note']")!).Value = "third time round";
        var (_, proposed) = await application.PressAsync(typed, stamped, "Propose from the sound");
        HasBackbeats(proposed.QuerySelector("textarea.counts")!.TextContent);
        proposed.QuerySelector("[name='Input.Note']")!.TextContent.ShouldContain("third time round");
        proposed.QuerySelector("#back")!.GetAttribute("formaction")!.ShouldContain("stamp=1");
        var (_, back) = await application.PressAsync(proposed, stamped, "Put back what stood here before");
        back.QuerySelector("textarea.counts")!.TextContent.Trim().ShouldBe("SN: 1");

        (await application.PageAsync("/recordings/3/passages/new?at=noon&hear=2"))
            .QuerySelector(".field-error")!.TextContent.ShouldContain("clock time");
        // More bars than can be proposed are cut down, not refused.
        (await application.PageAsync("/recordings/3/passages/new?at=0:20&hear=999"))
            .QuerySelector(".notice")!.TextContent.ShouldContain("in 8 bars");
    }

    [Theory, InlineData("/recordings/4/passages/new"), InlineData("/passages/12")]
    public async Task What_was_tapped_in_keeps_its_timing(string address)
    {
        var page = await application.PageAsync(address);
        var (response, _) = await application.SendAsync(page, address, ("Input.Text", "tempo 120\nHH: 8ths\nSN: 2 4"), ("Input.Bar", "30"),
            ("Input.Played", """[[10080,"SN",12.5,0.7],[20160,"SN",3,null],[30240,"SN",-8],["a",1],[10080,"SN",9e9]]"""));
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        PassageId.TryParse(response.RequestMessage!.RequestUri!.AbsolutePath.Split('/')[^1], out var passage).ShouldBeTrue();
        var offsets = await application.Get<PassageStore>().OffsetsAsync(passage, TestContext.Current.CancellationToken);
        offsets.Select(o => (o.At.Value, o.Voice.Code, o.Milliseconds, o.Loudness))
            .ShouldBe([(10080, "SN", 12.5, 0.7), (30240, "SN", -8, null)]);
        var again = await application.PageAsync($"/passages/{passage}");
        (await application.SendAsync(again, $"/passages/{passage}", ("Input.Note", "again"), ("Input.Played", "{not json")))
            .Response.StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_passage_that_grows_says_so_and_takes_it_into_its_text()
    {
        var text = "HH: 8ths | % | % | %\nSN: 2 4 | % | % | %";
        var read = CountLines.Parse(text).Passage;
        var passage = await application.Get<PassageStore>().AddAsync(new(4), new()
        {
            Kind = PassageKind.Groove,
            Text = text,
            Bars = 4,
            Bar = 20
        },
            TestContext.Current.CancellationToken, [.. read.Strokes.Select(s => new StrokeOffset(s.At, s.Voice, s.At.Value % 7,
                Loudness: 0.3 * Math.Pow(1.25, 3.0 * s.At.Value / read.Length.Value)))]);
        var timing = $"/passages/{passage}/timing";
        var page = await application.PageAsync(timing);
        page.QuerySelector("#growth")!.TextContent.ShouldContain("The kit is growing from rather soft to very loud, from 1 of bar 20 to ");
        page.QuerySelector("#played")!.GetAttribute("data-late")!.ShouldStartWith("[[0,");
        var (_, written) = await application.PressAsync(page, timing, "Write it into the text");
        written.QuerySelector(".notice")!.TextContent.ShouldContain("Written into the text: LV: 1 mp <");
        written.QuerySelector("#growth").ShouldBeNull("the text says it now");
        written.Body!.TextContent.ShouldNotContain("The text has changed since it was measured");
        (await application.PageAsync($"/passages/{passage}")).QuerySelector("textarea.counts")!.TextContent.ShouldContain("LV: 1 mp <");
    }

    [Fact]
    public async Task What_is_written_is_measured_and_its_bars_marked()
    {
        const string timing = "/passages/1/timing";
        var silent = await application.PageAsync(timing);
        silent.Body!.TextContent.ShouldContain("Nothing is measured yet");
        var (refused, why) = await application.PressAsync(silent, timing, "Measure it against the sound");
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        why.QuerySelector(".field-error")!.TextContent.ShouldContain("no sound at hand");

        const string listen = "/recordings/1/listen";
        await application.WorkAsync(await application.PageAsync(listen), listen, "Make a simulated sound from the passages");
        var (response, page) = await application.PressAsync(silent, timing, "Measure it against the sound");
        for (var tries = 0; response.StatusCode == HttpStatusCode.UnprocessableEntity; tries++)
        {
            page.QuerySelector(".field-error")!.TextContent.ShouldContain("has not heard");
            tries.ShouldBeLessThan(600);
            await Task.Delay(500, TestContext.Current.CancellationToken);
            (response, page) = await application.PressAsync(await application.PageAsync(timing), timing, "Measure it against the sound");
        }
        page.QuerySelector(".notice")!.TextContent.ShouldMatch(@"2[3-8] of 28 strokes were found");
        page.QuerySelectorAll("svg.timing").Length.ShouldBe(2);
        page.QuerySelector("#tempos")!.TextContent.ShouldMatch(@"bar 5 10[3-5]\.\d, bar 6 10[3-5]\.\d");
        page.QuerySelector("[data-offsets]")!.GetAttribute("data-offsets")!.ShouldStartWith("[[");

        // What the ear takes for bars is put right by saying in what it errs.
        async Task<string[]> MarksAsync(string said) => (await application.PageAsync($"/recordings/1/tempo?heard=yes{said}"))
            .QuerySelector("#Marks")!.TextContent.Trim().Split('\n');
        for (var tries = 0; (await application.PageAsync("/recordings/1/tempo?heard=yes")).QuerySelector("#put-right") is null; tries++)
        {
            tries.ShouldBeLessThan(600, "the whole is heard by itself");
            await Task.Delay(500, TestContext.Current.CancellationToken);
        }
        var heard = await MarksAsync("");
        heard.Length.ShouldBeGreaterThan(10);
        (await MarksAsync("&later=1"))[0].ShouldNotBe(heard[0]);
        (await MarksAsync("&pace=2")).Length.ShouldBeInRange((int)(1.5 * heard.Length), (int)(3.5 * heard.Length));
        (await MarksAsync("&beats=2")).Length.ShouldBeGreaterThan((await MarksAsync("&beats=7")).Length * 3);
        (await MarksAsync("&one=0:20"))[0].ShouldMatch("^1 0:(19|20)\\.");
        var put = await application.PageAsync("/recordings/1/tempo?heard=yes&later=2&beats=99&one=never");
        put.QuerySelector("#put-right")!.TextContent.ShouldContain("2 so far");
        put.QuerySelectorAll(".field-error").Select(e => e.TextContent)
            .ShouldBe(["‘99’ is no number of beats: write 1 to 16.", "‘never’ is no clock time: write for example 0:00.4."]);

        var (_, marked) = await application.PressAsync(page, timing, "Mark these bars in the recording");
        marked.QuerySelector(".notice")!.TextContent.ShouldContain("Bars 5 to 7 are marked where they were measured");
        var form = marked.QuerySelector("#late")!;
        ((IHtmlInputElement)form).Value = "a little";
        var (bad, told) = await application.PressAsync(marked, timing, "Keep it so");
        bad.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        told.QuerySelector(".field-error")!.TextContent.ShouldContain("‘a little’ is no lateness");
        ((IHtmlInputElement)told.QuerySelector("#late")!).Value = "-12";
        var (_, kept) = await application.PressAsync(told, timing, "Keep it so");
        kept.QuerySelector(".notice")!.TextContent.ShouldContain("hat on 1, bar 5: 12 ms early");

        // Over recordings: the whole study in the background, then side beside side.
        const string feel = "/studies/1/feel";
        (await application.WorkAsync(await application.PageAsync(feel), feel, "Measure against the sound"))
            .QuerySelector("#job-said")!.TextContent
            .ShouldMatch(@"All passages: \d+ of \d+ passages measured, \d+ have no sound");
        var over = await application.PageAsync(feel);
        over.QuerySelectorAll("table.list tbody tr").Length.ShouldBeGreaterThan(1);
        over.Body!.TextContent.ShouldContain("snare against hat");

        // The report and an article say it in a sentence, live.
        var report = await application.PageAsync("/studies/1/report");
        report.QuerySelector(".page-sheet")!.TextContent.ShouldMatch(@"The snare is \d+ ms.* the hat on \d+ of \d+ recordings?\.");
        (await application.PageAsync("/studies/1/report?chosen=true&part=numbers")).QuerySelector(".page-sheet")!.TextContent
            .ShouldNotContain("Early and late");
        var study = (await application.Get<StudyStore>().FindAsync(new(1), TestContext.Current.CancellationToken))!;
        var article = await application.Get<ArticleReader>().ReadAsync(study,
            "So [[feel:snare]], or [[feel:SN against HH]]; never [[feel:cowbell]].", new Dictionary<string, string>(), false,
            TestContext.Current.CancellationToken);
        article.Numbers["feel:snare"].ShouldStartWith("the snare is ");
        article.Numbers["feel:SN against HH"].ShouldBe(article.Numbers["feel:snare"]);
        article.Unknown.ShouldBe(["feel:cowbell"]);

        // And an idea is looked for where nobody wrote; a yes counts as heard, once, and can be taken back.
        const string look = "/ideas/1/look";
        var done = await application.WorkAsync(await application.PageAsync(look), look, "Look in the sound");
        done.QuerySelector("#job-said")!.TextContent.ShouldMatch(@"cellar door: \d+ of 24 recordings looked through, \d+ bars");
        var list = await application.PageAsync(look);
        list.QuerySelectorAll("#waiting tbody tr").Length.ShouldBeInRange(5, 24);
        list.QuerySelector("#through")!.TextContent.ShouldMatch(@"\d recordings? the ear hears (well|badly)");
        (await application.PageAsync("/studies/1/report")).QuerySelector("#idea-1")!.TextContent
            .ShouldMatch(@"Looked through by the ear: [\d,]+ bars of \d+ recordings? the ear hears \w+; ");
        (await application.PageAsync("/ideas/1")).Body!.TextContent.ShouldContain("Looked through by the ear: ");
        var before = (await application.PageAsync("/ideas/1")).QuerySelectorAll("#heard tbody tr").Length;
        var (_, judged) = await application.PressAsync(list, look, "yes y");
        judged.QuerySelector("#judged tr")!.TextContent.ShouldContain("yes, counts as heard");
        (await application.PageAsync("/ideas/1")).QuerySelectorAll("#heard tbody tr").Length.ShouldBe(before + 1);
        // Looked through anew nothing changes: the judgement stays.
        await application.WorkAsync(judged, look, "Look again");
        var again = await application.PageAsync(look);
        again.QuerySelectorAll("#judged tr").Length.ShouldBe(1);
        var (_, taken) = await application.PressAsync(again, look, "Take it back");
        taken.QuerySelector("#judged")!.TextContent.ShouldContain("Nothing yet");
        // Where bars are marked elsewhere it is looked for again by itself.
        (await application.SendAsync(await application.PageAsync("/recordings/1/tempo"), "/recordings/1/tempo",
            ("Marks", "5 0:08.5\n9 0:17.7"))).Response.StatusCode.ShouldBe(HttpStatusCode.OK);
        await using (var connection = await application.Get<Npgsql.NpgsqlDataSource>()
            .OpenConnectionAsync(TestContext.Current.CancellationToken))
        await using (var command = new Npgsql.NpgsqlCommand("select count(*) from job where kind = 'looking'", connection))
            ((long)(await command.ExecuteScalarAsync(TestContext.Current.CancellationToken))!).ShouldBeGreaterThanOrEqualTo(3);
        (await application.PageAsync("/ideas/1")).QuerySelectorAll("#heard tbody tr").Length.ShouldBe(before);
        list.QuerySelectorAll("#waiting svg.ridged circle").Length.ShouldBeGreaterThan(10, "the idea lies over what was heard");
        (await application.PageAsync("/recordings/1")).QuerySelector(".cover-looked title")!.TextContent
            .ShouldBe("looked through by the ear for cellar door");
        (await application.PageAsync("/studies/1/compare?idea=1")).Body!.TextContent.ShouldContain("looked through by the ear: ");
        await DepartingAsync();
        await UnnamedAsync();
    }

    private async Task DepartingAsync()
    {
        const string commonest = "/recordings/1/commonest";
        var page = await application.PageAsync(commonest);
        var taken = await application.PageAsync(page.QuerySelector("a[data-key=u]")!.GetAttribute("href")!);
        CountLines.Parse(taken.QuerySelector("textarea.counts")!.TextContent).Passage.Strokes
            .ShouldContain(s => s.Voice == Voice.Snare, "the commonest bar is the passage that is begun");
        var rows = page.QuerySelectorAll("#departing svg.ridged").Length;
        rows.ShouldBeGreaterThan(0);
        var first = page.QuerySelector("#departing form [name=at]")!.GetAttribute("value");
        var (_, less) = await application.PressAsync(page, commonest, "heard, nothing");
        less.QuerySelectorAll("#departing form [name=at]").Select(i => i.GetAttribute("value")).Last().ShouldBe(first);
        less.QuerySelector("#departing details summary")!.TextContent.ShouldBe("1 heard, nothing");

        const string all = "/studies/1/departing";
        (await application.WorkAsync(await application.PageAsync(all), all, "Look in the sound")).QuerySelector("#job-said")!.TextContent
            .ShouldMatch(@"\d+ of 24 recordings looked through, \d+ bars");
        var study = await application.PageAsync(all);
        study.QuerySelectorAll("form:has([name=at])").ShouldNotContain(f => f.QuerySelector("[name=at]")!.GetAttribute("value") == first
            && f.QuerySelector("[name=recording]")!.GetAttribute("value") == "1", "it was heard and is nothing");
        study.QuerySelectorAll("svg.ridged").Length.ShouldBeGreaterThan(0);
        var (_, back) = await application.PressAsync(less, commonest, "Take it back");
        back.QuerySelector("#departing details").ShouldBeNull();
        var (_, said) = await application.PressAsync(study, all, "heard, nothing");
        said.QuerySelector(".notice")!.TextContent.ShouldContain("heard, nothing");
        (await application.SendAsync(study, all + "?handler=Nothing", ("recording", "1"), ("at", "soon"))).Item1.StatusCode
            .ShouldBe(HttpStatusCode.BadRequest);
    }

    private async Task UnnamedAsync()
    {
        const string like = "/studies/1/like?text=SN:+2+4%0ABD:+1+3";
        var done = await application.WorkAsync(await application.PageAsync(like), like, "Look in the sound");
        var found = await application.PageAsync(done.QuerySelector("a[href*='/like/']")!.GetAttribute("href")!);
        found.QuerySelectorAll("table.list tbody tr").Length.ShouldBeGreaterThan(3);
        var naming = await application.PageAsync(found.QuerySelector("a[data-key=n]")!.GetAttribute("href")!);
        ((IHtmlInputElement)naming.QuerySelector("[name='Input.Nickname']")!).Value = "plain pair";
        var (named, look) = await application.PressAsync(naming, "/studies/1/ideas/named", "Keep and look for it");
        named.RequestMessage!.RequestUri!.AbsolutePath.ShouldEndWith("/look");
        look.Title.ShouldNotBeNull().ShouldContain("plain pair");
        (await application.PageAsync("/passages/1/like?from=1.1&to=1.3")).QuerySelector("textarea")!.TextContent.ShouldContain("HH: ");
        (await application.PageAsync("/passages/1/like?from=x")).QuerySelector(".notice")!.TextContent.ShouldContain("no span");

        const string recurring = "/studies/1/recurring";
        (await application.WorkAsync(await application.PageAsync(recurring), recurring, "Look in the sound"))
            .QuerySelector("#job-said")!.TextContent
            .ShouldMatch(@"\d+ stretches come back in \d+ recordings");
        var number = long.Parse(done.QuerySelector("a[href*='/like/']")!.GetAttribute("href")!.Split('/')[^1],
            System.Globalization.CultureInfo.InvariantCulture);
        (await application.Client.GetAsync($"/studies/1/like/{number + 1}", TestContext.Current.CancellationToken)).StatusCode
            .ShouldBe(HttpStatusCode.NotFound, "that was another question");
        (await application.PageAsync(recurring)).QuerySelector("h1")!.TextContent.ShouldBe("What comes back in the sound");
    }

    private static void HasBackbeats(string text)
    {
        var passage = Core.Counting.Reading.CountLines.Parse(text).Passage;
        foreach (var quarter in (int[])[1, 3, 5, 7])
            passage.Strokes.ShouldContain(s => s.Voice == Core.Music.Voice.Snare && s.At.Value == quarter * Core.Music.Tick.PerQuarter,
                text);
    }

    [Fact]
    public async Task Without_a_WAV_file_there_is_nothing_to_listen_to()
    {
        var page = await application.PageAsync("/recordings/5/listen");
        page.QuerySelector("#heard").ShouldBeNull();
        var form = page.QuerySelector("form[data-takes=sound]")!;
        var token = form.QuerySelector("[name=__RequestVerificationToken]")!.GetAttribute("value")!;
        var response = await application.Client.PostAsync("/recordings/5/listen?handler=Onsets",
            new FormUrlEncodedContent(new Dictionary<string, string> { ["__RequestVerificationToken"] = token }),
            TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }
}
