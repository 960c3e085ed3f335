using System.Text.Json;

namespace InnerCadence.Core.Tests;

/// <summary>The checked cases in <c>vectors/</c>, by name.</summary>
public static class Vectors
{
    public static IReadOnlyList<JsonElement> Of(string file)
    {
        using var stream = File.OpenRead(Path.Combine(AppContext.BaseDirectory, "vectors", file + ".json"));
        return [.. JsonDocument.Parse(stream).RootElement.Clone().EnumerateArray()];
    }

    public static TheoryData<string> Names(string file, Func<JsonElement, bool> which)
    {
        var data = new TheoryData<string>();
        foreach (var name in Of(file).Where(which).Select(c => c.GetProperty("name").GetString()!)) data.Add(name);
        return data;
    }

    public static JsonElement Named(string file, string name) => Of(file).Single(c => c.GetProperty("name").GetString() == name);

    public static JsonElement? Maybe(this JsonElement element, string name) => element.TryGetProperty(name, out var value) ? value : null;
}
