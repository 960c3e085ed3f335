using System.Text.Json;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Ideas;
using InnerCadence.Core.Likeness;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Ideas;

/// <summary>Every checked case of matching.</summary>
public class IdeaVectors
{
    public static TheoryData<string> Cases => Vectors.Names("ideas", _ => true);

    [Theory, MemberData(nameof(Cases))]
    public void Sightings_are_those_of_the_case(string name)
    {
        var found = Vectors.Named("ideas", name);
        var sightings = IdeaOf(found.GetProperty("idea")).FindIn(PassageOf(found.GetProperty("passage")));
        sightings.Select(Line).ShouldBe(found.GetProperty("expect").EnumerateArray().Select(Line));
    }

    private static string Line(Sighting s) =>
        $"{s.Start} x{s.Factor} {s.Verdict.Word()} {s.Cost} [{string.Join(',', s.Transforms)}] unsure {s.Unsure}";

    private static string Line(JsonElement e) =>
        $"{e.GetProperty("startTick").GetInt32()} x{e.GetProperty("factor").GetString()} {e.GetProperty("verdict").GetString()} "
            + $"{e.GetProperty("cost").GetInt32()} "
        + $"[{string.Join(',', e.GetProperty("transforms").EnumerateArray().Select(t => t.GetString()))}] unsure "
            + $"{e.Maybe("unsure")?.GetInt32() ?? 0}";

    private static Passage PassageOf(JsonElement passage) =>
        CountLines.Parse(passage.GetProperty("text").GetString()!).Passage with { Looped = passage.GetProperty("looped").GetBoolean() };

    private static Idea IdeaOf(JsonElement idea)
    {
        var rules = idea.GetProperty("rules");
        T Setting<T>(string name, T otherwise) where T : struct, Enum =>
            rules.Maybe(name) is { } word ? IdeaWords.Read<T>(word.GetString()) ?? throw new InvalidDataException($"{name}: {word}")
                : otherwise;
        return new(
            CountLines.Parse(idea.GetProperty("text").GetString()!).Passage,
            idea.Maybe("spanTicks") is { } span ? new Tick(span.GetInt32()) : null,
            idea.Maybe("scope") is { } scope ? [.. scope.EnumerateArray().Select(v => Voice.Find(v.GetString()!)!)] : null,
            new Rules
            {
                Facets = new()
                {
                    Voicing = Setting("voicing", VoicingRule.Drum),
                    Sticking = Setting("sticking", FacetRule.May),
                    Dynamics = Setting("dynamics", FacetRule.May),
                    Openness = Setting("openness", FacetRule.May),
                    Ornaments = Setting("ornaments", FacetRule.May),
                },
                Placement = Setting("placement", PlacementRule.Anywhere),
                Rate = Setting("rate", RateRule.Same),
                Ghosts = Setting("ghosts", GhostRule.Count),
                Swing = Setting("swing", SwingRule.AsWritten),
                Transforms = rules.Maybe("transforms") is { } list
                    ? [.. list.EnumerateArray().Select(t => IdeaWords.Read<Transform>(t.GetString())!.Value)] : [],
                Elision = rules.Maybe("elision")?.GetInt32() ?? 0,
            });
    }
}
