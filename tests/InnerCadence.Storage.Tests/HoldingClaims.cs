using InnerCadence.Core.Claims;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Storage.Tests;

/// <summary>Claims held against evidence as it is kept, and the history of how they stood.</summary>
public class HoldingClaims : StorageTests
{
    private async Task<Study> StudyAsync() => (await Studies.FindAsync(Study, Stop))!;
    private async Task<Stand> StandAsync(ClaimId claim) => (await Claims.StandAsync(await StudyAsync(), Stop))
        .Single(c => c.Claim.Id == claim).Stand;
    private async Task WeighAsync() => await Claims.WeighAsync(await StudyAsync(), Stop);
    private async Task JudgeAllAsync(IdeaId idea, Judgement judgement)
    {
        foreach (var sighting in await Sightings.OfIdeaAsync(idea, Stop)) await Sightings.JudgeAsync(sighting.Id, sighting.Version,
            judgement, "", Stop);
    }

    [Fact]
    public async Task A_standing_changes_with_a_judgement_and_is_logged_once_however_many_weigh()
    {
        var recording = await RecordAsync("Piece", 64, listened: 64);
        await WriteAsync(recording, "SN: 1 e & a");
        var idea = await NameAsync("patter", "SN: 1 e & a");
        var nell = (await StudyAsync()).Subject.Id.Value;
        var claim = await Claims.AddAsync(Study, "never before the eighties",
            new NeverBefore(nell, idea.Value, PartialDate.Parse("1980")!.Value), "", Stop);
        await WeighAsync();
        (await StandAsync(claim)).Standing.ShouldBe(Standing.Open);

        await JudgeAllAsync(idea, Judgement.Confirmed);
        await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => WeighAsync()));
        var history = await Claims.HistoryAsync(claim, Stop);
        history.Select(h => h.Standing).ShouldBe(["contradicted", "open"]);
        history[0].Cause.ShouldBe("0 of 1 inside, 64 bars searched before 1980, where it was 0 of 0 inside, 64 bars searched before "
            + "1980; against it: Piece, bar 1 on 1");
        history[1].Cause.ShouldBe("the claim was made");

        await JudgeAllAsync(idea, Judgement.Rejected);
        await WeighAsync();
        (await Claims.HistoryAsync(claim, Stop)).Select(h => h.Standing).ShouldBe(["open", "contradicted", "open"]);
    }

    [Fact]
    public async Task Who_drums_in_a_span_goes_before_what_is_said_of_the_whole()
    {
        var recording = await RecordAsync("Piece", 64, listened: 64);
        await WriteAsync(recording, "SN: 1 e & a");
        var idea = await NameAsync("patter", "SN: 1 e & a");
        await JudgeAllAsync(idea, Judgement.Confirmed);
        async Task<bool> SureAsync() => (await Evidence.ByRecordingAsync((await Ideas.FindAsync(idea, Stop))!, Stop))
            .Single().Performance.Appearances.Single().SureWhoPlays;
        (await SureAsync()).ShouldBeTrue();
        var players = (await StudyAsync()).Players;
        await Attributions.AddSpanAsync(recording, players.Single(p => !p.IsSubject).Id, Certainty.Certain, 30, 8, "", Stop);
        (await SureAsync()).ShouldBeTrue("the span lies elsewhere");
        await Attributions.AddSpanAsync(recording, players.Single(p => p.IsSubject).Id, Certainty.Disputed, 1, 8, "", Stop);
        (await SureAsync()).ShouldBeFalse();
    }

    [Fact]
    public async Task Every_test_comes_back_as_it_was_kept()
    {
        var (nell, oda) = ((await StudyAsync()).Subject.Id.Value, (await StudyAsync()).Comparison.Single().Id.Value);
        var idea = (await NameAsync("patter", "SN: 1 e & a")).Value;
        ClaimTest[] tests =
        [
            new PresentIn(nell, idea, 0.3, RecordingKind.Live), new RateAtLeast(nell, idea, 2.5), new OnlyTempo(nell, idea, 100, true),
                new OnlyTempo(nell, idea, 99.5, false), new OnlyInSection(nell, idea, "verse"),
            new OnlyInPhraseBar(nell, idea, 3, 8), new NeverBefore(nell, idea, PartialDate.Parse("1966-03")!.Value),
                new MoreThan(nell, idea, oda), new HadItFirst(oda, idea, nell),
            new VoiceAt(nell, Core.Music.Voice.Kick, Core.Music.Meter.Parse("7/8(2+2+3)")!, new(5040), 0.5),
                new TraitIn(nell, Core.Rhythm.Habit.Find("linear")!, 0.1),
            new LateBy(nell, Core.Music.Voice.Snare, Core.Music.Voice.Hat, -5.5, 0.5),
        ];
        foreach (var test in tests)
        {
            var id = await Claims.AddAsync(Study, "so it is", test, "why", Stop);
            var kept = (await Claims.FindAsync(id, Stop))!;
            (kept.Test, kept.Note).ShouldBe((test, "why"));
            (await Claims.SaveAsync(kept with { Sentence = "so it was" }, Stop)).ShouldBeTrue();
            (await Claims.SaveAsync(kept, Stop)).ShouldBeFalse("another tab saved meanwhile");
        }
        (await Claims.OfStudyAsync(Study, Stop)).Select(c => c.Test).ShouldBe(tests);
    }
}
