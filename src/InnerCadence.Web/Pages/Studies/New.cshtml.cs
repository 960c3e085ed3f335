using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages.Studies;

/// <summary>Pages with the fields of a study.</summary>
public interface IStudyForm
{
    StudyInput Input { get; }
}

public sealed class NewStudyModel(StudyStore studies) : PageModel, IStudyForm
{
    [BindProperty]
    public StudyInput Input { get; set; } = new();

    public void OnGet()
    {
    }

    public async Task<IActionResult> OnPostAsync(CancellationToken stop)
    {
        if (Input.Read(ModelState) is not { } draft)
        {
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
        TempData["Kept"] = Beginning.DraftOf(Request);
        return Redirect($"/studies/{await studies.AddAsync(draft, stop)}");
    }
}
