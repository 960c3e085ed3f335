using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage;
using InnerCadence.Web.Drawing;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Compare;

/// <summary>One idea on two sides.</summary>
/// <param name="Times">How many times as often per bar.</param>
/// <param name="Contrast">Over recordings with and without it.</param>
public sealed record IdeaContrast(IdeaRow Idea, Answer One, Answer Two, Interval? Times, Contrast? Contrast)
{
    /// <summary>evidence.md: lower end of the interval above 0, and found in at least 3 recordings.</summary>
    public bool IsSignature => Contrast is { Low: > 0 } && One.Found >= 3;
}

/// <summary>All ideas in all recordings, when they first appear, where in the bar, and how much more often than on another side.</summary>
public sealed class IndexModel(Storage.Studies studies, Storage.Ideas ideas, EvidenceOfIdeas evidence, Storage.Sightings sightings, HeardSightings heard, Comparisons comparisons) : StudyPage(studies)
{
    private const int MostColumns = 48;

    public PassageScope Scope { get; private set; } = null!;
    public IReadOnlyList<Side> Sides { get; private set; } = [];
    public Side One { get; private set; } = null!;
    public Side Two { get; private set; } = null!;
    public IReadOnlyList<SavedFilter> Filters { get; private set; } = [];
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];
    public IReadOnlyList<Recording> Columns { get; private set; } = [];
    public int LeftOut { get; private set; }
    public IReadOnlyDictionary<IdeaId, IReadOnlyList<IdeaInRecording>> Found { get; private set; } = new Dictionary<IdeaId, IReadOnlyList<IdeaInRecording>>();
    public IReadOnlyList<IdeaContrast> Contrasts { get; private set; } = [];
    public IdeaRow? Chosen { get; private set; }
    public IReadOnlyList<(string Count, double Share, double? Other, string Link, string Title)> Profile { get; private set; } = [];
    public string ProfileWords { get; private set; } = "";
    public IReadOnlyList<TimeRow> Times { get; private set; } = [];
    public string TimesWords { get; private set; } = "";
    public int Searched { get; private set; }
    public int SearchedBars { get; private set; }
    public (int From, int To) Years { get; private set; }

    /// <summary>This view in the address, with one part changed.</summary>
    public string With(string name, string? value)
    {
        var parts = Microsoft.AspNetCore.WebUtilities.QueryHelpers.ParseQuery(Scope.Query).ToDictionary(p => p.Key, p => p.Value.ToString());
        if (One.Word != "subject") parts["a"] = One.Word;
        if (Two.Word != "others") parts["b"] = Two.Word;
        if (Chosen is not null) parts["idea"] = Chosen.Id.ToString();
        if (value is null) parts.Remove(name);
        else parts[name] = value;
        return $"/studies/{Study.Id}/compare" + (parts.Count > 0 ? "?" + string.Join('&', parts.Select(p => $"{p.Key}={Uri.EscapeDataString(p.Value)}")) : "");
    }

    public Shape Matrix => CompareViews.Matrix([.. Columns.Select(r => $"{r.Name} {(r.RecordedFrom?.Year % 100)?.ToString("00", CultureInfo.InvariantCulture)}")],
        [.. Ideas.Select(idea => (idea.Nickname, With("idea", idea.Id.ToString()), (IReadOnlyList<MatrixCell>)[.. Columns.Select(r => Cell(idea, r))]))]);

    private MatrixCell Cell(IdeaRow idea, Recording recording)
    {
        var found = Found[idea.Id].First(f => f.Recording.Id == recording.Id);
        var words = found.Rate is { } rate ? $"{found.Evidence.Confirmed - found.Evidence.Outside} in {Words.Bars(found.Evidence.Exposure)}, {Words.Rate(rate.Value)} per 100" : "not searched";
        return new(found.Rate?.Value, found.Evidence.NearMisses, $"/ideas/{idea.Id}?recording={recording.Id}#concordance", $"{idea.Nickname} in {recording.Name}: {words}{(found.Evidence.NearMisses > 0 ? $", {found.Evidence.NearMisses} near" : "")}");
    }

    public async Task<IActionResult> OnGetAsync(StudyId study, string? a, string? b, IdeaId? idea, CancellationToken stop) => await ReadAsync(study, a, b, idea, stop) ? Page() : NotFound();

    /// <summary>The numbers behind the views: one row an idea and recording, with its searched amount.</summary>
    public async Task<IActionResult> OnGetSheetAsync(StudyId study, string? a, string? b, IdeaId? idea, string? format, CancellationToken stop)
    {
        if (!Sheet.Formats.Contains(format) || !await ReadAsync(study, a, b, idea, stop)) return NotFound();
        var sheet = new Sheet(
            ["idea", "player", "title", "take", "recorded", "kind", "searched_bars", "confirmed", "occasions", "outside", "near_misses", "waiting", "per_100", "low", "high"],
            [.. Ideas.SelectMany(i => Found[i.Id].Select(f => RowOf(i, f)))]);
        return File(sheet.As(format!), Sheet.MediaOf(format!), $"compare.{format}");

        static IReadOnlyList<object?> RowOf(IdeaRow of, IdeaInRecording found)
        {
            var (r, e) = (found.Recording, found.Evidence);
            return [of.Nickname, r.Player, r.Title, r.Take, r.Recorded?.ToString(), r.Kind, e.Exposure, e.Confirmed, e.Occasions, e.Outside, e.NearMisses, e.Waiting, found.Rate?.Value, found.Rate?.Low, found.Rate?.High];
        }
    }

    public async Task<IActionResult> OnGetSvgAsync(StudyId study, string? a, string? b, IdeaId? idea, string? view, CancellationToken stop)
    {
        if (!await ReadAsync(study, a, b, idea, stop)) return NotFound();
        var picture = view switch { "timeline" => CompareViews.Timeline(Times, Years.From, Years.To), "profile" when Profile.Count > 0 => CompareViews.Profile(Profile), "forest" => Forest, _ => Matrix };
        return File(System.Text.Encoding.UTF8.GetBytes(StandaloneSvg.Of(picture)), "image/svg+xml", $"{view ?? "matrix"}.svg");
    }

    public Shape Forest => CompareViews.Forest([.. Contrasts.Select(c => (c.Idea.Nickname, c.Times, $"/ideas/{c.Idea.Id}/where"))]);

    public async Task<IActionResult> OnPostSaveAsync(StudyId study, string? name, string? query, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var words = ModelState.Text("name", name, "Give the filter a name.");
        if (!ModelState.IsValid || query?.Length > 2000)
        {
            Tell("Not saved: give the filter a name of at most a line.");
            return Redirect($"/studies/{study}/compare{query}");
        }
        await comparisons.SaveFilterAsync(study, words, query is ['?', ..] ? query : "", stop);
        return Redirect($"/studies/{study}/compare{(query is ['?', ..] ? query : "")}");
    }

    public async Task<IActionResult> OnPostRemoveAsync(StudyId study, long filter, CancellationToken stop)
    {
        await comparisons.RemoveFilterAsync(study, filter, stop);
        return Redirect($"/studies/{study}/compare");
    }

    private async Task<bool> ReadAsync(StudyId study, string? a, string? b, IdeaId? idea, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return false;
        Filters = await comparisons.FiltersAsync(study, stop);
        Ideas = await ideas.OfStudyAsync(study, stop);
        var cautious = Request.Query["cautious"] == "true";
        var all = await evidence.ByRecordingAsync(study, Ideas, stop, cautious);
        IReadOnlyList<Recording> recordings = Ideas.Count > 0 ? [.. all[Ideas[0].Id].Select(f => f.Recording)] : [];
        Scope = PassageScope.Of(Request.Query, Study, recordings);
        Sides = Side.Of(Study, [.. recordings.Select(Attributes.Of)]);
        (One, Two) = (Side.Find(Sides, a, "subject"), Side.Find(Sides, b, "others"));
        Found = all.ToDictionary(f => f.Key, f => (IReadOnlyList<IdeaInRecording>)[.. f.Value.Where(x => Scope.Takes(x.Recording))]);
        var shown = recordings.Where(r => Scope.Takes(r) && One.Takes(r)).ToList();
        (Columns, LeftOut) = ([.. shown.Take(MostColumns)], Math.Max(0, shown.Count - MostColumns));
        Chosen = Ideas.FirstOrDefault(i => i.Id == idea) ?? Ideas.MaxBy(i => i.Confirmed);
        if (Ideas.Count == 0) return true;

        var rows = Ideas.Select(i => (Idea: i, One: Answer.Of(Found[i.Id].Where(f => One.Takes(f.Recording)).Select(f => f.Evidence)), Two: Answer.Of(Found[i.Id].Where(f => Two.Takes(f.Recording)).Select(f => f.Evidence)))).ToList();
        var contrasts = Core.Evidence.Contrasts.Of([.. rows.Select(r => new Table(r.One.Found, r.One.Searched - r.One.Found, r.Two.Found, r.Two.Searched - r.Two.Found))]);
        Contrasts = [.. rows.Select((r, i) => new IdeaContrast(r.Idea, r.One, r.Two, Core.Evidence.Contrasts.TimesAsOften(r.One.Events, r.One.Bars, r.Two.Events, r.Two.Bars), contrasts[i]))
            .OrderByDescending(c => c.IsSignature).ThenByDescending(c => c.Times?.Low ?? -1).ThenBy(c => c.Idea.Nickname, StringComparer.OrdinalIgnoreCase)];
        var most = rows.MaxBy(r => r.One.Searched);
        (Searched, SearchedBars) = (most.One.Searched, most.One.Bars);
        ReadTimes(await sightings.ConfirmedAsync(study, stop), await heard.OfStudyAsync(study, stop), cautious);
        return true;
    }

    private void ReadTimes(IReadOnlyList<SightingRow> rows, IReadOnlyList<HeardRow> heardOnly, bool cautious)
    {
        var taken = Columns.Select(r => r.Id).ToHashSet();
        var other = Found.Values.FirstOrDefault()?.Where(f => Two.Takes(f.Recording)).Select(f => f.Recording.Id).ToHashSet() ?? [];
        var confirmed = rows.Where(s => !cautious || s.Unsure == 0).ToList();
        var dated = Columns.Where(r => r.RecordedFrom is not null).ToList();
        if (dated.Count > 0)
        {
            Years = (dated.Min(r => r.RecordedFrom!.Value.Year), dated.Max(r => r.RecordedTo!.Value.Year));
            Times = [.. Ideas.Select(i =>
            {
                var places = confirmed.Where(s => s.IdeaId == i.Id && taken.Contains(s.RecordingId) && s.RecordedFrom is not null)
                    .Select(s => (s.RecordingId, At: Middle(s.RecordedFrom!.Value, s.RecordedTo ?? s.RecordedFrom.Value), Link: $"/sightings/{s.Id}", Title: $"{i.Nickname}: {s.RecordingName}, {s.RecordedFrom.Value.Year}"))
                    .Concat(heardOnly.Where(h => h.IdeaId == i.Id && taken.Contains(h.RecordingId) && h.RecordedFrom is not null)
                        .Select(h => (h.RecordingId, At: Middle(h.RecordedFrom!.Value, h.RecordedFrom.Value), Link: $"/ideas/{i.Id}#heard", Title: $"{i.Nickname}: {h.RecordingName}, {h.RecordedFrom.Value.Year}, heard")))
                    .GroupBy(s => s.RecordingId).Select(g => g.First()).OrderBy(s => s.At).Select(s => (s.At, s.Link, s.Title)).ToList();
                var searched = Found[i.Id].Where(f => One.Takes(f.Recording) && f.Evidence.IsSearched(Answer.UsualShare) && f.Recording.RecordedFrom is not null).Select(f => f.Recording.RecordedFrom!.Value).Order().Select(d => (double?)(d.Year + d.DayOfYear / 366.0)).FirstOrDefault();
                return new TimeRow(i.Nickname, places, searched is { } s && (places.Count == 0 || s < places[0].Item1) ? s : null);
            })];
            if (Chosen is { } of && confirmed.Where(s => s.IdeaId == of.Id && taken.Contains(s.RecordingId) && s.RecordedFrom is not null).MinBy(s => s.RecordedFrom) is { } first)
            {
                var before = Found[of.Id].Where(f => One.Takes(f.Recording) && f.Evidence.IsSearched(Answer.UsualShare) && f.Recording.RecordedTo < first.RecordedFrom).ToList();
                TimesWords = before.Count == 0 ? $"Nothing was searched before {of.Nickname} first appears in {first.RecordedFrom!.Value.Year}."
                    : $"Before {first.RecordedFrom!.Value.Year} {(before.Count == 1 ? "one recording was" : $"{CountNames.Number(before.Count)} recordings were")} searched without {of.Nickname}, {Words.Bars(before.Sum(f => f.Evidence.Exposure))}.";
            }
        }
        if (Chosen is not { } idea) return;
        var views = SightingView.Of(confirmed.Where(s => s.IdeaId == idea.Id)).ToList();
        var (mine, theirs) = (views.Where(v => taken.Contains(v.Row.RecordingId)).ToList(), views.Where(v => other.Contains(v.Row.RecordingId)).ToList());
        if (mine.Count == 0) return;
        var meter = mine.GroupBy(v => v.Passage.Meters.MeterOf(v.BarInPassage)).MaxBy(g => g.Count())!.Key;
        Tick In(SightingView v) => v.Passage.Meters.Locate(new(v.Row.StartTick)).InBar;
        var step = meter.Beat.Value / (mine.Any(v => In(v).Value % (meter.Beat.Value / 3) == 0 && In(v).Value % (meter.Beat.Value / 4) != 0) ? 3 : meter.Lower >= 8 ? 2 : 4);
        var ofMeter = mine.Where(v => v.Passage.Meters.MeterOf(v.BarInPassage).Equals(meter)).ToList();
        var otherOf = theirs.Where(v => v.Passage.Meters.MeterOf(v.BarInPassage).Equals(meter)).ToList();
        Profile = [.. Enumerable.Range(0, meter.Length.Value / step).Select(i => new Tick(i * step)).Select(at =>
        {
            var (n, m) = (ofMeter.Count(v => In(v).Value / step == at.Value / step), otherOf.Count(v => In(v).Value / step == at.Value / step));
            var (_, past) = CountNames.Split(at, meter);
            var count = past == Tick.Zero ? CountNames.Spoken(at, meter) : CountNames.Syllable(past, meter) ?? "";
            return (count, n / (double)ofMeter.Count, otherOf.Count > 0 ? m / (double)otherOf.Count : (double?)null, $"/ideas/{idea.Id}?sort=place#concordance", $"{CountNames.Spoken(at, meter)}: {n} of {ofMeter.Count}{(otherOf.Count > 0 ? $", {Two.Name} {m} of {otherOf.Count}" : "")}");
        })];
        var best = ofMeter.GroupBy(v => v.Count).MaxBy(g => g.Count())!;
        ProfileWords = $"On {best.Key} in {best.Count()} of {ofMeter.Count}{(otherOf.Count > 0 ? $"; {Two.Name} (line) {otherOf.Count(v => v.Count == best.Key)} of {otherOf.Count}" : "")}.";
    }

    private static double Middle(DateOnly from, DateOnly to) => (from.Year + from.DayOfYear / 366.0 + to.Year + to.DayOfYear / 366.0) / 2;
}
