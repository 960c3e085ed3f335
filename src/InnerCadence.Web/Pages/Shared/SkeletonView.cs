using InnerCadence.Core.Music;
using InnerCadence.Core.Rhythm;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>A skeleton as a page shows it: with its threshold, and the bars behind each way of playing a beat.</summary>
/// <param name="Address">The page, to which the threshold is added.</param>
/// <param name="PlaceOf">Address and words of a bar by its number.</param>
/// <param name="Recording">Where it can be kept as a passage; nothing where it is of several recordings.</param>
public sealed record SkeletonView(Skeleton Skeleton, double Threshold, string Address, Func<int, (string Address, string Words)> PlaceOf,
    RecordingId? Recording)
{
    /// <summary>Which bar of a pattern of several; nothing where every bar is one.</summary>
    public (int Bar, int Of)? InPattern { get; private init; }

    public static SkeletonView Of(
        IReadOnlyList<(Meter, IReadOnlyList<Stroke>)> bars, double? threshold, string address, Func<int, (string, string)> placeOf,
            RecordingId? recording = null)
    {
        var share = ShareOf(threshold);
        return new(Skeleton.Of(bars, share), share, address, placeOf, recording);
    }

    /// <summary>What cannot be a share is the usual one.</summary>
    public static double ShareOf(double? threshold) => threshold is >= 0 and <= 1 ? threshold.Value : Skeleton.UsualThreshold;

    /// <summary>One; or one for each bar of a pattern of several.</summary>
    public static IReadOnlyList<SkeletonView> OfPattern(Passage passage, double? threshold, string address, Func<int,
        (string, string)> placeOf, RecordingId? recording)
    {
        var length = Skeleton.PatternOf(passage);
        return [.. Enumerable.Range(0, length).Select(k => Of(
            [.. Enumerable.Range(0, passage.Bars).Where(i => i % length == k)
                .Select(i => (passage.Meters.MeterOf(i), Skeleton.BarOf(passage, i)))], threshold, address, i => placeOf(i * length + k),
                recording) with
        { InPattern = length > 1 ? (k + 1, length) : null })];
    }
}
