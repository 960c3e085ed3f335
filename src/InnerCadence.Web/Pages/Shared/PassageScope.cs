using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>Which passages a view is about, as it stands in the address.</summary>
public sealed record PassageScope
{
    public PlayerId? Player { get; private init; }
    public RecordingId? Recording { get; private init; }
    public RecordingKind? RecordingKind { get; private init; }
    public string Ensemble { get; private init; } = "";
    public string Kind { get; private init; } = "";
    /// <summary>Part of a section's name.</summary>
    public string Section { get; private init; } = "";
    public int? From { get; private init; }
    public int? To { get; private init; }
    public IReadOnlyList<Player> Players { get; private init; } = [];
    public IReadOnlyList<string> Ensembles { get; private init; } = [];
    public IReadOnlyList<(RecordingId Id, string Name)> Recordings { get; private init; } = [];

    /// <summary>What cannot be read, or is not in the study, filters nothing.</summary>
    public static PassageScope Of(IQueryCollection query, Study study, IReadOnlyList<WrittenPassage> all) =>
        Of(query, study, all.Select(p => p.Ensemble), [.. all.Select(p => (p.RecordingId, p.RecordingName)).Distinct()]);

    public static PassageScope Of(IQueryCollection query, Study study, IReadOnlyList<Recording> all) =>
        Of(query, study, all.Select(r => r.Ensemble), [.. all.Select(r => (r.Id, r.Name))]);

    private static PassageScope Of(IQueryCollection query, Study study, IEnumerable<string> named,
        IReadOnlyList<(RecordingId RecordingId, string Name)> recordings)
    {
        var ensembles = named.Where(e => e.Length > 0).Distinct().Order(StringComparer.Ordinal).ToList();
        string Word(string name) => query[name].ToString();
        int? Year(string name) => int.TryParse(Word(name), NumberStyles.None, CultureInfo.InvariantCulture, out var year)
            && year is > 1800 and < 2200 ? year : null;
        return new()
        {
            Players = study.Players,
            Ensembles = ensembles,
            Recordings = recordings,
            Player = PlayerId.TryParse(Word("player"), out var player) && study.Players.Any(p => p.Id == player) ? player : null,
            Recording = RecordingId.TryParse(Word("recording"), out var recording) && recordings.Any(r => r.RecordingId == recording)
                ? recording : null,
            RecordingKind = OneOf<RecordingKind>.Find(Word("recordingKind")),
            Ensemble = ensembles.Contains(Word("ensemble")) ? Word("ensemble") : "",
            Kind = OneOf<PassageKind>.Words.Contains(Word("kind")) ? Word("kind") : "",
            Cautious = Word("cautious") == "true",
            Section = Word("section") is { Length: <= 100 } section && !Typed.HasUnkeepable(section) ? section.Trim() : "",
            From = Year("from"),
            To = Year("to"),
        };
    }

    /// <summary>Without what rests on unsure or unheard strokes.</summary>
    public bool Cautious { get; private init; }

    public bool Takes(Recording r) => (Player is null || r.PlayerId == Player) && (Recording is null || r.Id == Recording)
        && (RecordingKind is null || r.Kind == RecordingKind)
        && (Ensemble.Length == 0 || r.Ensemble == Ensemble) && (From is null || r.RecordedFrom?.Year >= From)
            && (To is null || r.RecordedFrom?.Year <= To);

    public bool Takes(WrittenPassage p) => (Player is null || p.PlayerId == Player) && (Recording is null || p.RecordingId == Recording)
        && (RecordingKind is null || p.RecordingKind == RecordingKind)
        && (Ensemble.Length == 0 || p.Ensemble == Ensemble)
            && (Section.Length == 0 || p.Section.Contains(Section, StringComparison.OrdinalIgnoreCase))
            && (Kind.Length == 0 || p.Kind.Word == Kind)
        && (From is null || p.RecordedFrom?.Year >= From) && (To is null || p.RecordedFrom?.Year <= To);

    private IEnumerable<(string Name, string Value)> Parts
    {
        get
        {
            if (Player is { } player) yield return ("player", player.ToString());
            if (Recording is { } recording) yield return ("recording", recording.ToString());
            if (RecordingKind is { } kind) yield return ("recordingKind", kind.Word);
            if (Ensemble.Length > 0) yield return ("ensemble", Ensemble);
            if (Kind.Length > 0) yield return ("kind", Kind);
            if (Section.Length > 0) yield return ("section", Section);
            if (Cautious) yield return ("cautious", "true");
            if (From is { } from) yield return ("from", from.ToString(CultureInfo.InvariantCulture));
            if (To is { } to) yield return ("to", to.ToString(CultureInfo.InvariantCulture));
        }
    }

    /// <summary>As it stands in an address, with its question mark; empty where nothing is filtered.</summary>
    public string Query => Parts.Any() ? "?" + string.Join('&', Parts.Select(p => $"{p.Name}={Uri.EscapeDataString(p.Value)}")) : "";

    public string Words => string.Join(", ", Parts.Select(p => p.Name switch
    {
        "player" => Players.First(x => x.Id == Player).Name,
        "recording" => Recordings.First(x => x.Id == Recording).Name,
        "cautious" => "nothing unsure",
        "from" => $"from {p.Value}",
        "to" => $"up to {p.Value}",
        _ => p.Value,
    }));
}
