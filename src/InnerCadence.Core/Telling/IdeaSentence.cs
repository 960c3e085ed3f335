using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Telling;

/// <summary>An idea in words, from its numbers (evidence.md, "Sentences").</summary>
public static class IdeaSentence
{
    /// <summary>
    /// About once in 190 bars (100 to 1,000), in roughly every second recording; always from beat 3; two titles carry 6 of the 8; nothing
    /// like it in 618 bars of the others.
    /// </summary>
    /// <param name="all">Of the whole study.</param>
    public static string Of(IReadOnlyCollection<Performance> all, long player)
    {
        var (own, others) = (all.Where(p => p.Player == player).ToList(), all.Where(p => p.Player != player).ToList());
        var answer = Answer.Of(own);
        if (answer.Rate is not { } rate) return answer.Outside > 0
            ? $"{Counted(answer.Outside, "place").Capital()} confirmed, but no bar was searched for it, so nothing says how often."
            : "Not searched yet.";
        var parts = new List<string> { answer.Events == 0 ? $"not once in {Bars(answer.Bars)}{AtMost(rate)}" : OnceIn(rate) };
        if (answer.Events > 0)
        {
            if (answer.Presence is { } presence) parts[0] += $", in {Share(answer.Found, answer.Searched, presence.Value)}";
            if (Always(own) is { } always) parts.Add(always);
            if (Carried(answer) is { } carried) parts.Add(carried);
        }
        if (others.Count > 0 && Answer.Of(others) is { Bars: > 0 } theirs)
            parts.Add(theirs is { Events: 0, Outside: 0 } ? $"nothing like it in {Bars(theirs.Bars)} of the others"
                : SideBySide.Between(answer, theirs) is { } times ? Times(times) : "");
        if (answer.Outside > 0) parts.Add($"and {answer.Outside} outside what was searched");
        if (answer.IsFew) parts.Add($"few {(answer.FewRecordings ? answer.FewBars ? "recordings and bars" : "recordings" : "bars")} "
            + $"searched, so take it as a first hint");
        return string.Join("; ", parts.Where(p => p.Length > 0)).Capital() + ".";
    }

    /// <summary>About once in 190 bars (100 to 1,000).</summary>
    public static string OnceIn(Estimate rate)
    {
        var interval = rate.Interval;
        if (rate.Events == 0) return $"not once in {Bars((int)rate.Amount)}{AtMost(rate)}";
        string Bounds() => interval.Low <= 0 || 100 / interval.Low > 1_000_000 ? $"{Round(100 / interval.High)} or more"
            : $"{Round(100 / interval.High)} to {Round(100 / interval.Low)}";
        return interval.Value >= 100 ? $"about {Round(interval.Value / 100)} times a bar"
            : $"about once in {Round(100 / interval.Value)} bars ({Bounds()})";
    }

    private static string AtMost(Estimate rate) => rate.Interval.High is > 0 and var high ? $" (at most once in {Round(100 / high)})" : "";

    /// <summary>2.3 times as often as the others (0.8 to 8.4)</summary>
    private static string Times(TimesAsOften times) => double.IsPositiveInfinity(times.Interval.Value)
        ? string.Create(CultureInfo.InvariantCulture, $"at least {times.Interval.Low:0.0} times as often as the others")
        : string.Create(CultureInfo.InvariantCulture,
            $"{times.Interval.Value:0.0} times as often as the others ({times.Interval.Low:0.0} to "
            + $"{(double.IsPositiveInfinity(times.Interval.High) ? "any number" : times.Interval.High.ToString("0.0", CultureInfo.InvariantCulture))})");

    private static string Share(int found, int searched, double share) => found == searched
        ? searched == 1 ? "the one recording searched" : $"all {searched} recordings searched"
        : share switch
        {
            >= 0.9 => "nearly every recording",
            >= 0.42 and <= 0.58 => "roughly every second recording",
            >= 0.28 and <= 0.39 => "roughly every third recording",
            _ => $"{found} of {searched} recordings"
        };

    /// <summary>Where all of them are alike: always from beat 3.</summary>
    private static string? Always(IReadOnlyCollection<Performance> own)
    {
        var places = own.SelectMany(p => p.Counted).Where(a => a.Beat is not null).ToList();
        if (places.Count < 3) return null;
        if (places.Select(a => (a.Place, a.Meter)).Distinct()
            .Count() == 1) return $"always on {CountNames.Spoken(places[0].Place!.Value, places[0].Meter!)}";
        return places.Select(a => a.Beat).Distinct().Count() == 1 ? $"always from beat {places[0].Beat}" : null;
    }

    /// <summary>Where a few titles have most of it.</summary>
    private static string? Carried(Answer answer)
    {
        var titles = answer.Titles.OrderByDescending(t => t.Events).ToList();
        if (answer.Events < 4 || titles.Count(t => t.Events > 0) < 2) return answer.Events >= 2 && titles.Count > 1
            && titles.Count(t => t.Events > 0) == 1 ? "all in one title" : null;
        for (var n = 1; n <= 2; n++)
            if (titles.Take(n).Sum(t => t.Events) is var most && most * 4 >= answer.Events * 3 && titles.Count(t => t.Events > 0) > n)
                return $"{CountNames.Number(n)} {(n == 1 ? "title carries" : "titles carry")} {most} of the {answer.Events}";
        return null;
    }

    /// <summary>Two figures: 190, 1,000.</summary>
    private static string Round(double bars)
    {
        if (bars < 10) return bars.ToString("0.#", CultureInfo.InvariantCulture);
        var step = Math.Pow(10, Math.Floor(Math.Log10(bars)) - 1);
        return (Math.Round(bars / step) * step).ToString("#,0", CultureInfo.InvariantCulture);
    }

    private static string Bars(int bars) => Counted(bars, "bar");
    private static string Counted(int n, string what) => $"{n.ToString("#,0", CultureInfo.InvariantCulture)} {what}{(n == 1 ? "" : "s")}";
}
