using System.Globalization;
using InnerCadence.Storage;

namespace InnerCadence.Web.Pages.Compare;

/// <summary>One side of a comparison: a player, everybody else, a kind of recording, an ensemble, an era; as a word in the address.</summary>
public sealed record Side(string Word, string Name, Func<WrittenPassage, bool> Takes)
{
    /// <summary>Everything that a study can be divided by.</summary>
    public static IReadOnlyList<Side> Of(Study study, IReadOnlyList<WrittenPassage> all)
    {
        var sides = new List<Side>
        {
            new("subject", study.Subject.Name, p => p.BySubject),
            new("others", "everybody else", p => !p.BySubject),
        };
        sides.AddRange(study.Comparison.Select(player => new Side($"player-{player.Id}", player.Name, p => p.PlayerId == player.Id)));
        sides.AddRange(all.Select(p => p.RecordingKind).Distinct().Order(StringComparer.Ordinal).Select(kind => new Side($"kind-{kind}", $"{study.Subject.Name}, {kind}", p => p.BySubject && p.RecordingKind == kind)));
        sides.AddRange(all.Where(p => p.BySubject && p.Ensemble.Length > 0).Select(p => p.Ensemble).Distinct().Order(StringComparer.Ordinal)
            .Select(name => new Side($"ensemble-{name}", $"{study.Subject.Name} with {name}", p => p.BySubject && p.Ensemble == name)));
        if (all.Where(p => p.BySubject && p.RecordedFrom is not null).Select(p => p.RecordedFrom!.Value.Year).Distinct().Order().ToList() is { Count: > 1 } years)
        {
            // Cut where half of what is written down lies on either side.
            var middle = all.Where(p => p.BySubject && p.RecordedFrom is not null).Select(p => p.RecordedFrom!.Value.Year).Order().ToList() is var sorted ? sorted[sorted.Count / 2] : years[0];
            if (middle == years[0]) middle = years[1];
            sides.Add(new($"before-{middle}", $"{study.Subject.Name} before {middle}", p => p.BySubject && p.RecordedFrom?.Year < middle));
            sides.Add(new($"since-{middle}", $"{study.Subject.Name} since {middle}", p => p.BySubject && p.RecordedFrom?.Year >= middle));
        }
        return sides;
    }

    public static Side Find(IReadOnlyList<Side> sides, string? word, string otherwise) => sides.FirstOrDefault(s => s.Word == word) ?? sides.First(s => s.Word == otherwise);
}
