using Microsoft.AspNetCore.Http.Extensions;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>The address of the page that is shown, with all that it was asked for.</summary>
public static class Here
{
    /// <param name="handler">What is to be done there; nothing for the page itself.</param>
    public static string To(HttpRequest request, string? handler = null)
    {
        var asked = new QueryBuilder(request.Query.Where(q => q.Key is not ("handler" or "begun"))
            .SelectMany(q => q.Value, (q, value) => KeyValuePair.Create(q.Key, value ?? "")));
        if (Beginning.Of(request, anew: false) is { } begun) asked.Add("begun", begun);
        if (handler is not null) asked.Add("handler", handler);
        return request.Path + asked.ToQueryString();
    }
}
