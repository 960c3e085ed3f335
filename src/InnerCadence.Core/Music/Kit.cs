
namespace InnerCadence.Core.Music;

/// <summary>The toms of a kit: the same figure lies differently on two toms and on four.</summary>
public static class Kit
{
    /// <summary>The toms of a kit of one's own size, high to low: one floor tom under the mounted ones.</summary>
    /// <exception cref="ArgumentOutOfRangeException">Not 1 to 4 toms.</exception>
    public static ValueList<Voice> Toms(int count) => count switch
    {
        1 => [Voice.Tom1],
        2 => [Voice.Tom1, Voice.FloorTom],
        3 => [Voice.Tom1, Voice.Tom2, Voice.FloorTom],
        4 => [Voice.Tom1, Voice.Tom2, Voice.FloorTom, Voice.FloorTom2],
        _ => throw new ArgumentOutOfRangeException(nameof(count), "A kit is re-mapped to 1 to 4 toms."),
    };

    /// <summary>Codes or words of toms with blanks between, each once, in order from high to low; nothing where one is no tom or none is
    /// named.</summary>
    public static ValueList<Voice>? ReadToms(string? text)
    {
        var voices = (text ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(Voice.Find).ToList();
        return voices.Count > 0 && voices.All(v => v is { Family: Family.Tom } && v != Voice.AnyTom)
            ? [.. voices.OfType<Voice>().Distinct().Order()] : null;
    }

    /// <summary>The passage on other toms. Higher stays higher or becomes level, never lower; a tom not known which stays so.</summary>
    /// <param name="toms">High to low, at least one.</param>
    public static Passage Remap(Passage passage, ValueList<Voice> toms)
    {
        var used = passage.Voices.Concat(passage.Unheard.Select(u => u.Voice)).Where(v => v.Family == Family.Tom && v != Voice.AnyTom)
            .Distinct().Order().ToList();
        var onto = used.Select((voice, i) => (voice, toms[Place(voice, i, used.Count, toms.Count)]))
            .ToDictionary(p => p.voice, p => p.Item2);
        var moved = new Dictionary<(Tick, Voice), Stroke>();
        foreach (var stroke in passage.Strokes)
        {
            var voice = onto.GetValueOrDefault(stroke.Voice, stroke.Voice);
            // Two toms struck together need two drums: the lower one takes the next that is free, if there is one.
            while (moved.ContainsKey((stroke.At, voice)) && toms.Span.IndexOf(voice) is >= 0 and var at && at + 1 < toms.Count) voice =
                toms[at + 1];
            moved.TryAdd((stroke.At, voice), stroke with { Voice = voice });
        }
        return passage with
        {
            Strokes = Passage.InOrder(moved.Values),
            Unheard = [.. passage.Unheard.Select(u => (u.Bar, onto.GetValueOrDefault(u.Voice, u.Voice)))
                .Where(u => !moved.Values.Any(s => s.Voice == u.Item2 && passage.Meters.Locate(s.At).Bar == u.Bar))],
        };
    }

    /// <summary>Highest to highest, lowest to lowest, the others in proportion; a single tom stays a floor tom if it was one.</summary>
    private static int Place(Voice voice, int index, int used, int toms) =>
        used > 1 ? (int)Math.Floor((double)index * (toms - 1) / (used - 1) + 0.5) : voice.Order >= Voice.FloorTom.Order ? toms - 1 : 0;
}
