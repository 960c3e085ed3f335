using System.Collections.Immutable;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>The strokes of a passage that an idea can see, in the order in which they sound; a looped passage runs on over its
/// repetitions.</summary>
internal sealed class Field
{
    private Field(Passage passage, Stroke[] strokes, int[] at, int loopStrokes, bool[]? inScope)
    {
        (Passage, Strokes, At, LoopStrokes, this.inScope) = (passage, strokes, at, loopStrokes, inScope);
        var (ticks, firsts, masks, seen) = (new List<int>(at.Length), new List<int>(at.Length + 1), new List<int>(at.Length),
            new List<bool>(at.Length));
        for (var i = 0; i < at.Length; i++)
        {
            if (ticks.Count == 0 || ticks[^1] != at[i])
            {
                ticks.Add(at[i]);
                firsts.Add(i);
                masks.Add(0);
                seen.Add(false);
            }
            masks[^1] |= BitsOf(strokes[i].Voice);
            seen[^1] |= InScope(i);
        }
        firsts.Add(at.Length);
        (MomentTicks, MomentFirsts, MomentMasks, MomentInScope) = ([.. ticks], [.. firsts], [.. masks], [.. seen]);
        LoopMoments = loopStrokes == at.Length ? ticks.Count : MomentOf(loopStrokes);
    }

    private readonly bool[]? inScope;

    public Passage Passage { get; }
    public Stroke[] Strokes { get; }
    /// <summary>Where each stroke sounds, in ticks.</summary>
    public int[] At { get; }
    /// <summary>How many of the strokes are written; those after them are repetitions.</summary>
    public int LoopStrokes { get; }
    public int LoopMoments { get; }
    public int[] MomentTicks { get; }
    /// <summary>Index of the first stroke of each moment, and one past the last stroke of all.</summary>
    public int[] MomentFirsts { get; }
    /// <summary>Which families and limbs sound at each moment.</summary>
    public int[] MomentMasks { get; }
    /// <summary>Whether a stroke of the scope sounds at each moment.</summary>
    public bool[] MomentInScope { get; }
    /// <summary>False for a crash that is here only because an ending may fall on it.</summary>
    public bool InScope(int stroke) => inScope is null || inScope[stroke];
    /// <summary>Every stroke of a window is seen: none is there for an ending alone, none belongs to a bed.</summary>
    public bool SeesAll { get; private init; }
    /// <summary>Zero when the passage does not repeat.</summary>
    public int LoopLength => Passage.Looped ? Passage.Length.Value : 0;

    public static Field Of(Passage passage, ImmutableHashSet<Voice> scope, Rules rules, int longestWindow)
    {
        var inScope = new bool[33];
        foreach (var voice in scope) inScope[voice.Order] = true;
        var written = new List<(Stroke Stroke, int At)>(passage.Strokes.Count);
        foreach (var stroke in passage.Strokes)
        {
            if (!(inScope[stroke.Voice.Order] || (rules.Ending == EndingRule.CrashToo && stroke.Voice.Family == Family.Crash))
                || !rules.Sees(stroke)) continue;
            written.Add((stroke, (rules.Swing == SwingRule.AsSounding ? Swing.Sounding(stroke.At, passage) : stroke.At).Value));
        }
        if (rules.Swing == SwingRule.AsSounding && passage.Feel.Swing)
            written = [.. written.OrderBy(w => w.At).ThenBy(w => w.Stroke.Voice.Order)];

        var repetitions = passage.Looped && passage.Length > Tick.Zero ? longestWindow / passage.Length.Value + 2 : 1;
        var (strokes, at) = (new Stroke[written.Count * repetitions], new int[written.Count * repetitions]);
        for (var i = 0; i < strokes.Length; i++)
        {
            var (stroke, tick) = written[i % written.Count];
            (strokes[i], at[i]) = (stroke, tick + i / written.Count * passage.Length.Value);
        }
        var seen = rules.Ending == EndingRule.CrashToo && written.Any(w => !inScope[w.Stroke.Voice.Order])
            ? Array.ConvertAll(strokes, s => inScope[s.Voice.Order]) : null;
        return new(passage, strokes, at, written.Count, seen) { SeesAll = seen is null && rules.Bed.IsEmpty };
    }

    /// <summary>One bit a family, and one each for hands and feet.</summary>
    public static int BitsOf(Voice voice) => 1 << (int)voice.Family | (voice.Limbs switch
    {
        LimbClass.Hand => HandBit,
        LimbClass.Foot =>
        FootBit,
        _ => 0
    });

    public const int HandBit = 1 << 10, FootBit = 1 << 11, KickBit = 1 << (int)Family.Kick, CrashBit = 1 << (int)Family.Crash,
        AnyBit = (1 << 12) - 1;

    /// <summary>First moment at or after a tick.</summary>
    public int MomentAt(int tick)
    {
        var found = Array.BinarySearch(MomentTicks, tick);
        return found < 0 ? ~found : found;
    }

    private int MomentOf(int stroke)
    {
        var found = Array.BinarySearch(MomentFirsts, stroke);
        return found < 0 ? ~found - 1 : found;
    }

    /// <summary>Whether a voice could not be heard in the bar of a tick.</summary>
    public bool IsUnheard(int tick, Voice voice)
    {
        if (Passage.Unheard.Count == 0) return false;
        var bar = Passage.Meters.Locate(new(LoopLength > 0 ? ((tick % LoopLength) + LoopLength) % LoopLength : tick)).Bar;
        return Passage.Unheard.Contains((bar, voice));
    }
}
