using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.WebUtilities;
using PlaceQuery = InnerCadence.Web.Pages.Ideas.PlaceQuery;

namespace InnerCadence.Web.Pages.Compare;

/// <summary>All ideas in all recordings, when they first appear, where in the bar, and how much more often than on another side.</summary>
public sealed class CompareModel(StudyStore studies, IdeaStore ideas, EvidenceOfIdeas evidence, ComparisonStore comparisons,
    LookedIdeas lookedIdeas)
    : StudyPage(studies)
{
    private const int MostColumns = 72, MostOthers = 48;

    public PassageScope Scope { get; private set; } = null!;
    public IReadOnlyList<ComparedSide> Sides { get; private set; } = [];
    public ComparedSide One { get; private set; } = null!;
    public ComparedSide Two { get; private set; } = null!;
    public IReadOnlyList<SavedFilter> Filters { get; private set; } = [];
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];
    public IReadOnlyList<Recording> Columns { get; private set; } = [];
    /// <summary>Of the other side.</summary>
    public IReadOnlyList<Recording> OtherColumns { get; private set; } = [];
    public int LeftOut { get; private set; }
    public int Drawn => Columns.Count + OtherColumns.Count;
    public IReadOnlyDictionary<IdeaId, IReadOnlyList<IdeaInRecording>> Found { get; private set; } = new Dictionary<IdeaId,
        IReadOnlyList<IdeaInRecording>>();
    public IReadOnlyList<(IdeaRow Idea, SideBySide Row)> Contrasts { get; private set; } = [];
    /// <summary>What the comparison says first.</summary>
    public SidesInWords InWords { get; private set; } = new([], [], [], []);
    public IdeaRow? Chosen { get; private set; }
    public IReadOnlyList<(string Count, double Share, double? Other, string Link, string Title)> Profile { get; private set; } = [];
    /// <summary>What the ear looked through for the chosen idea: whose, in words, in 100 bars.</summary>
    public IReadOnlyList<(string Whose, string Words, Core.Evidence.Interval? Rate)> Looked { get; private set; } = [];
    public string ProfileWords { get; private set; } = "";
    public IReadOnlyList<TimeRow> Times { get; private set; } = [];
    public string TimesWords { get; private set; } = "";
    /// <summary>Of the side that is shown, whatever for.</summary>
    public SearchedAtAll Searched { get; private set; } = SearchedAtAll.Of([]);
    public int Waiting { get; private set; }
    public (int From, int To) Years { get; private set; }

    /// <summary>This view in the address, with one part changed.</summary>
    public string With(string name, string? value)
    {
        var parts = Microsoft.AspNetCore.WebUtilities.QueryHelpers.ParseQuery(Scope.Query)
            .ToDictionary(p => p.Key, p => p.Value.ToString());
        if (One.Word != "subject") parts["a"] = One.Word;
        if (Two.Word != "others") parts["b"] = Two.Word;
        if (Chosen is not null) parts["idea"] = Chosen.Id.ToString();
        if (value is null) parts.Remove(name);
        else parts[name] = value;
        return $"/studies/{Study.Id}/compare" + (parts.Count > 0
            ? "?" + string.Join('&', parts.Select(p => $"{p.Key}={Uri.EscapeDataString(p.Value)}")) : "");
    }

    public Shape Matrix
    {
        get
        {
            MatrixSide[] sides = OtherColumns.Count == 0 ? [SideOf(One, Columns)] : [SideOf(One, Columns), SideOf(Two, OtherColumns)];
            return CompareViews.Matrix(sides, [.. Ideas.Select(idea => (idea.Nickname, With("idea", idea.Id.ToString()),
                (IReadOnlyList<MatrixCell>)[.. Columns.Concat(OtherColumns).Select(r => Cell(idea, r))]))]);
        }
    }

    private static MatrixSide SideOf(ComparedSide side, IReadOnlyList<Recording> recordings) => new(side.Name, [.. recordings.Select(r =>
        ($"{r.Name} {(r.RecordedFrom?.Year % 100)?.ToString("00", CultureInfo.InvariantCulture)}",
            $"{r.Name}, {r.Player}, {r.Recorded}"))]);

    private MatrixCell Cell(IdeaRow idea, Recording recording)
    {
        var found = Found[idea.Id].First(f => f.Recording.Id == recording.Id);
        var (p, e) = (found.Performance, found.Evidence);
        var words = found.Rate is { } rate
            ? $"{p.Events} in {Words.Bars(p.Bars)}, {Words.Rate(rate.Value)} per "
            + $"100{(p.IsSearched || recording.TotalBars is null ? "" : ", under half searched")}" : "not searched";
        return new(found.Rate?.Value, recording.TotalBars is > 0 and var total ? Math.Min(1, p.Bars / (double)total) : 1, e.NearMisses,
            PlaceQuery.Link(idea.Id, "counted", $"recording={recording.Id}", Scope.Cautious ? "cautious=true" : ""),
            $"{idea.Nickname} in {recording.Name}: "
                + $"{words}{(e.Outside > 0 ? $", {e.Outside} outside" : "")}{(e.NearMisses > 0 ? $", {e.NearMisses} near" : "")}");
    }

    /// <summary>The list of exactly what stands on one side for an idea.</summary>
    public string Link(IdeaRow idea, ComparedSide side, string more = "") =>
        PlaceQuery.Link(idea.Id, "counted", $"side={Uri.EscapeDataString(side.Word)}", more, Scope.Query.Length > 0 ? Scope.Query[1..]
        : "");

    public async Task<IActionResult> OnGetAsync(StudyId study, string? a, string? b, IdeaId? idea, CancellationToken stop) =>
        await ReadAsync(study, a, b, idea, stop) ? Page() : NotFound();

    /// <summary>The numbers behind the views: one row an idea and recording, with its searched amount.</summary>
    public async Task<IActionResult> OnGetSheetAsync(StudyId study, string? a, string? b, IdeaId? idea, string? format,
        CancellationToken stop)
    {
        if (!Sheet.Formats.Contains(format) || !await ReadAsync(study, a, b, idea, stop)) return NotFound();
        var sheet = new Sheet(
            ["idea", "player", "title", "take", "recorded", "kind", "searched_bars", "confirmed", "occasions", "outside", "near_misses",
                "waiting", "per_100", "low", "high"],
            [.. Ideas.SelectMany(i => Found[i.Id].Select(f => RowOf(i, f)))]);
        return File(sheet.As(format!), Sheet.MediaOf(format!), $"compare.{format}");

        static IReadOnlyList<object?> RowOf(IdeaRow of, IdeaInRecording found)
        {
            var (r, e) = (found.Recording, found.Evidence);
            return [of.Nickname, r.Player, r.Title, r.Take, r.Recorded?.ToString(), r.Kind, e.Exposure, e.Confirmed, e.Occasions,
                e.Outside, e.NearMisses, e.Waiting, found.Rate?.Value, found.Rate?.Low, found.Rate?.High];
        }
    }

    public async Task<IActionResult> OnGetSvgAsync(StudyId study, string? a, string? b, IdeaId? idea, string? view, CancellationToken stop)
    {
        if (!await ReadAsync(study, a, b, idea, stop)) return NotFound();
        var picture = view switch
        {
            "timeline" => CompareViews.Timeline(Times, Years.From, Years.To),
            "profile" when Profile.Count > 0 =>
            CompareViews.Profile(Profile, (One.Name, Two.Name)),
            "forest" => Forest,
            _ => Matrix
        };
        return File(System.Text.Encoding.UTF8.GetBytes(StandaloneSvg.Of(picture)), "image/svg+xml", $"{view ?? "matrix"}.svg");
    }

    public Shape Forest => CompareViews.Forest([.. Contrasts.Select(c =>
        (c.Idea.Nickname, c.Row.Times?.Interval, $"/ideas/{c.Idea.Id}/where"))]);

    public async Task<IActionResult> OnPostSaveAsync(StudyId study, string? name, string? query, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        var words = ModelState.Text("name", name, "Give the filter a name.");
        // Spelt anew, so that whatever letters were sent can stand in an address.
        var filter = query is ['?', ..] and { Length: <= 2000 } ? QueryString.Create(QueryHelpers.ParseQuery(query)).Value : "";
        if (!ModelState.IsValid || query?.Length > 2000) Tell("Not saved: give the filter a name of at most a line.");
        else await comparisons.SaveFilterAsync(study, words, filter ?? "", stop);
        return Redirect($"/studies/{study}/compare{filter}");
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
        Sides = ComparedSide.Of(Study, [.. recordings.Select(Attributes.Of)]);
        (One, Two) = (ComparedSide.Find(Sides, a, "subject"), ComparedSide.Find(Sides, b, "others"));
        Found = all.ToDictionary(f => f.Key, f => (IReadOnlyList<IdeaInRecording>)[.. f.Value.Where(x => Scope.Takes(x.Recording))]);
        var shown = recordings.Where(r => Scope.Takes(r) && One.Takes(r)).ToList();
        var others = recordings.Where(r => Scope.Takes(r) && Two.Takes(r) && !One.Takes(r)).ToList();
        (Columns, OtherColumns) = ([.. shown.Take(MostColumns)], [.. others.Take(MostOthers)]);
        LeftOut = shown.Count - Columns.Count + others.Count - OtherColumns.Count;
        Chosen = Ideas.FirstOrDefault(i => i.Id == idea) ?? Ideas.MaxBy(i => Found[i.Id].Sum(f => f.Performance.Confirmed));
        if (Ideas.Count == 0) return true;
        var looked = await lookedIdeas.OfAsync(Chosen!, stop);
        Looked = [.. new[] { One, Two }.Distinct().SelectMany(side => looked.GroupsOf(r => side.Takes(r) && Scope.Takes(r))
            .Select(g => (side.Name, g.Words(looked.List.IsBegun), g.Through.Rate)))];

        IReadOnlyList<Performance> Of(IdeaRow of, ComparedSide side) =>
            [.. Found[of.Id].Where(f => side.Takes(f.Recording)).Select(f => f.Performance)];
        var rows = SideBySide.Of([.. Ideas.Select(i => (i.Id.Value, Of(i, One), Of(i, Two)))]);
        InWords = SidesInWords.Of(rows);
        Contrasts = [.. Ideas.Zip(rows).OrderByDescending(c => c.Second.IsSignature)
            .ThenByDescending(c => c.Second.Times?.Interval.Low ?? -1).ThenBy(c => c.First.Nickname, StringComparer.OrdinalIgnoreCase)];
        Searched = SearchedAtAll.Of(Of(Ideas[0], One).Select(p => p.Recording));
        Waiting = Ideas.Sum(i => Found[i.Id].Sum(f => f.Performance.Waiting));
        ReadTimes();
        if (Chosen is not null && PlaceProfile.Between(Of(Chosen, One), Of(Chosen, Two)) is { } profile) ReadProfile(Chosen, profile);
        return true;
    }

    private void ReadTimes()
    {
        var dated = Columns.Concat(OtherColumns).Where(r => r.RecordedFrom is not null).ToList();
        if (dated.Count == 0) return;
        Years = (dated.Min(r => r.RecordedFrom!.Value.Year), dated.Max(r => r.RecordedTo!.Value.Year));
        Times = [.. Ideas.Select(i =>
        {
            TimeRow RowOf(ComparedSide side)
            {
                var over = OverTime.Of(Found[i.Id].Where(f => side.Takes(f.Recording)).Select(f => f.Performance));
                return new(i.Nickname, [.. over.With.Select(w => PointOf(i, w.At, w.Performance))], over.SearchedFrom);
            }

            return RowOf(One) with { Other = OtherColumns.Count > 0 ? RowOf(Two) : null };
        })];
        if (Chosen is not { } of || FirstOnRecord.Of([.. Found[of.Id].Where(f => One.Takes(f.Recording))
            .Select(f => f.Performance)]) is not { First.Recorded: { } date } first) return;
        var (year, before) = (date.Earliest.Year, first.Without);
        TimesWords = before.Count == 0 ? $"Nothing was searched before {of.Nickname} first appears in {year}."
            : $"Before {year} {(before.Count == 1 ? "one recording was" : $"{CountNames.Number(before.Count)} recordings were")} "
                + $"searched without {of.Nickname}, {Words.Bars(before.Sum(p => p.Bars))}.";
    }

    private static (double At, string Link, string Title) PointOf(IdeaRow idea, double at, Performance performance)
    {
        var first = performance.Appearances[0];
        return (at, first.Sighting is { } s ? $"/sightings/{s}" : $"/ideas/{idea.Id}#heard",
            $"{idea.Nickname}: {performance.Name}, "
                + $"{performance.Recorded!.Value.Earliest.Year}{(first.Sighting is null ? ", heard" : "")}"
                    + $"{(performance.Events == 0 ? ", outside what was searched" : "")}");
    }

    private void ReadProfile(IdeaRow idea, PlaceProfile profile)
    {
        Profile = [.. profile.Places.Select(p => (p.Label, p.Found / (double)profile.Of, profile.OthersOf > 0
            ? p.OthersFound / (double)profile.OthersOf : (double?)null, Link(idea, One, "sort=place"),
            $"{p.Spoken}: {p.Found} of {profile.Of}"
                + $"{(profile.OthersOf > 0 ? $", {Two.Name} {p.OthersFound} of {profile.OthersOf}" : "")}"))];
        var best = profile.Commonest;
        ProfileWords = $"On {best.Spoken} in {best.Found} of "
            + $"{profile.Of}{(profile.OthersOf > 0 ? $"; {Two.Name} (below) {best.OthersFound} of {profile.OthersOf}" : "")}.";
    }
}
