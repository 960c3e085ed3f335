using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>What is begun on a page that makes something new has a mark of its own, so that the draft of one is never taken for
/// another's.</summary>
public static partial class Beginning
{
    public const string Field = "begun";

    /// <param name="anew">Begin, where nothing was begun yet.</param>
    public static string? Of(HttpRequest request, bool anew)
    {
        var said = FormOf(request)?[Field] is [{ } typed] ? typed : (string?)request.Query[Field];
        return said is not null && Mark().IsMatch(said) ? said : anew ? Guid.NewGuid().ToString("n")[..12] : null;
    }

    /// <summary>The name under which a browser keeps the draft of what was sent.</summary>
    public static string DraftOf(HttpRequest request) => Of(request, anew: false) is { } begun ? $"{request.Path}?{Field}={begun}"
        : $"{request.Path}";

    /// <summary>What was sent; nothing where it is no form, or a broken one.</summary>
    public static IFormCollection? FormOf(HttpRequest request)
    {
        try
        {
            return request.HasFormContentType ? request.Form : null;
        }
        catch (Exception e) when (e is InvalidDataException or BadHttpRequestException)
        {
            return null;
        }
    }

    [GeneratedRegex("^[a-z0-9]{8,32}$")]
    private static partial Regex Mark();
}

/// <summary>Stands in a form that makes something new.</summary>
[HtmlTargetElement("beginning", TagStructure = TagStructure.WithoutEndTag)]
public sealed class BeginningTagHelper : TagHelper
{
    [ViewContext, HtmlAttributeNotBound]
    public ViewContext ViewContext { get; set; } = null!;

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        (output.TagName, output.TagMode) = ("input", TagMode.SelfClosing);
        output.Attributes.SetAttribute("type", "hidden");
        output.Attributes.SetAttribute("name", Beginning.Field);
        output.Attributes.SetAttribute("value", Beginning.Of(ViewContext.HttpContext.Request, anew: true));
    }
}
