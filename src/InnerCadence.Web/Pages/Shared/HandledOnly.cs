using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>A page that has no answer to a method says so; without it the view is shown for a page that nobody filled.</summary>
public sealed class HandledOnly : IAsyncPageFilter
{
    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public async Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        var method = context.HttpContext.Request.Method;
        if (context.HandlerMethod is null && !HttpMethods.IsGet(method) && !HttpMethods.IsHead(method)) context.Result =
            new StatusCodeResult(StatusCodes.Status405MethodNotAllowed);
        else await next();
    }
}
