using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Practice;

/// <summary>What came of playing something once round.</summary>
public enum Outcome { Clean, Failed }

/// <summary>Where somebody stands on the way from a comfortable start to the recorded tempo (hands.md, "Practice").</summary>
/// <param name="Start">Comfortable, by strokes a second.</param>
/// <param name="Goal">The recorded tempo; the ladder never goes beyond it.</param>
/// <param name="Clean">In a row at this tempo.</param>
/// <param name="Failed">In a row at this tempo.</param>
/// <param name="Stopped">By pain: no more tempo until somebody begins anew.</param>
public sealed record Ladder(double Start, double Goal, double Tempo, int Clean, int Failed, bool Stopped)
{
    public const double Step = 1.04;
    public const int CleanToClimb = 3, FailuresToFall = 2, PainThatStops = 2;

    /// <summary>Strokes a second that are comfortable to begin with: half of what one hand keeps up.</summary>
    private const double Comfortable = 4;

    /// <summary>From the tempo at which the busiest limb has a comfortable number of strokes a second, at most the goal and not under 30.</summary>
    public static Ladder For(Passage passage, Bpm goal)
    {
        var peak = Playability.Of(passage, StickingSettings.Usual with { Tempo = goal }).Limbs.Select(l => l.Peak).DefaultIfEmpty(0).Max();
        var start = peak <= Comfortable ? goal.Value * 0.8 : goal.Value * Comfortable / peak;
        start = Math.Round(Math.Clamp(start, Math.Min(30, goal.Value), goal.Value), 1);
        return new(start, goal.Value, start, 0, 0, false);
    }

    public bool IsAtGoal => Tempo >= Goal;

    /// <summary>Three clean ones climb by 4 %, two failures fall by as much, never under the start or over the goal.</summary>
    public Ladder After(Outcome outcome)
    {
        if (Stopped) return this;
        if (outcome == Outcome.Clean) return Clean + 1 < CleanToClimb ? this with { Clean = Clean + 1, Failed = 0 } : this with { Tempo = Math.Min(Goal, Tenth(Tempo * Step)), Clean = 0, Failed = 0 };
        return Failed + 1 < FailuresToFall ? this with { Failed = Failed + 1, Clean = 0 } : this with { Tempo = Math.Max(Start, Tenth(Tempo / Step)), Clean = 0, Failed = 0 };
    }

    /// <summary>Pain of 2 or more stops the ladder; less tension lets it go on.</summary>
    public Ladder AfterPain(int pain) => pain >= PainThatStops ? this with { Stopped = true, Clean = 0, Failed = 0 } : this;

    /// <summary>After a rest: from the start again.</summary>
    public Ladder Anew() => this with { Tempo = Start, Clean = 0, Failed = 0, Stopped = false };

    /// <summary>Every tempo from the start to the goal.</summary>
    public IReadOnlyList<double> Rungs
    {
        get
        {
            var rungs = new List<double> { Start };
            while (rungs[^1] < Goal) rungs.Add(Math.Min(Goal, Tenth(rungs[^1] * Step)));
            return rungs;
        }
    }

    private static double Tenth(double tempo) => Math.Round(tempo, 1);
}
