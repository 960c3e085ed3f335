using System.Xml.Linq;
using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Interchange;

/// <summary>MusicXML out and in: what the format can hold comes back; parts from elsewhere are read by name, note or place.</summary>
public class MusicXmlFiles
{
    private static readonly PercussionMap Map = PercussionMap.General;
    private static Passage Read(string text) => CountLines.Parse(text).Passage;
    private static Stroke Held(Stroke s) => s with { SideUnsure = false, Unsure = false, Optional = false, Notes = [], Length = null };
    private static ReadMusicXml Again(Passage passage, StickingAs sticking = StickingAs.Lyrics) =>
        MusicXml.Read(XDocument.Parse(MusicXml.Write(passage, Map, "A groove", sticking).ToString()), Map, out var problem)
            .ShouldNotBeNull(problem);

    [Fact]
    public void What_it_can_hold_comes_back() => MidiFiles.Grooves.Sample(text =>
    {
        var passage = Read(text);
        if (passage.Strokes.IsEmpty) return;
        var again = Again(passage).Passage;
        again.Strokes.Select(Held).ShouldBe(passage.Strokes.Select(Held), text);
        (again.Bars, again.Tempo).ShouldBe((passage.Bars, passage.Tempo));
        for (var bar = 0; bar < passage.Bars; bar++) again.Meters.MeterOf(bar).ShouldBe(passage.Meters.MeterOf(bar));
    }, iter: 800);

    [Theory]
    [InlineData(StickingAs.Lyrics)]
    [InlineData(StickingAs.Fingering)]
    public void Hands_ornaments_and_hats_come_back(StickingAs sticking)
    {
        var passage = Read("HH: 1 2o 3\nSN: 1Rf eL &Rd (aL) 2>r\nT1: 3z 4");
        Again(passage, sticking).Passage.Strokes.Select(Held).ShouldBe(passage.Strokes.Select(Held));
        Again(passage, StickingAs.Nothing).Passage.Strokes.ShouldAllBe(s => s.Side == null);
    }

    [Theory]
    [InlineData("SN: 2fT1 4dFT\nHH: 8ths")]
    [InlineData("SN: 2 3e=\nBD: 1 3 3e=")]
    [InlineData("tempo 96 @2 100 @3.3 88\nSN: 4ths | % | %")]
    [InlineData("SN: 4ths | %\nLV: 1 pp < | 1 mf < 4 f")]
    [InlineData("SN: 4ths | %\nLV: 3 f > | 1 p")]
    [InlineData("SN: 4ths\nLV: 1 mp < | 1 f")]
    public void Grace_drums_echoes_changes_of_tempo_and_levels_come_back(string text)
    {
        var (passage, again) = (Read(text), Again(Read(text)).Passage);
        again.Strokes.Select(Held).ShouldBe(passage.Strokes.Select(Held));
        again.Tempos.ShouldBe(passage.Tempos);
        again.Levels.Marks.ShouldBe(passage.Levels.Marks);
    }

    [Fact]
    public void It_says_what_a_general_program_needs()
    {
        var written = MusicXml.Write(Read("meter 7/8(2+2+3)\ntempo 120\nHH: 8ths\nSN: 3\nBD: 1 (4)"), Map);
        string[] Values(string name) => [.. written.Descendants(name).Select(e => e.Value)];
        written.Root!.Attribute("version")!.Value.ShouldBe("4.0");
        Values("beats").ShouldBe(["2+2+3"]);
        Values("sign").ShouldBe(["percussion"]);
        Values("instrument-name").ShouldBe(["hat", "snare", "kick"]);
        Values("midi-unpitched").ShouldBe(["43", "39", "37"]);
        written.Descendants("notehead").Where(n => n.Attribute("parentheses") is not null).Count().ShouldBe(1);
        Values("beam").ShouldContain("begin");
        written.Descendants("backup").ShouldHaveSingleItem();
        Again(Read("meter 7/8(2+2+3)\nHH: 8ths")).Passage.Meters.ToString().ShouldBe("7/8(2+2+3)");
    }

    private static XDocument Score(string notes, string instruments = "", string midi = "") => XDocument.Parse(
        $"<score-partwise version=\"3.1\"><part-list><score-part "
            + $"id=\"P9\"><part-name>Kit</part-name>{instruments}{midi}</score-part></part-list><part id=\"P9\"><measure "
            + $"number=\"1\"><attributes><divisions>2</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>{notes}"
                + $"</measure></part></score-partwise>");

    private static string Note(string step, int octave, int duration, string more = "", string before = "") =>
        $"<note>{before}<unpitched><display-step>{step}</display-step><display-octave>{octave}</display-octave></unpitched><duration>"
            + $"{duration}</duration>{more}<voice>1</voice></note>";

    [Fact]
    public void Drums_are_known_by_name_by_note_or_by_place()
    {
        var byPlace = MusicXml.Read(Score(Note("F", 4, 2) + Note("C", 5, 1)
            + Note("G", 5, 1, before: "<chord/>", more: "<notehead>x</notehead>")), Map, out _)!;
        byPlace.Passage.Strokes.Select(s => (s.At.Value, s.Voice.Code)).ShouldBe([(0, "BD"), (10080, "HH"), (10080, "SN")]);
        const string instrument = "<instrument id=\"I1\"/>";
        MusicXml.Read(Score(Note("E", 4, 2, instrument),
            "<score-instrument id=\"I1\"><instrument-name>Cowbell</instrument-name></score-instrument>"), Map,
            out _)!.Passage.Voices.ShouldBe([Voice.Cowbell]);
        MusicXml.Read(Score(Note("E", 4, 2, instrument),
            "<score-instrument id=\"I1\"><instrument-name>Becken 3</instrument-name></score-instrument>",
            "<midi-instrument id=\"I1\"><midi-unpitched>50</midi-unpitched></midi-instrument>"), Map,
            out _)!.Passage.Voices.ShouldBe([Voice.Crash]);
        MusicXml.Read(Score(Note("E", 3, 2, instrument),
            "<score-instrument id=\"I1\"><instrument-name>Open hat</instrument-name></score-instrument>",
            "<midi-instrument id=\"I1\"><midi-unpitched>47</midi-unpitched></midi-instrument>"), Map,
            out _)!.Passage.Strokes.Single().Openness.ShouldBe(Openness.Open);
        var strange = Score(Note("E", 3, 2, instrument),
            "<score-instrument id=\"I1\"><instrument-name>Thunder  sheet</instrument-name></score-instrument>");
        MusicXml.Read(strange, Map, out _)!.ShouldSatisfyAllConditions(r => r.Passage.Strokes.ShouldBeEmpty(), r =>
            r.Unknown.ShouldBe([("thunder sheet", 1)]));
        MusicXml.Read(strange, Map.With("Thunder sheet", new(Voice.China, null)), out _)!.ShouldSatisfyAllConditions(r =>
            r.Passage.Voices.ShouldBe([Voice.China]), r => r.Unknown.ShouldBeEmpty());
    }

    [Fact]
    public void Backups_and_ties_are_minded()
    {
        var read = MusicXml.Read(Score(
            Note("C", 5, 4, "<tie type=\"start\"/>") + Note("C", 5, 4, "<tie type=\"stop\"/>")
                + "<backup><duration>8</duration></backup><forward><duration>2</duration></forward>" + Note("F", 4, 2)), Map, out _)!;
        read.Passage.Strokes.Select(s => (s.At.Value, s.Voice.Code)).ShouldBe([(0, "SN"), (10080, "BD")]);
    }

    private const string Forward = "<barline location=\"left\"><repeat direction=\"forward\"/></barline>",
        Back = "<barline location=\"right\"><repeat direction=\"backward\"/></barline>";

    private static string Ending(int number, string type) =>
        $"<barline><ending number=\"{number}\" "
        + $"type=\"{type}\"/>{(type == "stop" && number == 1 ? "<repeat direction=\"backward\"/>" : "")}</barline>";

    /// <summary>Bars with one quarter note each, on K for a kick, S for a snare, R for nothing; as they are played.</summary>
    private static string Played(params string[] bars)
    {
        var written = string.Concat(bars.Select((b, i) =>
            $"<measure number=\"{i + 1}\">{(i == 0 ? "<attributes><divisions>2</divisions></attributes>" : "")}{b}</measure>"));
        var read = MusicXml.Read(XDocument.Parse($"<score-partwise version=\"4.0\"><part-list><score-part id=\"P1\"/></part-list><part "
            + $"id=\"P1\">{written}</part></score-partwise>"), Map, out _)!;
        return string.Concat(Enumerable.Range(0, read.Passage.Bars)
            .Select(bar => string.Concat(read.Passage.Strokes.Where(s => read.Passage.Meters.Locate(s.At).Bar == bar)
            .Select(s => s.Voice == Voice.Kick ? "K" : s.Voice == Voice.Snare ? "S" : "F").DefaultIfEmpty("-"))));
    }

    [Fact]
    public void Repeats_are_played_out()
    {
        var (k, s, f) = (Note("F", 4, 2), Note("C", 5, 2), Note("A", 4, 2));
        Played(k, s + Back, f).ShouldBe("KSKSF");
        Played(k, Forward + s + Back, f).ShouldBe("KSSF");
        Played(k, Forward + s + "<barline><repeat direction=\"backward\" times=\"4\"/></barline>", f).ShouldBe("KSSSSF");
        Played(Forward + k, Ending(1, "start") + s + Ending(1, "stop"), Ending(2, "start") + f + Ending(2, "stop"), s).ShouldBe("KSKFS");
        Played(Forward + k + Back, Forward + s + Back).ShouldBe("KKSS");
        // Longer than a passage can be: it ends, and says so.
        Played(k + "<barline><repeat direction=\"backward\" times=\"9999\"/></barline>").Length.ShouldBe(64);
    }

    [Fact]
    public void A_bar_that_only_has_the_sign_for_the_one_before_is_filled()
    {
        static string Sign(string type, string text) =>
            $"<attributes><measure-style><measure-repeat type=\"{type}\">{text}</measure-repeat></measure-style></attributes>";
        var (k, s, rest) = (Note("F", 4, 2), Note("C", 5, 2), "<note><rest measure=\"yes\"/><duration>8</duration></note>");
        Played(k, Sign("start", "1") + rest, rest, Sign("stop", "") + s, rest).ShouldBe("KKKS-");
        Played(k, s, Sign("start", "2") + rest, rest, Sign("stop", "") + s).ShouldBe("KSKSS");
    }

    [Fact]
    public void Open_hats_and_the_first_closed_one_after_have_their_signs()
    {
        var written = MusicXml.Write(Read("HH: 1 &o 2 & 3~ 4 4&"), Map);
        written.Descendants("technical").Select(t => t.Elements().Single().Name.LocalName)
            .ShouldBe(["open", "stopped", "half-muted", "stopped"]);
    }

    [Fact]
    public void Like_bars_show_the_sign_and_shorter_notes_have_their_beams()
    {
        var written = MusicXml.Write(Read("HH: 8ths | % | 8ths@1-2 3 e & a 4 4a\nSN: 2 4 | % | 2"), Map);
        written.Descendants("measure-repeat").Select(r => r.Attribute("type")!.Value + r.Value).ShouldBe(["start1", "stop"]);
        written.Descendants("beam").Where(b => b.Attribute("number")!.Value == "2").Select(b => b.Value)
            .ShouldBe(["begin", "continue", "continue", "end", "backward hook"]);
    }

    [Theory]
    [InlineData("<html/>", "no MusicXML")]
    [InlineData("<score-timewise/>", "ordered by time")]
    [InlineData("<score-partwise><part id=\"P1\"><measure/></part></score-partwise>", "notes of percussion")]
    public void What_is_no_part_of_drums_is_said(string text, string told)
    {
        MusicXml.Read(XDocument.Parse(text), Map, out var problem).ShouldBeNull();
        problem!.ShouldContain(told);
    }

    [Fact]
    public void A_score_with_pieces_missing_is_read_or_refused_and_nothing_throws()
    {
        var whole = MusicXml.Write(Read("tempo 90\nHH: 16ths | %\nSN: 2f 4 | 2 (3t) 4"), Map).ToString();
        Gen.Select(Gen.Int[0, 400], Gen.Int[0, 3]).Array[1, 10].Sample(cuts =>
        {
            var document = XDocument.Parse(whole);
            foreach (var (which, how) in cuts)
            {
                var all = document.Descendants().Skip(1).ToList();
                if (all.Count == 0) continue;
                var element = all[which % all.Count];
                if (how == 0) element.Remove();
                else if (how == 1 && !element.HasElements) element.Value = "-99999999999";
                else if (how == 2) element.RemoveNodes();
                else element.RemoveAttributes();
            }
            MusicXml.Read(document, Map, out _);
        }, iter: 1000);
    }
}
