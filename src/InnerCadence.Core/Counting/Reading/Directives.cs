using System.Globalization;
using System.Text.RegularExpressions;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Counting.Reading;

/// <summary>What a text says about itself as a whole. A faulty directive is told and counts as not written.</summary>
internal sealed partial class Directives
{
    private readonly List<(TempoChange Change, TextSpan At)> tempoChanges = [];
    private readonly Dictionary<string, int> lineOf = [];
    private readonly Dictionary<string, Voice> ownVoices = new(StringComparer.OrdinalIgnoreCase);

    public string? Title { get; private set; }
    public MeterCycle Meters { get; private set; } = MeterCycle.CommonTime;
    public Language Language { get; private init; }
    public Bpm? Tempo { get; private set; }
    public ValueList<TempoChange> TempoChanges => [.. tempoChanges.Select(c => c.Change)];
    public Feel Feel { get; private set; } = Feel.Straight;
    public CountSchool School { get; private set; }
    /// <summary>The word that says the school; nothing where none does.</summary>
    public TextSpan? SchoolAt { get; private set; }
    public Tick Pickup { get; private set; }
    public Handedness? Hands { get; private set; }

    /// <summary>By a word, a code or its name in words.</summary>
    public Voice? VoiceCalled(string words) => FindVoice(words) ?? Voice.All.FirstOrDefault(v => v.Name == words.ToLowerInvariant())
        ?? OwnVoices.FirstOrDefault(v => string.Equals(v.Name, words, StringComparison.OrdinalIgnoreCase));

    public IReadOnlyCollection<Voice> OwnVoices => ownVoices.Values;

    public Voice? FindVoice(string word) =>
        ownVoices.GetValueOrDefault(word) ?? (Voice.Find(word) is { } voice
            && (Language == Language.Second || FirstLanguage.HasWord(word, voice.Code)) ? voice : null);

    /// <summary>Reads every directive; gives back the lines that are none.</summary>
    public static (Directives Said, List<SourceLine> Others) Read(IEnumerable<SourceLine> lines, Language language, Problems problems)
    {
        var said = new Directives { Language = language };
        var rest = new List<SourceLine>();
        var places = new List<(string Word, SourceLine Line, Match Match)>();
        foreach (var line in lines)
        {
            if (said.Match(line.Text) is not { Success: true } match)
            {
                rest.Add(line);
                continue;
            }
            line.Is(Look.Directive, match.Groups["word"].Index, match.Groups["word"].Length);
            var word = match.Groups["word"].Value.ToLowerInvariant() switch { "" => "meter", "bpm" => "tempo", var own => own };
            var key = word == "voice" ? "voice " + match.Groups["rest"].Value.Split(' ')[0].ToUpperInvariant() : word;
            // A pickup and a change of tempo name places, whose meters may be said after them.
            if (word is "pickup" or "tempo") places.Add((word, line, match));
            else said.Once(key, line, problems, () => said.ReadOne(word, new Words(line, match.Groups["rest"]), problems));
        }
        foreach (var (word, line, match) in places) said.Once(word, line, problems, () =>
            said.ReadOne(word, new Words(line, match.Groups["rest"]), problems));
        return (said, rest);
    }

    private Match Match(string line) => Language == Language.First ? FirstForm().Match(line) : Form().Match(line) is { Success: true } said
        ? said : BareMeters().Match(line);

    /// <summary>A change of tempo lies inside the passage; one that does not is told, and no tempo counts as written.</summary>
    public void KeepTemposIn(Tick length, Problems problems)
    {
        var outside = tempoChanges.Where(c => c.Change.At >= length).ToList();
        if (outside.Count == 0) return;
        foreach (var (_, at) in outside) problems.Error(at,
            "The passage ends before this change of tempo: take it out, or write the bars up to it.");
        tempoChanges.Clear();
        Tempo = null;
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
            case "pickup": ReadPickup(words, problems); break;
            case "feel": ReadFeel(words, problems); break;
            case "count": ReadSchool(words, problems); break;
            case "hands": ReadHands(words, problems); break;
            case "voice": ReadVoice(words, problems); break;
        }
    }

    private void ReadMeters(Words words, Problems problems)
    {
        var (meters, faulty) = (new List<Meter>(), false);
        foreach (var (at, text) in words.Each.Take(CountLines.MostBars + 1))
        {
            if (Meter.Parse(text) is { } meter) meters.Add(meter);
            else
            {
                problems.Error(at, $"‘{text}’ is no meter: write 1 to 32 over 1, 2, 4, 8, 16 or 32, such as 7/8; pulses in brackets add "
                    + $"up, as in 7/8(2+2+3).");
                faulty = true;
            }
        }
        if (faulty) return;
        if (meters.Count > CountLines.MostBars) problems.Error(words.At,
            $"A passage has at most {CountLines.MostBars} bars, so no more meters can take turns.");
        else if (meters.Count == 0) problems.Error(words.At,
            "Which meter? Write for example meter 4/4, or meter 5/8 7/8 for bars in turn.");
        else Meters = new(meters.ToValueList());
    }

    /// <summary>A figure, then changes: @ with a bar or a place in it, and a figure. A named value holds for the figures after
    /// it.</summary>
    private void ReadTempo(Words words, Problems problems)
    {
        var (position, factor, at) = (0, 1.0, new TextSpan());
        Tick? from = Tick.Zero;
        while (from is { } start)
        {
            if (Figure().Match(words.Text, position) is not { Success: true } figure || Read(figure) is not { } tempo)
            {
                problems.Error(words.At, "A tempo is 20 to 400 quarters a minute: write tempo 96, or tempo 3/8=60 for a dotted quarter "
                    + "at 60; changes as in tempo 96 @2 104.");
                break;
            }
            if (position == 0) Tempo = tempo;
            else tempoChanges.Add((new(start, tempo), at));
            position = figure.Index + figure.Length;
            if (position == words.Text.Length) return;
            from = NextPlace(words, ref position, out at, problems);
        }
        Tempo = null;
        tempoChanges.Clear();

        Bpm? Read(Match figure)
        {
            if (figure.Groups["n"].Success)
                factor = 4.0 * int.Parse(figure.Groups["n"].Value, CultureInfo.InvariantCulture) / Math.Max(1,
                    int.Parse(figure.Groups["d"].Value, CultureInfo.InvariantCulture));
            return Bpm.Of(double.Parse(figure.Groups["bpm"].Value, CultureInfo.InvariantCulture) * factor);
        }
    }

    /// <summary>Where the tempo changes next; nothing, with a problem told, where there is no such place or it is not later.</summary>
    private Tick? NextPlace(Words words, ref int position, out TextSpan at, Problems problems)
    {
        var change = Language == Language.First ? System.Text.RegularExpressions.Match.Empty : Change().Match(words.Text, position);
        at = change.Success ? words.Part(change.Groups["at"].Index, change.Groups["at"].Length) : words.At;
        if (!change.Success)
        {
            problems.Error(words.At, "A tempo is one figure, and changes have their place: write tempo 96, or tempo 96 @2 104 for bar "
                + "2, or @2.3 for its 3.");
            return null;
        }
        position = change.Index + change.Length;
        var bar = int.Parse(change.Groups["bar"].Value, CultureInfo.InvariantCulture);
        var inBar = change.Groups["place"].Success ? TokenReader.WholePlace(change.Groups["place"].Value)?.In(Meters.MeterOf(bar - 1),
            School) : Tick.Zero;
        if (bar is < 1 or > CountLines.MostBars || inBar is null)
        {
            problems.Error(at, $"There is no such place: write a bar, as in @2, or a bar and a count of it, as in @2.3&.");
            return null;
        }
        var tick = Meters.StartOf(bar - 1) + inBar.Value;
        if (tick > (tempoChanges.Count == 0 ? Tick.Zero : tempoChanges[^1].Change.At)) return tick;
        problems.Error(at, "Changes of tempo stand in the order of time: this one is not later than the one before it.");
        return null;
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
            else if (feel.Swing && text.EndsWith('%') && double.TryParse(text.AsSpan(0, text.Length - 1), CultureInfo.InvariantCulture,
                out var share) && share is >= 50 and <= 80)
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
            (School, SchoolAt) = (school == "triplet" ? CountSchool.Triplet : CountSchool.Standard, words.At);
        else
            problems.Error(words.At, "Counting is standard (1 e & a, 1 trip let) or triplet (1 & a): write count standard or count "
                + "triplet.");
    }

    private void ReadPickup(Words words, Problems problems)
    {
        if (TokenReader.WholePlace(words.Text)?.In(Meters.MeterOf(0), School) is { } at) Pickup = at;
        else problems.Error(words.At,
            $"A pickup starts at a place of the first bar, {Meters.MeterOf(0)}: write for example pickup 4 or pickup 3&.");
    }

    private void ReadHands(Words words, Problems problems)
    {
        if (Enum.TryParse<Handedness>(words.Text, true, out var hands) && char.IsLetter(words.Text[0])) Hands = hands;
        else problems.Error(words.At, "Hands are right, left or open: write for example hands left.");
    }

    private void ReadVoice(Words words, Problems problems)
    {
        if (VoiceForm().Match(words.Text) is { Success: true } match
            && Enum.TryParse<Family>(match.Groups["family"].Value, true, out var family))
        {
            var number = match.Groups["code"].Value[1] - '0';
            var voice = Voice.Own(number, match.Groups["name"].Value.Trim(), family, match.Groups["foot"].Success);
            ownVoices[voice.Code] = voice;
        }
        else
            problems.Error(words.At, "An instrument of one’s own is P1 to P8, a name, a comma and a family (kick, snare, hat, ride, "
                + "bell, crash, tom): write voice P1 gong, crash.");
    }

    /// <summary>What follows a directive's word, whole and word by word, with places.</summary>
    private sealed class Words(SourceLine line, Group rest)
    {
        public string Text { get; } = rest.Value.TrimEnd();
        public TextSpan At => Text.Length == 0 ? line.Whole : line.Span(rest.Index, Text.Length);
        public TextSpan Part(int start, int length) => line.Span(rest.Index + start, length);
        public List<(TextSpan At, string Text)> Each { get; } =
            [.. NoBlank().Matches(rest.Value).Select(m => (line.Span(rest.Index + m.Index, m.Length), m.Value))];
    }

    [GeneratedRegex(@"^\s*(?<word>title|meter|tempo|bpm|feel|count|pickup|hands|voice)(?:\s*[:=]\s*|\s+|$)(?<rest>.*)$",
        RegexOptions.IgnoreCase)]
    private static partial Regex Form();

    [GeneratedRegex(@"^\s*(?<word>title|meter|tempo|feel|count|pickup|hands|voice)(?:\s*:\s*|\s+|$)(?<rest>.*)$", RegexOptions.IgnoreCase)]
    private static partial Regex FirstForm();

    /// <summary>Meters alone on a line.</summary>
    [GeneratedRegex(@"^\s*(?<rest>\d{1,3}/\d{1,3}(?:\([\d+]+\))?(?:\s+\d{1,3}/\d{1,3}(?:\([\d+]+\))?)*)\s*$")]
    private static partial Regex BareMeters();

    [GeneratedRegex(@"\G\s*(?:(?<n>\d{1,2})/(?<d>\d{1,2})\s*=\s*)?(?<bpm>\d{1,4}(?:\.\d{1,6})?)(?=\s|$|@)")]
    private static partial Regex Figure();

    [GeneratedRegex(@"\G\s*(?<at>@\s*(?<bar>\d{1,3})(?:\.(?<place>[^\s@]+))?)(?=\s)")]
    private static partial Regex Change();

    [GeneratedRegex(@"^(?<code>P[1-8])\s+(?<name>[^,]{1,32}),\s*(?<family>kick|snare|hat|ride|bell|crash|tom)(?<foot>\s*,\s*foot)?$",
        RegexOptions.IgnoreCase)]
    private static partial Regex VoiceForm();

    [GeneratedRegex(@"\S+")]
    private static partial Regex NoBlank();
}
