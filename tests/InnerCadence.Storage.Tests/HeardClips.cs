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
        var (onsets, families, echoing) = (default(SetToHear.Count), default(SetToHear.Count), new List<string>());
        var (tempos, bars, clips) = (0, 0, 0);
        await foreach (var clip in SetToHear.HearAsync(Path.Combine(AppContext.BaseDirectory, "clips"), ear))
        {
            onsets += SetToHear.Onsets(clip);
            foreach (var family in Enum.GetValues<Family>()) families += SetToHear.Of(clip, family);
            if (SetToHear.IsTempoRight(clip)) tempos++;
            if (SetToHear.AreBarsRight(clip)) bars++;
            clips++;
            if (clip.Echoes.Count > 0) echoing.Add(clip.Name);
            TestContext.Current.TestOutputHelper?.WriteLine(FormattableString.Invariant(
                $"{clip.Name} {clip.Truth.Kind} {clip.Truth.Meter} {clip.Truth.Felt:0.0}: ")
                + string.Join(", ", clip.Beats.Tempos.Select(t => FormattableString.Invariant($"{t.Bpm:0.0}")))
                + string.Concat(clip.Echoes.Select(e => FormattableString.Invariant($", echo {e.After.Milliseconds:0.0} ms"))));
        }
        clips.ShouldBe(24);
        // A wall of its room throws the drums back after 65 ms, 11 dB softer.
        echoing.ShouldBe(["clip-11"]);
        TestContext.Current.TestOutputHelper?.WriteLine(FormattableString.Invariant(
            $"onset F {onsets.F:0.000}, family F {families.F:0.000}, tempo {tempos}, bars {bars}"));
        onsets.F.ShouldBeGreaterThan(0.96);
        families.F.ShouldBeGreaterThan(0.77);
        tempos.ShouldBeGreaterThanOrEqualTo(19);
        bars.ShouldBeGreaterThanOrEqualTo(13);
    }

    [Fact]
    public async Task An_echo_off_a_wall_is_not_taken_for_strokes()
    {
        var (onsets, families, found) = (default(SetToHear.Count), default(SetToHear.Count), 0);
        await foreach (var clip in SetToHear.HearAsync(Path.Combine(AppContext.BaseDirectory, "clips"), ShippedEar.Find()!,
            through: "aecho=1:0.7:143:0.4"))
        {
            onsets += SetToHear.Onsets(clip);
            foreach (var family in Enum.GetValues<Family>()) families += SetToHear.Of(clip, family);
            if (clip.Echoes.Any(e => Math.Abs(e.After.Milliseconds - 143) < 0.1 && Math.Abs(e.Decibels + 8) < 2)) found++;
        }
        TestContext.Current.TestOutputHelper?.WriteLine(FormattableString.Invariant(
            $"found in {found}, onset F {onsets.F:0.000}, family F {families.F:0.000}"));
        found.ShouldBeGreaterThanOrEqualTo(21);
        onsets.F.ShouldBeGreaterThan(0.94);
        families.F.ShouldBeGreaterThan(0.75);
    }
}
