using MathNet.Numerics;

namespace InnerCadence.Core.Hearing;

/// <summary>What of a sound is heard, so that the drums come forward.</summary>
public enum SoundPart
{
    Whole,
    /// <summary>What is struck, without what rings on.</summary>
    Drums,
    Low, Middle, High, Left, Right,
    /// <summary>What both sides have, as one.</summary>
    Mid,
    /// <summary>What the sides have not in common.</summary>
    Side,
}

/// <remarks>sound.md, "The drums forward".</remarks>
public static class SoundParts
{
    /// <param name="sound">One or two channels.</param>
    /// <returns>As many samples; one channel where one is picked. A sound of one channel has no side: it is silent.</returns>
    public static float[][] Of(float[][] sound, int rate, SoundPart part) => part switch
    {
        SoundPart.Drums => [.. sound.Select(channel => Percussive.Of(channel, rate))],
        SoundPart.Low => Band(sound, rate, SoundBand.Low),
        SoundPart.Middle => Band(sound, rate, SoundBand.Middle),
        SoundPart.High => Band(sound, rate, SoundBand.High),
        SoundPart.Left => [sound[0]],
        SoundPart.Right => [sound[^1]],
        SoundPart.Mid => Joined(sound, (left, right) => (left + right) / 2),
        SoundPart.Side => Joined(sound, (left, right) => (left - right) / 2),
        _ => sound,
    };

    private static float[][] Joined(float[][] sound, Func<float, float, float> join) => [[.. sound[0].Zip(sound[^1], join)]];

    private static float[][] Band(float[][] sound, int rate, SoundBand band)
    {
        var time = new ShortTime(rate);
        var kept = Enumerable.Range(0, time.Bins).Select(bin => SoundBands.Of(time.Frequency(bin)) == band ? 1.0 : 0).ToArray();
        return [.. sound.Select(channel => time.Back(time.Forward(channel), channel.Length, (_, bin) => kept[bin]))];
    }
}

/// <summary>Tells what is struck from what rings by medians: a stroke stands across the spectrum, a tone along the time.</summary>
/// <remarks>sound.md, "The drums forward". Fitzgerald, Harmonic/percussive separation using median filtering, DAFx 2010; masks of power
/// 2.</remarks>
internal static class Percussive
{
    /// <summary>Spectra and bins that a median goes over.</summary>
    private const int Reach = 17;

    public static float[] Of(float[] sound, int rate)
    {
        var time = new ShortTime(rate);
        var spectra = time.Forward(sound);
        var loud = spectra.Select(s => s.AsSpan(0, time.Bins).ToArray().Select(c => c.Magnitude).ToArray()).ToArray();
        var rings = new float[loud.Length][];
        for (var i = 0; i < loud.Length; i++) rings[i] = new float[time.Bins];
        Parallel.For(0, time.Bins, bin =>
        {
            var column = new float[loud.Length];
            for (var i = 0; i < column.Length; i++) column[i] = loud[i][bin];
            var medians = RunningMedian.Of(column, Reach);
            for (var i = 0; i < column.Length; i++) rings[i][bin] = medians[i];
        });
        var share = new float[loud.Length][];
        Parallel.For(0, loud.Length, i =>
        {
            var struck = RunningMedian.Of(loud[i], Reach);
            share[i] = new float[time.Bins];
            for (var bin = 0; bin < time.Bins; bin++)
            {
                var (p, h) = (struck[bin] * struck[bin], rings[i][bin] * rings[i][bin]);
                share[i][bin] = p + h > 0 ? p / (p + h) : 0;
            }
        });
        return time.Back(spectra, sound.Length, (i, bin) => share[i][bin]);
    }
}

/// <summary>The median of the values round each one.</summary>
internal static class RunningMedian
{
    /// <param name="reach">How many values, an odd number; at the ends only those that there are.</param>
    public static float[] Of(float[] values, int reach)
    {
        var (half, sorted, count) = (reach / 2, new float[reach + 1], 0);
        var medians = new float[values.Length];
        for (var i = 0; i < Math.Min(half, values.Length); i++) Insert(values[i]);
        for (var i = 0; i < values.Length; i++)
        {
            if (i + half < values.Length) Insert(values[i + half]);
            if (i - half - 1 >= 0) Remove(values[i - half - 1]);
            medians[i] = sorted[count / 2];
        }
        return medians;

        void Insert(float value)
        {
            var at = count++;
            for (; at > 0 && sorted[at - 1] > value; at--) sorted[at] = sorted[at - 1];
            sorted[at] = value;
        }

        void Remove(float value)
        {
            var at = Array.IndexOf(sorted, value, 0, count);
            Array.Copy(sorted, at + 1, sorted, at, --count - at);
        }
    }
}
