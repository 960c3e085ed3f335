using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>What was searched, as typed: an amount of bars or a span of them.</summary>
public sealed class SearchInput
{
    public string? Bars { get; set; }
    public string? Closeness { get; set; } = "listened";
    public string? For { get; set; }
}

/// <summary>One recording: its passages, and how much of it was searched.</summary>
public sealed class ShowModel(Storage.Studies studies, Storage.Recordings recordings, Storage.Passages passages, Storage.Ideas ideas) : StudyPage(studies)
{
    [BindProperty]
    public SearchInput Search { get; set; } = new();

    public Recording Recording { get; private set; } = null!;
    public IReadOnlyList<PassageRow> Passages { get; private set; } = [];
    public IReadOnlyList<CoverageRow> Coverage { get; private set; } = [];
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(RecordingId recording, CancellationToken stop) => await FindAsync(recording, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostCoverAsync(RecordingId recording, CancellationToken stop)
    {
        if (!await FindAsync(recording, stop)) return NotFound();
        var closeness = Enum.Parse<Closeness>(ModelState.Choice("Search.Closeness", Search.Closeness, RecordingInput.Choices), true);
        var idea = Ideas.FirstOrDefault(i => i.Id.ToString() == Search.For)?.Id;
        var span = ReadSpan();
        if (span is not { } bars || !ModelState.IsValid) return Again();
        await recordings.AddCoverageAsync(recording, new(closeness, bars.From, bars.Bars, idea, DateOnly.FromDateTime(DateTime.Now)), stop);
        return Redirect($"/recordings/{recording}");
    }

    public async Task<IActionResult> OnPostUncoverAsync(RecordingId recording, CoverageId coverage, CancellationToken stop)
    {
        if (await recordings.RemoveCoverageAsync(recording, coverage, stop) is { } gone)
            Tell(
                $"{Words.Bars(gone.Bars)} {gone.Closeness} are taken out.",
                FormattableString.Invariant($"/recordings/{recording}?handler=Recover&closeness={gone.Closeness}&from={gone.FromBar}&bars={gone.Bars}&idea={gone.IdeaId}&on={gone.SearchedOn:yyyy-MM-dd}"));
        return Redirect($"/recordings/{recording}");
    }

    /// <summary>Puts in again what was taken out, with the day on which it was searched.</summary>
    public async Task<IActionResult> OnPostRecoverAsync(RecordingId recording, Closeness closeness, int? from, int bars, string? idea, DateOnly on, CancellationToken stop)
    {
        if (!ModelState.IsValid || bars is < 1 or > Limits.Bars || !await FindAsync(recording, stop)) return NotFound();
        var named = Ideas.FirstOrDefault(i => i.Id.ToString() == idea)?.Id;
        await recordings.AddCoverageAsync(recording, new(closeness, from, bars, named, on), stop);
        return Redirect($"/recordings/{recording}");
    }

    /// <summary>96 is an amount; 33-64 are the bars from 33 to 64.</summary>
    private (int? From, int Bars)? ReadSpan()
    {
        var parts = (Search.Bars ?? "").Replace('–', '-').Split('-', StringSplitOptions.TrimEntries);
        var most = Recording.TotalBars ?? Limits.Bars;
        if (parts.Length <= 2 && parts.All(p => int.TryParse(p, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n >= 1 && n <= most))
        {
            var (first, last) = (int.Parse(parts[0], CultureInfo.InvariantCulture), int.Parse(parts[^1], CultureInfo.InvariantCulture));
            if (parts.Length == 1) return (null, first);
            if (last >= first) return (first, last - first + 1);
        }
        ModelState.AddModelError("Search.Bars", $"Write how many bars were searched, such as 96, or which, such as 33-64; the recording has {(Recording.TotalBars is { } t ? Words.Bars(t) : "an unknown number of bars")}.");
        return null;
    }

    private async Task<bool> FindAsync(RecordingId id, CancellationToken stop)
    {
        if (await recordings.FindAsync(id, stop) is not { } found) return false;
        Recording = found;
        Passages = await passages.OfRecordingAsync(id, stop);
        Coverage = await recordings.CoverageOfAsync(id, stop);
        Ideas = await ideas.OfStudyAsync(found.StudyId, stop);
        return await EnterAsync(found.StudyId, stop);
    }
}
