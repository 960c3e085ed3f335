using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>Where one entry, found or heard, lies in its recording: by bar as far as that is known, else by the clock.</summary>
/// <param name="Source">The reading it was found in, or the entry made by hand: two of one source are never one place.</param>
/// <param name="Start">Quarters from the start of bar 1; nothing where its bar is not known.</param>
/// <param name="Seconds">On the clock.</param>
internal sealed record Spot(string Source, FoundSighting? Found, HeardByHand? Heard, int? Bar, Meter? Meter, Tick? InBar, double? Start,
    double? End, double? Seconds, double SecondsAQuarter)
{
    /// <summary>Only its bar was said.</summary>
    public bool IsWholeBar => Bar is not null && InBar is null && Seconds is null;

    public static Spot Of(FoundSighting found, RecordingFacts recording)
    {
        var (index, inBar) = found.Meters.Locate(found.Start);
        var bar = found.FirstBar + index;
        double? start = bar is { } b ? recording.Grid.StartOf(b) + Quarters(inBar) : null;
        var quarter = 60 / (found.Tempo?.Value ?? recording.Tempo ?? Usual);
        return new($"reading {found.Reading}", found, null, bar, found.Meters.MeterOf(index), inBar, start,
            start + Quarters(found.End - found.Start),
            found.Starts is { } at ? at.Milliseconds / 1000.0 + Quarters(found.Start) * quarter : null, quarter);
    }

    /// <summary>A clock time is placed by the bar marks first.</summary>
    public static Spot Of(HeardByHand heard, RecordingFacts recording)
    {
        var (source, quarter) = ($"heard {heard.Id}", 60 / (recording.Tempo ?? Usual));
        double? seconds = heard.At is { } clock ? clock.Milliseconds / 1000.0 : null;
        if (heard.At is { } at && recording.Map?.PlaceOf(at) is { Bar: >= 1 } place)
        {
            var start = recording.Grid.QuartersTo(place);
            return new(source, null, heard, place.Bar, null, null, start, start, seconds, quarter);
        }
        return new(source, null, heard, heard.Bar, null, null, null, null, seconds, quarter);
    }

    /// <summary>How far apart two entries are, in quarters; nothing where that cannot be said.</summary>
    public double? To(Spot other)
    {
        if (IsWholeBar || other.IsWholeBar) return Bar is not null && Bar == other.Bar ? 0 : null;
        if (Start is { } one && other.Start is { } two) return Math.Abs(one - two);
        return Seconds is { } early && other.Seconds is { } late
            ? Math.Abs(early - late) / Math.Min(SecondsAQuarter, other.SecondsAQuarter) : null;
    }

    /// <summary>Where nobody said a tempo.</summary>
    private const double Usual = 100;

    private static double Quarters(Tick length) => (double)length.Value / Tick.PerQuarter;
}

/// <summary>A place in a recording counts once, however many passages, readings and entries made by hand show it (evidence.md, "Counted
/// once").</summary>
internal static class SamePlace
{
    /// <summary>Entries nearer than this are one place, if they are not of one source.</summary>
    private const double Eighth = 0.5;

    /// <summary>Entries that show the same place, in the order of the recording; nearest are put together first, and no two of one source
    /// ever.</summary>
    public static IReadOnlyList<IReadOnlyList<Spot>> Groups(IReadOnlyList<Spot> spots)
    {
        var group = Enumerable.Range(0, spots.Count).Select(i => new List<int> { i }).ToArray();
        var pairs = new List<(double Apart, int One, int Two)>();
        // Only what starts near can be one place: entries in order, each against those that follow it closely.
        foreach (var near in Near(spots)) pairs.Add(near);
        foreach (var (_, one, two) in pairs.OrderBy(p => p.Apart).ThenBy(p => p.One).ThenBy(p => p.Two))
        {
            if (group[one] == group[two] || group[one].Any(a => group[two].Any(b => spots[a].Source == spots[b].Source))) continue;
            group[one].AddRange(group[two]);
            foreach (var member in group[two].ToList()) group[member] = group[one];
        }
        return [.. group.Distinct().Select(g => (IReadOnlyList<Spot>)[.. g.Order().Select(i => spots[i])])
            .OrderBy(g => g[0].Start ?? double.MaxValue).ThenBy(g => g[0].Bar ?? int.MaxValue)
                .ThenBy(g => g[0].Seconds ?? double.MaxValue)];
    }

    private static IEnumerable<(double Apart, int One, int Two)> Near(IReadOnlyList<Spot> spots)
    {
        if (spots.Select(s => s.Source).Distinct().Count() < 2) yield break;
        var order = Enumerable.Range(0, spots.Count).OrderBy(i => spots[i].Start ?? double.MinValue).ToList();
        for (var k = 0; k < order.Count; k++)
            for (var n = k + 1; n < order.Count; n++)
            {
                var (one, two) = (order[k], order[n]);
                if (spots[one].Start is { } a && spots[two].Start is { } b && b - a > Eighth && !spots[one].IsWholeBar) break;
                if (spots[one].Source != spots[two].Source && spots[one].To(spots[two]) is { } apart
                    && apart < Eighth) yield return (apart, Math.Min(one, two), Math.Max(one, two));
            }
    }
}
