using System.Globalization;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hands;

/// <summary>What a search for stickings goes by.</summary>
/// <param name="Tied">Voices that are always played with one hand.</param>
public sealed record StickingSettings(Handedness Handedness, Bpm Tempo, School School, Limits Limits, KitLayout Layout,
    IReadOnlyDictionary<Voice, Side> Tied)
{
    public static StickingSettings Usual { get; } = new(Handedness.Right, Bpm.Usual, School.All[0], Limits.Usual, KitLayout.Usual,
        new Dictionary<Voice, Side>());
}

/// <summary>Exact search for the cheapest stickings (hands.md, "Sticking options"): dynamic programming over what each hand did
/// last.</summary>
/// <remarks>
/// A passage that repeats costs what its second round costs, the join with it.
/// Everything is worked out for a right-handed player; a left-handed one sits at the mirrored kit, so hands are swapped going in and coming
/// out. An open-handed player has the
/// kit of a right-handed one and plays the hat with the left hand.
/// </remarks>
public static class Sticking
{
    /// <summary>After so long a rest the next stroke is a fresh start.</summary>
    private const double FreshStart = 0.6;
    /// <summary>After so long a hand may have gone anywhere.</summary>
    private const double Forgotten = 2;
    private static readonly HashSet<Voice> RideVoices = [Voice.Ride, Voice.RideBell, Voice.Hat, Voice.Cowbell];

    /// <summary>The cheapest <paramref name="most"/> stickings, cheapest first, ties in order of their letters; every mark and every tied
    /// voice is kept.</summary>
    public static StickingOptions Of(Passage passage, StickingSettings settings, int most = 5)
    {
        var problems = new List<string>();
        var swap = settings.Handedness == Handedness.Left;
        var moments = Moments(passage, settings, swap, problems);
        if (moments.Count == 0) return new([], problems);
        var join = JoinOf(passage, settings);
        return new([.. Search(moments, join, settings, most).Select(path => Option(moments, join, path, settings, swap))], problems);
    }

    /// <summary>As though the figure's missing notes were played: the lead hand on every other place of its finest even division, marks
    /// kept.</summary>
    public static StickingOption? Phantom(Passage passage, StickingSettings settings)
    {
        var swap = settings.Handedness == Handedness.Left;
        var moments = Moments(passage, settings, swap, []);
        if (moments.Count == 0) return null;
        var grid = moments.Aggregate(Tick.PerQuarter, (step, m) => Gcd(step, m.At.Value));
        var path = moments.Select(m =>
        {
            var lead = m.At.Value / grid % 2 == 0 ? Side.Right : Side.Left;
            return Plays(m).MinBy(p => p.Main == lead ? 0 : 1);
        }).ToArray();
        return Option(moments, JoinOf(passage, settings), path, settings, swap);
    }

    private static List<HandMoment> Moments(Passage passage, StickingSettings settings, bool swap, List<string> problems) =>
        [.. HandMoment.Of(passage, settings.Tempo, settings.Tied, problems)
            .Select(m => swap ? m with { Fixed = [.. m.Fixed.Select(Other)] } : m)];

    /// <summary>After what time a passage that repeats begins again; nothing where it does not.</summary>
    private static Seconds? JoinOf(Passage passage, StickingSettings settings) => passage.Looped ? settings.Tempo.SecondsOf(passage.Length)
        : null;

    /// <summary>Both rounds of a passage that repeats, one after the other.</summary>
    private static IReadOnlyList<HandMoment> Rounds(IReadOnlyList<HandMoment> moments, Seconds? join) =>
        join is { } seconds ? [.. moments, .. moments.Select(m => m with { Seconds = m.Seconds + seconds })] : moments;

    /// <summary>What a sticking costs, step by step; the search adds up the same.</summary>
    internal static double CostOf(Passage passage, StickingSettings settings, IReadOnlyList<Side> mains)
    {
        var moments = HandMoment.Of(passage, settings.Tempo, settings.Tied, []);
        return CostOf(Rounds(moments, JoinOf(passage, settings)), moments.Count,
            [.. moments.Select((m, i) => Plays(m).First(p => p.Main == mains[i]))], settings, null) / Whole;
    }

    /// <summary>What the last round costs, in thousandths.</summary>
    /// <param name="rounds">One round, or two of a passage that repeats.</param>
    /// <param name="count">Moments a round.</param>
    private static int CostOf(IReadOnlyList<HandMoment> rounds, int count, IReadOnlyList<Play> plays, StickingSettings settings,
        List<(string What, string Where)>? told)
    {
        var (cost, state) = (0, State.Start);
        for (var i = 0; i < rounds.Count; i++)
        {
            var (play, counts) = (plays[i % count], i >= rounds.Count - count);
            var step = Step(rounds, state, i, play, settings, counts ? told : null);
            if (counts) cost += step;
            state = state.After(rounds, i, play);
        }
        return cost;
    }

    private static int Gcd(int a, int b) => b == 0 ? a : Gcd(b, a % b);

    private static Side? Other(Side? side) => side is { } s ? Other(s) : null;
    private static Side Other(Side side) => side == Side.Right ? Side.Left : Side.Right;

    /// <summary>Which hand has the main stroke: of one stroke its hand, of a double stop the hand of its first.</summary>
    private readonly record struct Play(Side Main, bool Both);

    /// <summary>What each hand did last: the moment and the voice; and how often the last one has played in a row.</summary>
    private readonly record struct State(int Right, int Left, int RightVoice, int LeftVoice, Side LastMain, bool LastBoth, int Run)
    {
        public static readonly State Start = new(-1, -1, -1, -1, Side.Left, true, 0);

        public int MomentOf(Side side) => side == Side.Right ? Right : Left;
        public int VoiceOf(Side side) => side == Side.Right ? RightVoice : LeftVoice;

        public State After(IReadOnlyList<HandMoment> moments, int i, Play play)
        {
            var moment = moments[i];
            var (main, second) = (moment.Strokes[0].Voice.Order, moment.Strokes[^1].Voice.Order);
            if (play.Both) return play.Main == Side.Right ? new(i, i, main, second, play.Main, true, 0)
                : new(i, i, second, main, play.Main, true, 0);
            var run = !LastBoth && LastMain == play.Main ? Math.Min(Run + 1, 3) : 1;
            var after = play.Main == Side.Right ? new State(i, Left, main, LeftVoice, play.Main, false, run)
                : new(Right, i, RightVoice, main, play.Main, false, run);
            // Where a hand was so long ago costs nothing any more: ways that differ only in that are one.
            return after.Right >= 0 && moment.Seconds - moments[after.Right].Seconds >= Forgotten
                ? after with { Right = -1, RightVoice = -1 }
                : after.Left >= 0 && moment.Seconds - moments[after.Left].Seconds >= Forgotten ? after with { Left = -1, LeftVoice = -1 }
                    : after;
        }
    }

    private static IEnumerable<Play> Plays(HandMoment moment)
    {
        foreach (var main in (Side[])[Side.Right, Side.Left])
        {
            if (moment.Fixed[0] is { } hand && hand != main) continue;
            if (moment.Fixed.Count == 2 && moment.Fixed[1] is { } second && second == main) continue;
            yield return new(main, moment.TakesBoth);
        }
    }

    private sealed record Path(int Cost, Path? Before, Play Play);

    /// <summary>So many strokes from the start decide what the join costs; after them a hand's run is what it is, whatever came
    /// before.</summary>
    private const int Opening = 3;

    /// <summary>
    /// The best few paths into each state; a later step asks only what the hands did last, so no better way is lost. Where the passage
    /// repeats, how it began is kept apart too, and the best of each
    /// are held against each other by what their second round costs.
    /// </summary>
    private static List<Play[]> Search(IReadOnlyList<HandMoment> moments, Seconds? join, StickingSettings settings, int most)
    {
        var states = new Dictionary<(State Now, int Began), List<Path>> { [(State.Start, 0)] = [new(0, null, default)] };
        for (var i = 0; i < moments.Count; i++)
        {
            var next = new Dictionary<(State Now, int Began), List<Path>>();
            var plays = Plays(moments[i]).ToArray();
            foreach (var (state, paths) in states)
                foreach (var play in plays)
                {
                    var step = Step(moments, state.Now, i, play, settings, null);
                    var after = (state.Now.After(moments, i, play), join is not null && i < Opening
                        ? state.Began * 2 + (play.Main == Side.Right ? 1 : 0) : state.Began);
                    if (!next.TryGetValue(after, out var into)) next[after] = into = new(most);
                    foreach (var path in paths) into.Add(new(path.Cost + step, path, play));
                }
            foreach (var paths in next.Values)
            {
                if (paths.Count <= most) continue;
                paths.Sort((a, b) => a.Cost.CompareTo(b.Cost));
                paths.RemoveRange(most, paths.Count - most);
            }
            states = next;
        }
        var rounds = Rounds(moments, join);
        return [.. states.Values.SelectMany(p => p).Select(p => (Path: p, Plays: Back(p, moments.Count)))
            .Select(p => (Cost: join is null ? p.Path.Cost : CostOf(rounds, moments.Count, p.Plays, settings, null), p.Plays))
            .OrderBy(p => p.Cost).ThenBy(p => string.Concat(p.Plays.Select(x => x.Main == Side.Right ? 'R' : 'S')), StringComparer.Ordinal)
            .Take(most).Select(p => p.Plays)];
    }

    private static Play[] Back(Path path, int count)
    {
        var plays = new Play[count];
        for (var (i, at) = (count - 1, path); i >= 0; i--, at = at.Before!) plays[i] = at.Play;
        return plays;
    }

    /// <summary>Costs are added up in thousandths, so that equals are equal.</summary>
    private const double Whole = 1000;

    /// <summary>What it costs to go on with a play, in thousandths; what it is for goes into <paramref name="told"/>.</summary>
    private static int Step(IReadOnlyList<HandMoment> moments, State state, int i, Play play, StickingSettings settings,
        List<(string What, string Where)>? told)
    {
        var (moment, school) = (moments[i], settings.School);
        var cost = 0;
        void Add(double price, string what)
        {
            if (price <= 0) return;
            cost += (int)Math.Round(price * Whole);
            told?.Add((what, moment.Count));
        }
        var sinceLast = Math.Min(Since(state.Right), Since(state.Left));
        double Since(int of) => of < 0 ? double.PositiveInfinity : moment.Seconds - moments[of].Seconds;
        if (!play.Both && !state.LastBoth && state.LastMain == play.Main && sinceLast < FreshStart)
        {
            var hand = Name(play.Main);
            if (sinceLast < 1 / settings.Limits.Doubles) Add(school.FastDouble, $"{hand} hand again faster than its doubles");
            else if (state.Run >= 2) Add(school.Triple * (sinceLast < 1 / settings.Limits.Hand ? 2 : 1),
                $"{hand} hand three times and more");
            else Add(school.Double, $"a double of the {hand} hand");
        }
        foreach (var (side, voice) in Struck(moment, play))
        {
            var before = state.MomentOf(side);
            if (before >= 0 && Since(before) < Forgotten)
            {
                var speed = settings.Layout.Reach(VoiceAt(state.VoiceOf(side)), voice) * 0.25 / Math.Max(Since(before), 0.03);
                Add(school.Reach * speed, speed > 0.6 ? $"a long way for the {Name(side)} hand" : "");
            }
            var natural = settings.Handedness == Handedness.Open && voice == Voice.Hat ? Side.Left : Side.Right;
            if (RideVoices.Contains(voice) && side != natural) Add(school.RideLeft, $"the {voice.Name} by the other hand");
        }
        if (Crossed(moment, state, play, settings, Since)) Add(school.Crossed, "hands crossed");
        if (!play.Both)
        {
            if (moment.Strokes[0].Dynamic == Dynamic.Accent && play.Main == Side.Left) Add(school.WeakAccent, "the weak hand on an accent");
            if (moment.Pulse > 0 && play.Main == Side.Left) Add(school.LeadOff * moment.Pulse,
                moment.Pulse == 1 ? "the weak hand on a beat" : "");
        }
        else if (moment.Strokes.Count == 1 && play.Main == Side.Left) Add(school.FlamFromWeak, "a flam from the weak side");
        return cost;
    }

    private static string Name(Side side) => side == Side.Right ? "lead" : "weak";

    private static IEnumerable<(Side Side, Voice Voice)> Struck(HandMoment moment, Play play)
    {
        yield return (play.Main, moment.Strokes[0].Voice);
        if (play.Both) yield return (Other(play.Main), moment.Strokes[^1].Voice);
    }

    /// <summary>The right hand is clearly left of where the left hand is, or was a moment ago; over the hat it is at home there.</summary>
    private static bool Crossed(HandMoment moment, State state, Play play, StickingSettings settings, Func<int, double> since)
    {
        var (main, second) = (moment.Strokes[0].Voice, moment.Strokes[^1].Voice);
        Voice right, left;
        if (play.Both) (right, left) = play.Main == Side.Right ? (main, second) : (second, main);
        else
        {
            var other = Other(play.Main);
            if (state.MomentOf(other) < 0 || since(state.MomentOf(other)) >= 0.3) return false;
            var there = VoiceAt(state.VoiceOf(other));
            (right, left) = play.Main == Side.Right ? (main, there) : (there, main);
        }
        return right != Voice.Hat && settings.Layout.RightOf(right, left) < -1.5;
    }

    private static readonly Voice?[] ByOrder = MakeByOrder();

    private static Voice?[] MakeByOrder()
    {
        var voices = new Voice?[33];
        foreach (var voice in Voice.All) voices[voice.Order] = voice;
        return voices;
    }

    /// <summary>Instruments of one's own stand where the cowbell does.</summary>
    private static Voice VoiceAt(int order) => ByOrder[order] ?? Voice.Cowbell;

    private static StickingOption Option(IReadOnlyList<HandMoment> moments, Seconds? join, IReadOnlyList<Play> path,
        StickingSettings settings, bool swap)
    {
        var (told, first) = (new List<(string What, string Where)>(), new List<(string What, string Where)>());
        var cost = CostOf(Rounds(moments, join), moments.Count, path, settings, told);
        if (join is not null)
        {
            // What the second round has and the first has not, it has by the join.
            CostOf(moments, moments.Count, path, settings, first);
            told = [.. told.Select(t => first.Remove(t) ? t : (t.What, t.Where + " over the join"))];
        }
        var hands = moments.SelectMany((m, i) => m.Strokes.Select((_, k) => k == 0 ? path[i].Main : Other(path[i].Main)))
            .Select(s => swap ? Other(s) : s);
        var letters = string.Concat(moments.Select((m, i) => m.Strokes.Count > 1 ? 'B'
            : (swap ? Other(path[i].Main) : path[i].Main) == Side.Right ? 'R' : 'L'));
        var reasons = told.Where(t => t.What.Length > 0).GroupBy(t => t.What)
            .Select(g => g.Count() == 1 ? $"{g.Key} on {g.First().Where}"
                : string.Create(CultureInfo.InvariantCulture, $"{g.Key}, {g.Count()} times, first on {g.First().Where}")).ToList();
        if (told.All(t => !t.What.StartsWith("a double", StringComparison.Ordinal) && !t.What.Contains("again")
            && !t.What.Contains("three times"))) reasons.Insert(0, "hands in turn throughout");
        if (told.All(t => t.What != "hands crossed")) reasons.Add("nothing crossed");
        return new([.. hands], letters, cost / Whole, [.. reasons]);
    }
}
