using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Hearing;

/// <summary>Strokes read off strengths that are made up.</summary>
public class StruckAndNamed
{
    private const int Onset = 11, Frames = 400;
    private static readonly Ear Shipped = Ear.Load(Network("ear"), Network("pulse"))!;

    private static byte[] Network(string name) => File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "networks", name + ".onnx"));

    private static IReadOnlyList<HeardStroke> Read(double eager, params (int Frame, int Output, double Height)[] peaks)
    {
        var heard = new byte[Frames * Ear.Outputs];
        foreach (var (frame, output, height) in peaks)
            for (var off = -1; off <= 1; off++)
                heard[(frame + off) * Ear.Outputs + output] = (byte)(255 * height * (off == 0 ? 1 : 0.5));
        return HeardStrokes.In(new(heard, []), Shipped, eager);
    }

    private static int Of(Family family) => Ear.Families.ToList().IndexOf(family);

    private static double Under(Family family) => Over(family, 0.7);

    /// <summary>So many times what makes it a stroke.</summary>
    private static double Over(Family family, double times) => Shipped.Thresholds[Of(family)] * times;

    [Fact]
    public void What_is_struck_and_has_no_name_has_the_likeliest_one_and_is_in_doubt()
    {
        var stroke = Read(0, (50, Onset, 1), (50, Of(Family.Tom), Under(Family.Tom)), (50, Of(Family.Snare), Under(Family.Snare) / 2))
            .ShouldHaveSingleItem();
        (stroke.Family, stroke.Voice).ShouldBe((Family.Tom, Voice.AnyTom));
        stroke.At.Value.ShouldBe(0.5, 0.001);
        stroke.Confidence.ShouldBe(0.35, 0.02);
    }

    [Fact]
    public void What_has_a_name_is_one_stroke()
    {
        Read(0, (50, Of(Family.Kick), 0.99), (52, Onset, 1), (52, Of(Family.Tom), Under(Family.Tom))).ShouldHaveSingleItem().Family
            .ShouldBe(Family.Kick);
        Read(0, (50, Of(Family.Kick), 0.99), (54, Onset, 1), (54, Of(Family.Tom), Under(Family.Tom))).Select(s => s.Family)
            .ShouldBe([Family.Kick, Family.Tom]);
    }

    [Fact]
    public void A_ride_is_struck_on_its_bow_or_on_its_bell()
    {
        const int cowbell = 10;
        (int, int, double)[] both = [(50, Of(Family.Bell), Over(Family.Bell, 1.4)), (52, Of(Family.Ride), Over(Family.Ride, 1.1))];
        Read(0, both).ShouldHaveSingleItem().Voice.ShouldBe(Voice.RideBell);
        Read(0, (50, Of(Family.Bell), Over(Family.Bell, 1)), (50, Of(Family.Ride), Over(Family.Ride, 1.23))).ShouldHaveSingleItem().Voice
            .ShouldBe(Voice.Ride);
        Read(0, (50, Of(Family.Bell), Over(Family.Bell, 1.1)), (50, Of(Family.Ride), Over(Family.Ride, 1.2))).Count
            .ShouldBe(2, "neither is clearly surer");
        Read(0, both[0], both[1] with { Item1 = 56 }).Count.ShouldBe(2);
        Read(0, [.. both, (50, cowbell, 1)]).Select(s => s.Voice).ShouldBe([Voice.Cowbell, Voice.Ride]);
    }

    [Fact]
    public void Who_asks_for_more_is_told_more()
    {
        (int, int, double)[] faint = [(50, Onset, Shipped.OnsetThreshold - 0.05), (50, Of(Family.Hat), Under(Family.Hat) / 2)];
        Read(0, faint).ShouldBeEmpty();
        Read(0.1, faint).ShouldHaveSingleItem().Family.ShouldBe(Family.Hat);
        Read(0, (50, Of(Family.Hat), Under(Family.Hat))).ShouldBeEmpty();
    }
}
