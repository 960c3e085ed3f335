using InnerCadence.Core.Music;

namespace InnerCadence.Core.Evidence;

/// <summary>The one place where a sighting becomes a number (evidence.md, "What is counted"): pages, tables, claims, articles and exports
/// take theirs from here.</summary>
public sealed class Account
{
    /// <summary>Told wherever numbers are kept that were counted by an earlier rule.</summary>
    public const int Version = 2;

    private readonly IReadOnlyList<RecordingFacts> recordings;
    private readonly ILookup<(long Idea, long Recording), FoundSighting> found;
    private readonly ILookup<(long Idea, long Recording), HeardByHand> heard;
    private readonly Lazy<ILookup<long, FoundSighting>> byReading;

    /// <param name="recordings">In the order in which they are to be told.</param>
    /// <param name="found">Whatever was judged; what is rejected may be left out.</param>
    public Account(IReadOnlyList<RecordingFacts> recordings, IEnumerable<FoundSighting> found, IEnumerable<HeardByHand> heard)
    {
        this.recordings = recordings;
        this.found = found.ToLookup(f => (f.Idea, f.Recording));
        this.heard = heard.ToLookup(h => (h.Idea, h.Recording));
        byReading = new(() => this.found.SelectMany(f => f).ToLookup(f => f.Reading));
    }

    public IReadOnlyList<RecordingFacts> Recordings => recordings;

    /// <summary>Without what rests on unsure or unheard strokes.</summary>
    public Account Cautious() => new(recordings, found.SelectMany(f => f).Where(f => f is { Unsure: false, PartlyUnheard: false }),
        heard.SelectMany(h => h));

    /// <summary>As it would be with one sighting judged so.</summary>
    public Account With(FoundSighting one) => new(recordings, found.SelectMany(f => f).Where(f => f.Id != one.Id).Append(one),
        heard.SelectMany(h => h));

    /// <summary>How many sightings of an idea wait for a judgement.</summary>
    public int WaitingOf(long idea) => recordings.Sum(recording => found[(idea, recording.Id)].Count(f => f.Judged.Waits(f.Vanished)));

    /// <summary>What is found in a reading and was not refused, and how much of a reading waits for a judgement.</summary>
    public (int Found, int Waiting) InReading(long reading) =>
        (byReading.Value[reading].Count(f => f.Judged.Stands(f.Vanished)), byReading.Value[reading].Count(f => f.Judged.Waits(f.Vanished)));

    /// <summary>Ideas that were found in a reading and not refused.</summary>
    public IReadOnlySet<long> IdeasIn(long reading) =>
        byReading.Value[reading].Where(f => f.Judged.Stands(f.Vanished)).Select(f => f.Idea).ToHashSet();

    /// <summary>Every recording as evidence about one idea.</summary>
    public IReadOnlyList<Performance> Of(NamedIdea idea) => [.. recordings.Select(recording => Of(idea, recording))];

    private Performance Of(NamedIdea idea, RecordingFacts recording)
    {
        var exposure = Exposure.Of(recording.TotalBars, idea, recording.Searches, recording.Written);
        var sightings = found[(idea.Id, recording.Id)].ToList();
        var byHand = heard[(idea.Id, recording.Id)].Select(h => Spot.Of(h, recording));
        ValueList<Appearance> Places(IEnumerable<Spot> spots) =>
            [.. SamePlace.Groups([.. spots]).Select(group => Appearance.Of(group, recording, exposure))];
        return new()
        {
            Recording = recording,
            Exposure = exposure,
            Appearances = Places(sightings.Where(f => f is { Judged: Judged.Confirmed, Vanished: false }).Select(f => Spot.Of(f, recording))
                .Concat(byHand)),
            Near = Places(sightings.Where(f => f is { Judged: Judged.NearMiss, Vanished: false }).Select(f => Spot.Of(f, recording))),
            Waiting = sightings.Count(f => f.Judged.Waits(f.Vanished)),
        };
    }
}
