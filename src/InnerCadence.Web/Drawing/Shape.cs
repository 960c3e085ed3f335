using System.Globalization;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using Microsoft.AspNetCore.Html;

namespace InnerCadence.Web.Drawing;

/// <summary>One element of a drawing: what a page shows as SVG, and what the scripts draw from JSON, are the same tree.</summary>
public sealed class Shape(string name)
{
    private static readonly XNamespace Svg = "http://www.w3.org/2000/svg";
    private readonly List<(string Name, string Value)> attributes = [];
    private readonly List<Shape> children = [];
    private string? text;

    public Shape With(string attribute, string value)
    {
        attributes.Add((attribute, value));
        return this;
    }

    public Shape With(string attribute, double value) => With(attribute, Math.Round(value, 2).ToString(CultureInfo.InvariantCulture));

    public Shape Add(Shape child)
    {
        children.Add(child);
        return this;
    }

    public Shape Saying(string words)
    {
        text = words;
        return this;
    }

    public IHtmlContent AsMarkup() => new HtmlString(AsElement().ToString(SaveOptions.DisableFormatting));

    /// <summary>[name, {attribute: value}, text or [children]].</summary>
    public JsonArray AsJson()
    {
        var named = new JsonObject();
        foreach (var (attribute, value) in attributes) named[attribute] = value;
        return [name, named, text is not null ? text : new JsonArray([.. children.Select(c => (JsonNode)c.AsJson())])];
    }

    private XElement AsElement() => new(
        Svg + name, attributes.Select(a => new XAttribute(a.Name, a.Value)), text, children.Select(c => c.AsElement()));

    public static Shape Line(string look, double x1, double y1, double x2, double y2) =>
        new Shape("line").With("class", look).With("x1", x1).With("y1", y1).With("x2", x2).With("y2", y2);

    public static Shape Text(string look, double x, double y, string words) =>
        new Shape("text").With("class", look).With("x", x).With("y", y).Saying(words);

    public static Shape Rect(string look, double x, double y, double width, double height) =>
        new Shape("rect").With("class", look).With("x", x).With("y", y).With("width", width).With("height", height);
}
