using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Ideas;

/// <summary>Looks for an idea in a passage and says what it found the short way: place, verdict, cost, transforms.</summary>
public sealed record Look(string Exemplar, int? Span, string? Scope, Rules Rules)
{
    public static Look For(string exemplar, int? span = null, string? scope = null) => new(exemplar, span, scope, Rules.Default);

    public Look With(
        VoicingRule voicing = VoicingRule.Drum, FacetRule sticking = FacetRule.May, FacetRule dynamics = FacetRule.May,
            FacetRule openness = FacetRule.May,
        FacetRule ornaments = FacetRule.May, PlacementRule placement = PlacementRule.Anywhere, RateRule rate = RateRule.Same,
            GhostRule ghosts = GhostRule.Count,
        SwingRule swing = SwingRule.AsWritten, int elision = 0, EndingRule ending = EndingRule.AsWritten, string bed = "",
            EchoRule echoes = EchoRule.Ignore, LevelRule levels = LevelRule.Ignore, params Transform[] transforms) => this with
            {
                Rules = new()
                {
                    Facets = new()
                    {
                        Voicing = voicing,
                        Sticking = sticking,
                        Dynamics = dynamics,
                        Openness = openness,
                        Ornaments = ornaments
                    },
                    Placement = placement,
                    Rate = rate,
                    Ghosts = ghosts,
                    Swing = swing,
                    Elision = elision,
                    Ending = ending,
                    Bed = [.. bed.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(v => Voice.Find(v)!)],
                    Echoes = echoes,
                    Levels = levels,
                    Transforms = [.. transforms],
                },
            };

    public IReadOnlyList<Sighting> Sightings(string text, bool looped = false)
    {
        var idea = new Idea(
            CountLines.Parse(Exemplar).Passage, Span is { } span ? new Tick(span) : null, Scope is null ? null
                : [.. Scope.Split(' ').Select(v => Voice.Find(v)!)], Rules);
        var read = CountLines.Parse(text);
        read.HasErrors.ShouldBeFalse(string.Join('\n', read.Problems));
        return idea.FindIn(read.Passage with { Looped = looped });
    }

    public string In(string text, bool looped = false) => string.Join("; ", Sightings(text, looped).Select(s =>
        $"{s.Start} {s.Verdict.Word()} "
            + $"{s.Cost}{(s.Factor == Factor.One ? "" : $" x{s.Factor}")}"
                + $"{(s.Transforms.Count == 0 ? "" : " " + string.Join(' ', s.Transforms))}"));
}
