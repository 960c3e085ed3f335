using System.Reflection;
using Markdig;
using Markdig.Renderers.Html;
using Markdig.Syntax;
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
        var pipeline = new MarkdownPipelineBuilder().UsePipeTables().Build();
        var text = Markdown.Parse(reader.ReadToEnd(), pipeline);
        // A long example scrolls, by keys too.
        foreach (var example in text.Descendants<CodeBlock>()) example.GetAttributes().AddProperty("tabindex", "0");
        return new HtmlString(text.ToHtml(pipeline));
    });

    public IHtmlContent Text => Rendered.Value;
}
