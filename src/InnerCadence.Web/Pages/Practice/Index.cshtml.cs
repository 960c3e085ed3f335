using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;
using InnerCadence.Core.Practice;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Practice;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Practice;

/// <summary>The plan: what there is to practise, when it is due, and a week by the minutes there are.</summary>
public sealed class PracticeModel(StudyStore studies, PracticeStore practice, IdeaStore ideas, PassageStore passages) : StudyPage(studies)
{
    private const int UsualMinutes = 10;

    public IReadOnlyList<PracticeItem> Items { get; private set; } = [];
    public IReadOnlyList<int> Minutes { get; private set; } = [];
    /// <summary>As they stand in the fields: what was typed, where it could not be read.</summary>
    public IReadOnlyList<string> Typed { get; private set; } = [];
    public IReadOnlyList<PlannedDay> Week { get; private set; } = [];
    public string? Problem { get; private set; }
    public DateOnly Today { get; } = DateOnly.FromDateTime(DateTime.Now);

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop) =>
        await FindAsync(study, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostWeekAsync(StudyId study, string[] minutes, string? seen, CancellationToken stop)
    {
        if (!await FindAsync(study, stop)) return NotFound();
        var read = minutes.Select(m => int.TryParse(m, System.Globalization.NumberStyles.None,
            System.Globalization.CultureInfo.InvariantCulture, out var n) && n <= 600 ? n : -1).ToArray();
        if (read.Length != 7 || read.Any(n => n < 0))
        {
            Problem = "Minutes are whole numbers from 0 to 600, one for each day.";
            Typed = [.. minutes.Concat(Typed.Skip(minutes.Length)).Take(7)];
            return Again();
        }
        if (Seen.IsStale(seen, Minutes.Cast<object?>()))
        {
            Problem = $"The minutes were changed in another tab meanwhile; kept now are {string.Join(", ", Minutes)}. What you typed is "
                + $"below: plan again to keep yours.";
            Typed = [.. minutes];
            Response.StatusCode = StatusCodes.Status409Conflict;
            return Page();
        }
        await practice.SaveWeekAsync(study, read, stop);
        return Redirect($"/studies/{study}/practice");
    }

    /// <summary>An idea, a passage, a rudiment or a variation of an item becomes something to practise.</summary>
    /// <param name="of">The item that is varied, by <paramref name="text"/>.</param>
    public async Task<IActionResult> OnPostAddAsync(StudyId study, IdeaId? idea, PassageId? passage, string? rudiment, PracticeId? of,
        string? text, string? name, CancellationToken stop)
    {
        if (!await FindAsync(study, stop)) return NotFound();
        PracticeId? added = null;
        if (of is { } itemId && await practice.FindAsync(itemId, stop) is { } item && item.StudyId == study)
            added = await AddAsync(item.Name, CountLines.Parse(text ?? item.Text).Passage, item.Goal, item.IdeaId, item.PassageId, name,
                stop);
        else if (idea is { } ideaId && await ideas.FindAsync(ideaId, stop) is { } found && found.StudyId == study)
            added = await AddAsync(found.Nickname, CountLines.Parse(found.Text).Passage, null, ideaId, null, null, stop);
        else if (passage is { } passageId && await passages.FindAsync(passageId, stop) is { } written && written.StudyId == study)
            added = await AddAsync($"{written.RecordingName}{(written.Bar is { } bar ? $", bar {bar}" : "")}",
                CountLines.Parse(written.Text).Passage, written.RecordingTempo, null, passageId, null, stop);
        else if (Rudiment.Find(rudiment ?? "") is { } known)
            added = await AddAsync(known.Name, known.AsPassage(), null, null, null, null, stop);
        if (added is { } id) return Redirect($"/practice/{id}");
        Problem = "There is no such thing to practise in this study, or it has no strokes.";
        return Again();

        async Task<PracticeId?> AddAsync(string called, Passage figure, double? tempo, IdeaId? ofIdea, PassageId? ofPassage,
            string? variation, CancellationToken token)
        {
            if (figure.Strokes.IsEmpty) return null;
            var goal = figure.Tempo ?? (tempo is { } t ? Bpm.Of(t) : null) ?? Bpm.Usual;
            var words = string.IsNullOrWhiteSpace(variation) || variation.Length > Core.Text.Typed.Name
                || Core.Text.Typed.HasUnkeepable(variation) ? called : $"{called}, {variation.Trim()}";
            // What is practised already goes on where it is.
            var text = CountWriter.Write(figure with { Tempo = null });
            if (Items.FirstOrDefault(i => i.Name == words && i.Text == text && i.Goal == goal.Value && i.IdeaId == ofIdea
                && i.PassageId == ofPassage) is { } there) return there.Id;
            return await practice.AddAsync(study, words, figure, goal, UsualMinutes, ofIdea, ofPassage, token);
        }
    }

    public async Task<IActionResult> OnPostRestoreAsync(StudyId study, [FromQuery(Name = "practice")] PracticeId item,
        CancellationToken stop)
    {
        await practice.RestoreAsync(item, stop);
        return Redirect($"/studies/{study}/practice");
    }

    private async Task<bool> FindAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return false;
        Items = await practice.OfStudyAsync(study, stop);
        Minutes = await practice.WeekAsync(study, stop);
        Typed = [.. Minutes.Select(m => $"{m}")];
        var from = Enumerable.Range(0, 7).Select(i => Minutes[((int)Today.DayOfWeek + 6 + i) % 7]).ToList();
        Week = WeekPlan.Of(Items.Select(i => new Plannable(i.Id.Value, i.DueOn, i.Minutes, i.Stopped)), Today, from);
        return true;
    }
}
