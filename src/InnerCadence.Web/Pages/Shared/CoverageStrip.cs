using System.Globalization;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>How much of a recording was searched: filled where written down or listened to, hatched where not.</summary>
public static class CoverageStrip
{
    /// <summary>Bars searched, each once, never more than there are.</summary>
    public static int Bars(Recording recording) => recording.TotalBars is { } total ? Math.Min(recording.SearchedBars, total)
        : recording.SearchedBars;

    public static double Share(Recording recording) => recording.TotalBars is { } total ? (double)Bars(recording) / total
        : Bars(recording) > 0 ? 0.5 : 0;

    public static string Words(Recording recording) => recording.TotalBars is { } total ? $"{Bars(recording)} of {total}"
        : $"{Bars(recording)} of ?";

    private static readonly string Hatching = string.Concat(Enumerable.Range(0, 19).Select(i => $"M{i * 6} 10l6-10"));

    /// <summary>The strip as SVG markup.</summary>
    public static string Of(Recording recording)
    {
        var share = Share(recording);
        var written = recording.TotalBars is { } total ? Math.Min(1, (double)recording.WrittenBars / total) : 0;
        string X(double value) => (value * 112).ToString("0.#", CultureInfo.InvariantCulture);
        return $"""
            <svg class="bar" viewBox="0 0 112 10" width="112" height="10" role="img" aria-label="{Words(recording)} bars searched"
              ><path class="cover-none" d="{Hatching}" /><rect class="cover-heard" width="{X(share)}" height="10"
              /><rect class="cover-written" width="{X(written)}" height="10" /></svg>
            """;
    }
}
