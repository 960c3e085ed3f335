using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Evidence;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>A way of dividing what was found, each part with its own searched amount.</summary>
/// <param name="Amount">What the parts are counted in.</param>
/// <param name="Sort">How the concordance behind it is sorted; empty for as it is.</param>
public sealed record Split(string Name, string Amount, string Sort, IReadOnlyList<SplitPart> Parts);

/// <summary>Where, when, how fast and how surely an idea appears in the subject's playing.</summary>
public sealed class WhereModel(
    Storage.Studies studies, Storage.Ideas ideas, StudyMaterial material, Storage.Sightings sightings, WrittenPassages written, Comparisons comparisons) : StudyPage(studies)
{
    public IdeaRow Idea { get; private set; } = null!;
    public Answer Answer { get; private set; } = null!;
    public bool Cautious { get; private set; }
    public int Titles { get; private set; }
    public Interval? RateByTitles { get; private set; }
    public Interval? PresenceByTitles { get; private set; }
    /// <summary>Events and minutes searched, where durations are known.</summary>
    public (int Events, double Minutes)? Minutes { get; private set; }
    public (int With, int Of)? Fills { get; private set; }
    public IReadOnlyList<Split> Splits { get; private set; } = [];
    public IReadOnlyList<(double Tempo, bool With, string Link, string Title)> Tempos { get; private set; } = [];
    public TempoThreshold? Threshold { get; private set; }
    public (double Low, double Median, double High)? TempoRange { get; private set; }
    public IReadOnlyList<string> Silences { get; private set; } = [];
    public SetPiece? SetPiece { get; private set; }
    public ChanceRow? Chance { get; private set; }
    public bool ChanceIsStale { get; private set; }
    /// <summary>Which ideas follow it within a bar, then within a phrase of four.</summary>
    public IReadOnlyList<(string Within, IReadOnlyList<(string Idea, Following After)> Rows)> Sequences { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(IdeaId idea, bool cautious, CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        (Idea, Cautious) = (found, cautious);
        var named = await ideas.OfStudyAsync(found.StudyId, stop);
        var all = (await material.PerformancesAsync(found.StudyId, [found], stop, cautious))[idea];
        var own = all.Where(p => p.Player == Study.Subject.Id.Value).ToList();
        Answer = Answer.Of(own.Select(p => p.Evidence));
        var confirmed = (await sightings.ConfirmedAsync(found.StudyId, stop)).Where(s => s.BySubject && (!cautious || s.Unsure == 0)).ToList();
        ReadTitles(own);
        ReadSplits(own, [.. (await written.OfStudyAsync(found.StudyId, stop)).Where(p => p.BySubject)], confirmed);
        ReadTempo(own);
        ReadSilence(own, all);
        SetPiece = SetPiece.Over(own, a => $"{a.Section}, {CountNames.Spoken(a.Place!.Value, a.Meter!)}");
        var together = SightingView.Of(confirmed)
            .Select(v => new Sequenced(v.Row.IdeaId.Value, v.Row.ReadingId.Value, new(v.Row.StartTick), new(v.Row.EndTick), v.Passage.Meters.MeterOf(v.BarInPassage).Length)).ToList();
        IReadOnlyList<(string, Following)> After(int bars) => [.. Core.Evidence.Sequences.After(idea.Value, together, bars).Select(f => (named.First(i => i.Id.Value == f.Idea).Nickname, f))];
        Sequences = [("a bar", After(1)), ("a phrase of four bars", After(4))];
        Chance = await comparisons.ChanceAsync(idea, stop);
        ChanceIsStale = Chance is not null && Chance.Evidence != await comparisons.EvidenceAsync(found, stop);
        return Page();
    }

    public async Task<IActionResult> OnPostChanceAsync(IdeaId idea, CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        return Redirect($"/jobs/{await comparisons.StartChanceAsync(found.StudyId, idea, stop)}");
    }

    private void ReadTitles(List<Performance> own)
    {
        var titles = Performance.ByTitle(own);
        Titles = titles.Count;
        RateByTitles = Resampling.Rate(titles, Resampling.Seed);
        PresenceByTitles = Resampling.Presence(titles, Resampling.Seed);
        var timed = own.Where(p => p.Bars > 0 && p.Minutes is not null && p.Evidence.TotalBars > 0).ToList();
        if (timed.Count > 0) Minutes = (timed.Sum(p => p.Events), timed.Sum(p => p.Minutes!.Value * Math.Min(1, p.Bars / (double)p.Evidence.TotalBars!.Value)));
    }

    private void ReadSplits(List<Performance> own, List<WrittenPassage> passages, List<SightingRow> confirmed)
    {
        var bars = passages.Where(p => !p.BecauseHeard).SelectMany(p => Enumerable.Range(0, p.Passage.Bars).Select(i => StudyMaterial.PlaceOf(p, i))).ToList();
        static string? Band(double? tempo) => tempo is { } t ? $"{(int)(t / 20) * 20} to {(int)(t / 20) * 20 + 19}" : null;
        Splits =
        [
            new("beat of the bar", "bars searched, each beat once", "place", Core.Evidence.Splits.ByBeat(own)),
            new("bar of the phrase of four", "bars written down", "", Core.Evidence.Splits.ByBar(bars, own, b => b.BarOfPhrase(4) is { } n ? $"{n} of 4" : null, a => a.BarOfPhrase(4) is { } n ? $"{n} of 4" : null)),
            new("section", "bars written down", "", Core.Evidence.Splits.ByBar(bars, own, b => b.SectionKind, a => a.SectionKind)),
            new("kind", "bars searched", "", Core.Evidence.Splits.ByRecording(own, p => p.Kind)),
            new("year", "bars searched", "", Core.Evidence.Splits.ByRecording(own, p => p.Recorded?.Earliest.Year.ToString(CultureInfo.InvariantCulture))),
            new("tempo", "bars searched", "", [.. Core.Evidence.Splits.ByRecording(own, p => Band(p.Tempo)).OrderBy(p => p.Name.Length).ThenBy(p => p.Name, StringComparer.Ordinal)]),
            new("ensemble", "bars searched", "", Core.Evidence.Splits.ByRecording(own, p => p.Ensemble)),
        ];
        var fills = passages.Where(p => p.Kind == "fill").Select(p => p.PassageId).ToHashSet();
        var withIt = confirmed.Where(s => s.IdeaId == Idea.Id && fills.Contains(s.PassageId)).Select(s => s.PassageId).Distinct().Count();
        if (fills.Count > 0) Fills = (withIt, fills.Count);
    }

    private void ReadTempo(List<Performance> own)
    {
        var known = own.Where(p => p.IsSearched && p.Tempo is not null).ToList();
        Tempos = [.. known.Select(p => (p.Tempo!.Value, p.Events > 0, $"/recordings/{p.Id}", $"{p.Name}, {p.Tempo:0.#}, {(p.Events > 0 ? "with" : "without")}")).OrderBy(r => r.Item1)];
        Threshold = Contrasts.Threshold(Tempos.Select(t => (Math.Round(t.Tempo, 1), t.With ? 1 : 0, t.With ? 0 : 1)));
        var with = Tempos.Where(t => t.With).Select(t => t.Tempo).ToList();
        if (with.Count > 0) TempoRange = (with[0], (with[(with.Count - 1) / 2] + with[with.Count / 2]) / 2, with[^1]);
    }

    private void ReadSilence(List<Performance> own, IReadOnlyList<Performance> all)
    {
        var silences = new List<(string Whose, Silence? Silence)>();
        var first = own.Where(p => p.Events > 0 && p.Recorded is not null).MinBy(p => p.Recorded!.Value.Earliest);
        if (first?.Recorded is { } date)
        {
            var since = own.Where(p => p.Recorded?.Earliest >= date.Earliest).ToList();
            silences.Add(($"Before {date.Earliest.Year}", Silence.Of(own.Where(p => p.Recorded?.Latest < date.Earliest).Sum(p => p.Bars), Estimates.Rate(since.Sum(p => p.Events), since.Sum(p => p.Bars)))));
        }
        foreach (var player in Study.Comparison)
        {
            var theirs = all.Where(p => p.Player == player.Id.Value).ToList();
            if (theirs.Sum(p => p.Events) == 0) silences.Add((player.Name, Silence.Of(theirs.Sum(p => p.Bars), Answer.Rate)));
        }
        Silences = [.. silences.Where(s => s.Silence is not null).Select(s => string.Create(CultureInfo.InvariantCulture,
            $"{s.Whose}: {Words.Bars(s.Silence!.Bars)} searched without it. At the lower end of the rate elsewhere ({s.Silence.Per100:0.0} per 100) they would show {s.Silence.Expected:0.0}; none: {(s.Silence.None < 0.001 ? "under 0.1" : $"{s.Silence.None * 100:0.#}")} %."))];
    }
}
