using System.Collections.Immutable;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Ideas;

/// <summary>The strokes of a passage that an idea can see, in the order in which they sound; a looped passage runs on over its repetitions.</summary>
internal sealed class Field
{
    private Field(Passage passage, Stroke[] strokes, int[] at, int loopStrokes)
    {
        (Passage, Strokes, At, LoopStrokes) = (passage, strokes, at, loopStrokes);
        var (ticks, firsts, masks) = (new List<int>(at.Length), new List<int>(at.Length + 1), new List<int>(at.Length));
        for (var i = 0; i < at.Length; i++)
        {
            if (ticks.Count == 0 || ticks[^1] != at[i])
            {
                ticks.Add(at[i]);
                firsts.Add(i);
                masks.Add(0);
            }
            masks[^1] |= BitsOf(strokes[i].Voice);
        }
        firsts.Add(at.Length);
        (MomentTicks, MomentFirsts, MomentMasks) = ([.. ticks], [.. firsts], [.. masks]);
        LoopMoments = loopStrokes == at.Length ? ticks.Count : MomentOf(loopStrokes);
    }

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
    /// <summary>Zero when the passage does not repeat.</summary>
    public int LoopLength => Passage.Looped ? Passage.Length.Value : 0;

    public static Field Of(Passage passage, ImmutableHashSet<Voice> scope, Rules rules, int longestWindow)
    {
        var inScope = new bool[33];
        foreach (var voice in scope) inScope[voice.Order] = true;
        var written = new List<(Stroke Stroke, int At)>(passage.Strokes.Length);
        foreach (var stroke in passage.Strokes)
        {
            if (!inScope[stroke.Voice.Order] || (rules.Ghosts == GhostRule.Ignore && stroke.Dynamic == Dynamic.Ghost)) continue;
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
        return new(passage, strokes, at, written.Count);
    }

    /// <summary>One bit a family, and one each for hands and feet.</summary>
    public static int BitsOf(Voice voice) => 1 << (int)voice.Family | (voice.Limbs switch { LimbClass.Hand => HandBit, LimbClass.Foot => FootBit, _ => 0 });

    public const int HandBit = 1 << 10, FootBit = 1 << 11, KickBit = 1 << (int)Family.Kick, AnyBit = (1 << 12) - 1;

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
