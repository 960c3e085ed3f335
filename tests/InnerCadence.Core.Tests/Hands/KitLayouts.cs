using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Hands;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hands;

/// <summary>A kit that stands otherwise is stuck otherwise.</summary>
public class KitLayouts
{
    [Fact]
    public void What_is_written_is_read_again() => Gen.Select(Gen.Int[-200, 200], Gen.Int[-200, 200]).Array[1, 5].Sample(places =>
    {
        var voices = KitLayout.Usual.Places.Keys.Order().ToList();
        var text = string.Join('\n', places.Select((p, i) => $"  {voices[i * 3].Code.ToLowerInvariant()}\t{p.Item1} {p.Item2}"));
        var layout = KitLayout.Read(text, problem => throw new InvalidOperationException(problem));
        KitLayout.Read(layout.Written, problem => throw new InvalidOperationException(problem)).Places.ShouldBe(layout.Places);
        layout.PlaceOf(voices[0]).ShouldBe((places[0].Item1 / 10.0, places[0].Item2 / 10.0));
    }, iter: 2000);

    [Theory]
    [InlineData("FT 45")]
    [InlineData("FT 45 20 3")]
    [InlineData("FT 4.5 20")]
    [InlineData("FT 500 20")]
    [InlineData("BD 0 20")]
    [InlineData("gong 10 10")]
    public void What_is_no_place_is_told_and_the_rest_counts(string line)
    {
        var told = new List<string>();
        var layout = KitLayout.Read($"{line}\nRD 20 60", told.Add);
        told.ShouldHaveSingleItem().ShouldContain(line);
        layout.PlaceOf(Voice.Ride).ShouldBe((2, 6));
        layout.PlaceOf(Voice.FloorTom).ShouldBe(KitLayout.Usual.PlaceOf(Voice.FloorTom));
    }

    [Fact]
    public void A_far_tom_costs_more()
    {
        var passage = CountLines.Parse("tempo 140\nSN: 1 e\nFT: 1& 2 2&\nSN: 1a 2e 2a").Passage;
        double Cost(string layout) => Sticking.Of(passage,
            StickingSettings.Usual with { Tempo = Bpm.Of(140)!.Value, Layout = KitLayout.Read(layout, _ => { }) }, 1).Options[0].Cost;
        Cost("FT 120 20").ShouldBeGreaterThan(Cost(""));
        Cost("FT 45 20").ShouldBe(Cost(""));
    }
}
