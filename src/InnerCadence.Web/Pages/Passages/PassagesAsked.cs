using InnerCadence.Storage.Passages;

namespace InnerCadence.Web.Pages.Passages;

/// <summary>What of a list of passages an address asks for.</summary>
public static class PassagesAsked
{
    private const int MostText = 200, MostTogether = 8;

    /// <summary>What cannot be read of it is as if it were not there.</summary>
    public static PassageFilter In(IQueryCollection query)
    {
        string? Word(string name) => query[name] is [{ Length: <= MostText } only] ? only : null;
        return new(PassageFacet.All.ToDictionary(f => f.Word, f => (IReadOnlyList<string>)[.. query[f.Word]
            .OfType<string>().Where(v => v.Length is > 0 and <= MostText).Distinct().Take(f.Several ? MostTogether : 1)]),
            (Word("q") ?? "").Trim(), PassageFilter.Sorts.Contains(Word("sort")) ? Word("sort")! : "recorded", Word("order") == "down");
    }

    /// <summary>Names and values that ask for the same again.</summary>
    public static List<(string Name, string Value)> Parts(PassageFilter filter)
    {
        var parts = filter.Asked.SelectMany(a => a.Value.Select(v => (Name: a.Key, Value: v))).ToList();
        if (filter.Text.Length > 0) parts.Add(("q", filter.Text));
        if (filter.Sort != "recorded") parts.Add(("sort", filter.Sort));
        if (filter.Descending) parts.Add(("order", "down"));
        return parts;
    }

    /// <summary>What stands after the path; nothing where nothing is asked.</summary>
    public static string Address(IReadOnlyCollection<(string Name, string Value)> parts) => parts.Count == 0 ? ""
        : "?" + string.Join('&', parts.Select(p => $"{p.Name}={Uri.EscapeDataString(p.Value)}"));
}
