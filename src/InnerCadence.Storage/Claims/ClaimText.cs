using System.Globalization;
using InnerCadence.Core.Claims;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Editing;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Ideas;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Storage.Claims;

/// <summary>One of the fixed set of tests as a person chooses it.</summary>
/// <param name="Fields">The fields that it has besides the player.</param>
public sealed record ClaimKind(string Word, string Says, string Example, params string[] Fields)
{
    public static IReadOnlyList<ClaimKind> All { get; } =
    [
        new("present", "It is in a share of the recordings", "in at least 30 % of her live recordings", "Idea", "Least", "Kind"),
        new("rate", "It comes so often", "at least 2 times in 100 bars", "Idea", "Least"),
        new("only-above", "Only from a tempo up", "only from 100 up", "Idea", "Tempo"),
        new("only-below", "Only below a tempo", "only below 90", "Idea", "Tempo"),
        new("only-section", "Only in one kind of section", "only in the verse", "Idea", "Section"),
        new("only-phrase-bar", "Only in one bar of the phrase", "only in the 4th bar of four", "Idea", "Bar", "Of"),
        new("never-before", "Never before a date", "never before 1966", "Idea", "Date"),
        new("more-than", "More often than another player", "more often than somebody else", "Idea", "Other"),
        new("first", "Before another player", "had it first", "Idea", "Other"),
        new("voice", "A drum at a place in a share of the bars", "the kick on the & of 4 in at least 40 % of bars", "Voice", "Place",
            "Meter", "Least"),
        new("late", "A drum behind or ahead of the one that keeps time",
            "her snare lies at least 5 ms behind the hat on at least half of her recordings",
            "Voice", "Against", "Late", "Least"),
        new("trait", "A trait in a share of the fills", "at least 30 % of her fills begin with the left hand", "Trait", "Least"),
    ];

    public static ClaimKind? Find(string? word) => All.FirstOrDefault(k => k.Word == word);

    public bool Has(string field) => Fields.Contains(field);
}

/// <summary>A claim as it is typed.</summary>
public sealed class ClaimText
{
    public string Test { get; set; } = "";
    public string? Player { get; set; }
    public string? Idea { get; set; }
    public string? Other { get; set; }
    public string? Least { get; set; }
    public string? Tempo { get; set; }
    public string? Kind { get; set; }
    public string? Section { get; set; }
    public string? Bar { get; set; }
    public string? Of { get; set; } = "4";
    public string? Date { get; set; }
    public string? Voice { get; set; }
    public string? Place { get; set; }
    public string? Meter { get; set; } = "4/4";
    public string? Trait { get; set; }
    /// <summary>Code of the voice that keeps time.</summary>
    public string? Against { get; set; }
    /// <summary>Milliseconds behind it; below zero ahead of it.</summary>
    public string? Late { get; set; }
    public string? Sentence { get; set; }
    public string? Note { get; set; }
    public int Version { get; set; }

    public ClaimKind ChosenKind => ClaimKind.Find(Test) ?? ClaimKind.All[0];

    public static ClaimText From(ClaimTest test, string sentence = "", string note = "", int version = 0)
    {
        static string Say(double number) => number.ToString("0.####", CultureInfo.InvariantCulture);
        var input = new ClaimText { Test = test.Word, Player = $"{test.Player}", Sentence = sentence, Note = note, Version = version };
        if (test is IdeaClaim of) input.Idea = $"{of.Idea}";
        switch (test)
        {
            case PresentIn t: (input.Least, input.Kind) = (Say(t.Share * 100), t.Kind?.Word); break;
            case RateAtLeast t: input.Least = Say(t.Per100); break;
            case OnlyTempo t: input.Tempo = Say(t.Tempo); break;
            case OnlyInSection t: input.Section = t.Section; break;
            case OnlyInPhraseBar t: (input.Bar, input.Of) = ($"{t.Bar}", $"{t.Of}"); break;
            case NeverBefore t: input.Date = t.Date.ToString(); break;
            case MoreThan t: input.Other = $"{t.Other}"; break;
            case HadItFirst t: input.Other = $"{t.Other}"; break;
            case VoiceAt t:
                (input.Voice, input.Place, input.Meter, input.Least) = (t.Voice.Code, CountNames.Place(t.At, t.Meter),
                t.Meter.ToString(), Say(t.Share * 100)); break;
            case LateBy t:
                (input.Voice, input.Against, input.Late, input.Least) =
                    (t.Voice.Code, t.Against.Code, Say(t.Milliseconds), Say(t.Share * 100)); break;
            case TraitIn t: (input.Trait, input.Least) = (t.Habit.Word, Say(t.Share * 100)); break;
        }
        return input;
    }

    /// <summary>The test, the sentence and the note; nothing where something cannot be read, which is told beside its field.</summary>
    /// <param name="tell">A field and what is wrong with it.</param>
    public (ClaimTest Test, string Sentence, string Note)? Read(Study study, IReadOnlyList<IdeaRow> ideas, Action<string, string> tell)
    {
        var bad = false;
        void Tell(string field, string message)
        {
            bad = true;
            tell(field, message);
        }
        Action<string> At(string field) => message => Tell(field, message);
        if (ClaimKind.Find(Test) is not { } kind)
        {
            Tell(nameof(Test), "Choose what the claim says.");
            return null;
        }
        var player = PlayerOf(Player, study) ?? study.Subject.Id.Value;
        var idea = ideas.FirstOrDefault(i => $"{i.Id}" == Idea)?.Id.Value ?? 0;
        if (kind.Has("Idea") && idea == 0) Tell(nameof(Idea), "Choose the idea that it is about.");
        var other = PlayerOf(Other, study) ?? 0;
        if (kind.Has("Other") && (other == 0 || other == player)) Tell(nameof(Other), "Choose another player of this study.");
        var least = kind.Has("Least") ? Number(Least, kind.Word == "rate" ? 1000 : 100) : 1;
        if (least is null) Tell(nameof(Least), kind.Word == "rate"
            ? "How often at least? Write a number above 0, such as 2 or 0.5, times in 100 bars."
            : "What share at least? Write a number above 0 and up to 100, in percent.");
        var tempo = kind.Has("Tempo") ? Typed.Tempo(Tempo, At(nameof(Tempo))) : null;
        if (kind.Has("Tempo") && string.IsNullOrWhiteSpace(Tempo)) Tell(nameof(Tempo),
            "At what tempo does it divide? Write quarters a minute, such as 100.");
        var section = kind.Has("Section") ? Typed.Text(Section, At(nameof(Section)), "Name the kind of section, such as verse.", 60)
            .ToLowerInvariant() : "";
        var of = kind.Has("Of") ? Typed.Number(Of, At(nameof(Of)), 2, 32, "a length of a phrase") : null;
        var bar = kind.Has("Bar") ? Typed.Number(Bar, At(nameof(Bar)), 1, of ?? 32, "a bar of the phrase") : null;
        if (kind.Has("Bar") && (string.IsNullOrWhiteSpace(Bar) || string.IsNullOrWhiteSpace(Of))) Tell(nameof(Bar),
            "Which bar, and of how many?");
        var date = kind.Has("Date") ? Typed.Date(Date, At(nameof(Date))) : null;
        if (kind.Has("Date") && string.IsNullOrWhiteSpace(Date)) Tell(nameof(Date),
            "Before when? Write a year, a month or a day: 1966, 1966-03, 1966-03-12.");
        var (voice, meter, at) = kind.Has("Place") ? PlaceOf(Tell) : default;
        var late = kind.Has("Late") ? LateOf(player, least ?? 100, Tell) : null;
        var habit = kind.Has("Trait") ? Habit.Find(Trait ?? "") : null;
        if (kind.Has("Trait") && habit is null) Tell(nameof(Trait), "Choose the trait.");
        var recordingKind = kind.Has("Kind") ? OneOf<RecordingKind>.Find(Kind) : null;
        var sentence = Typed.Text(Sentence, At(nameof(Sentence)), most: 500);
        var note = Typed.Text(Note, At(nameof(Note)), most: Typed.Note);
        if (bad) return null;
        ClaimTest test = kind.Word switch
        {
            "present" => new PresentIn(player, idea, least!.Value / 100, recordingKind),
            "rate" => new RateAtLeast(player, idea, least!.Value),
            "only-above" or "only-below" => new OnlyTempo(player, idea, tempo!.Value, kind.Word == "only-above"),
            "only-section" => new OnlyInSection(player, idea, section),
            "only-phrase-bar" => new OnlyInPhraseBar(player, idea, bar!.Value, of!.Value),
            "never-before" => new NeverBefore(player, idea, date!.Value),
            "more-than" => new MoreThan(player, idea, other),
            "first" => new HadItFirst(player, idea, other),
            "late" => late!,
            "voice" => new VoiceAt(player, voice!, meter!, at!.Value, least!.Value / 100),
            _ => new TraitIn(player, habit!, least!.Value / 100),
        };
        return (test, sentence.Length > 0 ? sentence : test.Sentence(NamesOf(study, ideas)), note);
    }

    /// <summary>How players and ideas of a study are called.</summary>
    public static Names NamesOf(Study study, IReadOnlyList<IdeaRow> ideas) =>
        new(study.Players.ToDictionary(p => p.Id.Value, p => p.Name), ideas.ToDictionary(i => i.Id.Value, i => i.Nickname));

    private LateBy? LateOf(long player, double least, Action<string, string> tell)
    {
        var (voice, against) = (Core.Music.Voice.Find(Voice?.Trim() ?? ""), Core.Music.Voice.Find(Against?.Trim() ?? ""));
        if (voice is null) tell(nameof(Voice), "Choose the drum.");
        if (against is null || against == voice) tell(nameof(Against), "Choose the drum that keeps time: another one.");
        var typed = (Late ?? "").Trim().Replace('−', '-').Replace("ms", "", StringComparison.Ordinal).Trim();
        if (!double.TryParse(typed, NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture,
            out var ms)
            || ms is 0 or < -200 or > 200)
        {
            tell(nameof(Late), "By how many milliseconds at least? Write a number up to 200, such as 5; below zero, such as -5, for "
                + "ahead.");
            return null;
        }
        return voice is null || against is null || against == voice ? null : new(player, voice, against, ms, least / 100);
    }

    private (Voice?, Meter?, Tick?) PlaceOf(Action<string, string> tell)
    {
        var voice = Core.Music.Voice.Find(Voice?.Trim() ?? "");
        if (voice is null) tell(nameof(Voice), "Choose the drum.");
        var meter = Core.Music.Meter.Parse(Meter?.Trim() ?? "");
        if (meter is null)
        {
            tell(nameof(Meter), $"‘{Meter}’ is no meter: write for example 4/4 or 7/8(2+2+3).");
            return default;
        }
        var at = Excerpt.Place(new Passage(new([meter]), 1, []), Place ?? "");
        if (at is null) tell(nameof(Place), $"‘{Place}’ is no place in a bar of {meter}: write it as it is counted, such as 1, 2& or 4a.");
        return (voice, meter, at);
    }

    private static long? PlayerOf(string? id, Study study) => study.Players.FirstOrDefault(p => $"{p.Id}" == id)?.Id.Value;

    private static double? Number(string? typed, double most) =>
        double.TryParse(typed?.Trim().TrimEnd('%').Trim(), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var number)
            && number > 0 && number <= most ? number : null;
}
