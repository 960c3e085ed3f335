using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Web.Pages.Compare;

/// <summary>By what recordings and passages are put on a side.</summary>
public sealed record Attributes(bool BySubject, PlayerId Player, RecordingKind Kind, string Ensemble, int? Year)
{
    public static Attributes Of(WrittenPassage p) => new(p.BySubject, p.PlayerId, p.RecordingKind, p.Ensemble, p.RecordedFrom?.Year);
    public static Attributes Of(Recording r) => new(r.BySubject, r.PlayerId, r.Kind, r.Ensemble, r.RecordedFrom?.Year);
}

/// <summary>One side of a comparison: a player, everybody else, a kind of recording, an ensemble, an era; as a word in the
/// address.</summary>
public sealed record ComparedSide(string Word, string Name, Func<Attributes, bool> Has)
{
    public bool Takes(WrittenPassage p) => Has(Attributes.Of(p));
    public bool Takes(Recording r) => Has(Attributes.Of(r));

    /// <summary>Everything that a study can be divided by.</summary>
    public static IReadOnlyList<ComparedSide> Of(Study study, IReadOnlyList<Attributes> all)
    {
        var sides = new List<ComparedSide>
        {
            new("subject", study.Subject.Name, p => p.BySubject),
            new("others", "everybody else", p => !p.BySubject),
        };
        sides.AddRange(study.Comparison.Select(player => new ComparedSide($"player-{player.Id}", player.Name, p => p.Player == player.Id)));
        sides.AddRange(all.Where(p => p.BySubject).Select(p => p.Kind).Distinct().OrderBy(kind => kind.Word, StringComparer.Ordinal)
            .Select(kind => new ComparedSide($"kind-{kind}", $"{study.Subject.Name}, {kind}", p => p.BySubject && p.Kind == kind)));
        sides.AddRange(all.Where(p => p.BySubject && p.Ensemble.Length > 0).Select(p => p.Ensemble).Distinct().Order(StringComparer.Ordinal)
            .Select(name => new ComparedSide($"ensemble-{name}", $"{study.Subject.Name} with {name}", p =>
                p.BySubject && p.Ensemble == name)));
        if (Eras.Since(all.Where(p => p.BySubject && p.Year is not null).Select(p => p.Year!.Value)) is { } later)
        {
            sides.Add(new($"before-{later}", $"{study.Subject.Name} before {later}", p => p.BySubject && p.Year < later));
            sides.Add(new($"since-{later}", $"{study.Subject.Name} since {later}", p => p.BySubject && p.Year >= later));
        }
        return sides;
    }

    public static ComparedSide Find(IReadOnlyList<ComparedSide> sides, string? word, string otherwise) =>
        sides.FirstOrDefault(s => s.Word == word) ?? sides.First(s => s.Word == otherwise);
}
