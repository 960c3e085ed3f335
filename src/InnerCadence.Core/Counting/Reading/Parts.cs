using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>The lines of a text by what they are: voices, the passage's hands and feet, and licks with their own.</summary>
internal sealed partial record Parts(
    ValueList<SourceLine> Voices, SourceLine? Hands, SourceLine? Feet,
        ValueList<(SourceLine Head, SourceLine? Letters, SourceLine? Drums)> Licks,
    ValueList<SourceLine> Levels)
{
    /// <summary>The first ST: and ON: after a lick's head are its own; the passage's ST: stands above.</summary>
    public static Parts Of(IEnumerable<SourceLine> lines, Language language, Problems problems)
    {
        var (voices, licks) = (new List<SourceLine>(), new List<(SourceLine Head, SourceLine? Letters, SourceLine? Drums)>());
        var levels = new List<SourceLine>();
        SourceLine? hands = null, feet = null;
        foreach (var line in lines)
        {
            if (LickReader.IsHead(line)) licks.Add((line, null, null));
            else if (language == Language.Second && LevelLine.IsHead(line.Text)) levels.Add(line);
            else if (Word().Match(line.Text) is not { Success: true } match) voices.Add(line);
            else
            {
                line.Is(Look.Voice, match.Groups["word"].Index, match.Groups["word"].Length);
                switch (match.Groups["word"].Value.ToUpperInvariant())
                {
                    case "ST" when licks.Count > 0 && licks[^1].Letters is null:
                        licks[^1] = licks[^1] with { Letters = line };
                        break;
                    case "ON" when licks.Count > 0 && licks[^1].Drums is null:
                        licks[^1] = licks[^1] with { Drums = line };
                        break;
                    case "ON":
                        problems.Error(line.Whole, "ON: names the drums of a lick: write a line such as lick 16t @3 above it.");
                        break;
                    case "ST":
                        if (hands is { } first) problems.Error(line.Whole,
                            $"The hands stand already in line {first.Number}: put them into one line.");
                        hands ??= line;
                        break;
                    default:
                        if (feet is { } other) problems.Error(line.Whole,
                            $"The feet stand already in line {other.Number}: put them into one line.");
                        feet ??= line;
                        break;
                }
            }
        }
        return new(voices, hands, feet, licks, levels);
    }

    [GeneratedRegex(@"^\s*(?<word>ST|SF|ON)\s*:", RegexOptions.IgnoreCase)]
    private static partial Regex Word();
}
