using InnerCadence.Core.Music;
using InnerCadence.Core.Playing;
using InnerCadence.Core.Timing;
using InnerCadence.Storage.Listening;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Sightings;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Tests;

/// <summary>Sound files and listening sessions as they are kept.</summary>
public class Listening : StorageTests
{
    private readonly string folder = Directory.CreateTempSubdirectory("inner-cadence-sounds").FullName;
    private SoundFiles Store => new(folder);
    private SoundStore Sounds => new(Source, Store, new(Path.Combine(folder, "heard")));
    private SessionStore Sessions => new(Source, Timelines);

    [Fact]
    public async Task A_session_becomes_coverage_for_what_was_listened_for_and_a_rate_that_is_right_to_the_bar()
    {
        var recording = await RecordAsync("Piece", 64);
        await Timelines.SaveMarksAsync(recording, [new(1, new(0)), new(65, new(128_000))], 1, Stop);
        await WriteAsync(recording, "SN: 1 e & a", becauseHeard: true);
        var (one, other) = (await NameAsync("patter", "SN: 1 e & a"), await NameAsync("other", "FT: 1 2 3 4"));
        await Sightings.JudgeAsync((await Sightings.OfIdeaAsync(one, Stop)).Single().Id, 1, Judgement.Confirmed, "", Stop);
        var id = await Sessions.BeginAsync(recording, false, [one], "me", 150, Stop);

        // The spans 0 to 20 s and 18 to 40 s overlap, 60 to 80 s stands apart: 40 + 20 s are 30 bars of two seconds.
        HeardDraft[] heard = [new(Guid.NewGuid(), 0, 20_000), new(Guid.NewGuid(), 18_000, 40_000), new(Guid.NewGuid(), 60_000, 80_000)];
        (await Sessions.KeepAsync(id, [], heard, 80_000, Stop)).ShouldBeTrue();
        (await Sessions.HeardAsync(id, Stop)).ShouldBe([(new ClockTime(0), new ClockTime(40_000)),
            (new ClockTime(60_000), new ClockTime(80_000))]);
        (await Sessions.EndAsync((await Sessions.FindAsync(id, Stop))!, (await Recordings.FindAsync(recording, Stop))!, Stop))
            .ShouldBeTrue();
        (await Coverages.OfRecordingAsync(recording, Stop)).Select(c => (c.FromBar, c.Bars, c.ByWhom, c.Ideas.Single()))
            .ShouldBe([(1, 20, "me", "patter"), (31, 10, "me", "patter")]);

        var found = (await Evidence.ByRecordingAsync((await Ideas.FindAsync(one, Stop))!, Stop)).Single();
        (found.Evidence.Exposure, found.Evidence.Occasions).ShouldBe((30, 1));
        (await Evidence.ByRecordingAsync((await Ideas.FindAsync(other, Stop))!, Stop))
            .Single().Evidence.Exposure.ShouldBe(0, "nobody listened for it");
        (await Sessions.KeepAsync(id, [], heard, 0, Stop)).ShouldBeFalse("it is over");
        (await Sessions.EndAsync((await Sessions.FindAsync(id, Stop))!, (await Recordings.FindAsync(recording, Stop))!, Stop))
            .ShouldBeFalse();
        (await Coverages.OfRecordingAsync(recording, Stop)).Count.ShouldBe(2);
    }

    [Fact]
    public async Task The_keys_of_the_last_session_are_known_again()
    {
        var recording = await RecordAsync("Piece", 64);
        (await Sessions.LastKeysAsync(Study, Stop)).ShouldBeEmpty();
        var (one, other) = (await NameAsync("patter", "SN: 1 e & a"), await NameAsync("other", "FT: 1 2 3 4"));
        await Sessions.BeginAsync(recording, true, [one, other], "", 0, Stop);
        await Sessions.BeginAsync(recording, true, [other], "", 0, Stop);
        await Sessions.BeginAsync(recording, true, [], "", 0, Stop);
        (await Sessions.LastKeysAsync(Study, Stop)).ShouldHaveSingleItem("a session without keys says nothing of them").ShouldBe(other);
    }

    [Fact]
    public async Task What_is_sent_twice_is_kept_once_undone_stamps_are_gone_and_marks_come_earlier_by_the_reaction()
    {
        var recording = await RecordAsync("Piece", 64);
        var id = await Sessions.BeginAsync(recording, true, [], "", 200, Stop);
        StampDraft[] stamps = [.. Enumerable.Range(1, 4)
            .Select(bar => new StampDraft(Guid.NewGuid(), "bar", null, bar * 2000 + 200, bar, "", false)),
            new(Guid.NewGuid(), "fill", null, 5000, null, "", false)];
        await Sessions.KeepAsync(id, stamps, [], 9000, Stop);
        await Sessions.KeepAsync(id, [.. stamps, stamps[4] with { Undone = true }], [], 9000, Stop);
        (await Sessions.StampsAsync(id, Stop)).Select(s => s.Kind).ShouldBe(["bar", "bar", "bar", "bar"]);
        await Sessions.EndAsync((await Sessions.FindAsync(id, Stop))!, (await Recordings.FindAsync(recording, Stop))!, Stop);
        var timeline = await Timelines.OfAsync((await Recordings.FindAsync(recording, Stop))!, Stop);
        timeline.Marks.ShouldBe([new(1, new(2000)), new(2, new(4000)), new(3, new(6000)), new(4, new(8000))]);
        timeline.Map!.TempoAt(2).ShouldBe(120, 1e-6);
    }

    [Fact]
    public async Task A_sound_is_kept_by_what_is_in_it_and_gets_its_overview_in_the_background()
    {
        var recording = (await Recordings.FindAsync(await RecordAsync("Piece", 64), Stop))!;
        var samples = Enumerable.Range(0, 2 * Synth.Rate).Select(i => i < Synth.Rate ? 0.5f : 0f).ToArray();
        using var content = new MemoryStream(Wav.Write(samples, 1));
        var hash = await Store.KeepAsync(content, Stop);
        content.Position = 0;
        (await Store.KeepAsync(content, Stop)).ShouldBe(hash);
        Directory.GetFiles(folder).Length.ShouldBe(1, "the same sound is kept once, and nothing half-written stays");
        var id = await Sounds.AttachAsync(recording, hash, "side one.wav", "audio/wav", content.Length, 2, false, Stop);
        var worker = Guid.NewGuid();
        await DoAsync(new OverviewWork(Sounds, Store), (await Jobs.ClaimAsync(worker, JobStore.Silence, Stop))!, worker);
        var overview = (await Sounds.OverviewAsync(id, Stop))!;
        (overview.Length, overview[10], overview[90]).ShouldBe((100, (byte)128, (byte)0));

        await Sounds.DeleteAsync(id, Stop);
        (await Sounds.OfRecordingAsync(recording.Id, Stop)).ShouldBeNull();
        await Sounds.ClearAsync(Stop);
        Store.Has(hash).ShouldBeTrue("it can still be undone");
        await Sounds.RestoreAsync(id, Stop);
        (await Sounds.OfRecordingAsync(recording.Id, Stop))!.HasOverview.ShouldBeTrue();
        await Sounds.DeleteAsync(id, Stop);
        await Source.CreateCommand("update sound set deleted_at = now() - interval '2 days'").ExecuteNonQueryAsync(Stop);
        await Sounds.ClearAsync(Stop);
        Store.Has(hash).ShouldBeFalse();
    }

    [Fact]
    public async Task A_sound_is_heard_again_where_its_recording_gets_another_meter_or_tempo()
    {
        var recording = (await Recordings.FindAsync(await RecordAsync("Piece", 64), Stop))!;
        using var content = new MemoryStream(Wav.Write(new float[Synth.Rate], 1));
        var hash = await Store.KeepAsync(content, Stop);
        await Sounds.AttachAsync(recording, hash, "side one.wav", "audio/wav", content.Length, 1, false, Stop);
        await Source.CreateCommand("delete from job; update sound set heard = '{}', ear = '5'").ExecuteNonQueryAsync(Stop);
        async Task<object?> WaitingAsync() =>
            await Source.CreateCommand("select count(*) from job where kind = 'onsets' and state = 'waiting'").ExecuteScalarAsync(Stop);
        RecordingDraft In(string meter, double? tempo = null) =>
            new() { PlayerId = recording.PlayerId, Title = recording.Title, Meter = meter, Tempo = tempo ?? recording.Tempo };
        (await Recordings.UpdateAsync(Study, recording.Id, In("4/4"), recording.Version, Stop)).ShouldBeTrue();
        (await WaitingAsync()).ShouldBe(0L, "it is in the meter that it was in");
        (await Recordings.UpdateAsync(Study, recording.Id, In("3/4"), recording.Version, Stop)).ShouldBeFalse();
        (await WaitingAsync()).ShouldBe(0L, "what was not changed is not heard again");
        (await Recordings.UpdateAsync(Study, recording.Id, In("3/4"), recording.Version + 1, Stop)).ShouldBeTrue();
        (await WaitingAsync()).ShouldBe(1L);
        await Source.CreateCommand("delete from job").ExecuteNonQueryAsync(Stop);
        (await Recordings.UpdateAsync(Study, recording.Id, In("3/4", 90), recording.Version + 2, Stop)).ShouldBeTrue();
        (await WaitingAsync()).ShouldBe(1L);
    }

    [Fact]
    public async Task A_recording_is_simulated_along_its_marks()
    {
        var id = await RecordAsync("Piece", 8);
        await Timelines.SaveMarksAsync(id, [new(1, new(0)), new(9, new(8000))], 1, Stop);
        await WriteAsync(id, "HH: 8ths\nSN: 2 4\nBD: 1 3");
        await Jobs.AddAsync(SoundStore.SimulationKind, Study, $"{{\"recording\":{id}}}", Stop);
        var worker = Guid.NewGuid();
        await DoAsync(new SimulationWork(Recordings, Timelines, Passages, Sounds, Store, Synth.Render),
            (await Jobs.ClaimAsync(worker, JobStore.Silence, Stop))!, worker);
        var sound = (await Sounds.OfRecordingAsync(id, Stop))!;
        (sound.Simulated, sound.Media, Math.Round(sound.Seconds!.Value)).ShouldBe((true, "audio/wav", 10));
        await using var file = Store.Open(sound.Hash);
        (await SoundStore.HeadAsync(file, Stop)).Head!.Seconds.Value.ShouldBe(10, 0.1);
    }

    [Theory]
    [InlineData("../../etc/passwd")]
    [InlineData("")]
    [InlineData("ABCDEF0123456789ABCDEF0123456789ABCDEF0123456789ABCDEF0123456789")]
    public void A_name_that_is_no_hash_never_becomes_a_path(string name) => Should.Throw<ArgumentException>(() => Store.Has(name));
}
