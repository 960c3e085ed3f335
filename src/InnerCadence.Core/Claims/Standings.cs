using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Claims;

/// <summary>Holds a claim against the evidence (evidence.md, "Claims").</summary>
public static class Standings
{
    private const int MostWitnesses = 12;

    public static Stand Of(ClaimTest test, Material material) => test switch
    {
        PresentIn t => Present(t, material),
        RateAtLeast t => Rate(t, material),
        OnlyTempo t => Tempo(t, material),
        OnlyInSection t => Section(t, material),
        OnlyInPhraseBar t => PhraseBar(t, material),
        NeverBefore t => Before(t, material),
        MoreThan t => More(t, material),
        HadItFirst t => Precedence.Of(material.Of(t.Idea, t.Player), material.Of(t.Idea, t.Other), material.Names.Player(t.Player),
            material.Names.Player(t.Other)).Stand,
        VoiceAt t => Voice(t, material),
        TraitIn t => Trait(t, material),
        LateBy t => Late(t, material),
        _ => throw new ArgumentOutOfRangeException(nameof(test)),
    };

    private static ValueList<Witness> Those(IEnumerable<Performance> performances, Func<Performance, bool> which) =>
        [.. performances.Where(which).Take(MostWitnesses).Select(Witness.Of)];

    private static Stand Present(PresentIn test, Material material)
    {
        var all = material.Of(test.Idea, test.Player).Where(p => test.Kind is null || p.Kind == test.Kind).ToList();
        var (answer, searched) = (Answer.Of(all), all.Where(p => p.IsSearched).ToList());
        var stand = AtLeast(answer.Presence, test.Share, Share, "recording",
            $"{answer.Found} of {Many(answer.Searched, "searched recording")}");
        return stand with
        {
            Few = answer.FewRecordings,
            For = Those(searched, p => p.Events > 0),
            Counter = Those(searched, p => p.Events == 0),
            Look = [.. all.Where(p => !p.IsSearched).Take(MostWitnesses).Select(Witness.Of)]
        };
    }

    private static Stand Rate(RateAtLeast test, Material material)
    {
        var all = material.Of(test.Idea, test.Player);
        var answer = Answer.Of(all);
        var stand = AtLeast(answer.Rate, test.Per100, PerHundred, "bar", $"{answer.Events} in {Many(answer.Bars, "searched bar")}");
        return stand with
        {
            Few = answer.FewBars,
            For = Those(all, p => p is { Events: > 0, Bars: > 0 }),
            Counter = Those(all, p => p is { Events: 0, Bars: > 0 }),
            Look = [.. all.Where(p => !p.IsSearched).Take(MostWitnesses).Select(Witness.Of)]
        };
    }

    private static Stand Voice(VoiceAt test, Material material)
    {
        var bars = material.Bars.Where(b => b.Player == test.Player && b.Bar.Meter.Equals(test.Meter)
            && !b.Bar.Unheard.Contains(test.Voice)).ToList();
        bool Has(PlayedBar b) => b.Bar.Strokes.Any(s => s.Voice == test.Voice && s.At == test.At);
        var titles = bars.GroupBy(b => b.Title).Select(g => new TitleAmount(g.Count(Has), g.Count()));
        var stand = AtLeast(Estimate.MeanShare(titles), test.Share, Share, "title",
            $"{bars.Count(Has)} of {Many(bars.Count, "written bar")}");
        ValueList<Witness> Passages(bool has) => [.. bars.Where(b => Has(b) == has).DistinctBy(b => b.Passage).Take(MostWitnesses)
            .Select(b => new Witness($"{b.Name}, bar {b.Number ?? b.Bar.Index + 1}", null, b.Passage, b.Recording))];
        return stand with { Few = bars.Count < 50, For = Passages(true), Counter = Passages(false) };
    }

    private static Stand Trait(TraitIn test, Material material)
    {
        var known = material.Fills.Where(f => f.Player == test.Player).Select(f => (Fill: f, Has: test.Habit.Has(f.Fill, f.Traits)))
            .Where(x => x.Has is not null).ToList();
        var with = known.Count(x => x.Has == true);
        var titles = known.GroupBy(x => x.Fill.Title).Select(g => new TitleAmount(g.Count(x => x.Has == true), g.Count()));
        var stand = AtLeast(Estimate.MeanShare(titles), test.Share, Share, "title", $"{with} of {Many(known.Count, "written fill")}");
        ValueList<Witness> Fills(bool has) => [.. known.Where(x => x.Has == has).Take(MostWitnesses)
            .Select(x => new Witness(x.Fill.Words, null, x.Fill.Passage, null))];
        return stand with { Few = known.Count < 20, For = Fills(true), Counter = Fills(false) };
    }

    private static Stand Late(LateBy test, Material material)
    {
        var gaps = material.Gaps.Where(g => g.Player == test.Player && g.Voice == test.Voice && g.Against == test.Against).ToList();
        var titles = gaps.GroupBy(g => g.Title).Select(t => new TitleAmount(t.Count(g => test.Holds(g.Mean)), t.Count()));
        var stand = AtLeast(Estimate.MeanShare(titles), test.Share, Share, "title",
            $"{gaps.Count(g => test.Holds(g.Mean))} of {Many(gaps.Count, "measured recording")}");
        ValueList<Witness> Recordings(bool holds) => [.. gaps.Where(g => test.Holds(g.Mean) == holds).Take(MostWitnesses)
            .Select(g => new Witness(string.Create(CultureInfo.InvariantCulture,
                $"{g.Name}: {Math.Abs(g.Mean):0} ms {(g.Mean < 0 ? "ahead" : "behind")}"),
                null, g.Passage, g.Recording))];
        return stand with { Few = gaps.Count < 6, For = Recordings(true), Counter = Recordings(false) };
    }

    private static Stand Tempo(OnlyTempo test, Material material)
    {
        var all = material.Of(test.Idea, test.Player);
        bool? Inside(Performance p) => p.Tempo is { } tempo ? tempo >= test.Tempo == test.Above : null;
        var side = test.Above ? $"below {Said(test.Tempo)}" : $"from {Said(test.Tempo)} up";
        return ByRecording(all, Inside, side, "its recording has no tempo");
    }

    private static Stand Before(NeverBefore test, Material material)
    {
        bool? Inside(Performance p) => p.Recorded is not { } date ? null : date.Earliest >= test.Date.Earliest ? true
            : date.Latest < test.Date.Earliest ? false : null;
        return ByRecording(material.Of(test.Idea, test.Player), Inside, $"before {test.Date}", "its date is not known well enough");
    }

    private static Stand ByRecording(IReadOnlyList<Performance> all, Func<Performance, bool?> inside, string side, string whyUnclear)
    {
        var (claimed, silent) = (all.Where(p => inside(p) == true).ToList(), all.Where(p => inside(p) == false).ToList());
        return Only(all, (p, _) => inside(p), side, whyUnclear, silent.Sum(p => p.Bars), Answer.Of(claimed).Rate?.Interval,
            silent.Where(p => !p.IsSearched));
    }

    private static Stand Section(OnlyInSection test, Material material) =>
        ByBar(test, material, Division.Section, key => key == test.Section, $"outside the {test.Section}", "its section has no name");

    private static Stand PhraseBar(OnlyInPhraseBar test, Material material) =>
        ByBar(test, material, Division.PhraseOf(test.Of), key => key == Division.PhraseKey(test.Bar, test.Of),
            $"in the other bars of {CountNames.Number(test.Of)}", "its bar has no number");

    /// <summary>Every searched bar whose place is known is on one side or on the other.</summary>
    private static Stand ByBar(IdeaClaim test, Material material, Division division, Func<string, bool> isInside, string side,
        string whyUnclear)
    {
        var all = material.Of(test.Idea, test.Player);
        bool? Inside(string key) => key == Division.Unknown ? null : isInside(key);
        var (claimed, silent) = division.Divided(all, Inside);
        return Only(all, (p, a) => Inside(division.PartOf(p, a)), side, whyUnclear, (int)silent.Sum(t => t.Amount),
            Estimate.Rate(claimed)?.Interval, []);
    }

    /// <summary>An “only” or a “never”: it falls by one counter-example, and stands where enough was searched in vain.</summary>
    private static Stand Only(
        IReadOnlyList<Performance> all, Func<Performance, Appearance, bool?> inside, string side, string whyUnclear, int silentBars,
            Interval? claimedRate, IEnumerable<Performance> look)
    {
        var found = all.SelectMany(p => p.Appearances.Select(o => (Performance: p, Appearance: o, Inside: inside(p, o)))).ToList();
        ValueList<Witness> Those(Func<(Performance Performance, Appearance Appearance, bool? Inside), bool> which) =>
            [.. found.Where(which).Take(MostWitnesses).Select(x => Witness.Of(x.Appearance, x.Performance))];
        var against = found.Count(x => x.Inside == false);
        var sureAgainst = found.Count(x => x is { Inside: false, Appearance.SureWhoPlays: true });
        var unclear = found.Count(x => x.Inside is null);
        var figures = $"{found.Count - against - unclear} of {found.Count} inside, {Many(silentBars, "bar")} searched {side}";
        Stand Say(Standing standing, string reason, string? settles = null, string? breaks = null) => new(standing, reason, figures)
        {
            Settles = settles,
            Breaks = breaks,
            Few = silentBars < 50,
            For = Those(x => x.Inside == true),
            Counter = Those(x => x.Inside == false),
            Unclear = Those(x => x.Inside is null),
            Look = [.. look.Take(MostWitnesses).Select(Witness.Of)],
        };
        if (sureAgainst > 0) return Say(Standing.Contradicted,
            $"{CountNames.Number(sureAgainst).Capital()} of {Many(found.Count, "sighting")} {(sureAgainst == 1 ? "lies" : "lie")} "
            + $"{side}. One is enough.");
        if (found.Count == 0) return Say(Standing.Open, "It is not found at all yet.", "a confirmed sighting");
        if (against > 0) return Say(Standing.Open,
            $"{CountNames.Number(against).Capital()} {(against == 1 ? "lies" : "lie")} {side}, where it is not certain who drums.",
            "who drums there");
        if (unclear > 0) return Say(Standing.Open,
            $"{CountNames.Number(unclear).Capital()} of {Many(found.Count, "sighting")} cannot be placed: {whyUnclear}.",
            "placing what cannot be placed");
        var all_ = found.Count == 1 ? "The one sighting is" : $"All {found.Count} are";
        if (silentBars == 0) return Say(Standing.Open,
            $"{all_} as claimed, but no bar was searched {side}, so its absence there means nothing.", More(BarsFor(claimedRate)));
        if (Silence.Of(silentBars, claimedRate) is not { } silence) return Say(Standing.Open,
            $"{all_} as claimed, but too little is known of its rate to weigh the silence {side}.", "more sightings in searched bars");
        var weighed = string.Create(CultureInfo.InvariantCulture,
            $"{all_} as claimed. {Many(silentBars, "bar")} {(silentBars == 1 ? "was" : "were")} searched {side} without it; at the "
            + $"lower end of its rate ({silence.Per100:0.0} per 100) they would show {silence.Expected:0.0}, none: "
            + $"{Chance(silence.None)}.");
        return silence.IsStrong
            ? Say(Standing.Supported, weighed, breaks: $"One confirmed sighting {side}.")
            : Say(Standing.Open, weighed, More(silence.BarsToStrong));

        string More(int? bars) => bars is { } n && n <= Settling.Reach ? $"about {Many(n, "more bar")} searched {side} without it"
            : Stand.OutOfReach;
        static int? BarsFor(Interval? rate) => rate is { Low: > 0 } r ? (int)Math.Ceiling(-Math.Log(Silence.Strong) * 100 / r.Low) : null;
    }

    private static Stand More(MoreThan test, Material material)
    {
        var (own, theirs) = (material.Of(test.Idea, test.Player), material.Of(test.Idea, test.Other));
        var (one, two) = (Answer.Of(own), Answer.Of(theirs));
        var (name, other) = (material.Names.Player(test.Player), material.Names.Player(test.Other));
        var figures = $"{one.Events} in {Many(one.Bars, "bar")}, {two.Events} in {two.Bars}";
        if (SideBySide.Between(one, two) is not { } times)
            return new(Standing.Open, one.Bars == 0 || two.Bars == 0 ? "One of the two was not searched for it."
                : "Neither is known to play it.", figures)
            {
                Settles = one.Bars == 0 || two.Bars == 0 ? "searching both"
                : "a confirmed sighting",
                SettledBy = one.Bars == 0 && two.Bars > 0 ? [test.Player] : two.Bars == 0 && one.Bars > 0
                ? [test.Other] : [test.Player, test.Other]
            };
        var standing = times.MoreThanOnce();
        var (settles, by) = standing == Standing.Open ? Settles() : (null, []);
        var breaking = standing != Standing.Supported ? null : BreaksAt(times);
        var few = times.FewToClaim ? " " + Settling.FewTitles(Math.Min(times.One.Titles, times.Two.Titles)) : "";
        return new(standing, $"{name}: {one.Events} in {Many(one.Bars, "bar")}; {other}: {two.Events} in {two.Bars}. "
            + $"{TimesWords(times.Interval)}.{few}", figures)
        {
            Interval = times.Interval,
            Against = 1,
            Unit = "times",
            Titles = Math.Min(times.One.Titles, times.Two.Titles),
            Few = one.FewBars || two.FewBars,
            Settles = settles,
            SettledBy = by,
            Breaks = breaking is { } b ? $"About {Many(b, "more sighting")} by {other} in what is searched."
                : standing == Standing.Supported ? "No number of sightings within reach." : null,
            For = Those(own, p => p.Events > 0),
            Counter = Those(theirs, p => p.Events > 0),
            Look = [.. own.Concat(theirs).Where(p => !p.IsSearched && by.Contains(p.Player)).Take(MostWitnesses).Select(Witness.Of)],
        };

        (string, ValueList<long>) Settles()
        {
            var (byOne, byOther) = (times.ToSettleByOne(), times.ToSettleByOther());
            if (byOne is null && byOther is null)
                return times.ToSettleByBoth() is { } both ? ($"about {Many(both, "more bar")} of both together at the present rates",
                    [test.Player, test.Other]) : (Stand.OutOfReach, [test.Player, test.Other]);
            var ways = new[] { (Bars: byOne, Name: name, Player: test.Player),
                (Bars: byOther, Name: other, Player: test.Other) }.Where(w => w.Bars is not null).OrderBy(w => w.Bars).ToList();
            return ($"about {string.Join(", or ", ways.Select(w => $"{Many(w.Bars!.Value, "more bar")} of {w.Name}"))} at the present "
                + $"rate", [.. ways.Select(w => w.Player)]);
        }
    }

    /// <summary>How many more sightings of the other, in what is searched, would take the support away.</summary>
    private static int? BreaksAt(TimesAsOften times)
    {
        for (var more = 1; more <= Settling.Reach; more++)
            if (times.WithMoreOfOther(more).Interval.Low <= 1) return more;
        return null;
    }

    private static Stand AtLeast(Estimate? measured, double least, Func<double, string> said, string unit, string figures)
    {
        var kind = said == PerHundred ? "rate" : "share";
        if (measured is null) return new(Standing.Open, $"Not searched: there is no {(unit == "title" ? "bar" : unit)} to count in.",
            figures)
        { Settles = $"searching at all", Unit = kind };
        var (interval, standing) = (measured.Interval, measured.Against(least));
        var alone = measured.IsPlain ? ", as if bars were independent" : unit == "title" ? ", the mean of the titles" : "";
        return new(standing, $"{figures.Capital()}: {said(interval.Value)} ({said(interval.Low)} to {said(interval.High)}{alone}), "
            + $"against at least {said(least)}.{(measured.FewToClaim ? " " + Settling.FewTitles(measured.Titles) : "")}", figures)
        {
            Interval = interval,
            Against = least,
            Unit = kind,
            Titles = measured.Titles,
            Settles = standing != Standing.Open ? null : measured.ToSettle(least) is { } more
                ? $"about {Many(more, $"more {unit}")}"
                    + $"{(measured.FewToClaim ? $" in at least {Estimate.FewTitles - measured.Titles} more titles" : "")} at the present "
                    + $"{kind}" : Stand.OutOfReach,
            Breaks = standing != Standing.Supported ? null : measured.ToBreak(least) is { } without
                ? $"About {Many(without, $"more {unit}")} without it." : $"No number of {unit}s within reach.",
        };
    }

    private static string TimesWords(Interval times) => double.IsPositiveInfinity(times.Value)
        ? string.Create(CultureInfo.InvariantCulture, $"At least {times.Low:0.0} times as often")
        : string.Create(CultureInfo.InvariantCulture,
            $"{times.Value:0.0} times as often ({times.Low:0.0} to "
            + $"{(double.IsPositiveInfinity(times.High) ? "any number" : times.High.ToString("0.0", CultureInfo.InvariantCulture))})");

    private static string Share(double share) => string.Create(CultureInfo.InvariantCulture, $"{share * 100:0.#} %");
    private static string PerHundred(double rate) => string.Create(CultureInfo.InvariantCulture, $"{rate:0.0} per 100");
    private static string Said(double number) => string.Create(CultureInfo.InvariantCulture, $"{number:0.##}");
    internal static string Chance(double p) => p < 0.001 ? "under 0.1 %" : string.Create(CultureInfo.InvariantCulture, $"{p * 100:0.#} %");
    internal static string Many(int n, string what) => $"{n} {what}{(n == 1 ? "" : "s")}";
}
