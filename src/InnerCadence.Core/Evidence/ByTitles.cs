using MathNet.Numerics.Distributions;

namespace InnerCadence.Core.Evidence;

/// <summary>So many in so much of one title: sightings in bars, recordings with it of those searched.</summary>
public readonly record struct TitleAmount(double Events, double Amount);

/// <summary>A rate or a share over titles: its value, how far the titles differ, and its interval at any level.</summary>
/// <remarks>
/// evidence.md, "The interval". Takes of one title and repeats inside one performance are not independent, so the exact interval (Garwood
/// for a rate, Wilson for a share) is worked
/// out for the effective amounts E / D and B / D, at the tail of Student's t where D is over 1. 9, 0, 0 and 1 in 100, 120, 80 and 100 bars:
/// 2.5 per 100, D 7.67, 0.009 to 19.6.
/// </remarks>
public sealed record Estimate
{
    /// <summary>What is left out at either end of a 95 % interval.</summary>
    public const double Usual = 0.025;

    /// <summary>With fewer titles nobody can say how far they differ, so nothing that rests on their interval leaves open.</summary>
    public const int FewTitles = 4;

    private readonly Kind kind;

    private Estimate(double events, double amount, double designEffect, int titles, Kind kind) =>
        (Events, Amount, DesignEffect, Titles, this.kind) = (events, amount, designEffect, titles, kind);

    private enum Kind { Rate, Share, MeanShare }

    public double Events { get; }
    public double Amount { get; }
    /// <summary>By how much the titles differ more than chance would let them; below 1 only for a mean over titles that hardly
    /// differ.</summary>
    public double DesignEffect { get; }
    /// <summary>Titles in which anything was searched.</summary>
    public int Titles { get; }

    public bool IsPlain => Titles < 2;
    public bool FewToClaim => Titles < FewTitles;

    /// <summary>Per 100, or from 0 to 1.</summary>
    public double Value => (kind == Kind.Rate ? 100 : 1) * Events / Amount;

    public Interval Interval => At(Usual);

    /// <summary>As if each bar, or each recording, stood by itself.</summary>
    public Interval Alone => kind == Kind.Rate ? Estimates.Garwood(Events, Amount) : Estimates.Wilson(Events, Amount);

    /// <summary>The interval that leaves out so much at either end.</summary>
    public Interval At(double tail)
    {
        var effective = (Events: Events / DesignEffect, Amount: Amount / DesignEffect);
        return kind == Kind.Rate
            ? Estimates.Garwood(effective.Events, effective.Amount, Widened(tail))
            : Estimates.Wilson(effective.Events, effective.Amount,
                -(IsWidened ? StudentT.InvCDF(0, 1, Titles - 1, tail) : Normal.InvCDF(0, 1, tail)));
    }

    /// <summary>So many times as much searched in titles like these, with as much found in it.</summary>
    public Estimate Grown(double times) => new(Events * times, Amount * times, DesignEffect,
        Math.Max(Titles, (int)Math.Floor(Titles * times + 1e-9)), kind);

    /// <summary>So much more searched, with nothing found in it.</summary>
    public Estimate WithNone(double amount) => new(Events, Amount + amount, DesignEffect, Titles, kind);

    /// <summary>So many more found in what is searched.</summary>
    public Estimate WithMore(double events) => new(Events + events, Amount, DesignEffect, Titles, kind);

    /// <summary>Events per 100 bars; nothing where no bar was searched.</summary>
    public static Estimate? Rate(IEnumerable<TitleAmount> titles) => Of(titles, Kind.Rate);

    /// <summary>A share of recordings; nothing where none was searched.</summary>
    /// <exception cref="ArgumentOutOfRangeException">More with it than were searched.</exception>
    public static Estimate? Share(IEnumerable<TitleAmount> titles) => Of(titles, Kind.Share);

    /// <summary>
    /// The mean of the titles' own shares, each title the same weight: a groove kept up for sixteen bars is one decision. The interval is
    /// Wilson's for as many bars as give a mean of
    /// that spread, never fewer than there are titles nor more than there are bars, at Student's t.
    /// </summary>
    /// <param name="titles">So many bars (or fills) with it of so many.</param>
    public static Estimate? MeanShare(IEnumerable<TitleAmount> titles)
    {
        var known = titles.Where(t => t.Amount > 0).ToList();
        if (known.Count == 0) return null;
        double n = known.Count, mean = known.Average(t => t.Events / t.Amount), bars = known.Sum(t => t.Amount);
        var square = n < 2 ? 0 : known.Sum(t => (t.Events / t.Amount - mean) * (t.Events / t.Amount - mean)) / (n - 1) / n;
        var alone = mean * (1 - mean);
        var effective = n < 2 || (square <= alone / bars && alone > 0) ? bars : alone <= 0 ? n : Math.Clamp(alone / square, n, bars);
        return new(mean * n, n, n / effective, known.Count, Kind.MeanShare);
    }

    private static Estimate? Of(IEnumerable<TitleAmount> titles, Kind kind)
    {
        var searched = titles.Where(t => t.Amount > 0).ToList();
        foreach (var title in searched)
        {
            ArgumentOutOfRangeException.ThrowIfNegative(title.Events);
            if (kind != Kind.Rate) ArgumentOutOfRangeException.ThrowIfGreaterThan(title.Events, title.Amount);
        }
        var (events, amount) = (searched.Sum(t => t.Events), searched.Sum(t => t.Amount));
        return amount <= 0 ? null : new(events, amount, Differ(searched, events, amount, kind == Kind.Rate), searched.Count, kind);
    }

    private static double Differ(List<TitleAmount> titles, double events, double amount, bool isRate)
    {
        double n = titles.Count, rate = events / amount;
        if (n < 2 || events == 0 || (!isRate && (events == amount || amount <= 1))) return 1;
        var seen = n / (n - 1) * titles.Sum(t => (t.Events - rate * t.Amount) * (t.Events - rate * t.Amount)) / (amount * amount);
        var alone = isRate ? events / (amount * amount) : rate * (1 - rate) / (amount - 1);
        // One recording a title is exactly 1; the last digits must not make it more.
        return seen / alone is var ratio && ratio > 1 + 1e-12 ? ratio : 1;
    }

    private bool IsWidened => kind == Kind.MeanShare ? Titles > 1 : DesignEffect > 1;

    /// <summary>The normal tail of Student's t, where the titles differ more than chance lets them.</summary>
    internal double Widened(double tail) => DesignEffect > 1 ? Normal.CDF(0, 1, StudentT.InvCDF(0, 1, Titles - 1, tail)) : tail;

    /// <summary>Back from a normal tail to the one of Student's t.</summary>
    internal double Unwidened(double tail) => DesignEffect > 1 ? StudentT.CDF(0, 1, Titles - 1, Normal.InvCDF(0, 1, tail)) : tail;
}

/// <summary>How many times as often one side has it, by titles.</summary>
/// <param name="Interval">Infinite ends where the others have none.</param>
/// <param name="P">Twice the tail at which the nearer end is 1, at most 1.</param>
public sealed record TimesAsOften(Interval Interval, double P, Estimate One, Estimate Two)
{
    public bool FewToClaim => One.FewToClaim || Two.FewToClaim;

    /// <summary>
    /// The ratio of two rates: Clopper and Pearson's interval (1934) for one side's share of the effective events, turned into a ratio by
    /// the effective amounts, at the wider of
    /// both tails (evidence.md, "Against others"). 4, 3, 5 in 100, 100, 120 bars against 1, 3, 1 in 100, 150, 60: 2.3 times, 0.76 to 8.4.
    /// </summary>
    /// <returns>Nothing where a side was not searched, or nothing was found on either.</returns>
    public static TimesAsOften? Of(IEnumerable<TitleAmount> one, IEnumerable<TitleAmount> two) =>
        Estimate.Rate(one) is { } a && Estimate.Rate(two) is { } b && a.Events + b.Events > 0 ? Of(a, b) : null;

    /// <summary>So many more sightings of the other side in what is searched.</summary>
    public TimesAsOften WithMoreOfOther(double events) => Of(One, Two.WithMore(events));

    public static TimesAsOften Of(Estimate one, Estimate two)
    {
        double events = one.Events / one.DesignEffect, bars = one.Amount / one.DesignEffect, others = two.Events / two.DesignEffect,
            otherBars = two.Amount / two.DesignEffect;
        // The wider tail leaves out less.
        var wider = one.Widened(Estimate.Usual) <= two.Widened(Estimate.Usual) ? one : two;
        var tail = wider.Widened(Estimate.Usual);
        // The upper end is the lower one of the other side: a share close to 1 has fewer digits than what is left of it.
        var low = one.Events == 0 ? 0 : Ratio(Beta.InvCDF(events, others + 1, tail), otherBars / bars);
        var high = two.Events == 0 ? double.PositiveInfinity : 1 / Ratio(Beta.InvCDF(others, events + 1, tail), bars / otherBars);
        var value = two.Events == 0 ? double.PositiveInfinity : one.Events / one.Amount / (two.Events / two.Amount);
        // Each tail from its own side: taken from 1, a tail of 1e-17 would be none, though with few titles p is then far from 0.
        var nearer = value >= 1
            ? Beta.CDF(events, others + 1, bars / (bars + otherBars))
            : Beta.CDF(others, events + 1, otherBars / (bars + otherBars));
        return new(new(value, low, high), Math.Min(1, 2 * wider.Unwidened(Math.Min(nearer, 1))), one, two);

        static double Ratio(double share, double amounts) => share / (1 - share) * amounts;
    }
}
