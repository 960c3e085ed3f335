using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Core.Claims;

/// <summary>What a claim says in terms that evidence can decide: one of the fixed set of evidence.md, "Claims".</summary>
/// <param name="Player">Whose playing it is about.</param>
public abstract record ClaimTest(long Player)
{
    /// <summary>By which the test is called in an address and in the database.</summary>
    public abstract string Word { get; }

    /// <summary>The claim in plain words, for a reader who has the names.</summary>
    public abstract string Sentence(Names names);

    protected static string Percent(double share) => string.Create(CultureInfo.InvariantCulture, $"{share * 100:0.##} %");
    protected static string Number(double number) => string.Create(CultureInfo.InvariantCulture, $"{number:0.##}");
}

/// <summary>How the things that claims are about are called.</summary>
public sealed record Names(IReadOnlyDictionary<long, string> Players, IReadOnlyDictionary<long, string> Ideas)
{
    public string Player(long id) => Players.GetValueOrDefault(id, "somebody");
    public string Idea(long id) => Ideas.GetValueOrDefault(id, "a deleted idea");
}

/// <summary>Claims about one idea.</summary>
public abstract record IdeaClaim(long Player, long Idea) : ClaimTest(Player);

/// <summary>Present in at least a share of the recordings, of one kind or of all.</summary>
/// <param name="Kind">Nothing for all.</param>
public sealed record PresentIn(long Player, long Idea, double Share, RecordingKind? Kind) : IdeaClaim(Player, Idea)
{
    public override string Word => "present";
    public override string Sentence(Names names) =>
        $"{names.Idea(Idea)} is in at least {Percent(Share)} of {names.Player(Player)}’s {(Kind is { } kind ? $"{kind} " : "")}recordings";
}

public sealed record RateAtLeast(long Player, long Idea, double Per100) : IdeaClaim(Player, Idea)
{
    public override string Word => "rate";
    public override string Sentence(Names names) =>
        $"{names.Player(Player)} plays {names.Idea(Idea)} at least {Number(Per100)} times in 100 bars";
}

/// <summary>Only at this tempo and above, or only below it.</summary>
public sealed record OnlyTempo(long Player, long Idea, double Tempo, bool Above) : IdeaClaim(Player, Idea)
{
    public override string Word => Above ? "only-above" : "only-below";
    public override string Sentence(Names names) =>
        $"{names.Player(Player)} plays {names.Idea(Idea)} only {(Above ? "from" : "below")} {Number(Tempo)}{(Above ? " up" : "")}";
}

/// <summary>Only in one kind of section.</summary>
public sealed record OnlyInSection(long Player, long Idea, string Section) : IdeaClaim(Player, Idea)
{
    public override string Word => "only-section";
    public override string Sentence(Names names) => $"{names.Player(Player)} plays {names.Idea(Idea)} only in the {Section}";
}

/// <summary>Only in one bar of a phrase of so many.</summary>
public sealed record OnlyInPhraseBar(long Player, long Idea, int Bar, int Of) : IdeaClaim(Player, Idea)
{
    public override string Word => "only-phrase-bar";
    public override string Sentence(Names names) =>
        $"{names.Player(Player)} plays {names.Idea(Idea)} only in the {CountNames.Ordinal(Bar)} bar of {CountNames.Number(Of)}";
}

public sealed record NeverBefore(long Player, long Idea, PartialDate Date) : IdeaClaim(Player, Idea)
{
    public override string Word => "never-before";
    public override string Sentence(Names names) => $"{names.Player(Player)} never plays {names.Idea(Idea)} before {Date}";
}

public sealed record MoreThan(long Player, long Idea, long Other) : IdeaClaim(Player, Idea)
{
    public override string Word => "more-than";
    public override string Sentence(Names names) =>
        $"{names.Player(Player)} plays {names.Idea(Idea)} more often than {names.Player(Other)}";
}

public sealed record HadItFirst(long Player, long Idea, long Other) : IdeaClaim(Player, Idea)
{
    public override string Word => "first";
    public override string Sentence(Names names) => $"{names.Player(Player)} has {names.Idea(Idea)} before {names.Player(Other)}";
}

/// <summary>A voice at a place in at least a share of the bars of a meter.</summary>
/// <param name="At">Place in the bar.</param>
public sealed record VoiceAt(long Player, Voice Voice, Meter Meter, Tick At, double Share) : ClaimTest(Player)
{
    public override string Word => "voice";
    public override string Sentence(Names names) =>
        $"{names.Player(Player)}’s {Voice.Name} is on {CountNames.Spoken(At, Meter)} in at least {Percent(Share)} of bars in {Meter}";
}

/// <summary>A trait in at least a share of the fills.</summary>
public sealed record TraitIn(long Player, Habit Habit, double Share) : ClaimTest(Player)
{
    public override string Word => "trait";
    public override string Sentence(Names names) => $"At least {Percent(Share)} of {names.Player(Player)}’s fills {Habit.Says}";
}

/// <summary>A voice behind another by so many milliseconds on at least a share of the recordings that were measured.</summary>
/// <param name="Milliseconds">Behind at least; below zero: ahead at least.</param>
public sealed record LateBy(long Player, Voice Voice, Voice Against, double Milliseconds, double Share) : ClaimTest(Player)
{
    public override string Word => "late";
    public override string Sentence(Names names) =>
        $"{names.Player(Player)}’s {Voice.Name} lies at least {Number(Math.Abs(Milliseconds))} ms "
        + $"{(Milliseconds < 0 ? "ahead of" : "behind")} the {Against.Name} on at least {Percent(Share)} of recordings";

    /// <summary>Whether a recording on which it lies so far behind bears it out.</summary>
    public bool Holds(double behind) => Milliseconds < 0 ? behind <= Milliseconds : behind >= Milliseconds;
}
