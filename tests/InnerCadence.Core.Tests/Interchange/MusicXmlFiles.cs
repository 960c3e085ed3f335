using System.Xml.Linq;
using CsCheck;
using InnerCadence.Core.Counting;
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
        MusicXml.Read(XDocument.Parse(MusicXml.Write(passage, Map, "A groove", sticking).ToString()), Map, out var problem).ShouldNotBeNull(problem);

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
        $"<score-partwise version=\"3.1\"><part-list><score-part id=\"P9\"><part-name>Kit</part-name>{instruments}{midi}</score-part></part-list><part id=\"P9\"><measure number=\"1\"><attributes><divisions>2</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>{notes}</measure></part></score-partwise>");

    private static string Note(string step, int octave, int duration, string more = "", string before = "") =>
        $"<note>{before}<unpitched><display-step>{step}</display-step><display-octave>{octave}</display-octave></unpitched><duration>{duration}</duration>{more}<voice>1</voice></note>";

    [Fact]
    public void Drums_are_known_by_name_by_note_or_by_place()
    {
        var byPlace = MusicXml.Read(Score(Note("F", 4, 2) + Note("C", 5, 1) + Note("G", 5, 1, before: "<chord/>", more: "<notehead>x</notehead>")), Map, out _)!;
        byPlace.Passage.Strokes.Select(s => (s.At.Value, s.Voice.Code)).ShouldBe([(0, "BD"), (10080, "HH"), (10080, "SN")]);
        const string instrument = "<instrument id=\"I1\"/>";
        MusicXml.Read(Score(Note("E", 4, 2, instrument), "<score-instrument id=\"I1\"><instrument-name>Cowbell</instrument-name></score-instrument>"), Map, out _)!.Passage.Voices.ShouldBe([Voice.Cowbell]);
        MusicXml.Read(Score(Note("E", 4, 2, instrument), "<score-instrument id=\"I1\"><instrument-name>Becken 3</instrument-name></score-instrument>", "<midi-instrument id=\"I1\"><midi-unpitched>50</midi-unpitched></midi-instrument>"), Map, out _)!.Passage.Voices.ShouldBe([Voice.Crash]);
        MusicXml.Read(Score(Note("E", 3, 2, instrument), "<score-instrument id=\"I1\"><instrument-name>Thunder sheet</instrument-name></score-instrument>"), Map, out var problem).ShouldBeNull();
        problem!.ShouldContain("Thunder sheet");
    }

    [Fact]
    public void Backups_ties_and_repeats_are_minded()
    {
        var read = MusicXml.Read(Score(
            Note("C", 5, 4, "<tie type=\"start\"/>") + Note("C", 5, 4, "<tie type=\"stop\"/>") + "<backup><duration>8</duration></backup><forward><duration>2</duration></forward>" + Note("F", 4, 2) + "<barline><repeat direction=\"backward\"/></barline>"), Map, out _)!;
        read.Passage.Strokes.Select(s => (s.At.Value, s.Voice.Code)).ShouldBe([(0, "SN"), (10080, "BD")]);
        read.Doubts.ShouldHaveSingleItem().ShouldContain("Repeat");
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
