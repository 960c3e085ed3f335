using Dapper;
using InnerCadence.Core.Claims;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Ideas;

namespace InnerCadence.Storage.Tests;

/// <summary>The study that a first start shows: large enough that its numbers convince, and telling what its page says.</summary>
public class TheDemoStudy : StorageTests
{
    private static readonly string Folder = Path.Combine(WorkingCopy.Root, "demo");

    private async Task<long> LoadAsync() => (await new StudyFolder(Studies, Recordings, Timelines, Attributions, Passages, Ideas, Sightings,
        new LineageStore(Source), Claims, new(Source), new(Source)).LoadAsync(Folder, Stop)).Value;

    [Fact]
    public async Task Three_players_have_comparable_amounts_and_claims_of_every_standing()
    {
        var study = await LoadAsync();
        await using var connection = await Source.OpenConnectionAsync(Stop);
        var players = (await connection.QueryAsync<(string Name, long Recordings, long Passages)>(
            """
            select p.name, count(distinct r.id), count(a.id) from player p join recording r on r.player_id = p.id
              left join passage a on a.recording_id = r.id
            where r.study_id = @study group by p.name
            """, new { study })).ToList();
        players.Count.ShouldBe(3);
        players.Sum(p => p.Recordings).ShouldBe(60);
        players.Sum(p => p.Passages).ShouldBeGreaterThanOrEqualTo(350);
        players.ShouldAllBe(p => p.Recordings >= 16 && p.Passages >= 100);
        var claims = await Claims.StandAsync((await Studies.FindAsync(new(study), Stop))!, Stop);
        Standing Of(string sentence) => claims.Single(c => c.Claim.Sentence.Contains(sentence)).Stand.Standing;
        Of("The cellar door is hers").ShouldBe(Standing.Supported);
        Of("The three bells are hers").ShouldBe(Standing.Open, "many bars, and all of one tune");
        Of("has rope ladder before").ShouldBe(Standing.Contradicted);
    }

    [Fact]
    public async Task No_two_passages_over_one_bar_are_equal_unless_a_groove_repeats_over_takes_of_one_tune()
    {
        var study = await LoadAsync();
        await using var connection = await Source.OpenConnectionAsync(Stop);
        var passages = (await connection.QueryAsync<(string Title, bool Repeats, string Text)>(
            "select r.title, g.looped, g.text from passage a join recording r on r.id = a.recording_id join reading g on g.passage_id = a.id "
                + "where r.study_id = @study", new { study })).Select(p => (p.Title, p.Repeats, CountLines.Parse(p.Text).Passage))
            .Where(p => p.Passage.Bars > 1).ToList();
        foreach (var equal in passages.GroupBy(p => (p.Passage.Bars, p.Passage.Meters.ToString(), Said(p.Passage)))
            .Where(g => g.Count() > 1))
            equal.ShouldAllBe(p => p.Repeats && p.Title == equal.First().Title);

        static string Said(Passage passage) => string.Join('\n', passage.Strokes);
    }

    [Fact]
    public void Its_page_tells_the_story_of_every_tune()
    {
        var told = File.ReadAllText(Path.Combine(Folder, "README.md"));
        foreach (var title in File.ReadLines(Path.Combine(Folder, "recordings.csv")).Skip(1).Select(line => line.Split(',')[0]).Distinct())
            told.ShouldContain(title);
    }
}
