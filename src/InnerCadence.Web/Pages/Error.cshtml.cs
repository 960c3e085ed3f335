using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages;

/// <summary>What went wrong, the way out, and the text that was typed, so that nothing is lost.</summary>
[ResponseCache(NoStore = true), IgnoreAntiforgeryToken]
public sealed class ErrorModel(IAntiforgery antiforgery) : PageModel
{
    public string Heading { get; private set; } = "";
    public string Words { get; private set; } = "";
    public IReadOnlyList<(string Name, string Value)> Typed { get; private set; } = [];

    public Task OnGetAsync(int? status) => TellAsync(status);

    /// <summary>Only what already failed comes here without a token of its own.</summary>
    public async Task<IActionResult> OnPostAsync(int? status)
    {
        var failed = HttpContext.Features.Get<IStatusCodeReExecuteFeature>() is not null
            || HttpContext.Features.Get<IExceptionHandlerFeature>() is not null;
        if (!failed && !await antiforgery.IsRequestValidAsync(HttpContext)) return BadRequest();
        await TellAsync(status);
        return Page();
    }

    private async Task TellAsync(int? status)
    {
        (Heading, Words) = (status ?? Response.StatusCode) switch
        {
            404 => ("Not here", "There is nothing at this address; it may have been deleted. Deleted studies can be brought back from "
                + "the list of studies."),
            400 => ("Not understood", "The page had been open too long or was sent from elsewhere, so nothing was changed. Go back, "
                + "load the page again and send it once more."),
            413 => ("Too large", $"What was sent is larger than {UploadLimits.Body / 1024} KiB, so nothing was changed. Split it into "
                + $"several passages."),
            507 => ("The disk is full", "Nothing was changed. Make room on the disk that holds the data folder, then send it again."),
            503 => ("The database is away", "Nothing was changed. It may be starting, or was stopped; try again in a moment."),
            >= 500 => ("Something went wrong", "Nothing was changed. Try again; if it happens again, the log of ./start says why."),
            var other => ("Not possible", $"The server answered {other}; nothing was changed."),
        };
        try
        {
            if (Request.HasFormContentType)
                Typed = [.. (await Request.ReadFormAsync(HttpContext.RequestAborted))
                    .Where(f => f.Value.ToString().Length > 0 && !f.Key.StartsWith("__", StringComparison.Ordinal)
                    && f.Key is not (Once.Field or Beginning.Field or "seen"))
                    .Select(f => (f.Key.Replace("Input.", ""), f.Value.ToString()))];
        }
        catch (Exception e) when (e is IOException or InvalidDataException or BadHttpRequestException)
        {
            // The body could not be read: then there is nothing to give back.
        }
    }
}
