using InnerCadence.Core.Evidence;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Core.Claims;

/// <summary>A claim that the evidence already supports and nobody has made.</summary>
public sealed record Suggestion(ClaimTest Test, Stand Stand);

/// <summary>Tries every claim of the fixed set that the evidence could bear. What was found by looking at everything wants evidence that
/// was not looked at yet: pages say so.</summary>
public static class Suggestions
{
    private const double LeastShare = 0.2;

    /// <param name="made">Claims that are made already, whatever their numbers.</param>
    /// <param name="most">Of each idea.</param>
    public static IReadOnlyList<Suggestion> Of(Material material, long subject, IReadOnlyList<long> others, IEnumerable<ClaimTest> made,
        int most = 3)
    {
        var known = made.Select(Topic).ToHashSet();
        var found = new List<Suggestion>();
        foreach (var idea in material.Ideas.Keys.Order())
            found.AddRange(Tried(Candidates(material, subject, others, idea)).Take(most));
        found.AddRange(Tried(Habits(material, subject)));
        return found;

        IEnumerable<Suggestion> Tried(IEnumerable<ClaimTest> tests) => tests.Where(t => !known.Contains(Topic(t)))
            .Select(t => new Suggestion(t, Standings.Of(t, material)))
                .Where(s => s.Stand is { Standing: Standing.Supported, Few: false } or { Standing: Standing.Supported, Interval: null });
    }

    /// <summary>What a claim is about, whatever its numbers.</summary>
    private static (string, long, long, string) Topic(ClaimTest test) => test switch
    {
        PresentIn t => (t.Word, t.Player, t.Idea, $"{t.Kind}"),
        MoreThan t => (t.Word, t.Player, t.Idea, $"{t.Other}"),
        HadItFirst t => (t.Word, t.Player, t.Idea, $"{t.Other}"),
        IdeaClaim t => (t.Word, t.Player, t.Idea, ""),
        VoiceAt t => (t.Word, t.Player, 0, $"{t.Voice} {t.At} {t.Meter}"),
        TraitIn t => (t.Word, t.Player, 0, t.Habit.Word),
        LateBy t => (t.Word, t.Player, 0, $"{t.Voice} {t.Against}"),
        _ => (test.Word, test.Player, 0, ""),
    };

    private static IEnumerable<ClaimTest> Candidates(Material material, long subject, IReadOnlyList<long> others, long idea)
    {
        var own = material.Of(idea, subject);
        var appearances = own.SelectMany(p => p.Appearances).ToList();
        if (appearances.Count == 0) yield break;
        foreach (var other in others)
        {
            yield return new MoreThan(subject, idea, other);
            yield return new HadItFirst(subject, idea, other);
        }
        if (appearances.Select(a => a.SectionKind).Distinct()
            .ToList() is [{ Length: > 0 } section]) yield return new OnlyInSection(subject, idea, section);
        if (appearances.Select(a => a.BarOfPhrase(4)).Distinct().ToList() is [{ } bar]) yield return new OnlyInPhraseBar(subject, idea,
            bar, 4);
        if (TitleTempo.Threshold(TitleTempo.Of(own)) is { Corrected: < 0.05 } split)
        {
            yield return new OnlyTempo(subject, idea, split.Above, true);
            yield return new OnlyTempo(subject, idea, split.Above, false);
        }
        if (own.Where(p => p.Appearances.Count > 0 && p.Recorded is not null).Min(p => (DateOnly?)p.Recorded!.Value.Earliest) is { } first)
            yield return new NeverBefore(subject, idea, new(new(first.Year, 1, 1), new(first.Year, 12, 31)));
        if (Answer.Of(own).Presence is { } share && Rounded(share.Interval.Low) is >= LeastShare and var least)
            yield return new PresentIn(subject, idea, least, null);
    }

    private static IEnumerable<ClaimTest> Habits(Material material, long subject)
    {
        foreach (var habit in Habit.All)
        {
            var known = material.Fills.Where(f => f.Player == subject).Select(f => (f.Title, Has: habit.Has(f.Fill, f.Traits)))
                .Where(x => x.Has is not null).ToList();
            var titles = known.GroupBy(x => x.Title).Select(g => new TitleAmount(g.Count(x => x.Has == true), g.Count()));
            if (Estimate.MeanShare(titles) is { } share && Rounded(share.Interval.Low) is >= LeastShare and var least)
                yield return new TraitIn(subject, habit, least);
        }
    }

    /// <summary>Down to whole steps of 5 %.</summary>
    private static double Rounded(double share) => Math.Floor(share * 20 + 1e-9) / 20;
}
