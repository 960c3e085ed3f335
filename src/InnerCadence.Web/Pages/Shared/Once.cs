using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>
/// Gives every form that changes something a mark of its own, by which it is known when it comes twice. On a page that is the answer to one
/// button, the others go where they would have gone before.
/// </summary>
[HtmlTargetElement("form", Attributes = "method")]
public sealed class OnceTagHelper : TagHelper
{
    [ViewContext, HtmlAttributeNotBound]
    public ViewContext ViewContext { get; set; } = null!;

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        if (!string.Equals($"{context.AllAttributes["method"]?.Value}", "post", StringComparison.OrdinalIgnoreCase)) return;
        output.PostContent.AppendHtml($"<input type=\"hidden\" name=\"{Once.Field}\" value=\"{Guid.NewGuid():n}\">");
        var request = ViewContext.HttpContext.Request;
        if (request.Query.ContainsKey("handler") && !context.AllAttributes.ContainsName("action")
            && !context.AllAttributes.ContainsName("asp-page-handler")) output.Attributes.SetAttribute("action", Here.To(request));
    }
}

/// <summary>The same form with the same words twice within half a minute is a second click: it is done once, and both go where the first
/// one went.</summary>
public sealed class Once(TimeProvider time) : IAsyncPageFilter
{
    public const string Field = "once";
    private static readonly TimeSpan Second = TimeSpan.FromSeconds(30);
    private readonly ConcurrentDictionary<string, (DateTimeOffset At, TaskCompletionSource<string?> To)> done = [];

    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public async Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        var request = context.HttpContext.Request;
        if (!HttpMethods.IsPost(request.Method) || Beginning.FormOf(request) is not { Files.Count: 0 } form
            || form[Field] is not [{ Length: 32 }])
        {
            await next();
            return;
        }
        var now = time.GetUtcNow();
        foreach (var old in done.Where(d => now - d.Value.At > Second)) done.TryRemove(old);
        var mine = (now, new TaskCompletionSource<string?>(TaskCreationOptions.RunContinuationsAsynchronously));
        var (key, first) = (KeyOf(request), mine);
        while ((first = done.GetOrAdd(key, mine)) != mine)
        {
            if (await first.Item2.Task.WaitAsync(context.HttpContext.RequestAborted) is { } to)
            {
                context.Result = new RedirectResult(to);
                return;
            }
        }
        string? went = null;
        try
        {
            var after = await next();
            went = after.Exception is null && after.Result is RedirectResult redirect ? redirect.Url : null;
        }
        finally
        {
            // What was not done, or has a page as its answer, may be sent again.
            if (went is null) done.TryRemove(key, out _);
            mine.Item2.SetResult(went);
        }
    }

    private static string KeyOf(HttpRequest request)
    {
        var said = new StringBuilder(request.Path + request.QueryString.Value);
        foreach (var field in request.Form.Where(f => f.Key != "__RequestVerificationToken")
            .OrderBy(f => f.Key, StringComparer.Ordinal)) said.Append('\0').Append(field.Key).Append('\0')
            .AppendJoin('\0', field.Value.ToArray());
        return Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(said.ToString())));
    }
}
