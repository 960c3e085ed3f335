using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>Where in the bar an idea starts, one side beside another, in the meter in which it is found most.</summary>
/// <param name="Of">Counted places of the one side in that meter.</param>
public sealed record PlaceProfile(Meter Meter, ValueList<ProfilePlace> Places, int Of, int OthersOf)
{
    public ProfilePlace Commonest => Places.MaxBy(p => p.Found)!;

    /// <summary>Nothing where no counted place has one in its bar.</summary>
    public static PlaceProfile? Between(IEnumerable<Performance> one, IEnumerable<Performance> two)
    {
        List<Appearance> Known(IEnumerable<Performance> side) =>
            [.. side.SelectMany(p => p.Counted).Where(a => a is { Place: not null, Meter: not null })];
        var (all, theirs) = (Known(one), Known(two));
        if (all.Count == 0) return null;
        var meter = all.GroupBy(a => a.Meter!).MaxBy(g => g.Count())!.Key;
        var (own, others) = (all.Where(a => a.Meter!.Equals(meter)).ToList(), theirs.Where(a => a.Meter!.Equals(meter)).ToList());
        // Sixteenths, or triplets where it starts on one; eighths where the beat is one.
        var step = meter.Beat.Value / (own.Any(a => a.Place!.Value.Value % (meter.Beat.Value / 3) == 0
            && a.Place.Value.Value % (meter.Beat.Value / 4) != 0) ? 3 : meter.Lower >= 8 ? 2 : 4);
        return new(meter, [.. Enumerable.Range(0, meter.Length.Value / step).Select(i => new Tick(i * step)).Select(at => new ProfilePlace(
            at, Label(at, meter), CountNames.Spoken(at, meter), own.Count(a => a.Place!.Value.Value / step == at.Value / step),
                others.Count(a => a.Place!.Value.Value / step == at.Value / step)))], own.Count, others.Count);
    }

    private static string Label(Tick at, Meter meter) => CountNames.Split(at, meter).Past is var past && past == Tick.Zero
        ? CountNames.Spoken(at, meter) : CountNames.Syllable(past, meter) ?? "";
}

/// <summary>One place of the grid: how it is counted, and how many start there on either side.</summary>
/// <param name="Label">As it stands over the beats: 3, e, &amp;, a.</param>
public sealed record ProfilePlace(Tick At, string Label, string Spoken, int Found, int OthersFound);
