using Dapper;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Sightings;

namespace InnerCadence.Storage.Tests;

/// <summary>Rules tried before they are saved, pinned passages, where ideas come from, what was only heard, and who judged.</summary>
public class TuningAndLineage : StorageTests
{
    private const string Exemplar = "SN: 1 e & a\nFT: 2";

    private LineageStore Lineages => new(Source);

    private static Idea With(VoicingRule voicing) =>
        new(CountLines.Parse(Exemplar).Passage, null, null, new() { Facets = new() { Voicing = voicing } });

    [Fact]
    public async Task A_trial_tells_what_comes_goes_and_changes_and_keeps_nothing()
    {
        var recording = await RecordAsync("Piece", 64);
        await WriteAsync(recording, Exemplar);
        var onTom = await WriteAsync(recording, "SN: 1 e & a\nT2: 2");
        var idea = await NameAsync("stumble", Exemplar);
        var tuning = new Tuning(Source, Lineages);

        var tried = await tuning.TryAsync(Study, With(VoicingRule.Family), idea, Stop);
        (tried.Found, tried.Come.Count, tried.Go.Count).ShouldBe((2, 0, 0));
        var change = tried.Change.Single();
        (change.PassageId, change.Was, change.Becomes).ShouldBe((onTom, "near-miss", "variant"));
        (await Sightings.OfIdeaAsync(idea, Stop)).Single(s => s.PassageId == onTom).Verdict.ShouldBe(Verdict.NearMiss, "nothing is kept");

        (await tuning.TryAsync(Study, With(VoicingRule.Family), null, Stop)).Come.Count.ShouldBe(2,
            "for an idea not kept yet everything comes");
        var other = new Idea(CountLines.Parse("CR: 1 2 3 4").Passage, null, null, Rules.Default);
        (await tuning.TryAsync(Study, other, idea, Stop)).Go.Count.ShouldBe(2);
    }

    [Fact]
    public async Task A_rule_that_loses_an_example_or_lets_a_counter_example_in_is_told()
    {
        var recording = await RecordAsync("Piece", 64);
        var example = await WriteAsync(recording, Exemplar);
        var counter = await WriteAsync(recording, "SN: 1 e & a\nT2: 2");
        var idea = await NameAsync("stumble", Exemplar);
        await Lineages.PinAsync(idea, example, false, Stop);
        await Lineages.PinAsync(idea, counter, true, Stop);
        (await Lineages.PinsAsync(idea, Stop)).Select(p => (p.PassageId, p.Counter, p.IsBroken))
            .ShouldBe([(example, false, false), (counter, true, false)]);

        var tuning = new Tuning(Source, Lineages);
        (await tuning.TryAsync(Study, With(VoicingRule.Family), idea, Stop)).Broken.ShouldBe(
            ["The counter-example Piece, 0:01, bar 1 would be let in."]);
        (await tuning.TryAsync(Study, new(CountLines.Parse("CR: 1 2 3 4").Passage, null, null, Rules.Default), idea, Stop)).Broken.ShouldBe(
            ["The example Piece, 0:01, bar 1 would be lost."]);
    }

    [Fact]
    public async Task Ideas_come_from_ideas_and_a_circle_is_refused()
    {
        var (a, b, c) = (await NameAsync("a", "SN: 1"), await NameAsync("b", "SN: 2"), await NameAsync("c", "SN: 3"));
        (await Lineages.LinkAsync(b, a, "variant of", Stop)).ShouldBeTrue();
        (await Lineages.LinkAsync(c, b, "built from", Stop)).ShouldBeTrue();
        (await Lineages.LinkAsync(a, c, "variant of", Stop)).ShouldBeFalse();
        (await Lineages.LinkAsync(a, a, "variant of", Stop)).ShouldBeFalse();
        (await Lineages.OfStudyAsync(Study, Stop)).Select(d => (d.Idea, d.Of, d.Kind))
            .ShouldBe([(b.Value, a.Value, "variant of"), (c.Value, b.Value, "built from")]);
        await Lineages.UnlinkAsync(c, b, Stop);
        (await Lineages.LinkAsync(a, c, "variant of", Stop)).ShouldBeTrue();
    }

    [Fact]
    public async Task What_was_only_heard_counts_where_it_was_searched_and_apart_where_it_was_not()
    {
        var (searched, unsearched) = (await RecordAsync("Searched", 50, listened: 50), await RecordAsync("Unsearched", 50));
        var idea = await NameAsync("stumble", Exemplar);
        var heard = new HeardStore(Source);
        (await heard.AddAsync(idea, searched, new ClockTime(62_000), null, "under the solo", Stop)).ShouldBeTrue();
        (await heard.AddAsync(idea, unsearched, null, 9, "", Stop)).ShouldBeTrue();
        var evidence = (await Evidence.ByRecordingAsync((await Ideas.FindAsync(idea, Stop))!, Stop))
            .ToDictionary(r => r.Recording.Title, r => r.Evidence);
        (evidence["Searched"].Confirmed, evidence["Searched"].Outside, evidence["Searched"].Occasions).ShouldBe((1, 0, 1));
        (evidence["Unsearched"].Confirmed, evidence["Unsearched"].Outside).ShouldBe((1, 1));
        var row = (await heard.OfIdeaAsync(idea, Stop))[0];
        (row.RecordingName, row.At, row.Note).ShouldBe(("Searched", new ClockTime(62_000), "under the solo"));
        await heard.RemoveAsync(idea, row.Id, Stop);
        (await heard.OfIdeaAsync(idea, Stop)).Count.ShouldBe(1);
    }

    [Fact]
    public async Task Blind_judgements_of_one_sighting_agree_with_oneself_and_with_others()
    {
        var recording = await RecordAsync("Piece", 64);
        await WriteAsync(recording, Exemplar + " | -");
        await WriteAsync(recording, Exemplar);
        var idea = await NameAsync("stumble", Exemplar);
        var found = await Sightings.OfIdeaAsync(idea, Stop);
        var judges = new JudgementStore(Source);
        (await judges.AgreementAsync(Study, Stop)).ShouldBe((null, null));
        await judges.SetNameAsync("Odd", Stop);
        foreach (var sighting in found)
        {
            await judges.JudgeBlindAsync(sighting.Id, sighting.Version, Judgement.Confirmed, "", DateTime.UtcNow.AddMinutes(1), Stop);
            await judges.JudgeBlindAsync(sighting.Id, sighting.Version, sighting == found[0] ? Judgement.Confirmed : Judgement.Rejected,
                "", DateTime.UtcNow.AddMinutes(1), Stop);
        }
        await judges.SetNameAsync("Even", Stop);
        (await judges.JudgeAsync(found[0].Id, found[0].Version, Judgement.Rejected, "", Stop)).ShouldBeFalse("it was judged since");
        (await judges.JudgeAsync(found[0].Id, found[0].Version + 1, Judgement.Rejected, "", Stop)).ShouldBeTrue();
        var (self, others) = await judges.AgreementAsync(Study, Stop);
        (self!.Pairs, self.Same).ShouldBe((2, 1));
        (others!.Pairs, others.Same).ShouldBe((1, 0));
        (await judges.BlindBeforeAsync(Study, "Odd", DateTime.UtcNow.AddMinutes(1), Stop)).Count.ShouldBe(2);
        (await judges.BlindBeforeAsync(Study, "Even", DateTime.UtcNow.AddMinutes(1), Stop)).ShouldBeEmpty("it did not judge blind");
        (await judges.BlindBeforeAsync(Study, "Odd", DateTime.UtcNow.AddDays(-1), Stop)).ShouldBeEmpty();
    }

    [Fact]
    public async Task What_two_judges_see_differently_is_listed_until_one_settles_it_and_opens_again_with_another_verdict()
    {
        await WriteAsync(await RecordAsync("Piece", 64), Exemplar);
        var idea = await NameAsync("stumble", Exemplar);
        var judges = new JudgementStore(Source);
        async Task SayAsync(string judge, Judgement judgement, bool settles = false)
        {
            await judges.SetNameAsync(judge, Stop);
            var now = (await Sightings.OfIdeaAsync(idea, Stop)).Single();
            (await judges.JudgeAsync(now.Id, now.Version, judgement, "", Stop, settles)).ShouldBeTrue();
        }
        await SayAsync("Odd", Judgement.Confirmed);
        await SayAsync("Odd", Judgement.Rejected);
        (await judges.DisagreementsAsync(Study, Stop)).ShouldBeEmpty("one may change one’s mind");
        await SayAsync("Even", Judgement.Confirmed);
        (await judges.DisagreementsAsync(Study, Stop)).Single().Last.Select(m => (m.Judge, m.Judgement))
            .ShouldBe([("Odd", "rejected"), ("Even", "confirmed")]);
        await SayAsync("Even", Judgement.Rejected, settles: true);
        (await judges.DisagreementsAsync(Study, Stop)).ShouldBeEmpty();
        await SayAsync("Third", Judgement.NearMiss);
        (await judges.DisagreementsAsync(Study, Stop)).Single().Last.Count.ShouldBe(3);
        await SayAsync("Third", Judgement.Confirmed, settles: true);
        (await judges.DisagreementsAsync(Study, Stop)).ShouldBeEmpty("settled against the others");
    }

    [Fact]
    public async Task A_blind_judgement_counts_once_in_its_round_however_often_and_how_fast_it_is_sent()
    {
        await WriteAsync(await RecordAsync("Piece", 64), Exemplar);
        var found = (await Sightings.OfIdeaAsync(await NameAsync("stumble", Exemplar), Stop))[0];
        var (judges, began) = (new JudgementStore(Source), DateTime.UtcNow.AddMinutes(-1));
        await Task.WhenAll(Enumerable.Range(0, 6).Select(i =>
            judges.JudgeBlindAsync(found.Id, found.Version, i % 2 == 0 ? Judgement.Confirmed : Judgement.Rejected, "", began, Stop)));
        var row = (await Sightings.FindAsync(found.Id, Stop))!;
        await using var connection = await Source.OpenConnectionAsync(Stop);
        (await connection.QueryAsync<string>("select judgement from judgement_made")).ShouldBe([row.JudgementWord]);
        row.Version.ShouldBe(found.Version + 1);
    }

    [Fact]
    public async Task Anything_like_a_few_counts_is_found_in_ideas_and_passages_and_named_by_none()
    {
        await WriteAsync(await RecordAsync("Piece", 64), "HH: 8ths\n" + Exemplar);
        await NameAsync("stumble", Exemplar);
        var (ideas, places) = await new Likenesses(Source, Ideas)
            .FindAsync(Study, new(CountLines.Parse("SN: 1e 1& 1a").Passage, null, null, Rules.Default), Stop);
        ideas.Single().Idea.Nickname.ShouldBe("stumble");
        (places[0].RecordingName, places[0].Sighting.Start.Value).ShouldBe(("Piece", 2520));
        (await Ideas.OfStudyAsync(Study, Stop)).Count.ShouldBe(1);
    }
}
