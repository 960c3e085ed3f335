using System.Text.RegularExpressions;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Playing;

/// <summary>How a drum or cymbal is struck, as far as one can hear it.</summary>
public enum Touch { Plain, Rimshot, Loose, Open, Foot, Splash }

/// <summary>One sound of the kit: the same key always gives the same samples.</summary>
/// <param name="Take">0 to 2: strokes in a row take turns, since no two strokes of a drummer are the same.</param>
public sealed partial record SoundKey(Voice Voice, Dynamic Dynamic, Touch Touch, int Take)
{
    public const int Takes = 3;

    public static SoundKey Of(Stroke stroke, int take)
    {
        var touch = stroke.Voice == Voice.HatFoot ? stroke.Openness == Openness.Open ? Touch.Splash : Touch.Foot
            : stroke.Openness switch
            {
                Openness.Open => Touch.Open,
                Openness.Loose => Touch.Loose,
                _ => stroke.Ornaments.HasFlag(Ornaments.Rimshot) ? Touch.Rimshot : Touch.Plain,
            };
        return new(stroke.Voice, stroke.Dynamic, touch, take % Takes);
    }

    /// <summary>Nothing when the text names no sound. An own instrument is told by its family: P1.crash.</summary>
    public static SoundKey? Parse(string text)
    {
        if (Form().Match(text) is not { Success: true } match) return null;
        var voice = match.Groups["family"].Success
            ? Enum.TryParse<Family>(match.Groups["family"].Value, true, out var family)
                ? Voice.Own(match.Groups["voice"].Value[1] - '0', "", family, false) : null
            : Voice.All.FirstOrDefault(v => v.Code == match.Groups["voice"].Value);
        if (voice is null || !Enum.TryParse<Dynamic>(match.Groups["dynamic"].Value, true, out var dynamic)
            || !Enum.TryParse<Touch>(match.Groups["touch"].Value, true, out var touch)) return null;
        return new(voice, dynamic, touch, match.Groups["take"].Value[0] - '0');
    }

    public override string ToString()
    {
        var drum = Voice.Code[0] == 'P' ? $"{Voice.Code}.{Lower(Voice.Family)}" : Voice.Code;
        return $"{drum}-{Lower(Dynamic)}-{Lower(Touch)}-{Take}";

        static string Lower(Enum word) => word.ToString().ToLowerInvariant();
    }

    [GeneratedRegex("^(?<voice>[A-Z][A-Z0-9])(?:\\.(?<family>[a-z]+))?-(?<dynamic>[a-z]+)-(?<touch>[a-z]+)-(?<take>[012])$")]
    private static partial Regex Form();
}
