using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;

namespace InnerCadence.Storage.Tests;

/// <summary>How often, from what was searched and what was confirmed.</summary>
public class CountingEvidence : StorageTests
{
    [Fact]
    public async Task Only_confirmed_sightings_count_and_near_misses_stand_apart()
    {
        var recording = await RecordAsync("Piece", 100, listened: 100);
        await WriteAsync(recording, "SN: 1 e & a | 2 e & a | 3 e & a");
        var idea = await NameAsync("patter", "SN: 1 e & a");
        var rows = await Sightings.OfIdeaAsync(idea, Stop);
        rows.Count.ShouldBe(3);
        await Sightings.JudgeAsync(rows[0].Id, 1, Judgement.Confirmed, "", Stop);
        await Sightings.JudgeAsync(rows[1].Id, 1, Judgement.NearMiss, "", Stop);

        var found = (await ByRecordingAsync(idea)).Single();
        var evidence = found.Evidence;
        (evidence.Exposure, evidence.Confirmed, evidence.NearMisses, evidence.Waiting).ShouldBe((100, 1, 1, 1));
        var answer = Answer.Of([found.Performance]);
        (answer.Found, answer.Searched, answer.Events, answer.Bars).ShouldBe((1, 1, 1, 100));
        answer.Rate!.Value.ShouldBe(1.0);
    }

    [Fact]
    public async Task A_recording_counts_as_searched_when_half_of_it_is()
    {
        await RecordAsync("Half", 100, listened: 50, from: 1);
        await RecordAsync("Less", 100, listened: 49, from: 33);
        await RecordAsync("None", 100);
        var idea = await NameAsync("patter", "SN: 1 e & a");
        var answer = Answer.Of((await ByRecordingAsync(idea)).Select(r => r.Performance));
        (answer.Found, answer.Searched, answer.Bars).ShouldBe((0, 1, 99));
    }

    [Fact]
    public async Task Nothing_searched_gives_no_number()
    {
        await RecordAsync("None", 100);
        var idea = await NameAsync("patter", "SN: 1 e & a");
        var answer = Answer.Of((await ByRecordingAsync(idea)).Select(r => r.Performance));
        answer.Presence.ShouldBeNull();
        answer.Rate.ShouldBeNull();
    }

    [Fact]
    public async Task Listening_for_everything_before_the_idea_had_a_name_does_not_count()
    {
        await RecordAsync("Early", 100, listened: 100, on: new(2020, 1, 1));
        var idea = await NameAsync("patter", "SN: 1 e & a");
        (await ByRecordingAsync(idea)).Single().Evidence.Exposure.ShouldBe(0);
    }

    [Fact]
    public async Task Listening_for_the_idea_counts_for_it_alone()
    {
        var recording = await RecordAsync("Piece", 100);
        var (one, other) = (await NameAsync("one", "SN: 1"), await NameAsync("other", "SN: 2"));
        await Coverages.AddAsync(recording, new(Closeness.Listened, 33, 32, [one], new(2020, 1, 1)), Stop);
        (await ByRecordingAsync(one)).Single().Evidence.Exposure.ShouldBe(32);
        (await ByRecordingAsync(other)).Single().Evidence.Exposure.ShouldBe(0);
    }

    [Fact]
    public async Task A_passage_written_because_the_idea_was_heard_is_shown_but_not_in_the_rate()
    {
        var recording = await RecordAsync("Piece", 100);
        await WriteAsync(recording, "SN: 1 e & a", becauseHeard: true);
        var idea = await NameAsync("patter", "SN: 1 e & a");
        await Sightings.JudgeAsync((await Sightings.OfIdeaAsync(idea, Stop)).Single().Id, 1, Judgement.Confirmed, "", Stop);
        var evidence = (await ByRecordingAsync(idea)).Single().Evidence;
        (evidence.Exposure, evidence.Confirmed, evidence.Outside).ShouldBe((0, 1, 1));
        Answer.Of((await ByRecordingAsync(idea)).Select(r => r.Performance)).Rate.ShouldBeNull();
    }

    [Fact]
    public async Task Adjacent_sightings_are_one_occasion()
    {
        var recording = await RecordAsync("Piece", 100);
        await WriteAsync(recording, "BD: 1 3& | % | % | - | - | 1 3&");
        var idea = await NameAsync("thud", "BD: 1 3&", new() { Placement = PlacementRule.SamePlaceInTheBar });
        foreach (var sighting in await Sightings.OfIdeaAsync(idea, Stop)) await Sightings.JudgeAsync(sighting.Id, 1, Judgement.Confirmed,
            "", Stop);
        var evidence = (await ByRecordingAsync(idea)).Single().Evidence;
        (evidence.Confirmed, evidence.Occasions, evidence.Exposure).ShouldBe((4, 2, 6));
    }

    private async Task<IReadOnlyList<IdeaInRecording>> ByRecordingAsync(IdeaId idea) =>
        await Evidence.ByRecordingAsync((await Ideas.FindAsync(idea, Stop))!, Stop);

    [Fact]
    public async Task What_a_recording_shows_as_searched_is_every_bar_once_and_agrees_with_the_exposure_of_an_idea()
    {
        var idea = await NameAsync("patter", "SN: 1 e & a");
        var today = DateOnly.FromDateTime(DateTime.Now);
        (int? From, int Bars, bool Heard)[][] cases =
        [
            [(1, 20, true), (31, 10, true)], [(1, 20, true), (11, 20, true), (15, 2, false)], [(1, 20, true), (null, 15, true)],
                [(1, 20, true), (null, 40, true), (50, 1, false)], [(5, 1, false), (60, 1, false)],
        ];
        foreach (var spans in cases)
        {
            var recording = await RecordAsync("Piece", 64);
            foreach (var (from, bars, _) in spans.Where(s => s.Heard)) await Coverages.AddAsync(recording,
                new(Closeness.Listened, from, bars, [], today), Stop);
            foreach (var (from, _, _) in spans.Where(s => !s.Heard)) await Passages.AddAsync(recording,
                Draft("SN: 2 4") with { Bar = from }, Stop);
            var shown = (await Recordings.FindAsync(recording, Stop))!;
            var exposure = (await Evidence.ByRecordingAsync((await Ideas.FindAsync(idea, Stop))!, Stop))
                .Single(e => e.Recording.Id == recording).Evidence.Exposure;
            shown.SearchedBars.ShouldBe(exposure, string.Join(' ', spans));
            var facts = (await Evidence.AccountAsync(Study, Stop)).Recordings.Single(r => r.Id == recording.Value);
            var atAll = Exposure.AtAll(facts.TotalBars, facts.Searches, facts.Written);
            (shown.SearchedBars, shown.NotPlaced).ShouldBe((atAll.Bars.Count, atAll.NotPlaced), string.Join(' ', spans));
            (await new RecordingCatalogue(Source).PageAsync(Study, new(), 0, 100, Stop))
                .Single(r => r.Id == recording).SearchedBars.ShouldBe(exposure);
        }
    }

    [Fact]
    public async Task A_passage_written_down_because_an_idea_was_heard_is_no_search()
    {
        var recording = await RecordAsync("Piece", 64);
        await WriteAsync(recording, "SN: 2 4", becauseHeard: true);
        var shown = (await Recordings.FindAsync(recording, Stop))!;
        (shown.WrittenBars, shown.SearchedBars, shown.Passages).ShouldBe((1, 0, 1));
    }
}
