using System.Reflection;
using Markdig;
using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace InnerCadence.Web.Pages;

/// <summary>How to write count lines: docs/count-lines.md, shown inside the application.</summary>
public sealed class GuideModel : PageModel
{
    private static readonly Lazy<IHtmlContent> Rendered = new(() =>
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("count-lines.md")!;
        using var reader = new StreamReader(stream);
        return new HtmlString(Markdown.ToHtml(reader.ReadToEnd(), new MarkdownPipelineBuilder().UsePipeTables().Build()));
    });

    public IHtmlContent Text => Rendered.Value;
}
