using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages;

/// <summary>What holds for the whole installation.</summary>
public sealed class SettingsModel(Judges judges) : PageModel
{
    [BindProperty]
    public string? Judge { get; set; }

    public async Task OnGetAsync(CancellationToken stop) => Judge = await judges.NameAsync(stop);

    public async Task<IActionResult> OnPostAsync(CancellationToken stop)
    {
        var name = ModelState.Text("Judge", Judge);
        if (!ModelState.IsValid)
        {
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
        await judges.SetNameAsync(name, stop);
        TempData["Notice"] = name.Length > 0 ? $"Judgements are kept as {name}’s." : "Judgements are kept without a name.";
        return Redirect("/settings");
    }
}
