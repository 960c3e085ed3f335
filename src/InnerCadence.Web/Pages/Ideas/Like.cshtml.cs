using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Finds anything like a few counts, without naming it.</summary>
public sealed class LikeModel(StudyStore studies, Likenesses likenesses, SoundQuestions questions) : StudyPage(studies)
{
    public const int Most = 200;
    private const int MostText = 2000;

    public string Text { get; private set; } = "";
    public string Drum { get; private set; } = "drum";
    public bool Near { get; private set; }
    public bool Rates { get; private set; }
    public string? Why { get; private set; }
    public (IReadOnlyList<(IdeaRow Idea, Sighting Sighting)> Ideas, IReadOnlyList<LikePlace> Places)? Found { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, string? text, string? drum, bool near, bool rates, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        (Text, Near, Rates) = (text ?? "", near, rates);
        if (IdeaWords.Read<VoicingRule>(drum) is { } voicing) Drum = drum!;
        else voicing = VoicingRule.Drum;
        if (string.IsNullOrWhiteSpace(text)) return Page();
        if (text.Length > MostText) return Refuse("That is long: write the cell alone, a bar or two.");
        var read = CountLines.Parse(text);
        if (read.Problems.FirstOrDefault(p => p.Severity == Severity.Error) is { } error) return Refuse(
            $"Line {error.At.Line}, column {error.At.Column}: {error.Message}");
        var pattern = FewCounts.AsIdea(read.Passage, voicing, rates);
        if (!pattern.CanBeFound()) return Refuse(
            "No stroke is left to look for: write at least one that is neither optional nor a lone ghost.");
        var (ideas, places) = await likenesses.FindAsync(study, pattern, stop);
        Found = ([.. ideas.Where(i => near || !i.Sighting.IsNear)], [.. places.Where(p => near || !p.Sighting.IsNear)]);
        return Page();
    }

    /// <summary>The same in every sound that the ear has heard, in the background.</summary>
    public async Task<IActionResult> OnPostSoundAsync(StudyId study, string? text, string? drum, bool rates, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        (Text, Rates, Drum) = (text ?? "", rates, IdeaWords.Read<VoicingRule>(drum) is null ? "drum" : drum!);
        if (string.IsNullOrWhiteSpace(text)) return Refuse("Type what is to be looked for.");
        if (text.Length > MostText) return Refuse("That is long: write the cell alone, a bar or two.");
        var read = CountLines.Parse(text);
        if (read.Problems.FirstOrDefault(p => p.Severity == Severity.Error) is { } error) return Refuse(
            $"Line {error.At.Line}, column {error.At.Column}: {error.Message}");
        return FewCounts.AsIdea(read.Passage, IdeaWords.Read<VoicingRule>(Drum)!.Value, rates).CanBeFound()
            ? Redirect($"/jobs/{await questions.AskAsync(study, SoundQuestions.Like, new LikeAsked(text, Drum, rates), stop)}")
            : Refuse("No stroke is left to look for: write at least one that is neither optional nor a lone ghost.");
    }

    public static string Where(LikePlace place)
    {
        var passage = CountLines.Parse(place.Text).Passage;
        var (bar, inBar) = passage.Meters.Locate(place.Sighting.Start);
        return $"bar {(place.Bar ?? 1) + bar}, {CountNames.Spoken(inBar, passage.Meters.MeterOf(bar))}";
    }

    /// <summary>The page on which this place is named as an idea.</summary>
    public static string Cut(LikePlace place)
    {
        var passage = CountLines.Parse(place.Text).Passage;
        string At(Tick at)
        {
            if (at >= passage.Length) return "end";
            var (bar, inBar) = passage.Meters.Locate(at);
            return $"{bar + 1}.{CountNames.Place(inBar, passage.Meters.MeterOf(bar)) ?? "1"}";
        }
        return $"/passages/{place.PassageId}/cut?from={Uri.EscapeDataString(At(place.Sighting.Start))}&to="
            + $"{Uri.EscapeDataString(At(place.Sighting.End))}";
    }

    private Microsoft.AspNetCore.Mvc.RazorPages.PageResult Refuse(string why)
    {
        Why = why;
        return Again();
    }
}
