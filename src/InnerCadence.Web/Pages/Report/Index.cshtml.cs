using InnerCadence.Core.Music;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using InnerCadence.Web.Telling;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Report;

/// <summary>The player's vocabulary, to read, to print, to take away.</summary>
public sealed class ReportModel(StudyStore studies, IdeaStore ideas, VocabularyReader reader, SoundStore sounds) : StudyPage(studies)
{
    public ReportChoice Choice { get; private set; } = null!;
    public Vocabulary Vocabulary { get; private set; } = null!;
    /// <summary>Recordings whose sound can be heard here.</summary>
    public IReadOnlySet<RecordingId> Sounding { get; private set; } = new HashSet<RecordingId>();
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, string[] idea, string[] part, string? paper, string? notation, bool chosen,
        CancellationToken stop) =>
        await ReadAsync(study, idea, part, paper, notation, chosen, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnGetZipAsync(StudyId study, string[] idea, string[] part, string? paper, string? notation,
        bool chosen, CancellationToken stop) =>
        await ReadAsync(study, idea, part, paper, notation, chosen, stop)
            ? File(ReportFile.Write(Vocabulary, Choice), "application/zip", "report.zip") : NotFound();

    public string Query(string handler) => (Request.QueryString.HasValue ? Request.QueryString.Value + "&" : "?") + "handler=" + handler;

    /// <param name="chosen">The form was sent, so that what is not ticked is left out.</param>
    private async Task<bool> ReadAsync(StudyId study, string[] idea, string[] part, string? paper, string? notation, bool chosen,
        CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return false;
        Ideas = await ideas.OfStudyAsync(study, stop);
        Choice = new(
            Ideas.Select(i => i.Id).Where(id => idea.Contains(id.ToString())).ToHashSet(), ReportChoice.Parts.Select(p => p.Word)
                .Where(p => chosen && !part.Contains(p)).ToHashSet(),
            paper == "letter" ? "letter" : "a4", ReportChoice.Notations.Any(n => n.Word == notation) ? notation!
                : ReportChoice.Notations[0].Word);
        Sounding = await sounds.ReadInAsync(study, stop);
        Vocabulary = await reader.ReadAsync(Study, Choice, stop);
        return true;
    }
}
