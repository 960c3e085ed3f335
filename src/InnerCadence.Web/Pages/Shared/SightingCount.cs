using InnerCadence.Core.Music;
using Microsoft.AspNetCore.Html;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>How many sightings a passage has, leading to them; none leads nowhere.</summary>
public static class SightingCount
{
    public static IHtmlContent Link(PassageId passage, int count) =>
        new HtmlString(count == 0 ? "<span class=\"quiet\">0</span>" : $"<a href=\"/passages/{passage}#found\">{count}</a>");
}
