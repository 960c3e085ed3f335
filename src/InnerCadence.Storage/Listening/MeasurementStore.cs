using Dapper;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Recordings;
using Npgsql;

namespace InnerCadence.Storage.Listening;

/// <summary>A reading as it was measured against its sound.</summary>
/// <param name="Text">The reading as it was then.</param>
/// <param name="SwingShare">Of the quarter before the off-beat, where it was played swung and the text does not say so.</param>
/// <param name="Lines">Its bar lines on the clock of the recording, and the end of its last bar.</param>
/// <param name="Missing">Written and not in the sound.</param>
/// <param name="Extra">In the sound and not written.</param>
public sealed record Measurement(string Text, string Ear, DateTime At, double? SwingShare, ValueList<Seconds> Lines,
    ValueList<(Tick At, Voice Voice)> Missing,
    ValueList<(Seconds At, string Family)> Extra)
{
    /// <summary>The passage with its off-beats where they were played.</summary>
    public Passage Swung(Passage written) => SwingShare is not { } share ? written
        : written with { Feel = written.Feel with { Swing = true, SwingShare = share } };
}

/// <summary>Why a passage cannot be measured, as a person is told it.</summary>
public enum Unmeasurable
{
    NoSound,
    NotHeardYet,
    NoBarLines,
    NothingWritten,
}

/// <summary>Passages measured against the sound of their recording; what was measured stays with the reading.</summary>
/// <remarks>sound.md, "Measured against the sound".</remarks>
public sealed class MeasurementStore(NpgsqlDataSource source, SoundStore sounds, EarAtOnce atOnce, Excerpts excerpts,
    RecordingStore recordings, RecordPaces paces, PassageStore passages)
{
    /// <summary>Before the first bar line and after the last, so that a stroke that is early or rings is read whole.</summary>
    private static readonly Seconds Around = new(0.5);

    /// <returns>What was kept, or why nothing was.</returns>
    public async Task<(Measured? Measured, Unmeasurable? Why)> MeasureAsync(PassageRow passage, CancellationToken stop)
    {
        var written = CountLines.Parse(passage.Text).Passage;
        if (written.Strokes.Count == 0) return (null, Unmeasurable.NothingWritten);
        if (await sounds.OfRecordingAsync(passage.RecordingId, stop) is not { Samples: { } hash } sound
            || await recordings.FindAsync(passage.RecordingId, stop) is not { } recording) return (null, Unmeasurable.NoSound);
        if (await paces.ClockOfAsync(recording, sound, written, passage.Bar, passage.StartsAt, stop) is not { } clock)
            return (null, Unmeasurable.NoBarLines);
        var (from, to) = (clock.Start - Around, clock.End + Around);
        if (ShippedEar.Find() is not { } ear || await atOnce.OfAsync(hash, from, to, stop) is not { } heard) return (null,
            Unmeasurable.NotHeardYet);
        var (samples, rate) = await excerpts.SamplesAsync(hash, from, to, stop);
        if (samples is null) return (null, Unmeasurable.NoSound);
        var strokes = HeardStrokes.In(heard, ear, Measured.Eager);
        var measured = await Task.Run(() => Measured.Of(written, new LaidBars(clock.Lines, written), strokes,
            new RiseTimes(SidesAsOne.Of(samples), rate, from, heard.Echoes)), stop);
        await KeepAsync(passage, ear.Version, measured, stop);
        return (measured, null);
    }

    private async Task KeepAsync(PassageRow passage, string ear, Measured measured, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        await using var transaction = await connection.BeginTransactionAsync(stop);
        await connection.ExecuteAsync(new(
            """
            delete from stroke_offset where reading_id = @ReadingId;
            insert into measured (reading_id, text, ear, swing_share, lines, missing_ticks, missing_voices, extra_at, extra_families)
            values (@ReadingId, @Text, @ear, @swing, @lines, @missing, @voices, @extra, @families)
            on conflict (reading_id) do update set text = excluded.text, ear = excluded.ear, measured_at = now(),
              swing_share = excluded.swing_share, lines = excluded.lines, missing_ticks = excluded.missing_ticks,
              missing_voices = excluded.missing_voices, extra_at = excluded.extra_at, extra_families = excluded.extra_families
            """,
            new
            {
                passage.ReadingId,
                passage.Text,
                ear,
                swing = measured.SwingShare,
                lines = measured.Lines.Select(l => l.Value).ToArray(),
                missing = measured.Missing.Select(s => s.At.Value).ToArray(),
                voices = measured.Missing.Select(s => s.Voice.Code).ToArray(),
                extra = measured.Extra.Select(s => s.At.Value).ToArray(),
                families = measured.Extra.Select(s => s.Family.ToString().ToLowerInvariant()).ToArray(),
            }, transaction, cancellationToken: stop));
        await PassageStore.KeepOffsetsAsync(connection, transaction, passage.ReadingId, [.. measured.Strokes.Select(s => s.AsOffset)],
            stop);
        await transaction.CommitAsync(stop);
    }

    /// <summary>Of the preferred reading; nothing where it was not measured against a sound.</summary>
    public async Task<Measurement?> OfAsync(PassageId passage, CancellationToken stop)
    {
        await using var connection = await source.OpenConnectionAsync(stop);
        return await connection.QuerySingleOrDefaultAsync<Kept>(new(
            """
            select m.text, m.ear, m.measured_at, m.swing_share, m.lines, m.missing_ticks, m.missing_voices, m.extra_at, m.extra_families
            from measured m join reading g on g.id = m.reading_id where g.passage_id = @passage and g.preferred
            """, new { passage }, cancellationToken: stop)) is { } kept ? kept.Told() : null;
    }

    /// <summary>How far each stroke sounds from where the text alone puts it: what was measured, and the swing that was found with it.
    /// </summary>
    public async Task<IReadOnlyList<StrokeOffset>> PlayedAsync(PassageRow passage, CancellationToken stop)
    {
        var offsets = await passages.OffsetsAsync(passage.Id, stop);
        return await OfAsync(passage.Id, stop) is { SwingShare: not null } measured
            ? Played(CountLines.Parse(passage.Text).Passage, measured, offsets) : offsets;
    }

    public static IReadOnlyList<StrokeOffset> Played(Passage written, Measurement? measured, IReadOnlyList<StrokeOffset> offsets)
    {
        if (measured?.SwingShare is null) return offsets;
        var (laid, swung) = (new LaidBars(measured.Lines, written), measured.Swung(written));
        return [.. offsets.Select(o => o with
        {
            Milliseconds = o.Milliseconds + (laid.At(Swing.Played(o.At, swung)) - laid.At(Swing.Played(o.At, written))).Milliseconds,
        })];
    }

    private sealed record Kept
    {
        public string Text { get; init; } = "";
        public string Ear { get; init; } = "";
        public DateTime MeasuredAt { get; init; }
        public double? SwingShare { get; init; }
        public double[] Lines { get; init; } = [];
        public int[] MissingTicks { get; init; } = [];
        public string[] MissingVoices { get; init; } = [];
        public double[] ExtraAt { get; init; } = [];
        public string[] ExtraFamilies { get; init; } = [];

        public Measurement Told() => new(Text, Ear, MeasuredAt, SwingShare, [.. Lines.Select(l => new Seconds(l))],
            [.. MissingTicks.Zip(MissingVoices).Where(m => Voice.Find(m.Second) is not null)
                .Select(m => (new Tick(m.First), Voice.Find(m.Second)!))],
            [.. ExtraAt.Zip(ExtraFamilies).Select(e => (new Seconds(e.First), e.Second))]);
    }
}
