using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages;

/// <summary>What holds for the whole installation.</summary>
public sealed class SettingsModel(Judges judges, Storage.Practice practice) : PageModel
{
    [BindProperty]
    public string? Judge { get; set; }

    /// <summary>Strokes a second: one hand, a burst of it, doubles of two, one foot, a double of it.</summary>
    [BindProperty]
    public string?[] Limit { get; set; } = [];
    public string? LimitProblem { get; private set; }

    public static IReadOnlyList<string> LimitNames { get; } = ["one hand, kept up", "one hand, in a burst", "doubles of two hands", "one foot, kept up", "a double of one foot"];

    public async Task OnGetAsync(CancellationToken stop)
    {
        Judge = await judges.NameAsync(stop);
        Show(await practice.SetLimitsAsync(stop));
    }

    public async Task<IActionResult> OnPostLimitsAsync(CancellationToken stop)
    {
        var read = Limit.Select(l => double.TryParse(l, System.Globalization.NumberStyles.AllowDecimalPoint, System.Globalization.CultureInfo.InvariantCulture, out var n) && n is >= 1 and <= 40 ? n : 0).ToArray();
        if (read.Length != 5 || read.Contains(0))
        {
            Judge = await judges.NameAsync(stop);
            LimitProblem = "Strokes a second are numbers from 1 to 40.";
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
        await practice.SaveLimitsAsync(new() { Hand = read[0], HandBurst = read[1], Doubles = read[2], Foot = read[3], FootDouble = read[4] }, stop);
        TempData["Notice"] = "Limits are kept.";
        return Redirect("/settings");
    }

    private void Show(Core.Hands.Limits limits) =>
        Limit = [.. new[] { limits.Hand, limits.HandBurst, limits.Doubles, limits.Foot, limits.FootDouble }.Select(l => l.ToString("0.#", System.Globalization.CultureInfo.InvariantCulture))];

    public async Task<IActionResult> OnPostAsync(CancellationToken stop)
    {
        var name = ModelState.Text("Judge", Judge);
        if (!ModelState.IsValid)
        {
            Show(await practice.SetLimitsAsync(stop));
            Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
            return Page();
        }
        await judges.SetNameAsync(name, stop);
        TempData["Notice"] = name.Length > 0 ? $"Judgements are kept as {name}’s." : "Judgements are kept without a name.";
        return Redirect("/settings");
    }
}
