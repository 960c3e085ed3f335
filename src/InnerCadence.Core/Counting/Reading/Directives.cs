using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>What a text says about itself as a whole. A faulty directive is told and counts as not written.</summary>
internal sealed partial class Directives
{
    private readonly Dictionary<string, int> lineOf = [];
    private readonly Dictionary<string, Voice> ownVoices = new(StringComparer.OrdinalIgnoreCase);

    public string? Title { get; private set; }
    public MeterCycle Meters { get; private set; } = MeterCycle.CommonTime;
    public Bpm? Tempo { get; private set; }
    public Feel Feel { get; private set; } = Feel.Straight;
    public CountSchool School { get; private set; }
    public Tick Pickup { get; private set; }
    public Handedness? Hands { get; private set; }

    public Voice? FindVoice(string word) => ownVoices.GetValueOrDefault(word) ?? Voice.Find(word);

    /// <summary>Reads every directive; gives back the lines that are none.</summary>
    public static (Directives Said, List<SourceLine> Others) Read(IEnumerable<SourceLine> lines, Problems problems)
    {
        var said = new Directives();
        var rest = new List<SourceLine>();
        var pickups = new List<(SourceLine Line, Match Match)>();
        foreach (var line in lines)
        {
            if (Form().Match(line.Text) is not { Success: true } match)
            {
                rest.Add(line);
                continue;
            }
            var word = match.Groups["word"].Value.ToLowerInvariant();
            var key = word == "voice" ? "voice " + match.Groups["rest"].Value.Split(' ')[0].ToUpperInvariant() : word;
            // A pickup stands in the first bar, whose meter may be said after it.
            if (word == "pickup") pickups.Add((line, match));
            else said.Once(key, line, problems, () => said.ReadOne(word, new Words(line, match.Groups["rest"]), problems));
        }
        foreach (var (line, match) in pickups) said.Once("pickup", line, problems, () => said.ReadPickup(new Words(line, match.Groups["rest"]), problems));
        return (said, rest);
    }

    /// <summary>What is faulty counts as not written: a good one after it stands.</summary>
    private void Once(string key, SourceLine line, Problems problems, Action read)
    {
        if (lineOf.TryGetValue(key, out var before))
        {
            problems.Error(line.Whole, $"‘{key}’ stands already in line {before} and holds for the whole text: take one of them out.");
            return;
        }
        var errors = problems.Errors;
        read();
        if (problems.Errors == errors) lineOf[key] = line.Number;
    }

    private void ReadOne(string word, Words words, Problems problems)
    {
        switch (word)
        {
            case "title": Title = words.Text.Length == 0 ? null : words.Text; break;
            case "meter": ReadMeters(words, problems); break;
            case "tempo": ReadTempo(words, problems); break;
            case "feel": ReadFeel(words, problems); break;
            case "count": ReadSchool(words, problems); break;
            case "hands": ReadHands(words, problems); break;
            case "voice": ReadVoice(words, problems); break;
        }
    }

    private void ReadMeters(Words words, Problems problems)
    {
        var (meters, faulty) = (ImmutableArray.CreateBuilder<Meter>(), false);
        foreach (var (at, text) in words.Each.Take(CountLines.MostBars + 1))
        {
            if (Meter.Parse(text) is { } meter) meters.Add(meter);
            else
            {
                problems.Error(at, $"‘{text}’ is no meter: write 1 to 32 over 1, 2, 4, 8, 16 or 32, such as 7/8; pulses in brackets add up, as in 7/8(2+2+3).");
                faulty = true;
            }
        }
        if (faulty) return;
        if (meters.Count > CountLines.MostBars) problems.Error(words.At, $"A passage has at most {CountLines.MostBars} bars, so no more meters can take turns.");
        else if (meters.Count == 0) problems.Error(words.At, "Which meter? Write for example meter 4/4, or meter 5/8 7/8 for bars in turn.");
        else Meters = new(meters.ToImmutable());
    }

    private void ReadTempo(Words words, Problems problems)
    {
        var match = TempoForm().Match(words.Text);
        if (match.Success && double.TryParse(match.Groups["bpm"].Value, CultureInfo.InvariantCulture, out var bpm))
        {
            if (match.Groups["n"].Success)
                bpm *= 4.0 * int.Parse(match.Groups["n"].Value) / Math.Max(1, int.Parse(match.Groups["d"].Value));
            if (Bpm.Of(bpm) is { } tempo)
            {
                Tempo = tempo;
                return;
            }
        }
        problems.Error(words.At, "A tempo is 20 to 400 quarters a minute: write tempo 96, or tempo 3/8=60 for a dotted quarter at 60.");
    }

    private void ReadFeel(Words words, Problems problems)
    {
        var feel = Feel.Straight;
        if (words.Each.Count == 0) problems.Error(words.At, "Which feel? Write straight, swing, half-time or double-time.");
        foreach (var (at, text) in words.Each)
        {
            if (text == "straight") continue;
            if (text == "swing") feel = feel with { Swing = true };
            else if (text == "half-time") feel = feel with { Time = FeelTime.Half };
            else if (text == "double-time") feel = feel with { Time = FeelTime.Double };
            else if (text == "16ths" && feel.Swing) feel = feel with { SwingSixteenths = true };
            else if (feel.Swing && text.EndsWith('%') && double.TryParse(text.AsSpan(0, text.Length - 1), CultureInfo.InvariantCulture, out var share) && share is >= 50 and <= 80)
                feel = feel with { SwingShare = share / 100 };
            else
            {
                problems.Error(at, $"‘{text}’ is no feel: write straight, swing (then 16ths or 50% to 80%), half-time or double-time.");
                return;
            }
        }
        Feel = feel;
    }

    private void ReadSchool(Words words, Problems problems)
    {
        if (words.Text.ToLowerInvariant() is ("standard" or "triplet") and var school)
            School = school == "triplet" ? CountSchool.Triplet : CountSchool.Standard;
        else
            problems.Error(words.At, "Counting is standard (1 e & a, 1 trip let) or triplet (1 & a): write count standard or count triplet.");
    }

    private void ReadPickup(Words words, Problems problems)
    {
        if (TokenReader.WholePlace(words.Text)?.In(Meters.MeterOf(0), School) is { } at) Pickup = at;
        else problems.Error(words.At, $"A pickup starts at a place of the first bar, {Meters.MeterOf(0)}: write for example pickup 4 or pickup 3&.");
    }

    private void ReadHands(Words words, Problems problems)
    {
        if (Enum.TryParse<Handedness>(words.Text, true, out var hands) && char.IsLetter(words.Text[0])) Hands = hands;
        else problems.Error(words.At, "Hands are right, left or open: write for example hands left.");
    }

    private void ReadVoice(Words words, Problems problems)
    {
        if (VoiceForm().Match(words.Text) is { Success: true } match && Enum.TryParse<Family>(match.Groups["family"].Value, true, out var family))
        {
            var number = match.Groups["code"].Value[1] - '0';
            var voice = Voice.Own(number, match.Groups["name"].Value.Trim(), family, match.Groups["foot"].Success);
            ownVoices[voice.Code] = voice;
        }
        else
            problems.Error(words.At, "An instrument of one’s own is P1 to P8, a name, a comma and a family (kick, snare, hat, ride, bell, crash, tom): write voice P1 gong, crash.");
    }

    /// <summary>What follows a directive's word, whole and word by word, with places.</summary>
    private sealed class Words(SourceLine line, Group rest)
    {
        public string Text { get; } = rest.Value.TrimEnd();
        public TextSpan At => Text.Length == 0 ? line.Whole : line.Span(rest.Index, Text.Length);
        public List<(TextSpan At, string Text)> Each { get; } =
            [.. NoBlank().Matches(rest.Value).Select(m => (line.Span(rest.Index + m.Index, m.Length), m.Value))];
    }

    [GeneratedRegex(@"^\s*(?<word>title|meter|tempo|feel|count|pickup|hands|voice)(?:\s*:\s*|\s+|$)(?<rest>.*)$", RegexOptions.IgnoreCase)]
    private static partial Regex Form();

    [GeneratedRegex(@"^(?:(?<n>\d{1,2})/(?<d>\d{1,2})\s*=\s*)?(?<bpm>\d{1,4}(?:\.\d{1,6})?)$")]
    private static partial Regex TempoForm();

    [GeneratedRegex(@"^(?<code>P[1-8])\s+(?<name>[^,]{1,32}),\s*(?<family>kick|snare|hat|ride|bell|crash|tom)(?<foot>\s*,\s*foot)?$", RegexOptions.IgnoreCase)]
    private static partial Regex VoiceForm();

    [GeneratedRegex(@"\S+")]
    private static partial Regex NoBlank();
}
