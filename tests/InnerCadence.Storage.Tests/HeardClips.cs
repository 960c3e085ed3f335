using InnerCadence.Core.Music;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Storage.Tests;

/// <summary>The ear on clips whose truth is known, of kits and music that it was not trained on (tests/clips, made by tools/ear
/// make-set).</summary>
public class HeardClips
{
    [Fact]
    public async Task The_ear_is_as_good_as_it_is_said_to_be()
    {
        var ear = ShippedEar.Find();
        ear.ShouldNotBeNull();
        var (onsets, families, tempos, bars, clips) = (default(SetToHear.Count), default(SetToHear.Count), 0, 0, 0);
        await foreach (var clip in SetToHear.HearAsync(Path.Combine(AppContext.BaseDirectory, "clips"), ear))
        {
            onsets += SetToHear.Onsets(clip);
            foreach (var family in Enum.GetValues<Family>()) families += SetToHear.Of(clip, family);
            if (SetToHear.IsTempoRight(clip)) tempos++;
            if (SetToHear.AreBarsRight(clip)) bars++;
            clips++;
            TestContext.Current.TestOutputHelper?.WriteLine(FormattableString.Invariant(
                $"{clip.Name} {clip.Truth.Kind} {clip.Truth.Meter} {clip.Truth.Felt:0.0}: ")
                + string.Join(", ", clip.Beats.Tempos.Select(t => FormattableString.Invariant($"{t.Bpm:0.0}"))));
        }
        clips.ShouldBe(24);
        TestContext.Current.TestOutputHelper?.WriteLine(FormattableString.Invariant(
            $"onset F {onsets.F:0.000}, family F {families.F:0.000}, tempo {tempos}, bars {bars}"));
        onsets.F.ShouldBeGreaterThan(0.96);
        families.F.ShouldBeGreaterThan(0.77);
        tempos.ShouldBeGreaterThanOrEqualTo(19);
        bars.ShouldBeGreaterThanOrEqualTo(11);
    }
}
