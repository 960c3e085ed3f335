using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.Razor.TagHelpers;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>
/// A label, a field and what is wrong with it: <c>&lt;field for="Input.Title" label="Title" /&gt;</c>.
/// With <see cref="Options"/> it is a choice, with <see cref="Rows"/> a text of several lines.
/// </summary>
[HtmlTargetElement("field", TagStructure = TagStructure.WithoutEndTag)]
public sealed class FieldTagHelper(IHtmlGenerator generator) : TagHelper
{
    public required ModelExpression For { get; set; }
    public required string Label { get; set; }
    public string? Hint { get; set; }
    public int Rows { get; set; }
    public string Look { get; set; } = "";
    /// <summary>A datalist of the page, whose texts are offered.</summary>
    public string? List { get; set; }
    /// <summary>The caret stands in it at once.</summary>
    public bool First { get; set; }
    public IEnumerable<(string Value, string Text)>? Options { get; set; }

    [ViewContext, HtmlAttributeNotBound]
    public ViewContext ViewContext { get; set; } = null!;

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var id = For.Name.Replace('.', '_');
        var error = ViewContext.ModelState.TryGetValue(For.Name, out var state) && state.Errors.Count > 0 ? state.Errors[0].ErrorMessage
            : null;
        var attributes = new Dictionary<string, object?> { ["class"] = Options is null ? "form-control" : "form-select", ["id"] = id };
        if (error is not null)
        {
            attributes["aria-invalid"] = "true";
            attributes["aria-describedby"] = id + "-error";
        }
        if (Hint is not null && Options is null) attributes["placeholder"] = Hint;
        if (List is not null) attributes["list"] = List;
        if (First) attributes["autofocus"] = "autofocus";

        output.TagName = "div";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", Look);
        var label = new TagBuilder("label");
        label.Attributes["for"] = id;
        label.InnerHtml.Append(Label);
        output.Content.AppendHtml(label);
        output.Content.AppendHtml(Field(attributes));
        if (error is null) return;
        var problem = new TagBuilder("p");
        problem.AddCssClass("field-error");
        problem.Attributes["id"] = id + "-error";
        problem.InnerHtml.Append(error);
        output.Content.AppendHtml(problem);
    }

    private TagBuilder Field(Dictionary<string, object?> attributes)
    {
        if (Options is not null)
        {
            var items = Options.Select(o => new SelectListItem(o.Text, o.Value));
            return generator.GenerateSelect(ViewContext, For.ModelExplorer, null, For.Name, items, false, attributes);
        }
        return Rows > 0
            ? generator.GenerateTextArea(ViewContext, For.ModelExplorer, For.Name, Rows, 40, attributes)
            : generator.GenerateTextBox(ViewContext, For.ModelExplorer, For.Name, For.Model, null, attributes);
    }
}
