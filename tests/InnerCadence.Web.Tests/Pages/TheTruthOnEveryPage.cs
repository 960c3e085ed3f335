using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using AngleSharp.Dom;
using AngleSharp.Html.Dom;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Studies with a known truth, made form by form: every page says the same and says what is so.</summary>
public partial class TheTruthOnEveryPage(Application application) : IClassFixture<Application>
{
    [GeneratedRegex(@"\s+")]
    private static partial Regex Blank { get; }

    private static string Said(INode? node) => Blank.Replace(node?.TextContent ?? "", " ").Trim();

    private async Task<string> RowAsync(string address, string head) =>
        Said((await application.PageAsync(address)).QuerySelectorAll("table.numbers tr")
            .First(r => r.QuerySelector("th")?.TextContent.Trim() == head));

    private Task<BuiltOverHttp> StudyAsync([System.Runtime.CompilerServices.CallerMemberName] string subject = "") =>
        BuiltOverHttp.NewAsync(application, subject, "Oda Finch");

    /// <summary>Rate, count, presence on each page that says them; near the truth everywhere, and the same.</summary>
    private async Task SaysAsync(BuiltOverHttp study, string idea, string events, int outside)
    {
        (await RowAsync(idea, "per 100 bars")).ShouldContain($"({events}");
        var where = await application.PageAsync($"{idea}/where");
        if (where.QuerySelector("table.numbers") is not null) (await RowAsync($"{idea}/where", "per 100 bars")).ShouldContain($"({events}");
        var (n, bars) = (int.Parse(events.Split(' ')[0], CultureInfo.InvariantCulture), events.Split(' ')[2]);
        var sheet = (await application.Client.GetStringAsync($"{study.Address}/compare?handler=Sheet&format=csv",
            TestContext.Current.CancellationToken)).Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Skip(1).Select(l => l.Split(','))
            .ToList();
        var nickname = Said((await application.PageAsync(idea)).QuerySelector("h1"));
        var rows = sheet.Where(r => r[0] == nickname && r[1] != "Oda Finch").ToList();
        rows.Sum(r => int.Parse(r[7], CultureInfo.InvariantCulture) - int.Parse(r[9], CultureInfo.InvariantCulture))
            .ShouldBe(n, "compare's table");
        rows.Sum(r => int.Parse(r[9], CultureInfo.InvariantCulture)).ShouldBe(outside, "outside, in compare's table");
        rows.Sum(r => int.Parse(r[6], CultureInfo.InvariantCulture)).ToString(CultureInfo.InvariantCulture).ShouldBe(bars);
        if (n + outside > 0)
        {
            var text = $"{{count:{nickname}}}".Replace("{", "[[").Replace("}", "]]");
            var (_, article) = await application.SendAsync(await application.PageAsync($"{study.Address}/article"),
                $"{study.Address}/article?handler=Preview", ("Text", text));
            Said(article.QuerySelector("a.live")).ShouldBe(outside > 0 ? $"{n} and {outside} outside what was searched" : $"{n}");
        }
        (await application.PageAsync($"{idea}?show=counted&player={await SubjectAsync(study)}"))
            .QuerySelectorAll(".concordance tr.place").Length.ShouldBe(n);
        (await application.PageAsync($"{idea}?show=outside&player={await SubjectAsync(study)}"))
            .QuerySelectorAll(".concordance tr.place").Length.ShouldBe(outside);
        Said((await application.PageAsync($"{study.Address}/report")).QuerySelector(".sheets"))
            .ShouldContain(bars == "0" ? "Not searched yet" : $"{events}");
    }

    private async Task<string> SubjectAsync(BuiltOverHttp study) => (await application.PageAsync($"{study.Address}/recordings/new"))
        .QuerySelectorAll("[name='Input.Player'] option").OfType<IHtmlOptionElement>().First(o => o.Text != "Oda Finch").Value;

    [Fact]
    public async Task A_because_heard_passage_beyond_the_searched_bars_is_outside_on_every_page()
    {
        var study = await StudyAsync();
        var tape = await study.RecordAsync("Quay", 120, "1-16");
        var passage = await study.WriteAsync(tape, "SN: 1 e & a 2 3 e & a 4", 60, becauseHeard: true);
        var idea = await study.NameAsync(passage, "1.1", "1.2e", "patter");
        await study.ConfirmAllAsync(idea);
        await study.HearAsync(idea, tape, 80);
        await SaysAsync(study, idea, "0 in 16 bars", 3);
        var claim = await study.ClaimAsync("rate", ("Input.Idea", idea.Split('/')[^1]), ("Input.Least", "1"));
        Said((await application.PageAsync(claim)).QuerySelector("main")).ShouldContain("0 in 16 searched bars");
        // It still breaks a never, and is the first.
        var never = await study.ClaimAsync("never-before", ("Input.Idea", idea.Split('/')[^1]), ("Input.Date", "1980"));
        Said((await application.PageAsync(never)).QuerySelector(".standing")).ShouldBe("contradicted");
        Said((await application.PageAsync($"{idea}/where")).QuerySelector("main"))
            .ShouldContain("First in Quay, 1970 (outside what was searched");
    }

    [Fact]
    public async Task Barely_searched_tapes_are_no_habit_of_the_stage()
    {
        var study = await StudyAsync();
        var model = await study.WriteAsync(await study.RecordAsync("Model", 40, "1-40"), "SN: 1 e & a 2", 1);
        var idea = await study.NameAsync(model, "1.1", "1.2e", "patter");
        for (var i = 0; i < 4; i++)
        {
            var studio = await study.RecordAsync($"Side {i}", 100, "1-100");
            foreach (var bar in new[] { 20, 60 }) await study.HearAsync(idea, studio, bar);
            // The same rate live; of each tape eight bars were searched, without it, and it was noted where it struck the ear.
            var live = await study.RecordAsync($"Side {i}", 100, "1-8", kind: "live", take: "tape");
            foreach (var bar in new[] { 20, 60 }) await study.HearAsync(idea, live, bar);
        }
        var where = await application.PageAsync($"{idea}/where");
        var rows = where.QuerySelectorAll("h2").First(h => h.TextContent == "By kind").NextElementSibling!.QuerySelectorAll("tbody tr")
            .Select(r => r.QuerySelectorAll("td").Select(c => Said(c)).ToList()).ToList();
        rows.Single(r => r[0] == "live").Take(3).ShouldBe(["live", "0", "32"]);
        rows.Single(r => r[0] == "studio").Take(3).ShouldBe(["studio", "8", "440"]);
        await SaysAsync(study, idea, "8 in 472 bars", 8);
    }

    [Fact]
    public async Task Equal_rates_and_unequal_lengths_are_no_signature()
    {
        var study = await StudyAsync();
        var model = await study.WriteAsync(await study.RecordAsync("Model", 20, "1-20"), "SN: 1 e & a 2", 1, becauseHeard: true);
        var idea = await study.NameAsync(model, "1.1", "1.2e", "patter");
        for (var i = 0; i < 6; i++)
        {
            var own = await study.RecordAsync($"Long {i}", 200, "1-200");
            foreach (var bar in new[] { 20, 70, 120, 170 }) await study.HearAsync(idea, own, bar);
            var theirs = await study.RecordAsync($"Short {i}", 50, "1-50", player: "Oda Finch");
            await study.HearAsync(idea, theirs, 25);
        }
        var compare = await application.PageAsync($"{study.Address}/compare");
        var row = Said(compare.QuerySelectorAll("section table.list tbody tr").First(r => r.QuerySelector("b")?.TextContent == "patter"));
        row.ShouldContain("24 in 1 220 bars");
        row.ShouldContain("1.0 ");
        row.ShouldNotContain("signature");
        row.ShouldContain("could be chance");
    }

    [Fact]
    public async Task Because_heard_fills_feed_neither_traits_nor_claims_nor_the_fingerprint()
    {
        var study = await StudyAsync();
        var idea = "";
        for (var i = 0; i < 10; i++)
        {
            var side = await study.RecordAsync($"Side {i}", 64, "1-16");
            await study.WriteAsync(side, "SN: 3R & 4R", 8, kind: "fill");
            // The lick struck the ear twice a side, and was written down for it.
            foreach (var bar in new[] { 30, 40 })
            {
                var lick = await study.WriteAsync(side, "CR: 1\nSN: 2L e & a", bar, kind: "fill", becauseHeard: true);
                if (idea.Length == 0) idea = await study.NameAsync(lick, "1.2", "1.3", "left run");
            }
        }
        await study.ConfirmAllAsync(idea);
        await SaysAsync(study, idea, "0 in 160 bars", 20);
        (await RowAsync($"{idea}/where", "of its fills")).ShouldContain("0 of 10");
        Said((await application.PageAsync(await study.ClaimAsync("trait", ("Input.Trait", "left-first"), ("Input.Least", "20"))))
            .QuerySelector("main")).ShouldContain("0 of 10 written fills");
        var print = await application.PageAsync($"{study.Address}/fingerprint");
        Said(print.QuerySelector("main")).ShouldContain("10 bars in 10 titles");
        print.QuerySelectorAll("table.fingerprint th[scope=row]").Select(h => h.TextContent).ShouldBe(["snare"]);
        Said(print.QuerySelectorAll("table.list tr").First(r => r.TextContent.Contains("begin with the left hand")))
            .ShouldContain("0 of 10");
        Said((await application.PageAsync($"{study.Address}/bars")).QuerySelector(".lead-line")).ShouldStartWith("10 bars");
    }

    [Fact]
    public async Task Players_with_the_same_habits_do_not_stand_apart()
    {
        var study = await StudyAsync();
        string[] grooves = ["HH: 8ths\nSN: 2 4\nBD: 1 3&", "HH: 8ths\nSN: 2 4\nBD: 1 2& 3", "HH: 8ths\nSN: 2 4\nBD: 1 3 4&",
            "HH: 8ths\nSN: 3\nBD: 1 1a"];
        for (var i = 0; i < 8; i++)
        {
            var groove = string.Join("\n", grooves[i % 4].Split('\n').Select(line => line + " | %x7"));
            await study.WriteAsync(await study.RecordAsync($"Own {i}", 32, "1-32"), groove, 1);
            await study.WriteAsync(await study.RecordAsync($"Theirs {i}", 32, "1-32", player: "Oda Finch"), groove, 1);
        }
        var print = await application.PageAsync($"{study.Address}/fingerprint");
        print.QuerySelectorAll("td.more, td.less").ShouldBeEmpty();
        Said(print.QuerySelector("main")).ShouldContain("64 bars in 8 titles");
    }

    [Fact]
    public async Task A_corrected_transcription_counts_once_and_what_vanished_waits()
    {
        var study = await StudyAsync();
        var side = await study.RecordAsync("Quay", 32, "32");
        var passage = await study.WriteAsync(side, "SN: 1 e & a 2\nBD: 4", 9);
        var idea = await study.NameAsync(passage, "1.1", "1.2e", "patter");
        await study.ConfirmAllAsync(idea);
        await SaysAsync(study, idea, "1 in 32 bars", 0);
        // It was a beat later: the old sighting vanishes, the new one is confirmed.
        await application.SendAsync(await application.PageAsync(passage), passage, ("Input.Text", "SN: 2 e & a 3\nBD: 4"));
        await SaysAsync(study, idea, "0 in 32 bars", 0);
        var waiting = await application.PageAsync($"{idea}?show=waiting");
        waiting.QuerySelectorAll(".concordance tr.place").Length.ShouldBe(2);
        Said(waiting.QuerySelector(".concordance")).ShouldContain("no longer found");
        await study.ConfirmAllAsync(idea);
        await SaysAsync(study, idea, "1 in 32 bars", 0);
        // Kept as heard by hand at its bar it is the same place again: within an eighth note, or by its bar.
        var vanished = (await application.PageAsync($"{idea}?show=waiting"))
            .QuerySelector(".concordance a[href^='/sightings/']")!.GetAttribute("href")!;
        var (response, kept) = await application.PressAsync(await application.PageAsync(vanished), vanished + "?handler=Keep",
            "Keep as heard by hand");
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        Said(kept.QuerySelector("#heard")).ShouldContain("Quay");
        (await application.PageAsync($"{idea}?show=waiting")).QuerySelectorAll(".concordance tr.place").ShouldBeEmpty();
    }

    [Fact]
    public async Task Overlapping_passages_what_was_heard_and_adjoining_passages_count_each_place_once()
    {
        var study = await StudyAsync();
        var side = await study.RecordAsync("Quay", 64, "1-64");
        var one = await study.WriteAsync(side, "SN: 1 e & a 2 | 2 4 | 1 e & a 2", 9);
        var idea = await study.NameAsync(one, "1.1", "1.2e", "patter");
        // The same two bars once more, and the first of them heard by hand as well.
        await study.WriteAsync(side, "SN: 2 4 | 1 e & a 2 | 2 4", 10);
        await study.HearAsync(idea, side, 9);
        // A run over two passages that adjoin is one decision.
        await study.WriteAsync(side, "SN: 1 e & a 2", 33);
        await study.WriteAsync(side, "SN: 1 e & a 2", 34);
        await study.ConfirmAllAsync(idea);
        await SaysAsync(study, idea, "4 in 64 bars", 0);
        (await RowAsync(idea, "separate times")).ShouldContain("(3 in 64 bars");
    }

    [Fact]
    public async Task Amounts_without_a_place_are_asked_for_and_in_no_number()
    {
        var study = await StudyAsync();
        var side = await study.RecordAsync("Quay", 100, "40");
        var page = await application.PageAsync(side);
        Said(page.QuerySelector("#searched")).ShouldContain("Where were these 40 bars?");
        var idea = await study.NameAsync(await study.WriteAsync(side, "SN: 1 e & a 2", 51, becauseHeard: true), "1.1", "1.2e", "patter");
        await study.HearAsync(idea, side, 20);
        (await RowAsync(idea, "per 100 bars")).ShouldContain("not searched");
        Said((await application.PageAsync(study.Address)).QuerySelector("#places")).ShouldContain("Quay 40 of 100");
        Said((await application.PageAsync($"{study.Address}/report")).QuerySelector(".sheets")).ShouldContain("Not searched yet");
        var place = page.QuerySelectorAll("form").First(f => f.GetAttribute("action")!.Contains("handler=Place")).GetAttribute("action")!;
        var (response, again) = await application.SendAsync(page, place, ("typed", "90-120"));
        response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        again.QuerySelector("[name=typed]")!.GetAttribute("value").ShouldBe("90-120", "what was typed stays");
        await application.SendAsync(page, place, ("typed", "1-16, 33-48"));
        await SaysAsync(study, idea, "0 in 32 bars", 1);
        (await application.PageAsync(study.Address)).QuerySelector("#places").ShouldBeNull();
    }

    [Fact]
    public async Task A_new_idea_asks_whether_it_would_have_been_noticed_before_it_had_its_name()
    {
        var study = await StudyAsync();
        var side = await study.RecordAsync("Quay", 100, "");
        await application.SendAsync(await application.PageAsync(side), $"{side}?handler=Cover", ("Search.Bars", "1-40"),
            ("Search.On", "2020-03-01"));
        await application.SendAsync(await application.PageAsync(side), $"{side}?handler=Cover", ("Search.Bars", "61-70"),
            ("Search.On", "2020-03-02"));
        var idea = await study.NameAsync(await study.WriteAsync(side, "SN: 1 e & a 2", 81), "1.1", "1.2e", "patter");
        await study.HearAsync(idea, side, 20);
        await SaysAsync(study, idea, "0 in 1 bar", 1);
        var page = await application.PageAsync(idea);
        Said(page.QuerySelector("#noticed")).ShouldContain("2 stretches were listened to for everything before");
        Said(page.QuerySelector("main")).ShouldContain("1 of 100, 50 not asked");
        (await application.SendAsync(page, $"{idea}?handler=Noticed", ("noticed", "somewhere"))).Response.StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity);
        var first = page.QuerySelector("[name=where]")!.GetAttribute("value")!;
        await application.SendAsync(page, $"{idea}?handler=Noticed", ("noticed", "somewhere"), ("where", first));
        await SaysAsync(study, idea, "1 in 41 bars", 0);
        await application.SendAsync(await application.PageAsync(idea), $"{idea}?handler=Noticed", ("noticed", "everywhere"));
        await SaysAsync(study, idea, "1 in 51 bars", 0);
        await application.SendAsync(await application.PageAsync(idea), $"{idea}?handler=Noticed", ("noticed", "no"));
        await SaysAsync(study, idea, "0 in 1 bar", 1);
        Said((await application.PageAsync(idea)).QuerySelector("#noticed")).ShouldContain("You said: no");
    }
}
