using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Compare;
using InnerCadence.Web.Pages.Shared;

namespace InnerCadence.Web.Pages.Ideas;

/// <summary>Which places of an idea a list shows, as it stands in the address: behind every number is the list of exactly what it
/// counts.</summary>
public sealed record PlaceQuery
{
    /// <summary>What can be asked for; nothing for all of it.</summary>
    public static readonly IReadOnlyList<string> Shows = ["counted", "confirmed", "outside", "near-miss", "waiting", "rejected"];

    public string? Show { get; private init; }
    public PassageScope Scope { get; private init; } = null!;
    /// <summary>A side of Compare; nothing for everybody.</summary>
    public ComparedSide? Side { get; private init; }
    /// <summary>Only recordings that count as searched.</summary>
    public bool SearchedOnly { get; private init; }
    public Division? By { get; private init; }
    /// <summary>Of the division; several where small parts stand in one row.</summary>
    public IReadOnlyList<string> Parts { get; private init; } = [];

    public static PlaceQuery Of(IQueryCollection query, Study study, IReadOnlyList<Recording> recordings) => new()
    {
        Show = Shows.FirstOrDefault(s => s == query["show"]),
        Scope = PassageScope.Of(query, study, recordings),
        Side = query["side"].ToString() is { Length: > 0 } word ? ComparedSide.Of(study, [.. recordings.Select(Attributes.Of)])
            .FirstOrDefault(s => s.Word == word) : null,
        SearchedOnly = query["in"] == "searched",
        By = Division.Find(query["by"]),
        Parts = [.. query["part"].OfType<string>().Where(p => p.Length is > 0 and < 200)],
    };

    public bool Takes(Recording recording) => Scope.Takes(recording) && (Side is null || Side.Takes(recording));

    public bool Takes(Performance performance, Appearance place) => (!SearchedOnly || performance.IsSearched)
        && (By is null || Parts.Count == 0 || Parts.Contains(By.PartOf(performance, place)));

    /// <summary>As it stands in an address, without its question mark.</summary>
    public IEnumerable<string> Address
    {
        get
        {
            if (Show is not null) yield return $"show={Show}";
            if (Side is not null) yield return $"side={Uri.EscapeDataString(Side.Word)}";
            if (SearchedOnly) yield return "in=searched";
            if (By is not null && Parts.Count > 0) yield return $"by={By.Word}";
            if (By is not null) foreach (var part in Parts) yield return $"part={Uri.EscapeDataString(part)}";
            if (Scope.Query.Length > 0) yield return Scope.Query[1..];
        }
    }

    /// <summary>In words; empty where everything is shown.</summary>
    public string Words => string.Join(", ", new[]
    {
        Show switch { null => "", "counted" => "what the numbers count", "outside" => "outside what was searched", "waiting" =>
            "waits for judgement", var show => show.Replace('-', ' ') },
        Side?.Name ?? "", SearchedOnly ? "recordings that count as searched" : "",
        By is not null && Parts.Count > 0
            ? $"{By.Name}: {string.Join(", ", Parts.Select(p => p == Division.Unknown ? By.UnknownName : p))}" : "", Scope.Words,
    }.Where(words => words.Length > 0));

    /// <summary>The list behind a number, for a link.</summary>
    public static string Link(IdeaId idea, string show, params IEnumerable<string> more) =>
        $"/ideas/{idea}?show={show}{string.Concat(more.Where(m => m.Length > 0).Select(m => "&" + m))}#concordance";

    public static string OfPlayer(PlayerId player) => $"player={player}";
}
