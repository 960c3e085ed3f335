using InnerCadence.Core.Counting;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Evidence;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;

namespace InnerCadence.Web.Pages.Shared;

/// <param name="Heard">Heard and not written; else written and not heard.</param>
/// <param name="At">Ticks from the first bar line.</param>
/// <param name="Place">Such as: snare on 2a of bar 20.</param>
/// <param name="Moves">Moves of the text that take it over, in order.</param>
public sealed record BesideDifference(bool Heard, int At, string Voice, string Place, string Says, double Second,
    IReadOnlyList<string> Moves);

/// <param name="Agrees">How far the ear agrees with what is written here, in words; empty where nothing is.</param>
/// <param name="OnRecord">The same over every passage of the recording.</param>
public sealed record BesideAnswer(string Agrees, string OnRecord, IReadOnlyList<BesideDifference> Differences);

/// <summary>What the ear has beside a text that is being written.</summary>
public sealed class EarBeside(Records records, SoundStore sounds, EarAtOnce atOnce, PassageStore passages,
    RecordingStore recordings, KeptReady kept)
{
    private const int Most = 60;

    /// <param name="eager">Moves the thresholds: below zero only what is sure, above it more.</param>
    /// <returns>Nothing where no ear has heard the recording, or its bar lines are not known.</returns>
    public async Task<BesideAnswer?> OfAsync(RecordingId recording, string text, string? bar, string? at, double eager,
        CancellationToken stop)
    {
        var written = CountLines.Parse(text).Passage;
        if (written.Bars == 0 || await sounds.OfRecordingAsync(recording, stop) is not { Samples: { } hash }
            || await records.TypedAsync(recording, written, bar, at, stop) is not { Lines.Count: > 1 } record
            || ShippedEar.Find() is not { } ear
            || await atOnce.OfAsync(hash, record.Lines[0], record.Lines[^1], stop) is not { } activations) return null;
        var heard = HeardStrokes.In(activations, ear, eager);
        var agreement = EarAgreement.Of(written, new(record.Lines, written), heard);
        return new(Words(agreement.Voices, agreement.Ghosts, agreement.Extra), activations.IsWhole
                ? await OnRecordAsync(recording, hash, eager, heard, stop) : "",
            [.. agreement.Differences.Take(Most).Select(d => Told(d, written, record.FirstBar))]);
    }

    /// <summary>Worked out again when something of the study has changed: it is asked for at every pause of typing.</summary>
    private async Task<string> OnRecordAsync(RecordingId recording, string hash, double eager, IReadOnlyList<HeardStroke> heard,
        CancellationToken stop) =>
        await recordings.FindAsync(recording, stop) is { } row
            ? await kept.OfAsync(row.StudyId, s => AgreementAsync(recording, heard, s), words => words.Length, stop,
                (nameof(EarBeside), recording, hash, eager)) : "";

    private async Task<string> AgreementAsync(RecordingId recording, IReadOnlyList<HeardStroke> heard, CancellationToken stop)
    {
        var (voices, ghosts, extra) = (new List<AgreedVoice>(), (Found: 0, Written: 0), 0);
        foreach (var row in await passages.OfRecordingAsync(recording, stop))
        {
            var written = CountLines.Parse(row.Text).Passage;
            if (written.Strokes.Count == 0 || await records.BesideAsync(row, stop) is not { } record) continue;
            var agreement = EarAgreement.Of(written, new(record.Lines, written), heard);
            voices.AddRange(agreement.Voices);
            ghosts = (ghosts.Found + agreement.Ghosts.Found, ghosts.Written + agreement.Ghosts.Written);
            extra += agreement.Extra;
        }
        return Words([.. voices.GroupBy(v => v.Voice).OrderBy(g => g.Key)
            .Select(g => new AgreedVoice(g.Key, g.Sum(v => v.Found), g.Sum(v => v.Written)))],
            ghosts, extra);
    }

    private static string Words(IReadOnlyList<AgreedVoice> voices, (int Found, int Written) ghosts, int extra) => string.Join(", ",
    [
        .. voices.Select(v => $"{v.Voice.Name} {v.Found} of {v.Written}"),
        .. ghosts.Written > 0 ? [$"ghosts {ghosts.Found} of {ghosts.Written}"] : (string[])[],
        .. voices.Count > 0 && extra > 0 ? [$"{extra} that {(extra == 1 ? "is" : "are")} not written"] : (string[])[],
    ]);

    private static BesideDifference Told(UnmatchedStroke difference, Passage written, int? firstBar)
    {
        var stroke = difference.Stroke;
        var (bar, inBar) = written.Meters.Locate(stroke.At);
        var place = $"{stroke.Voice.Name} on "
            + $"{CountNames.Place(inBar, written.Meters.MeterOf(bar)) ?? CountNames.Spoken(inBar, written.Meters.MeterOf(bar))}"
            + (written.Bars > 1 || firstBar is not null ? $", bar {bar + (firstBar ?? 1)}" : "");
        var says = difference switch
        {
            { IsHeard: true, Stroke.Dynamic: Dynamic.Ghost } => difference.IsClear ? "a soft one that you have not"
                : "a soft one, not surely heard",
            { IsHeard: true } => difference.IsClear ? "a stroke that you have not, heard clearly"
                : "not surely heard: it may be another drum’s sound",
            { Stroke.Unsure: true } => "you marked it unsure; the ear does not hear it",
            { Stroke.Dynamic: Dynamic.Ghost } => "a ghost that the ear does not hear; it misses many",
            _ => "written, and not heard",
        };
        List<string> moves = ["toggle"];
        if (difference.IsHeard && stroke.Dynamic == Dynamic.Ghost) moves.Add("ghost");
        if (difference.IsHeard && stroke.Openness == Openness.Open) moves.Add("open");
        return new(difference.IsHeard, stroke.At.Value, stroke.Voice.Code, place, says, Math.Round(difference.At, 4), moves);
    }
}
