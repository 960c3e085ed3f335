using InnerCadence.Core.Music;
using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using InnerCadence.Web.Telling;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Article;

/// <summary>The article: its text at the left, what it reads like at the right, and what can be put into it.</summary>
public sealed class ArticleModel(StudyStore studies, ArticleStore articles, ArticleReader reader, ClaimStore claims, IdeaStore ideas,
    RecordingStore recordings) : StudyPage(studies)
{
    public const int MostText = 200_000;

    [BindProperty]
    public string? Title { get; set; }
    [BindProperty]
    public string? Text { get; set; }
    [BindProperty]
    public int Version { get; set; }

    public Storage.Studies.Article Saved { get; private set; } = null!;
    public ReadArticle Read { get; private set; } = null!;
    public IReadOnlyList<Edition> Editions { get; private set; } = [];
    public IReadOnlyList<CitedSource> Sources { get; private set; } = [];
    public IReadOnlyList<ClaimRow> Claims { get; private set; } = [];
    public IReadOnlyList<IdeaRow> Ideas { get; private set; } = [];
    public IReadOnlyList<Recording> Recordings { get; private set; } = [];
    public (string? Key, string? Text) TypedSource { get; private set; }
    /// <summary>A source under the typed key that says something else.</summary>
    public CitedSource? Replaces { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop)
    {
        if (!await FindAsync(study, stop)) return NotFound();
        (Title, Text, Version) = (Saved.Title, Saved.Text, Saved.Version);
        await ReadAsync(stop);
        return Page();
    }

    /// <summary>What a text would read like; nothing is saved.</summary>
    public async Task<IActionResult> OnPostPreviewAsync(StudyId study, CancellationToken stop)
    {
        if (!await FindAsync(study, stop)) return NotFound();
        if (Text?.Length > MostText) Text = Text[..MostText];
        await ReadAsync(stop);
        // A script gets the part that changes, a browser without scripts the page with what was typed.
        return Request.Headers["X-Part"] == "read" ? Partial("Article/_Read", Read) : Page();
    }

    public async Task<IActionResult> OnPostAsync(StudyId study, CancellationToken stop)
    {
        if (!await FindAsync(study, stop)) return NotFound();
        var title = ModelState.Text("Title", Title);
        var text = ModelState.Text("Text", Text?.ReplaceLineEndings("\n"), most: MostText);
        await ReadAsync(stop);
        if (!ModelState.IsValid) return Again();
        if (!await articles.SaveAsync(new(study, title, text, Read.Numbers, Version, null), stop))
        {
            Version = Saved.Version;
            ModelState.Remove(nameof(Version));
            return ChangedMeanwhile("The article",
                $"a text of {Saved.Text.Length} characters that begins "
                + $"“{(Saved.Text.Length > 120 ? Saved.Text[..120] + "…" : Saved.Text)}”.");
        }
        Kept();
        Tell("The article is saved, with its numbers as they are today.");
        return Redirect($"/studies/{study}/article");
    }

    public async Task<IActionResult> OnPostFreezeAsync(StudyId study, string? note, CancellationToken stop)
    {
        if (!await FindAsync(study, stop)) return NotFound();
        var words = ModelState.Text("note", note, most: 500);
        if (Saved.Text.Length == 0 || !ModelState.IsValid)
        {
            Tell(Saved.Text.Length == 0 ? "There is nothing to freeze: write and save first." : "Not frozen: the note is too long.");
            return Redirect($"/studies/{study}/article");
        }
        var read = await reader.ReadAsync(Study, Saved.Text, new Dictionary<string, string>(), false, stop);
        if (read.Unknown.Count > 0)
        {
            Tell($"Not frozen: this study has no {string.Join(", no ", read.Unknown)}. Put it right in the text and save, then freeze.");
            return Redirect($"/studies/{study}/article");
        }
        var number = await articles.FreezeAsync(Saved with { Numbers = read.Numbers }, read.Html, words, stop);
        return Redirect($"/studies/{study}/article/editions/{number}");
    }

    public async Task<IActionResult> OnPostSourceAsync(StudyId study, string? key, string? source, string? replaces, CancellationToken stop)
    {
        if (!await FindAsync(study, stop)) return NotFound();
        TypedSource = (key, source);
        var words = ModelState.Text("source", source, "Who said it, where and when?", 1000);
        if (!System.Text.RegularExpressions.Regex.IsMatch(key ?? "", "^[a-z0-9-]{1,40}$")) ModelState.AddModelError("key",
            "A key is up to 40 small letters, figures and hyphens, such as thole-1974.");
        var there = Sources.FirstOrDefault(s => s.Key == key);
        Replaces = there is not null && there.Text != words ? there : null;
        var asks = ModelState.IsValid && Replaces is not null && replaces != Seen.Of(there!.Text);
        if (asks) ModelState.AddModelError("key",
            $"{key} is there already: “{there!.Text}”. Save again to put yours in its place, or choose another key.");
        if (!ModelState.IsValid)
        {
            if (asks) Response.StatusCode = StatusCodes.Status409Conflict;
            (Title, Text, Version) = (Saved.Title, Saved.Text, Saved.Version);
            await ReadAsync(stop);
            return asks ? Page() : Again();
        }
        await articles.SaveSourceAsync(study, key!, words, stop);
        return Redirect($"/studies/{study}/article#sources");
    }

    public async Task<IActionResult> OnPostUncitedAsync(StudyId study, long id, CancellationToken stop)
    {
        if (await articles.RemoveSourceAsync(study, id, stop) is { } removed)
            Tell($"“{removed.Text}” is taken out.",
                $"/studies/{study}/article?handler=Source&key={removed.Key}&source={Uri.EscapeDataString(removed.Text)}");
        return Redirect($"/studies/{study}/article#sources");
    }

    private async Task ReadAsync(CancellationToken stop) => Read = await reader.ReadAsync(Study, Text ?? "", Saved.Numbers, true, stop);

    private async Task<bool> FindAsync(StudyId study, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return false;
        Saved = await articles.OfStudyAsync(study, stop);
        Editions = await articles.EditionsAsync(study, stop);
        Sources = await articles.SourcesAsync(study, stop);
        Claims = await claims.OfStudyAsync(study, stop);
        Ideas = await ideas.OfStudyAsync(study, stop);
        Recordings = await recordings.OfStudyAsync(study, stop);
        return true;
    }
}
