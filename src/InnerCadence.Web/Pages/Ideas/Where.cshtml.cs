using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>One part of a split: so many in so much searched.</summary>
/// <param name="Bars">Nothing where its searched amount is not known.</param>
public sealed record SplitRow(string Name, int Events, int? Bars, string Link)
{
    public Interval? Rate => Bars is { } bars && bars > 0 ? Estimates.Rate(Events, bars) : null;
}

/// <summary>A way of dividing what was found, each part with its own searched amount.</summary>
public sealed record Split(string Name, string Amount, IReadOnlyList<SplitRow> Rows);

/// <summary>Where, when, how fast and how surely an idea appears in the subject's playing.</summary>
public sealed class WhereModel(
    Storage.Studies studies, Storage.Ideas ideas, EvidenceOfIdeas evidence, Storage.Sightings sightings, WrittenPassages written, Comparisons comparisons) : StudyPage(studies)
{
    private const int Seed = 20240229;

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
    public (int Usual, int Of, string Place, Interval? Share)? SetPiece { get; private set; }
    public ChanceRow? Chance { get; private set; }
    public bool ChanceIsStale { get; private set; }
    /// <summary>Which ideas follow it within a bar, then within a phrase of four.</summary>
    public IReadOnlyList<(string Within, IReadOnlyList<(string Idea, IdeaId Id, int Followed, int Of, Contrast? Contrast)> Rows)> Sequences { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(IdeaId idea, bool cautious, CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        (Idea, Cautious) = (found, cautious);
        var all = (await evidence.ByRecordingAsync(found.StudyId, [found], stop, cautious))[idea];
        var own = all.Where(r => r.Recording.BySubject).ToList();
        Answer = Answer.Of(own.Select(r => r.Evidence));
        ReadTitles(own);
        var rows = (await sightings.ConfirmedAsync(found.StudyId, stop)).Where(s => !cautious || s.Unsure == 0).ToList();
        var mine = SightingView.Of(rows.Where(s => s.IdeaId == idea && s.BySubject)).ToList();
        var passages = (await written.OfStudyAsync(found.StudyId, stop)).Where(p => p.BySubject).ToList();
        ReadSplits(own, mine, passages);
        ReadTempo(own);
        ReadSilence(own, all);
        ReadSetPiece(mine);
        var named = await ideas.OfStudyAsync(found.StudyId, stop);
        var subjects = rows.Where(s => s.BySubject).ToList();
        Sequences = [("a bar", Follows(subjects, named, 1)), ("a phrase of four bars", Follows(subjects, named, 4))];
        Chance = await comparisons.ChanceAsync(idea, stop);
        ChanceIsStale = Chance is not null && Chance.Evidence != await comparisons.EvidenceAsync(found, stop);
        return Page();
    }

    public async Task<IActionResult> OnPostChanceAsync(IdeaId idea, CancellationToken stop)
    {
        if (await ideas.FindAsync(idea, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return NotFound();
        return Redirect($"/jobs/{await comparisons.StartChanceAsync(found.StudyId, idea, stop)}");
    }

    private static int Events(IdeaInRecording r) => r.Evidence.Confirmed - r.Evidence.Outside;

    private void ReadTitles(List<IdeaInRecording> own)
    {
        var titles = own.GroupBy(r => r.Recording.Title).Select(g => new TitleCount(
            g.Sum(Events), g.Sum(r => r.Evidence.Exposure), g.Count(r => r.Evidence.IsSearched(Answer.UsualShare) && Events(r) > 0), g.Count(r => r.Evidence.IsSearched(Answer.UsualShare)))).Where(t => t.Bars > 0).ToList();
        Titles = titles.Count;
        RateByTitles = Resampling.Rate(titles, Seed);
        PresenceByTitles = Resampling.Presence(titles, Seed);
        var timed = own.Where(r => r.Evidence.Exposure > 0 && r.Recording.Duration is not null && r.Recording.TotalBars > 0).ToList();
        if (timed.Count > 0)
            Minutes = (timed.Sum(Events), timed.Sum(r => r.Recording.Duration!.Value.Milliseconds / 60_000.0 * Math.Min(1, r.Evidence.Exposure / (double)r.Recording.TotalBars!.Value)));
    }

    private void ReadSplits(List<IdeaInRecording> own, List<SightingView> mine, List<WrittenPassage> passages)
    {
        Split ByRecording(string name, Func<Recording, string?> key) => new(name, "bars searched", [.. own.Where(r => r.Evidence.Exposure > 0 && key(r.Recording) is not null).GroupBy(r => key(r.Recording)!)
            .OrderBy(g => g.Key, StringComparer.Ordinal).Select(g => new SplitRow(g.Key.TrimStart('0'), g.Sum(Events), g.Sum(r => r.Evidence.Exposure), $"/ideas/{Idea.Id}?show=confirmed#concordance"))]);

        // What lies in a section or in a bar of the phrase is known only of what is written down.
        Split ByBar(string name, Func<WrittenPassage, int, string?> ofBar, Func<SightingView, string?> ofSighting)
        {
            var amounts = passages.Where(p => !p.BecauseHeard).SelectMany(p => Enumerable.Range(0, p.Passage.Bars).Select(i => ofBar(p, i))).OfType<string>().GroupBy(k => k).ToDictionary(g => g.Key, g => g.Count());
            var events = mine.Where(v => !v.Row.BecauseHeard).Select(ofSighting).OfType<string>().GroupBy(k => k).ToDictionary(g => g.Key, g => g.Count());
            return new(name, "bars written down", [.. amounts.OrderBy(a => a.Key, StringComparer.Ordinal).Select(a => new SplitRow(a.Key, events.GetValueOrDefault(a.Key), a.Value, $"/ideas/{Idea.Id}?show=confirmed#concordance"))]);
        }

        static string? SectionKind(string section) => section.Trim().TrimEnd('0', '1', '2', '3', '4', '5', '6', '7', '8', '9').Trim().ToLowerInvariant() is { Length: > 0 } kind ? kind : null;
        var searched = Answer.Bars;
        Splits =
        [
            new("beat of the bar", "bars searched, each beat once", [.. mine.GroupBy(v => v.Passage.Meters.Locate(new(v.Row.StartTick)).InBar.Value / v.Passage.Meters.MeterOf(v.BarInPassage).Beat.Value + 1).OrderBy(g => g.Key)
                .Select(g => new SplitRow(g.Key.ToString(CultureInfo.InvariantCulture), g.Count(), searched, $"/ideas/{Idea.Id}?sort=place&show=confirmed#concordance"))]),
            ByBar("bar of the phrase of four", (p, i) => p.Bar is { } first ? $"{(first + i - 1) % 4 + 1} of 4" : null, v => v.Bar is { } bar ? $"{(bar - 1) % 4 + 1} of 4" : null),
            ByBar("section", (p, _) => SectionKind(p.Section), v => SectionKind(v.Row.Section)),
            ByRecording("kind", r => r.Kind),
            ByRecording("year", r => r.RecordedFrom?.Year.ToString(CultureInfo.InvariantCulture)),
            ByRecording("tempo", r => r.FeltTempo is { } t ? $"{(int)(t / 20) * 20:000} to {(int)(t / 20) * 20 + 19}" : null),
            ByRecording("ensemble", r => r.Ensemble.Length > 0 ? r.Ensemble : null),
        ];
        var fills = passages.Where(p => p.Kind == "fill").Select(p => p.PassageId).ToHashSet();
        if (fills.Count > 0) Fills = (mine.Where(v => fills.Contains(v.Row.PassageId)).Select(v => v.Row.PassageId).Distinct().Count(), fills.Count);
    }

    private void ReadTempo(List<IdeaInRecording> own)
    {
        var known = own.Where(r => r.Evidence.IsSearched(Answer.UsualShare) && r.Recording.FeltTempo is not null).ToList();
        Tempos = [.. known.Select(r => (r.Recording.FeltTempo!.Value, Events(r) > 0, $"/recordings/{r.Recording.Id}", $"{r.Recording.Name}, {r.Recording.FeltTempo:0.#}, {(Events(r) > 0 ? "with" : "without")}")).OrderBy(r => r.Item1)];
        Threshold = Contrasts.Threshold(Tempos.Select(t => (Math.Round(t.Tempo, 1), t.With ? 1 : 0, t.With ? 0 : 1)));
        var with = Tempos.Where(t => t.With).Select(t => t.Tempo).ToList();
        if (with.Count > 0) TempoRange = (with[0], (with[(with.Count - 1) / 2] + with[with.Count / 2]) / 2, with[^1]);
    }

    private void ReadSilence(List<IdeaInRecording> own, IReadOnlyList<IdeaInRecording> all)
    {
        var silences = new List<string>();
        void Tell(string whose, double bars, Interval? elsewhere)
        {
            if (bars <= 0 || elsewhere is not { Low: > 0 } rate) return;
            var (expected, none) = Contrasts.Silence(rate.Low, bars);
            silences.Add(string.Create(CultureInfo.InvariantCulture, $"{whose}: {Words.Bars((int)bars)} searched without it. At the lower end of the rate elsewhere ({rate.Low:0.0} per 100) they would show {expected:0.0}; none: {(none < 0.001 ? "under 0.1" : $"{none * 100:0.#}")} %."));
        }
        var first = own.Where(r => Events(r) > 0 && r.Recording.RecordedFrom is not null).MinBy(r => r.Recording.RecordedFrom);
        if (first is not null)
        {
            var earlier = own.Where(r => r.Recording.RecordedTo < first.Recording.RecordedFrom).Sum(r => r.Evidence.Exposure);
            var since = own.Where(r => r.Recording.RecordedFrom >= first.Recording.RecordedFrom).ToList();
            Tell($"Before {first.Recording.RecordedFrom!.Value.Year}", earlier, Estimates.Rate(since.Sum(Events), since.Sum(r => r.Evidence.Exposure)));
        }
        foreach (var player in Study.Comparison)
        {
            var theirs = all.Where(r => r.Recording.PlayerId == player.Id).ToList();
            if (theirs.Sum(Events) == 0) Tell(player.Name, theirs.Sum(r => r.Evidence.Exposure), Answer.Rate);
        }
        Silences = silences;
    }

    /// <summary>The share of occasions at the title's usual form place, over titles with several performances.</summary>
    private void ReadSetPiece(List<SightingView> mine)
    {
        var titles = mine.Where(v => v.Row.Section.Length > 0).GroupBy(v => v.Row.Title).Where(g => g.Select(v => v.Row.RecordingId).Distinct().Count() > 1).ToList();
        if (titles.Count == 0) return;
        var (usual, of) = (0, 0);
        var places = new List<string>();
        foreach (var title in titles)
        {
            var best = title.GroupBy(v => $"{v.Row.Section}, {v.Count}").MaxBy(g => g.Count())!;
            usual += best.Count();
            of += title.Count();
            places.Add($"{title.Key}: {best.Key}");
        }
        SetPiece = (usual, of, string.Join("; ", places.Take(3)), Estimates.Presence(usual, of));
    }

    /// <summary>Which idea follows this one within so many bars of its end, against how often it follows the other ideas.</summary>
    private List<(string, IdeaId, int, int, Contrast?)> Follows(List<SightingRow> rows, IReadOnlyList<IdeaRow> named, int bars)
    {
        var views = SightingView.Of(rows).GroupBy(v => v.Row.ReadingId).Select(g => g.OrderBy(v => v.Row.StartTick).ToList()).ToList();
        var follows = views.SelectMany(reading => reading.Select((v, i) =>
        {
            var within = v.Passage.Meters.MeterOf(v.BarInPassage).Length.Value * bars;
            return (v.Row.IdeaId, Next: reading.Skip(i + 1).Where(n => n.Row.StartTick >= v.Row.EndTick && n.Row.StartTick <= v.Row.EndTick + within).Select(n => n.Row.IdeaId).ToHashSet());
        })).ToList();
        var (own, others) = (follows.Where(f => f.IdeaId == Idea.Id).ToList(), follows.Where(f => f.IdeaId != Idea.Id).ToList());
        var counted = named.Select(i => (Idea: i, With: own.Count(f => f.Next.Contains(i.Id)), Others: others.Count(f => f.Next.Contains(i.Id)))).Where(c => c.With > 0).ToList();
        var contrasts = Contrasts.Of([.. counted.Select(c => new Table(c.With, own.Count - c.With, c.Others, others.Count - c.Others))]);
        return [.. counted.Select((c, i) => (c.Idea.Nickname, c.Idea.Id, c.With, own.Count, contrasts[i])).OrderByDescending(c => c.With)];
    }
}
