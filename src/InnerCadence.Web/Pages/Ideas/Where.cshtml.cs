using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Telling;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Where, when, how fast and how surely an idea appears in the subject's playing.</summary>
public sealed class WhereModel(StudyStore studies, IdeaStore ideas, EvidenceOfIdeas evidence, StudyMaterial material,
    ComparisonStore comparisons) : StudyPage(studies)
{
    public IdeaRow Idea { get; private set; } = null!;
    public Answer Answer { get; private set; } = null!;
    public bool Cautious { get; private set; }
    /// <summary>With the intervals as if each bar stood by itself.</summary>
    public bool EachBar { get; private set; }
    public string Sentence { get; private set; } = "";
    /// <summary>Events and minutes searched, where durations are known.</summary>
    public (int Events, double Minutes, Estimate PerMinute)? Minutes { get; private set; }
    public OfItsFills? Fills { get; private set; }
    public IReadOnlyList<(Division By, IReadOnlyList<SplitPart> Parts)> Splits { get; private set; } = [];
    public IReadOnlyList<TitleTempo> Tempos { get; private set; } = [];
    public TempoThreshold? Threshold { get; private set; }
    public (double Low, double Median, double High)? TempoRange { get; private set; }
    public FirstOnRecord First { get; private set; } = null!;
    public IReadOnlyList<(string Whose, Silence Silence)> Silences { get; private set; } = [];
    public SetPiece? SetPiece { get; private set; }
    public ChanceRow? Chance { get; private set; }
    /// <summary>Why chance cannot be told; nothing where it can.</summary>
    public string? NoChance { get; private set; }
    public bool ChanceIsStale { get; private set; }
    /// <summary>Which ideas follow it within a bar, then within a phrase of four.</summary>
    public IReadOnlyList<(string Within, IReadOnlyList<(string Idea, Following After)> Rows)> Sequences { get; private set; } = [];

    public IReadOnlyList<(double Tempo, bool With, string Link, string Title)> Strip =>
        [.. Tempos.Select(t => (t.Tempo, t.With, t.Takes is [var take] ? $"/recordings/{take.Id}"
            : PlaceQuery.Link(Idea.Id, "confirmed", PlaceQuery.OfPlayer(Study.Subject.Id)),
            string.Create(CultureInfo.InvariantCulture,
                $"{t.Title}, {t.Tempo:0.#}, {(t.With ? "with" : "without")}{(t.Takes.Count > 1 ? $" in {t.Takes.Count} takes" : "")}")))];

    /// <summary>The list of exactly what a part of a split counts.</summary>
    public string Link(Division by, SplitPart part) =>
        PlaceQuery.Link(Idea.Id, "counted", [PlaceQuery.OfPlayer(Study.Subject.Id), $"by={by.Word}",
            .. part.Keys.Select(k => $"part={Uri.EscapeDataString(k)}"), Cautious ? "cautious=true" : ""]);

    public string Link(string show, string more = "") =>
        PlaceQuery.Link(Idea.Id, show, PlaceQuery.OfPlayer(Study.Subject.Id), more, Cautious ? "cautious=true" : "");

    public async Task<IActionResult> OnGetAsync(IdeaId idea, bool cautious, string? each, CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        (Idea, Cautious, EachBar) = (found, cautious, each == "bar");
        var named = await ideas.OfStudyAsync(found.StudyId, stop);
        var account = await evidence.AccountAsync(found.StudyId, stop);
        if (cautious) account = account.Cautious();
        var all = account.Of(found.AsNamed());
        var own = all.Where(p => p.Player == Study.Subject.Id.Value).ToList();
        Answer = Answer.Of(own);
        Sentence = IdeaSentence.Of(all, Study.Subject.Id.Value);
        Minutes = Answer.InMinutes(own);
        First = FirstOnRecord.Of(own);
        Splits = [.. Division.All.Select(by => (by, by.Parts(own)))];
        Tempos = TitleTempo.Of(own);
        (Threshold, TempoRange) = (TitleTempo.Threshold(Tempos), TitleTempo.Range(Tempos));
        ReadSilence(own, all);
        SetPiece = SetPiece.Over(own);
        Fills = OfItsFills.Among((await material.PassagesAsync(found.StudyId, stop))
            .Where(p => p is { Whole: true, Row.BySubject: true } && p.Row.Kind == PassageKind.Fill)
                .Select(p => (p.Title, p.Row.ReadingId.Value)), own);
        var together = named.ToDictionary(i => i.Id.Value, i =>
            (IReadOnlyList<Performance>)[.. account.Of(i.AsNamed()).Where(p => p.Player == Study.Subject.Id.Value)]);
        IReadOnlyList<(string, Following)> After(int bars) =>
            [.. Core.Evidence.Sequences.After(idea.Value, together, bars)
            .Select(f => (named.First(i => i.Id.Value == f.Idea).Nickname, f))];
        Sequences = [("a bar", After(1)), ("a phrase of four bars", After(4))];
        NoChance = Core.Ideas.Chance.WhyNot(found.AsIdea());
        Chance = NoChance is null ? await comparisons.ChanceAsync(idea, stop) : null;
        ChanceIsStale = Chance is not null && Chance.Evidence != await comparisons.EvidenceAsync(found, stop);
        return Page();
    }

    public async Task<IActionResult> OnPostChanceAsync(IdeaId idea, CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        return Redirect($"/jobs/{await comparisons.StartChanceAsync(found.StudyId, idea, stop)}");
    }

    private void ReadSilence(List<Performance> own, IReadOnlyList<Performance> all)
    {
        var silences = new List<(string Whose, Silence? Silence)>();
        if (First.First?.Recorded is { } date) silences.Add(($"Before {date.Earliest.Year}", Silence.Before(First, own)));
        foreach (var player in Study.Comparison) silences.Add((player.Name,
            Silence.Of([.. all.Where(p => p.Player == player.Id.Value)], Answer)));
        Silences = [.. silences.Where(s => s.Silence is not null).Select(s => (s.Whose, s.Silence!))];
    }
}
