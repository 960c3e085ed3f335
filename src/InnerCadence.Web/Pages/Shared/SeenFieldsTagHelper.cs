using System.Globalization;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>What a page showed of a thing, sent along with its deletion, so that whoever deletes from a stale page is told what
/// changed.</summary>
[HtmlTargetElement("seen-fields", TagStructure = TagStructure.WithoutEndTag)]
public sealed class SeenFieldsTagHelper : TagHelper
{
    public required ModelExpression For { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        output.TagName = null;
        foreach (var field in For.Model.GetType().GetProperties().Where(p => p.CanWrite && p.GetValue(For.Model) is string or bool or int))
        {
            var input = new TagBuilder("input") { TagRenderMode = TagRenderMode.SelfClosing };
            input.Attributes["type"] = "hidden";
            input.Attributes["name"] = $"{For.Name}.{field.Name}";
            input.Attributes["value"] = string.Create(CultureInfo.InvariantCulture, $"{field.GetValue(For.Model)}");
            output.Content.AppendHtml(input);
        }
    }
}
