using System.Globalization;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Claims;

/// <summary>A recording as something to listen to.</summary>
/// <param name="TotalBars">Nothing where it is not known.</param>
/// <param name="Latest">The last day on which it can have been recorded.</param>
public sealed record Listenable(long Id, string Name, long Player, RecordingKind Kind, string Release, int? Year, double? Tempo,
    int? TotalBars,
    int SearchedBars, DateOnly? Latest = null)
{
    public bool IsSearched => Exposure.IsEnough(SearchedBars, TotalBars);
    /// <summary>Shortest first; of unknown length last.</summary>
    public int Length => TotalBars ?? int.MaxValue;
    public int Left => TotalBars is { } total ? Math.Max(0, total - SearchedBars) : 0;
}

/// <summary>Recordings that are alike in what could matter: era, kind, and by choice tempo band and release.</summary>
public sealed record Stratum(string Name, ValueList<Listenable> Known)
{
    public int Searched => Known.Count(r => r.IsSearched);
    public double Share => Known.Count == 0 ? 1 : Searched / (double)Known.Count;
    public IReadOnlyList<Listenable> Unsearched => [.. Known.Where(r => !r.IsSearched).OrderBy(r => r.Length).ThenBy(r => r.Id)];

    /// <summary>One of the unsearched, the same for the same seed, so that favourites do not decide.</summary>
    public Listenable? Pick(int seed) => Unsearched is { Count: > 0 } left ? left.OrderBy(r => r.Id)
        .ElementAt(new Random(seed).Next(left.Count)) : null;

    /// <summary>Eras are five calendar years from the first year that is known.</summary>
    public static IReadOnlyList<Stratum> Of(IReadOnlyCollection<Listenable> recordings, bool byTempo = false, bool byRelease = false)
    {
        var first = recordings.Min(r => r.Year);
        string Era(Listenable r) => r.Year is not { } year ? "no date" : first!.Value + (year - first.Value) / 5 * 5 is var from
            ? $"{from}–{(from + 4) % 100:00}" : "";
        string Name(Listenable r) => string.Join(", ", new[]
        {
            Era(r), r.Kind.Word, byTempo ? Division.BandOf(r.Tempo) ?? "no tempo" : "", byRelease ? r.Release.Length > 0 ? r.Release
                : "no release" : "",
        }.Where(part => part.Length > 0));
        return [.. recordings.GroupBy(Name).OrderBy(g => g.Key, StringComparer.Ordinal).Select(g => new Stratum(g.Key, [.. g]))];
    }
}

/// <summary>A claim that is still open, and by how much one more recording would narrow what it rests on.</summary>
public sealed record OpenClaim(long Id, string Sentence, ClaimTest Test, Stand Stand);

/// <summary>What to listen to next, and why.</summary>
public sealed record NextToHear(Listenable Recording, Stratum Stratum, OpenClaim? For, string Reason)
{
    /// <summary>
    /// The unsearched recording whose stratum is most under-searched for the open claims: of the claim with the widest interval the one
    /// that narrows it most,
    /// then the stratum searched least, then the shortest (evidence.md, "What to listen to next"). Without an open claim the stratum alone
    /// decides.
    /// </summary>
    /// <returns>Nothing where all is searched.</returns>
    public static NextToHear? Of(IReadOnlyList<Stratum> strata, IReadOnlyList<OpenClaim> open)
    {
        var candidates = strata.SelectMany(s => s.Unsearched.Select(r => (Recording: r, Stratum: s))).ToList();
        // What nobody can settle does not decide before what somebody can.
        foreach (var claim in open.OrderBy(c => c.Stand.IsOutOfReach).ThenByDescending(c => Width(c.Stand)))
        {
            var useful = candidates.Select(c => (c.Recording, c.Stratum, Adds: Adds(claim, c.Recording))).Where(c => c.Adds > 0).ToList();
            if (useful.Count == 0) continue;
            var best = useful.OrderByDescending(c => c.Adds).ThenBy(c => c.Stratum.Share).ThenBy(c => c.Recording.Length)
                .ThenBy(c => c.Recording.Id).First();
            return new(best.Recording, best.Stratum, claim, $"For “{claim.Sentence}”, which is open: {Said(best.Stratum)}.");
        }
        if (candidates.Count == 0) return null;
        var (recording, stratum) = candidates.OrderBy(c => c.Stratum.Share).ThenBy(c => c.Recording.Length).ThenBy(c => c.Recording.Id)
            .First();
        return new(recording, stratum, null, $"{Said(stratum, true)}.");
    }

    private static string Said(Stratum stratum, bool first = false) =>
        string.Create(CultureInfo.InvariantCulture,
            $"{(first ? "Of" : "of")} {stratum.Name} {(stratum.Searched == 0 ? "none" : stratum.Searched)} of {stratum.Known.Count} "
            + $"{(stratum.Known.Count == 1 ? "is" : "are")} searched");

    /// <summary>Against its value, so that a share and a rate can be compared; a silence without an interval is as wide as can
    /// be.</summary>
    private static double Width(Stand stand) => stand.Interval is not { } i ? double.MaxValue : double.IsInfinity(i.High) || i.Value == 0
        ? 1e6 : (i.High - i.Low) / i.Value;

    /// <summary>How much it adds to what the claim is counted in: an interval narrows the more, the more is added, so of one claim this
    /// puts recordings in order. Nothing where it says nothing about the claim.</summary>
    private static int Adds(OpenClaim claim, Listenable recording) => !Concerns(claim, recording) ? 0 : claim.Test is PresentIn ? 1
        : Math.Max(recording.Left, 1);

    private static bool Concerns(OpenClaim claim, Listenable recording) => claim.Test switch
    {
        PresentIn t => recording.Player == t.Player && (t.Kind is null || recording.Kind == t.Kind),
        OnlyTempo t => recording.Player == t.Player && recording.Tempo is { } tempo && tempo >= t.Tempo != t.Above,
        NeverBefore t => recording.Player == t.Player && (recording.Latest is { } latest ? latest < t.Date.Earliest
            : recording.Year < t.Date.Earliest.Year),
        MoreThan => claim.Stand.SettledBy.Contains(recording.Player),
        // Which recordings lie before the first sighting the standing itself names.
        HadItFirst => claim.Stand.Look.Any(w => w.Recording == recording.Id),
        _ => recording.Player == claim.Test.Player,
    };
}
