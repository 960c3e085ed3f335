using InnerCadence.Core.Evidence;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Looking;

/// <summary>A recording as it is grouped by how it sounds.</summary>
/// <param name="Agreement">The share of written strokes that the ear hears too; nothing where too little is written.</param>
public readonly record struct SoundingRecording(long Id, RecordingKind Kind, int? Year, double? Agreement);

/// <summary>Recordings on which the ear misses about as much, so that their recall may be told as one.</summary>
/// <param name="Before">In words, before the word recordings.</param>
/// <param name="After">After it.</param>
/// <remarks>sound.md, "Looking in the sound": by the ear's agreement with what is written of the recording, else by kind and era.</remarks>
public sealed record SoundGroup(string Before, string After)
{
    /// <summary>Fewer written strokes say nothing of a recording.</summary>
    public const int LeastWritten = 24;

    private const double Well = 0.8;

    /// <summary>12 studio recordings before 1968</summary>
    public string Words(int recordings) => $"{recordings} {Before}{(recordings == 1 ? "recording" : "recordings")}{After}";

    /// <returns>The group of each.</returns>
    public static IReadOnlyDictionary<long, SoundGroup> Of(IReadOnlyCollection<SoundingRecording> recordings)
    {
        var since = Eras.Since(recordings.Where(r => r.Agreement is null).Select(r => r.Year).OfType<int>());
        return recordings.ToDictionary(r => r.Id, r => r.Agreement switch
        {
            >= Well => new SoundGroup("", " the ear hears well"),
            not null => new("", " the ear hears badly"),
            _ => new($"{r.Kind.Word} ", since is not { } from ? "" : r.Year is not { } year ? " of no date" : year < from
                ? $" before {from}" : $" since {from}"),
        });
    }

    /// <summary>The share of the strokes that are written of a recording that the ear hears too.</summary>
    /// <param name="written">Passages with their first bars, from 1.</param>
    /// <param name="heard">In order of time.</param>
    /// <returns>Nothing where too few are written in bars whose numbers are known.</returns>
    public static double? AgreementOf(SoundBars bars, IEnumerable<(int Bar, Passage Passage)> written, IReadOnlyList<HeardStroke> heard) =>
        !bars.AreKnown ? null : AgreementOf(written.Where(w => w.Passage.Bars > 0 && w.Bar - 1 + w.Passage.Bars <= bars.Count)
            .Select(w => EarAgreement.Of(w.Passage, new([.. Enumerable.Range(w.Bar - 1, w.Passage.Bars + 1)
                .Select(bar => bars.At(bars.StartOf(bar)))], w.Passage), heard)));

    /// <param name="beside">What is written of each place beside what is heard there.</param>
    internal static double? AgreementOf(IEnumerable<EarAgreement> beside)
    {
        var (found, written) = beside.SelectMany(a => a.Voices).Aggregate((Found: 0, Written: 0),
            (sum, v) => (sum.Found + v.Found, sum.Written + v.Written));
        return written < LeastWritten ? null : (double)found / written;
    }
}
