using System.Globalization;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Core.Claims;

/// <summary>How a number stands against what is claimed of it, and what more would settle or break it (evidence.md, "Claims").</summary>
public static class Settling
{
    /// <summary>More than this is not in reach.</summary>
    public const int Reach = 1000;

    /// <summary>Titles are skewed, a few carry most: contradicted only where the whole 99 % interval lies on the other side.</summary>
    private const double Strict = 0.005;

    /// <summary>At least so much: supported by the whole interval, contradicted by the whole wider one; open with fewer than four
    /// titles.</summary>
    public static Standing Against(this Estimate estimate, double least) =>
        estimate.FewToClaim ? Standing.Open : estimate.Interval.Low >= least ? Standing.Supported : estimate.At(Strict).High < least
            ? Standing.Contradicted : Standing.Open;

    /// <summary>One side more often than the other: by the whole interval of the ratio.</summary>
    public static Standing MoreThanOnce(this TimesAsOften times) =>
        times.FewToClaim ? Standing.Open : times.Interval.Low > 1 ? Standing.Supported : times.Interval.High < 1 ? Standing.Contradicted
            : Standing.Open;

    /// <summary>How much more would settle it at the present share, in titles like these; nothing where it is out of reach.</summary>
    public static int? ToSettle(this Estimate estimate, double least) =>
        Least(extra => estimate.Grown(1 + extra / estimate.Amount).Against(least) != Standing.Open);

    /// <summary>How much more without it would take the support away.</summary>
    public static int? ToBreak(this Estimate estimate, double least) => Least(extra => estimate.WithNone(extra).Interval.Low < least);

    /// <summary>How many more bars of one side would settle a ratio at the present rates, the other left as it is.</summary>
    public static int? ToSettleByOne(this TimesAsOften times) =>
        Least(extra => TimesAsOften.Of(times.One.Grown(1 + extra / times.One.Amount), times.Two).MoreThanOnce() != Standing.Open);

    public static int? ToSettleByOther(this TimesAsOften times) =>
        Least(extra => TimesAsOften.Of(times.One, times.Two.Grown(1 + extra / times.Two.Amount)).MoreThanOnce() != Standing.Open);

    /// <summary>How many more bars of both together.</summary>
    public static int? ToSettleByBoth(this TimesAsOften times) => Least(extra =>
    {
        var grown = 1 + extra / (times.One.Amount + times.Two.Amount);
        return TimesAsOften.Of(times.One.Grown(grown), times.Two.Grown(grown)).MoreThanOnce() != Standing.Open;
    });

    /// <summary>The least amount from 1 to <see cref="Reach"/> for which something holds that then goes on holding.</summary>
    private static int? Least(Func<double, bool> holds)
    {
        if (!holds(Reach)) return null;
        var (low, high) = (1, Reach);
        while (low < high)
        {
            var middle = (low + high) / 2;
            if (holds(middle)) high = middle;
            else low = middle + 1;
        }
        return low;
    }

    /// <summary>Why nothing can be claimed of so few titles.</summary>
    internal static string FewTitles(int titles) => string.Create(CultureInfo.InvariantCulture,
        $"Only {titles} {(titles == 1 ? "title is" : "titles are")} searched: how far titles differ can be told from "
            + $"{Estimate.FewTitles} on.");
}
