using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Practice;

/// <summary>What came of playing something once round.</summary>
public enum Outcome { Clean, Failed }

/// <summary>Where somebody stands on the way from a comfortable start to the recorded tempo (hands.md, "Practice").</summary>
/// <param name="Start">Comfortable, by strokes a second.</param>
/// <param name="Goal">The recorded tempo; the ladder never goes beyond it.</param>
/// <param name="Rung">Which tempo of <see cref="Rungs"/>, from 0.</param>
/// <param name="Clean">In a row at this tempo.</param>
/// <param name="Failed">In a row at this tempo.</param>
/// <param name="Stopped">By pain: no more tempo until somebody begins anew.</param>
public sealed record Ladder(double Start, double Goal, int Rung, int Clean, int Failed, bool Stopped)
{
    public const double Step = 1.04;
    public const int CleanToClimb = 3, FailuresToFall = 2, PainThatStops = 2;

    /// <summary>Strokes a second that are comfortable to begin with: half of what one hand keeps up.</summary>
    private const double Comfortable = 4;

    /// <summary>From the tempo at which the busiest limb has a comfortable number of strokes a second, at most the goal and not under
    /// 30.</summary>
    public static Ladder For(Passage passage, Bpm goal)
    {
        passage = passage.Played();
        var peak = Playability.Of(passage, StickingSettings.Usual with { Tempo = goal }).Limbs.Select(l => l.Peak).DefaultIfEmpty(0).Max();
        var start = peak <= Comfortable ? goal.Value * 0.8 : goal.Value * Comfortable / peak;
        return new(Tenth(Math.Clamp(start, Math.Min(30, goal.Value), goal.Value)), goal.Value, 0, 0, 0, false);
    }

    /// <summary>Every tempo from the start to the goal, in steps of 4 %.</summary>
    public IReadOnlyList<double> Rungs
    {
        get
        {
            var rungs = new List<double> { Start };
            while (rungs[^1] < Goal) rungs.Add(Math.Min(Goal, Tenth(rungs[^1] * Step)));
            return rungs;
        }
    }

    /// <summary>The rung to which three clean rounds lead, and the one to which two failures do; nothing at the ends.</summary>
    public (double? Above, double? Below) Beside
    {
        get
        {
            var rungs = Rungs;
            var here = Math.Min(Rung, rungs.Count - 1);
            return (here + 1 < rungs.Count ? rungs[here + 1] : null, here > 0 ? rungs[here - 1] : null);
        }
    }

    public double Tempo => Rungs is var rungs ? rungs[Math.Min(Rung, rungs.Count - 1)] : Start;
    public bool IsAtGoal => Tempo >= Goal;

    /// <summary>Three clean ones climb a rung, two failures fall one, never under the start or over the goal.</summary>
    public Ladder After(Outcome outcome)
    {
        if (Stopped) return this;
        if (outcome == Outcome.Clean) return Clean + 1 < CleanToClimb ? this with { Clean = Clean + 1, Failed = 0 }
            : this with { Rung = Math.Min(Rung + 1, Rungs.Count - 1), Clean = 0, Failed = 0 };
        return Failed + 1 < FailuresToFall ? this with { Failed = Failed + 1, Clean = 0 }
            : this with { Rung = Math.Max(Rung - 1, 0), Clean = 0, Failed = 0 };
    }

    /// <summary>Pain of 2 or more stops the ladder; less tension lets it go on.</summary>
    public Ladder AfterPain(int pain) => pain >= PainThatStops ? this with { Stopped = true, Clean = 0, Failed = 0 } : this;

    /// <summary>After a rest: from the start again.</summary>
    public Ladder Anew() => this with { Rung = 0, Clean = 0, Failed = 0, Stopped = false };

    /// <summary>Everything that can come of this, so that a page can go on by itself while the server is away: each state with the next one
    /// after a clean round and after a failure.</summary>
    public IReadOnlyList<(Ladder State, int AfterClean, int AfterFailed)> Table
    {
        get
        {
            var index = new Dictionary<Ladder, int> { [this] = 0 };
            var states = new List<Ladder> { this };
            int Of(Ladder state)
            {
                if (index.TryGetValue(state, out var i)) return i;
                index[state] = states.Count;
                states.Add(state);
                return states.Count - 1;
            }
            var table = new List<(Ladder, int, int)>();
            for (var i = 0; i < states.Count; i++) table.Add((states[i], Of(states[i].After(Outcome.Clean)),
                Of(states[i].After(Outcome.Failed))));
            return table;
        }
    }

    private static double Tenth(double tempo) => Math.Round(tempo, 1);
}
