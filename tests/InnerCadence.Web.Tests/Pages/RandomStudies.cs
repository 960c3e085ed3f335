using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Tests.Pages;

/// <summary>Studies made at random: every page's number is the account's.</summary>
public class RandomStudies(Application application) : IClassFixture<Application>
{
    private static readonly CancellationToken Stop = TestContext.Current.CancellationToken;

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task Every_page_says_what_the_account_counts(int seed)
    {
        var (study, ideas) = await MakeAsync(seed);
        var subject = (await application.Get<StudyStore>().FindAsync(study, Stop))!.Subject;
        var account = await application.Get<EvidenceOfIdeas>().AccountAsync(study, Stop);
        var sheet = (await application.Client.GetStringAsync($"/studies/{study}/compare?handler=Sheet&format=csv", Stop))
            .Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Skip(1).Select(l => l.Split(',')).ToList();
        var report = await application.PageAsync($"/studies/{study}/report");
        foreach (var id in ideas)
        {
            var idea = (await application.Get<IdeaStore>().FindAsync(id, Stop))!;
            var all = account.Of(idea.AsNamed());
            var answer = Answer.Of(all.Where(p => p.Player == subject.Id.Value));
            var said = answer.Bars == 0 ? "not searched" : $"({answer.Events} in {Words.Bars(answer.Bars)})";

            Row(await application.PageAsync($"/ideas/{id}"), "per 100 bars").ShouldContain(said);
            var where = await application.PageAsync($"/ideas/{id}/where");
            if (answer.Bars > 0)
            {
                Row(where, "per 100 bars").ShouldContain(said);
                if (answer.Presence is not null) Row(where, "in recordings").ShouldContain($"{answer.Found} of {answer.Searched}");
                foreach (var split in where.QuerySelectorAll("h2").Where(h => h.TextContent.StartsWith("By ", StringComparison.Ordinal)))
                    split.NextElementSibling!.QuerySelectorAll("tbody tr td:nth-child(2)")
                        .Sum(c => int.Parse(c.TextContent.Trim(), CultureInfo.InvariantCulture)).ShouldBe(answer.Events, split.TextContent);
            }
            var rows = sheet.Where(r => r[0] == idea.Nickname).ToList();
            foreach (var (performance, row) in all.Select(p =>
                (p, rows.Single(r => r[2] == p.Title && r[3] == (p.Name.Contains(',') ? p.Name.Split(", ")[1] : "")))))
                (row[6], row[7], row[8], row[9], row[10], row[11])
                    .ShouldBe(($"{performance.Bars}", $"{performance.Confirmed}", $"{performance.Occasions}", $"{performance.Outside}",
                    $"{performance.NearMisses}", $"{performance.Waiting}"), performance.Name);
            var told = report.QuerySelectorAll(".page-sheet").First(s => s.QuerySelector("h2")!.TextContent == idea.Nickname)
                .QuerySelectorAll("table.numbers tr").Select(r => r.TextContent).ToList();
            told.ShouldContain(t => t.Contains("in 100 bars")
                && t.Contains(answer.Bars == 0 ? "not searched" : $"{answer.Events} in {Words.Bars(answer.Bars)}"));
            foreach (var show in (string[])["counted", "confirmed", "outside", "near-miss", "waiting"])
            {
                var n = show switch
                {
                    "counted" => answer.Events,
                    "confirmed" => answer.Confirmed,
                    "outside" => answer.Outside,
                    "near-miss" => answer.NearMisses,
                    _ => answer.Waiting
                };
                (await application.PageAsync($"/ideas/{id}?show={show}&player={subject.Id}"))
                    .QuerySelectorAll(".concordance tr.place").Length.ShouldBe(Math.Min(40, n), show);
            }
        }
    }

    private static string Row(AngleSharp.Html.Dom.IHtmlDocument page, string head) => page.QuerySelectorAll("table.numbers tr")
        .First(r => r.QuerySelector("th")?.TextContent.Trim() == head).TextContent;

    private async Task<(StudyId, IReadOnlyList<IdeaId>)> MakeAsync(int seed)
    {
        var random = new Random(seed);
        var (studies, recordings, coverages, passages, ideas, sightings, heard) = (
            application.Get<StudyStore>(), application.Get<RecordingStore>(), application.Get<CoverageStore>(),
                application.Get<PassageStore>(),
            application.Get<IdeaStore>(), application.Get<SightingStore>(), application.Get<HeardStore>());
        var study = await studies.AddAsync(new($"Random {seed}", "", "Nell Tarrow", Handedness.Right, ["Oda Finch"]), Stop);
        var players = (await studies.FindAsync(study, Stop))!.Players;
        var today = DateOnly.FromDateTime(DateTime.Now);
        var made = new List<RecordingId>();
        for (var i = 0; i < 12; i++)
        {
            var total = random.Next(20, 80);
            var recording = await recordings.AddAsync(study, new()
            {
                PlayerId = players[random.Next(2)].Id,
                Title = $"Title {i / 2}",
                Take = $"take {i}",
                Kind = random.Next(2) == 0 ? RecordingKind.Studio : RecordingKind.Live,
                TotalBars = total,
                Tempo = random.Next(3) == 0 ? null : random.Next(60, 180),
                Recorded = random.Next(4) == 0 ? null : PartialDate.Parse($"{1960 + random.Next(9)}"),
            }, null, Stop);
            made.Add(recording);
            for (var span = random.Next(3); span > 0; span--)
            {
                var from = random.Next(1, total);
                await coverages.AddAsync(recording, new((Closeness)random.Next(3), random.Next(4) == 0 ? null : from,
                    random.Next(1, total - from + 1), [], today.AddDays(-random.Next(2) * 400)), Stop);
            }
            for (var written = random.Next(4); written > 0; written--)
            {
                var text = random.Next(3) switch
                {
                    0 => "SN: 1 e & a 2 | 3 e & a 4",
                    1 => "SN: 2 4 | 1 e & a (2)?\nBD: 1 3",
                    _ =>
                    "BD: 1 2& 3 | 1 2& 3\nSN: 1 e & a 2 | ?"
                };
                await passages.AddAsync(recording, new()
                {
                    Text = text,
                    Bars = 2,
                    Kind = random.Next(2) == 0 ? PassageKind.Fill : PassageKind.Groove,
                    Bar = random.Next(5) == 0 ? null : random.Next(1, total),
                    BecauseHeard = random.Next(3) == 0
                }, Stop);
            }
        }
        IReadOnlyList<IdeaId> named = [(await ideas.AddAsync(study,
            new() { Nickname = "patter", Text = "SN: 1 e & a 2", Rules = Rules.Default }, Stop))!.Value,
            (await ideas.AddAsync(study, new() { Nickname = "thud", Text = "BD: 1 2& 3", Rules = Rules.Default }, Stop))!.Value];
        foreach (var idea in named)
        {
            foreach (var sighting in await sightings.OfIdeaAsync(idea, Stop))
                if (random.Next(4) is > 0 and var made_) await sightings.JudgeAsync(sighting.Id, 1, made_ == 3 && random.Next(2) == 0
                    ? Judgement.NearMiss : Judgement.Confirmed, "", Stop);
            for (var i = 0; i < 6; i++) await heard.AddAsync(idea, made[random.Next(made.Count)], random.Next(3) == 0
                ? new(random.Next(100_000)) : null, random.Next(1, 60), "", Stop);
        }
        // Some texts are corrected afterwards, so that judged sightings vanish.
        foreach (var passage in (await passages.LatestAsync(study, 3, Stop)))
            await passages.UpdateAsync(passage.Id, new()
            {
                Text = "SN: 1 2 3",
                Bars = 1,
                Kind = passage.Kind,
                Bar = passage.Bar,
                BecauseHeard = passage.BecauseHeard
            }, passage.Version, Stop);
        return (study, named);
    }
}
