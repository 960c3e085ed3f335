using InnerCadence.Core.Music;
using InnerCadence.Storage.Studies;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>A page inside a study: the top bar shows the study and its steps.</summary>
public abstract class StudyPage(StudyStore studies) : PageModel
{
    public Study Study { get; private set; } = null!;
    protected StudyStore AllStudies { get; } = studies;

    /// <summary>False when there is no such study.</summary>
    protected async Task<bool> EnterAsync(StudyId id, CancellationToken stop)
    {
        if (await AllStudies.FindAsync(id, stop) is not { } study) return false;
        ViewData["Study"] = Study = study;
        return true;
    }

    /// <summary>Says on the next page what was done, with a way to undo it.</summary>
    protected void Tell(string text, string? undo = null)
    {
        TempData["Notice"] = text;
        if (undo is not null) TempData["Undo"] = undo;
    }

    /// <summary>Says on the next page that what was typed into this form is kept, so that its draft can go.</summary>
    protected void Kept() => TempData["Kept"] = Beginning.DraftOf(Request);

    /// <summary>The page again with what was typed and what is wrong with it.</summary>
    protected PageResult Again()
    {
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        return Page();
    }

    /// <summary>The page again because another tab saved meanwhile; what was typed stays, what is kept is told, and saving again
    /// overwrites.</summary>
    /// <param name="kept">What is kept now where it is not what was typed.</param>
    protected PageResult ChangedMeanwhile(string what, string kept)
    {
        ModelState.AddModelError("", $"{what} was changed in another tab meanwhile. What you typed is below; kept now is {kept} Save "
            + $"again to keep yours.");
        Response.StatusCode = StatusCodes.Status409Conflict;
        return Page();
    }

    /// <summary>The page again, as it is kept now, because it was changed after the page was opened on which the delete stood.</summary>
    /// <param name="kept">What is kept now where the stale page said something else.</param>
    protected PageResult NotDeleted(string what, string kept)
    {
        ModelState.Clear();
        ModelState.AddModelError("", $"{what} was changed after you opened this page: kept now is {kept} It is not deleted; look again, "
            + $"then delete it if you still mean it.");
        Response.StatusCode = StatusCodes.Status409Conflict;
        return Page();
    }

    /// <summary>The fields in which a kept form differs from a typed one: Title “Kelp Road”; Tempo “96”.</summary>
    protected static string Kept<T>(T typed, T kept) where T : notnull
    {
        var differing = typeof(T).GetProperties().Where(p => p.CanWrite && p.Name != "Version"
            && Said(p.GetValue(typed)) != Said(p.GetValue(kept)))
            .Select(p => Said(p.GetValue(kept)) is { Length: > 0 } said ? $"{p.Name} “{said}”" : $"{p.Name} empty").ToList();
        return differing.Count == 0 ? "the same." : string.Join("; ", differing) + ".";

        static string Said(object? value) => (value?.ToString() ?? "").ReplaceLineEndings("\n").Trim();
    }
}
