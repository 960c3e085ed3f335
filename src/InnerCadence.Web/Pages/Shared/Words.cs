using System.Globalization;
using InnerCadence.Core.Counting;
using InnerCadence.Core.Evidence;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>Numbers as they stand on a page.</summary>
public static class Words
{
    /// <summary>15 to 54 %</summary>
    public static string Percent(Interval share) => Invariant($"{share.Low * 100:0} to {share.High * 100:0} %");

    /// <summary>1.0 to 2.0</summary>
    public static string Range(Interval rate) => $"{Rate(rate.Low)} to {Rate(rate.High)}";

    public static string Rate(double value) => value >= 10 ? Invariant($"{value:0}") : Invariant($"{value:0.0}");

    /// <summary>Said where it is so: one title cannot tell how far titles differ.</summary>
    public static string Basis(Estimate estimate) => estimate.IsPlain ? ", as if bars were independent" : "";

    /// <summary>2 %; under 0.1 %</summary>
    public static string Chance(double p) => p < 0.001 ? "under 0.1 %" : Invariant($"{p * 100:0.#} %");

    /// <summary>With a capital and a full stop.</summary>
    public static string Sentence(string words) => $"{words.Capital()}.";

    /// <summary>2 214</summary>
    public static string Count(int number) => number.ToString("#,0", Thin);

    public static string Bars(int number) => number == 1 ? "1 bar" : $"{Count(number)} bars";

    private static readonly NumberFormatInfo Thin = new() { NumberGroupSeparator = "\u202F" };

    private static string Invariant(FormattableString text) => FormattableString.Invariant(text);
}
