using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Drawing;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Compare;

/// <summary>Two passages aligned at their starts, with every difference in words and drawn, both to be heard.</summary>
public sealed class PairModel(StudyStore studies, WrittenPassages written, PassageStore passages, Records records) : StudyPage(studies)
{
    public IReadOnlyList<WrittenPassage> All { get; private set; } = [];
    public WrittenPassage? One { get; private set; }
    public WrittenPassage? Two { get; private set; }
    public IReadOnlyList<string> Differences { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, PassageId? one, PassageId? two, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        All = [.. (await written.OfStudyAsync(study, stop)).Where(p => p.Passage.Bars > 0)];
        One = All.FirstOrDefault(p => p.PassageId == one) ?? All.FirstOrDefault();
        Two = All.FirstOrDefault(p => p.PassageId == two)
            ?? All.FirstOrDefault(p => p.PassageId != One?.PassageId && p.Title == One?.Title)
            ?? All.FirstOrDefault(p => p.PassageId != One?.PassageId);
        if (One is not null && Two is not null) Differences = [.. ReadingDifference.Between(One.Passage, Two.Passage, One.Bar ?? 1)
            .Select(d => d.Words)];
        (FirstRecord, SecondRecord) = (await RecordOfAsync(One, stop), await RecordOfAsync(Two, stop));
        return Page();
    }

    private async Task<RecordView?> RecordOfAsync(WrittenPassage? passage, CancellationToken stop) =>
        passage is not null && await passages.FindAsync(passage.PassageId, stop) is { } row ? await records.BesideAsync(row, stop) : null;

    public RecordView? FirstRecord { get; private set; }
    public RecordView? SecondRecord { get; private set; }

    public Shape PictureOf(WrittenPassage shown, WrittenPassage other)
    {
        var (mine, theirs) = (shown.Passage, other.Passage);
        var known = theirs.Strokes.ToHashSet();
        return Strands.Draw(mine, new()
        {
            Gap = 28,
            FirstBar = shown.Bar ?? 1,
            Also = theirs.Voices,
            Differing = mine.Strokes.Where(s => !known.Contains(s)).Select(s => (s.At, s.Voice)).ToHashSet(),
            Missing = [.. theirs.Strokes.Where(s => s.At < mine.Length && !mine.Strokes.Any(m => m.At == s.At && m.Voice == s.Voice))],
        });
    }
}
