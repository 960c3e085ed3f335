using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Counting.Writing;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Interchange;

/// <summary>MIDI out and in: what the format can hold comes back, what is no file is said.</summary>
public class MidiFiles
{
    private static readonly PercussionMap Map = PercussionMap.General;
    private static Passage Read(string text) => CountLines.Parse(text).Passage;

    private static Passage Again(Passage passage, Func<MidiFile, MidiFile>? change = null)
    {
        var bytes = (change ?? (f => f))(MidiPassage.Write(passage, Map)).Write();
        return MidiPassage.Read(MidiFile.Read(bytes, out var problem).ShouldNotBeNull(problem), Map, out problem)
            .ShouldNotBeNull(problem).Passage;
    }

    /// <summary>What a MIDI file cannot say is taken out.</summary>
    private static Stroke Held(Stroke s) => s with
    {
        Side = null,
        SideUnsure = false,
        Unsure = false,
        Optional = false,
        Notes = [],
        Length = null,
        Ornaments = s.Ornaments & (Ornaments.Flam | Ornaments.Drag | Ornaments.Choke),
        Openness = s.Voice == Voice.Hat ? s.Openness is Openness.Open or Openness.Loose ? Openness.Open : Openness.Closed : null,
    };

    internal static readonly Gen<string> Grooves = Gen.Select(
        Gen.Select(Among.These("SN", "BD", "HH", "RD", "T1", "FT", "HF", "CB", "XS", "CR"),
            Among.These("1", "1e", "1&", "1a", "2>", "(2e)", "2&", "2a", "3f", "3&", "3t", "4", "4l", "(4a)", "4d").Array[1, 7]).Array[1,
            5],
        Among.These("", "meter 7/8\n", "meter 3/4 4/4\n"), Among.These("", "tempo 96\n", "tempo 172\n"), Gen.Bool)
        .Select((lines, meter, tempo, twice) => meter + tempo
            + string.Join('\n', lines.DistinctBy(l => l.Item1)
            .Select(l =>
            $"{l.Item1}: {string.Join(' ', l.Item2.DistinctBy(p => p.Trim('(', ')', '>', 'f', 'd')))}{(twice ? " | %" : "")}")));

    [Fact]
    public void What_it_can_hold_comes_back() => Grooves.Sample(text =>
    {
        var passage = Read(text);
        if (passage.Strokes.IsEmpty) return;
        var again = Again(passage);
        again.Strokes.Select(Held).ShouldBe(passage.Strokes.Select(Held), text);
        again.Meters.MeterOf(0).ShouldBe(passage.Meters.MeterOf(0));
        again.Tempo.ShouldBe(passage.Tempo ?? Bpm.Of(100));
    }, iter: 1500);

    [Fact]
    public void Hats_flams_drags_and_chokes_are_told_apart()
    {
        var passage = Read("HH: 1 2o 3~ \nHF: 4\nSN: 1f 2d\nCR: 3#".Replace("3~", "3").Replace("3#", "3"));
        Again(passage).Strokes.Select(Held).ShouldBe(passage.Strokes.Select(Held));
        var choked = passage with
        {
            Strokes = [.. passage.Strokes.Select(s => s.Voice == Voice.Crash
            ? s with { Ornaments = Ornaments.Choke } : s)]
        };
        Again(choked).Strokes.Single(s => s.Voice == Voice.Crash).Ornaments.ShouldBe(Ornaments.Choke);
    }

    [Fact]
    public void Human_timing_is_put_to_the_likeliest_places_and_said()
    {
        var passage = Read("tempo 100\nHH: 8ths | %\nSN: 2 4 | 2 4a\nBD: 1 3 | 1 3&");
        var random = new Random(3);
        var played = MidiPassage.Write(passage, Map);
        var loose = played with
        {
            Notes = [.. played.Notes.Select(n =>
            n with { At = Math.Max(0, n.At + (long)((random.NextDouble() - 0.5) * 2 * 0.012 / 0.6 * Tick.PerQuarter)) })]
        };
        var read = MidiPassage.Read(MidiFile.Read(loose.Write(), out _)!, Map, out _)!;
        read.Passage.Strokes.Select(s => (s.At, s.Voice)).ShouldBe(passage.Strokes.Select(s => (s.At, s.Voice)));
        read.Doubts.ShouldContain("The timing is a person’s: strokes are put to the likeliest places.");
    }

    [Fact]
    public void Type_0_running_status_and_other_divisions_are_read()
    {
        // One track, division 96: kick, then snare by running status, then a note off as velocity 0.
        byte[] file = [.. "MThd"u8, 0, 0, 0, 6, 0, 0, 0, 1, 0, 96, .. "MTrk"u8, 0, 0, 0, 25, 0, 0xFF, 0x51, 3, 0x07, 0xA1, 0x20, 0, 0x99,
            36, 90, 48, 38, 90, 12, 38, 0, 0, 0xF0, 1, 0xF7, 0, 0xFF, 0x2F, 0];
        var read = MidiPassage.Read(MidiFile.Read(file, out var problem)!, Map, out _)!;
        problem.ShouldBeNull();
        read.Passage.Tempo.ShouldBe(Bpm.Of(120));
        CountWriter.Write(read.Passage).ShouldContain("SN: 1&");
        // 25 frames of 40 ticks: half a second is 500 of them.
        file[12] = 0xE7;
        file[13] = 40;
        MidiFile.Read(file, out _)!.PerQuarter.ShouldBe(500);
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("a letter, not a file of notes", "does not begin")]
    [InlineData("MThd\0\0\0\u0006\0\u0001\0\0\0\u0060", "no track")]
    [InlineData("MThd\0\0\0\u0006\0\u0001\0\0\0\0", "no ticks")]
    public void What_is_no_file_is_said(string text, string told)
    {
        MidiFile.Read([.. text.Select(c => (byte)c)], out var problem).ShouldBeNull();
        problem!.ShouldContain(told);
    }

    [Fact]
    public void A_file_cut_short_gives_what_comes_before_and_says_so()
    {
        var bytes = MidiPassage.Write(Read("SN: 1 2 3 4"), Map).Write();
        var read = MidiFile.Read(bytes.AsSpan(0, bytes.Length - 30), out var problem)!;
        problem!.ShouldContain("cut off");
        read.Notes.Count.ShouldBeInRange(1, 4);
    }

    [Fact]
    public void Any_bytes_are_read_or_refused_and_nothing_throws()
    {
        var valid = MidiPassage.Write(Read("tempo 90\nHH: 16ths | %\nSN: 2f 4 | 2 4"), Map, title: "A groove").Write();
        Gen.Select(Gen.Int[0, valid.Length - 1].Array[0, 12], Gen.Byte.Array[12]).Sample((places, bytes) =>
        {
            byte[] broken = [.. valid];
            for (var i = 0; i < places.Length; i++) broken[places[i]] = bytes[i];
            if (MidiFile.Read(broken, out _) is { } file && MidiPassage.Read(file, Map, out _) is { } read) CountWriter.Write(read.Passage);
        }, iter: 20_000);
        Gen.Byte.Array[0, 200].Sample(bytes => { MidiFile.Read([.. "MThd\0\0\0\u0006\0\u0001\0\u0001\0\u0060MTrk"u8, .. bytes], out _); },
            iter: 5000);
    }

    [Fact]
    public void Whatever_a_file_says_can_be_written_as_counts()
    {
        Gen.Select(Gen.Int[1, 2000], Gen.Int[0, 4000].Array[1, 12],
            Gen.OneOf(Gen.Const((4, 4)), Gen.Const((7, 8)), Gen.Const((5, 16)), Gen.Const((3, 2)))).Sample((perQuarter, at, meter) =>
        {
            var file = new MidiFile(perQuarter, [.. at.Order().Select(a => new MidiNote((long)a * perQuarter / 480, 9, 38, 90))], [],
                [(0, meter.Item1, meter.Item2)], "");
            if (MidiPassage.Read(file, Map, out _) is not { } read) return;
            CountLines.Parse(CountWriter.Write(read.Passage)).Passage.Strokes.Select(s => s.At)
                .ShouldBe(read.Passage.Strokes.Select(s => s.At));
        }, iter: 3000);
    }

    [Fact]
    public void A_place_that_no_count_leads_to_goes_to_the_nearest_and_is_told()
    {
        var read = MidiPassage.Read(new(10080, [new(0, 9, 38, 90), new(10080 + 360, 9, 38, 90)], [], [], ""), Map, out _)!;
        read.Passage.Strokes.Select(s => s.At.Value).ShouldBe([0, 10_710]);
        read.Doubts.ShouldContain(d => d.Contains("No count leads to 1 of the places"));
    }

    [Fact]
    public void A_map_can_be_changed_and_notes_it_does_not_know_are_named()
    {
        var map = PercussionMap.General.With("Note  61", new(Voice.Cowbell, null)).With("note 46", null)
            .With("note 26", new(Voice.Hat, Openness.Open));
        map.Sounds[61].Voice.ShouldBe(Voice.Cowbell);
        map.Sounds.ContainsKey(46).ShouldBeFalse();
        map.NoteOf(new(Tick.Zero, Voice.Hat) { Openness = Openness.Open }).ShouldBe(26);
        var file = new MidiFile(96, [new(0, 9, 36, 90), new(96, 9, 60, 90)], [], [], "");
        MidiPassage.Read(file, PercussionMap.General, out _)!.Unknown.ShouldBe([("note 60", 1)]);
        // What was said to be left out is not asked for again.
        MidiPassage.Read(file, PercussionMap.General.With("note 60", null), out _)!.Unknown.ShouldBeEmpty();
        MidiPassage.Read(file, PercussionMap.General.With("note 60", new(Voice.Snare, null)),
            out _)!.Passage.Voices.ShouldBe([Voice.Snare, Voice.Kick]);
        var nothing = MidiPassage.Read(file with { Notes = [new(0, 9, 60, 90)] }, PercussionMap.General, out _)!;
        nothing.Passage.Strokes.ShouldBeEmpty();
        nothing.Unknown.ShouldBe([("note 60", 1)]);
        MidiPassage.Read(file with { Notes = [] }, PercussionMap.General, out var problem).ShouldBeNull();
        problem!.ShouldContain("no note");
    }
}
