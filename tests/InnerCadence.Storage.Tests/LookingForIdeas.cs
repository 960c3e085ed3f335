using InnerCadence.Core.Evidence;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Sightings;

namespace InnerCadence.Storage.Tests;

/// <summary>What a scan finds, and that it never overrides a judgement.</summary>
public class LookingForIdeas : StorageTests
{
    [Fact]
    public async Task Naming_an_idea_finds_it_in_every_passage_and_writing_one_finds_every_idea()
    {
        var recording = await RecordAsync("Piece", 64);
        var before = await WriteAsync(recording, "SN: 1 e & a\nFT: 2");
        var idea = await NameAsync("stumble", "SN: 1 e & a\nFT: 2");
        var after = await WriteAsync(recording, "SN: 3 e & a\nFT: 4");
        var found = await Sightings.OfIdeaAsync(idea, Stop);
        found.Select(s => (s.PassageId, s.StartTick, s.Verdict)).ShouldBe([(before, 0, Verdict.Exact), (after, 20160, Verdict.Exact)]);
        found.ShouldAllBe(s => s.IsWaiting);
    }

    [Fact]
    public async Task A_rescan_keeps_judgements_and_flags_what_changed()
    {
        var passage = await WriteAsync(await RecordAsync("Piece", 64), "SN: 1 e & a\nFT: 2");
        var idea = await NameAsync("stumble", "SN: 1 e & a\nFT: 2");
        var sighting = (await Sightings.OfIdeaAsync(idea, Stop)).Single();
        await Sightings.JudgeAsync(sighting.Id, 1, Judgement.Confirmed, "heard twice", Stop);

        await Passages.UpdateAsync(passage, Draft("SN: 1> e & a\nFT: 2"), 1, Stop);
        var changed = (await Sightings.OfIdeaAsync(idea, Stop)).Single();
        (changed.JudgementWord, changed.Reason, changed.Verdict, changed.Changed, changed.Vanished)
            .ShouldBe(("confirmed", "heard twice", Verdict.Variant, true, false));

        await Passages.UpdateAsync(passage, Draft("SN: 2 4"), 2, Stop);
        var vanished = (await Sightings.OfIdeaAsync(idea, Stop)).Single();
        (vanished.Judged, vanished.Vanished).ShouldBe((Judged.Confirmed, true));

        await Passages.UpdateAsync(passage, Draft("SN: 1 e & a\nFT: 2"), 3, Stop);
        (await Sightings.OfIdeaAsync(idea, Stop)).Single().Vanished.ShouldBeFalse();
    }

    [Fact]
    public async Task Unjudged_sightings_are_what_the_last_scan_found_and_no_more()
    {
        await WriteAsync(await RecordAsync("Piece", 64), "SN: 1 e & a\nT2: 2");
        var idea = await NameAsync("stumble", "SN: 1 e & a\nFT: 2");
        (await Sightings.OfIdeaAsync(idea, Stop)).Single().Verdict.ShouldBe(Verdict.NearMiss);
        var draft = new IdeaDraft
        {
            Nickname = "stumble",
            Text = "SN: 1 e & a\nFT: 2",
            Rules = new() { Facets = new() { Voicing = VoicingRule.Family } }
        };
        await Ideas.UpdateAsync(idea, draft, 1, Stop);
        (await Sightings.OfIdeaAsync(idea, Stop)).Single().Verdict.ShouldBe(Verdict.Variant);
        await Ideas.UpdateAsync(idea, draft with { Text = "CR: 1 2 3 4" }, 2, Stop);
        (await Sightings.OfIdeaAsync(idea, Stop)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Two_ideas_of_a_study_cannot_share_a_nickname_whatever_its_case()
    {
        await NameAsync("stumble", "SN: 1");
        (await Ideas.AddAsync(Study, new() { Nickname = "Stumble", Text = "SN: 2", Rules = Rules.Default }, Stop)).ShouldBeNull();
        var other = await NameAsync("slip", "SN: 2");
        (await Ideas.UpdateAsync(other, new() { Nickname = "STUMBLE", Text = "SN: 2", Rules = Rules.Default }, 1, Stop)).ShouldBeNull();
    }

    [Fact]
    public async Task A_deleted_idea_comes_back_with_its_judgements_and_looks_at_what_was_written_meanwhile()
    {
        var recording = await RecordAsync("Piece", 64);
        await WriteAsync(recording, "SN: 1 e & a");
        var idea = await NameAsync("patter", "SN: 1 e & a");
        await Sightings.JudgeAsync((await Sightings.OfIdeaAsync(idea, Stop)).Single().Id, 1, Judgement.Confirmed, "", Stop);
        await Ideas.DeleteAsync(idea, Stop);
        (await Ideas.FindAsync(idea, Stop)).ShouldBeNull();
        await WriteAsync(recording, "SN: 2 e & a");
        (await Ideas.RestoreAsync(idea, Stop)).ShouldBeTrue();
        (await Sightings.OfIdeaAsync(idea, Stop)).Select(s => s.Judged).ShouldBe([Judged.Confirmed, Judged.Waiting]);
    }

    [Fact]
    public async Task Scope_span_and_rules_come_back_as_they_were_kept()
    {
        var rules = new Rules
        {
            Facets = new() { Dynamics = FacetRule.Must },
            Placement = PlacementRule.SamePlaceInTheBar,
            Rate = RateRule.Proportional,
            Transforms = [Transform.Mirrored],
            Elision = 1,
            Ghosts = GhostRule.Ignore
        };
        var id = await Ideas.AddAsync(Study, new()
        {
            Nickname = "x",
            Text = "SN: 1R\nHH: 8ths",
            Span = new(20160),
            Scope = ["SN"],
            Rules = rules
        }, Stop);
        var idea = (await Ideas.FindAsync(id!.Value, Stop))!;
        RulesJson.Write(idea.RulesRead).ShouldBe(RulesJson.Write(rules));
        idea.AsIdea().Scope!.ShouldBe([Voice.Snare]);
        idea.AsIdea().Span.ShouldBe(new Tick(20160));
    }

    [Fact]
    public async Task Passages_that_adjoin_are_read_as_one_until_one_of_them_changes_or_goes()
    {
        var recording = await RecordAsync("Piece", 64);
        var first = await Passages.AddAsync(recording, Draft("SN: 4 &") with { Bar = 8 }, Stop);
        var second = await Passages.AddAsync(recording, Draft("FT: 1\nBD: 3") with { Bar = 9 }, Stop);
        var idea = await NameAsync("over the line", "SN: 4 & | -\nFT: - | 1");
        var found = (await Sightings.OfIdeaAsync(idea, Stop)).Single();
        (found.PassageId, found.StartTick, found.Verdict).ShouldBe((first, 30240, Verdict.Exact));

        // The second loses its first stroke: what stood in both goes.
        await Passages.UpdateAsync(second, Draft("BD: 3") with { Bar = 9 }, 1, Stop);
        (await Sightings.OfIdeaAsync(idea, Stop)).ShouldNotContain(s => s.Verdict == Verdict.Exact);
        await Passages.UpdateAsync(second, Draft("FT: 1\nBD: 3") with { Bar = 9 }, 2, Stop);
        (await Sightings.OfIdeaAsync(idea, Stop)).Single().Verdict.ShouldBe(Verdict.Exact);
        await Passages.DeleteAsync(second, Stop);
        (await Sightings.OfIdeaAsync(idea, Stop)).ShouldNotContain(s => s.Verdict == Verdict.Exact);
        await Passages.RestoreAsync(second, Stop);
        (await Sightings.OfIdeaAsync(idea, Stop)).Single().Verdict.ShouldBe(Verdict.Exact);
    }
}
