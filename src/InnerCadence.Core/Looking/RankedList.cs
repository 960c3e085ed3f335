using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>A place as the ear ranks it, and what was said of it; nothing before anybody heard it.</summary>
/// <param name="AtRandom">It was heard because it lies far down, not for its rank.</param>
public readonly record struct Ranked(long Recording, Seconds At, double Score, SaidThere? Said, bool AtRandom);

/// <summary>The list of an idea over many sounds: what waits, when going on is worth no more, and what it says of how often the idea
/// comes.</summary>
/// <remarks>sound.md, "Looking in the sound"; evidence.md, bars looked through.</remarks>
public sealed class RankedList
{
    /// <summary>So many wait at once; so many from further down are among them, so that what the list misses is judged too.</summary>
    private const int Shown = 20, FromBelow = 4;

    /// <summary>After so many in vain going on is hardly worth it.</summary>
    private const int Tired = 40;

    /// <summary>A known place so near in time is the same.</summary>
    private static readonly Seconds Same = new(0.4);

    private readonly IReadOnlyList<Ranked> places;
    private readonly ILookup<long, Seconds> known;
    private readonly bool[] isKnown;
    private readonly List<int> open;

    /// <param name="places">The best first.</param>
    /// <param name="known">Places confirmed without the ear, by recording.</param>
    public RankedList(IReadOnlyList<Ranked> places, ILookup<long, Seconds> known)
    {
        (this.places, this.known) = (places, known);
        isKnown = [.. places.Select(p => known[p.Recording].Any(at => IsSame(at, p.At)))];
        open = [.. Enumerable.Range(0, places.Count).Where(i => places[i].Said is null && !isKnown[i])];
        Vain = Enumerable.Range(0, places.Count).Reverse().Where(i => places[i].Said is not null || isKnown[i])
            .TakeWhile(i => places[i].Said != SaidThere.Yes && !isKnown[i]).Count();
    }

    /// <summary>It was known before the ear had it.</summary>
    public bool IsKnown(int place) => isKnown[place];

    /// <summary>What is to be heard next: the best, and some from far below.</summary>
    public IEnumerable<(int Place, bool FromBelow)> Waiting
    {
        get
        {
            var below = open.Skip(Shown).ToList();
            var step = Math.Max(1, below.Count / FromBelow);
            return open.Take(Shown).Select(i => (i, false))
                .Concat(below.Where((_, i) => below.Count <= FromBelow || i % step == step / 2).Take(FromBelow).Select(i => (i, true)));
        }
    }

    /// <summary>Of the last so many that were judged none was it.</summary>
    public int Vain { get; }
    public bool IsWorthNoMore => Vain >= Tired;

    /// <summary>Somebody judged its top, or knew it.</summary>
    public bool IsBegun => places.Count > 0 && (open.Count == 0 || open[0] > 0);

    /// <summary>What the list says of some recordings, down to where it was judged: every place above was heard, or was known.</summary>
    /// <param name="bars">Of them, looked through.</param>
    public LookedThrough Through(IReadOnlyCollection<long> recordings, int bars)
    {
        var judged = open.Count == 0 ? places.Count : open[0];
        var here = Enumerable.Range(0, places.Count).Where(i => recordings.Contains(places[i].Recording)).ToList();
        var above = here.Where(i => i < judged).ToList();
        // What was judged out of turn was chosen for its rank: it says nothing of those below.
        var below = here.Where(i => i >= judged && !isKnown[i] && (places[i].Said is null || places[i].AtRandom)).ToList();
        return new(bars, recordings.Sum(r => known[r].Count()),
            recordings.Sum(r => known[r].Count(at => above.Any(i => places[i].Recording == r && IsSame(at, places[i].At)))),
            above.Count(i => places[i].Said == SaidThere.Yes || isKnown[i]), below.Count, below.Count(i => places[i].Said is not null),
            below.Count(i => places[i].Said == SaidThere.Yes));
    }

    private static bool IsSame(Seconds a, Seconds b) => Math.Abs(a.Value - b.Value) < Same.Value;
}
