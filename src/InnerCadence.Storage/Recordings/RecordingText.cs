using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Storage.Recordings;

/// <summary>A recording as it is typed, into a form or a file.</summary>
public class RecordingText
{
    public string? Title { get; set; }
    public string? Take { get; set; }
    /// <summary>Name or number; the subject where nothing is typed.</summary>
    public string? Player { get; set; }
    public string? Sure { get; set; } = Certainty.Certain.Word;
    public string? Ensemble { get; set; }
    public string? Release { get; set; }
    public string? Recorded { get; set; }
    public string? Issued { get; set; }
    public string? Kind { get; set; } = RecordingKind.Studio.Word;
    public string? Meter { get; set; } = "4/4";
    public string? Tempo { get; set; }
    public string? TempoRead { get; set; } = TempoReading.AsWritten.Word;
    public string? Duration { get; set; }
    public string? TotalBars { get; set; }
    public string? Kit { get; set; }
    public string? Searched { get; set; }
    public string? Closeness { get; set; } = "listened";
    public string? SearchedOn { get; set; }
    public string? Note { get; set; }

    /// <summary>Which comes first in dates of three figures, where a file shows it.</summary>
    public DayMonth DayMonth { get; set; }

    public static readonly IReadOnlyList<string> ClosenessWords = ["skimmed", "listened", "transcribed"];

    /// <summary>Nothing, with every problem told beside its field, where one cannot be read.</summary>
    public RecordingDraft? Read(Study study, Action<string, string> tell)
    {
        var good = true;
        Action<string> At(string field) => message =>
        {
            good = false;
            tell(field, message);
        };
        var player = string.IsNullOrWhiteSpace(Player) ? study.Subject
            : study.Players.FirstOrDefault(p => p.Id.ToString() == Player.Trim()
                || string.Equals(p.Name, Player.Trim(), StringComparison.OrdinalIgnoreCase));
        if (player is null) At(nameof(Player))(
            $"The study has no player {Player}: add the name to the study first, or choose "
            + $"{string.Join(", ", study.Players.Select(p => p.Name))}.");
        var draft = new RecordingDraft
        {
            PlayerId = player?.Id ?? default,
            Title = Typed.Text(Title, At(nameof(Title)), "Which piece is it? Write its title."),
            Take = Typed.Text(Take, At(nameof(Take))),
            Sure = Typed.Choice<Certainty>(Or(Sure, Certainty.Certain.Word), At(nameof(Sure))),
            Ensemble = Typed.Text(Ensemble, At(nameof(Ensemble))),
            Release = Typed.Text(Release, At(nameof(Release))),
            Recorded = Typed.Date(Recorded, At(nameof(Recorded)), DayMonth),
            Issued = Typed.Date(Issued, At(nameof(Issued)), DayMonth),
            Kind = ReadKind(At(nameof(Kind))),
            Meter = Typed.Meters(Meter, At(nameof(Meter))),
            Tempo = Typed.Tempo(Tempo, At(nameof(Tempo))),
            TempoRead = Typed.Choice<TempoReading>(Or(TempoRead, TempoReading.AsWritten.Word), At(nameof(TempoRead))),
            Duration = Typed.Clock(Duration, At(nameof(Duration))),
            TotalBars = Typed.Number(TotalBars, At(nameof(TotalBars)), 1, Typed.Bars, "a number of bars"),
            Kit = Typed.Toms(Kit, At(nameof(Kit))),
            Note = Typed.Text(Note, At(nameof(Note)), most: Typed.Note),
        };
        draft = draft with
        {
            RecordedSaid = Typed.Said(Recorded, draft.Recorded),
            IssuedSaid = Typed.Said(Issued, draft.Issued),
            TempoSaid = Typed.Said(Tempo, draft.Tempo?.ToString("0.###", CultureInfo.InvariantCulture)),
        };
        if (draft.Duration is { Milliseconds: 0 }) At(nameof(Duration))(
            "A recording lasts longer than nothing: write minutes and seconds, such as 3:12.");
        if (draft is { Recorded: { } made, Issued: { } out_ } && out_.Latest < made.Earliest)
            At(nameof(Issued))("It cannot have been issued before it was recorded: put one of the dates right.");
        return good ? draft : null;
    }

    /// <summary>What was searched, where it is said.</summary>
    public CoverageDraft? ReadSearched(DateOnly today, Action<string, string> tell)
    {
        var good = true;
        Action<string> At(string field) => message =>
        {
            good = false;
            tell(field, message);
        };
        var total = int.TryParse(TotalBars, out var n) ? n : (int?)null;
        var nothing = string.IsNullOrWhiteSpace(Searched) || Searched.Trim() == "0";
        var spans = nothing ? null : Typed.Searched(Searched, Typed.Bars);
        if (!nothing && spans is null) At(nameof(Searched))(
            $"‘{Searched}’ is not a number of bars: write how many, such as 40, or which, such as 1-40 or 1-16, 33-48.");
        var closeness = Typed.Choice(Or(Closeness, "listened"), ClosenessWords, At(nameof(Closeness)));
        var on = today;
        if (!string.IsNullOrWhiteSpace(SearchedOn) && !DateOnly.TryParseExact(SearchedOn.Trim(), "yyyy-MM-dd",
            CultureInfo.InvariantCulture, DateTimeStyles.None, out on))
            At(nameof(SearchedOn))($"‘{SearchedOn}’ is no day: write it as 2026-03-12.");
        if (total is { } all && spans?.Max(x => (x.From ?? 1) + x.Bars - 1) is { } last && last > all)
            At(nameof(Searched))($"The recording has {all} bars: "
                + $"{(spans[0].From is null ? $"{last} cannot have" : $"bar {last} cannot have")} been searched.");
        return spans is { Count: > 0 } && good ? new(Enum.Parse<Closeness>(closeness, true), spans[0].From, spans[0].Bars, [],
            on)
        { Also = [.. spans.Skip(1).Select(m => (m.From!.Value, m.Bars))] } : null;
    }

    /// <summary>Empties a field that cannot be read, so that the rest of a row is not lost with it; gives back what stood there.</summary>
    /// <returns>Nothing for a field without which it is no recording.</returns>
    public (string Name, string Words)? Leave(string field)
    {
        (string, string)? Left(string name, string? words, Action empty)
        {
            empty();
            return (name, words?.Trim() ?? "");
        }
        return field switch
        {
            nameof(Sure) => Left("how sure", Sure, () => Sure = null),
            nameof(Recorded) => Left("recorded", Recorded, () => Recorded = null),
            nameof(Issued) => Left("issued", Issued, () => Issued = null),
            nameof(Kind) => Left("kind", Kind, () => Kind = null),
            nameof(Meter) => Left("meter", Meter, () => Meter = null),
            nameof(Tempo) => Left("tempo", Tempo, () => Tempo = null),
            nameof(TempoRead) => Left("tempo read as", TempoRead, () => TempoRead = null),
            nameof(Duration) => Left("lasts", Duration, () => Duration = null),
            nameof(TotalBars) => Left("bars", TotalBars, () => TotalBars = null),
            nameof(Kit) => Left("kit", Kit, () => Kit = null),
            nameof(Searched) => Left("bars searched", Searched, () => Searched = null),
            nameof(Closeness) => Left("how closely", Closeness, () => Closeness = null),
            nameof(SearchedOn) => Left("searched on", SearchedOn, () => SearchedOn = null),
            _ => null,
        };
    }

    /// <summary>Where it was fixed, also in other words for it.</summary>
    private RecordingKind ReadKind(Action<string> tell) => RecordingKind.Called(Or(Kind, RecordingKind.Studio.Word))
        ?? Typed.Choice<RecordingKind>(Kind, tell);

    private static string Or(string? typed, string usual) => string.IsNullOrWhiteSpace(typed) ? usual : typed;
}
