using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>One passage: written down at left, seen at right, with the ideas found in it.</summary>
public sealed class PassageModel(StudyStore studies, RecordingStore recordings, TimelineStore timelines, PassageStore passages,
    SightingStore sightings, SoundStore sounds, WrittenPassages written, Records records,
    MeasurementStore measurements) : StudyPage(studies), IPassageForm
{
    [BindProperty]
    public PassageInput Input { get; set; } = new();

    public PassageRow Saved { get; private set; } = null!;
    public IReadOnlyList<SightingView> Found { get; private set; } = [];
    public PassageId? Previous { get; private set; }
    public PassageId? Next { get; private set; }
    public string? KeptText { get; private set; }
    public int? Merged { get; private set; }
    public string Kit { get; private set; } = "";
    public bool HasSound { get; private set; }
    public RecordView? Record { get; private set; }
    public IReadOnlyList<Comparison> Comparisons { get; private set; } = [];
    /// <summary>How early or late it was played; nothing where nobody measured.</summary>
    public MicroTiming? Timing { get; private set; }
    public IReadOnlyList<ReadingRow> Others { get; private set; } = [];
    public IReadOnlyList<(ReadingId Reading, DateTime ChosenAt)> Choices { get; private set; } = [];

    /// <summary>The strands of another reading, with what it hears differently marked.</summary>
    public Shape PictureOf(ReadingRow other)
    {
        var (mine, theirs) = (CountLines.Parse(Saved.Text).Passage, CountLines.Parse(other.Text).Passage);
        var known = mine.Strokes.ToHashSet();
        return Strands.Draw(theirs, new()
        {
            FirstBar = FirstBar,
            Gap = 24,
            Width = 640,
            Also = mine.Voices,
            Differing = theirs.Strokes.Where(s => !known.Contains(s)).Select(s => (s.At, s.Voice)).ToHashSet(),
            Missing = [.. mine.Strokes.Where(s => s.At < theirs.Length && !theirs.Strokes.Any(t => t.At == s.At && t.Voice == s.Voice))],
        });
    }

    /// <summary>What another reading hears differently from the preferred one.</summary>
    public IReadOnlyList<string> DifferencesOf(ReadingRow other) =>
        [.. ReadingDifference.Between(CountLines.Parse(Saved.Text).Passage, CountLines.Parse(other.Text).Passage, FirstBar)
            .Select(d => d.Words)];

    public CountText Read => CountLines.Parse(Input.Text ?? "");
    public int FirstBar => Saved.Bar ?? 1;
    public RecordingId RecordingId => Saved.RecordingId;
    public double? Tempo => Saved.RecordingTempo;

    public Shape Picture => Strands.Draw(Read.Passage, new()
    {
        FirstBar = FirstBar,
        Pickable = true,
        Also = Read.Voices,
        Sound = Record is not null,
        Brackets = Input.Text != Saved.Text ? [] : [.. Found.Where(s => s.Row.Stands).Select(s => new Bracket(
            new Tick(s.Row.StartTick), new Tick(s.Row.EndTick), s.Row.Idea, s.Row.Verdict == Verdict.NearMiss, $"/sightings/{s.Row.Id}"))],
    });

    public async Task<IActionResult> OnGetAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        Input = PassageInput.Of(Saved);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        var recording = await recordings.FindAsync(Saved.RecordingId, stop);
        var timeline = recording is null ? null : await timelines.OfAsync(recording, stop);
        if (Input.Read(ModelState, timeline?.Chart) is not { } draft) return Again();
        draft = timeline?.Place(draft) ?? draft;
        var tapped = Input.PlayedIn(CountLines.Parse(draft.Text).Passage);
        if (await passages.UpdateAsync(passage, draft, Input.Version, stop, tapped) == SaveResult.Saved)
        {
            Tell($"Saved.{PassageInput.Beyond(draft, recording)}");
            Kept();
            return Redirect($"/passages/{passage}");
        }
        // The text that the page began from stays, so that a merge knows what each tab changed.
        ModelState.Remove("Input.Version");
        Input.Version = Saved.Version;
        KeptText = Saved.Text;
        return ChangedMeanwhile("This passage", "above.");
    }

    /// <summary>Puts what was typed and what another tab saved together into the field; saving it stays with the person.</summary>
    public async Task<IActionResult> OnPostMergeAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        var merge = TextMerge.Of(Input.Began ?? "", Input.Text ?? "", Saved.Text);
        foreach (var field in (string[])["Input.Text", "Input.Began", "Input.Version"]) ModelState.Remove(field);
        (Input.Text, Input.Began, Input.Version) = (merge.Text, Saved.Text, Saved.Version);
        Merged = merge.Clashes;
        return Page();
    }

    /// <summary>What was typed becomes another reading beside the preferred one.</summary>
    public async Task<IActionResult> OnPostSecondAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        var chart = await recordings.FindAsync(Saved.RecordingId, stop) is { } recording
            ? (await timelines.OfAsync(recording, stop)).Chart : null;
        if (Input.Read(ModelState, chart) is not { } draft) return Again();
        await passages.AddReadingAsync(passage, draft.Text, draft.Bars, draft.HeardFrom, draft.Confidence, draft.Note, stop);
        Tell("Kept as another reading.");
        Kept();
        return Redirect($"/passages/{passage}#readings");
    }

    public async Task<IActionResult> OnPostPreferAsync(PassageId passage, ReadingId reading, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop) || !await passages.PreferAsync(passage, reading, stop)) return NotFound();
        Tell("This reading counts now.", $"/passages/{passage}?handler=Prefer&reading={Saved.ReadingId}");
        return Redirect($"/passages/{passage}");
    }

    public async Task<IActionResult> OnPostDeleteAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        if (Input.Version is > 0 and var seen && seen != Saved.Version)
        {
            Input = PassageInput.Of(Saved);
            return NotDeleted("This passage", "below.");
        }
        await passages.DeleteAsync(passage, stop);
        Tell($"A {Saved.Kind} of {Saved.RecordingName} is deleted.", $"/studies/{Study.Id}/passages?handler=Restore&passage={passage}");
        return Redirect($"/recordings/{Saved.RecordingId}");
    }

    /// <summary>Turns drum-tab text in the field into count lines; nothing is saved.</summary>
    public async Task<IActionResult> OnPostTabAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        return Input.ReadTab(ModelState) ? Page() : Again();
    }

    /// <summary>Puts the text on other toms into the field; nothing is saved.</summary>
    public async Task<IActionResult> OnPostTomsAsync(PassageId passage, string? toms, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        return Input.ReadToms(ModelState, toms) ? Page() : Again();
    }

    /// <summary>Puts back the text that another one took the place of; nothing is saved.</summary>
    public async Task<IActionResult> OnPostBackAsync(PassageId passage, CancellationToken stop)
    {
        if (!await FindAsync(passage, stop)) return NotFound();
        Input.PutBack(ModelState);
        return Page();
    }

    private const int MostComparisons = 300;

    private async Task<bool> FindAsync(PassageId id, CancellationToken stop)
    {
        if (await passages.FindAsync(id, stop) is not { } found) return false;
        Saved = found;
        Found = [.. SightingView.Of(await sightings.OfPassageAsync(id, stop))];
        Others = [.. (await passages.ReadingsAsync(id, stop)).Where(r => !r.Preferred)];
        Choices = await passages.ChoicesAsync(id, stop);
        Kit = found.Kit;
        Record = await records.OfAsync(found, stop);
        HasSound = await sounds.OfRecordingAsync(found.RecordingId, stop) is not null;
        var all = await written.OfStudyAsync(found.StudyId, stop);
        var siblings = all.Where(p => p.RecordingId == found.RecordingId).Select(p => p.PassageId).ToList();
        var here = siblings.IndexOf(id);
        Comparisons =
        [
            .. Others.Select((r, i) => new Comparison($"reading {i + 2}: {r.Source}, {r.Confidence}", r.Text,
                $"/passages/{id}/readings/{r.Id}")),
            .. all.OrderByDescending(p => p.BySubject).Where(p => p.PassageId != id && p.Bars.Count > 0).Take(MostComparisons)
                .Select(p => new Comparison($"{p.RecordingName}{(p.Bar is { } bar ? $", bar {bar}" : "")}, {p.Kind}", null,
                    $"/passages/{p.PassageId}/as/counts")),
        ];
        ViewData["Recording"] = found.RecordingId;
        Timing = MicroTiming.Of(CountLines.Parse(found.Text).Passage, await passages.OffsetsAsync(id, stop),
            await measurements.OfAsync(id, stop) is null ? null : RiseTimes.Doubt);
        if (here > 0) Previous = siblings[here - 1];
        if (here >= 0 && here + 1 < siblings.Count) Next = siblings[here + 1];
        return await EnterAsync(found.StudyId, stop);
    }
}
