namespace InnerCadence.Core.Hearing;

/// <summary>Sound at another speed with its pitch kept, by overlapping pieces of it that fit one another.</summary>
/// <remarks>sound.md, "Slower". Verhelst and Roelands, An overlap-add technique based on waveform similarity (WSOLA), ICASSP
/// 1993.</remarks>
public static class TimeStretch
{
    /// <summary>Seconds that a piece lasts, and by how much it may be taken earlier or later than its place.</summary>
    private const double Piece = 0.040, Slack = 0.008;

    /// <summary>Every n-th sample is compared: enough to find the fit, and faster.</summary>
    private const int Coarse = 4;

    /// <param name="sound">Samples of each channel, all of one length; all are moved alike.</param>
    /// <param name="speed">Of the original: 0.5 lasts twice as long.</param>
    /// <returns>So long that the first and last sample fall where they do in <paramref name="sound"/>, to the sample; what is struck may
    /// come up to 25 ms early.</returns>
    public static float[][] Of(float[][] sound, int rate, double speed)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(speed);
        var frames = sound.Length == 0 ? 0 : sound[0].Length;
        var length = (int)Math.Round(frames / speed);
        if (speed == 1 || frames == 0) return [.. sound.Select(channel => (float[])channel.Clone())];
        var half = Math.Max(1, (int)(Piece * rate / 2));
        var slack = (int)(Slack * rate);
        var mono = Mean(sound);
        var window = new float[2 * half];
        for (var i = 0; i < window.Length; i++) window[i] = (float)(0.5 - 0.5 * Math.Cos(Math.PI * (i + 0.5) / half));
        var made = sound.Select(_ => new float[length]).ToArray();
        // The first piece lies with its middle on the first sample, so that the beginning is whole.
        var taken = -half;
        for (var at = -half; at < length; at += half)
        {
            var wanted = (int)Math.Round((at + half) * speed) - half;
            // What would follow on the piece before, if nothing was stretched, is looked for round the place that is due.
            taken = at == -half ? wanted : Fitting(mono, taken + half, wanted, 2 * half, slack);
            for (var channel = 0; channel < sound.Length; channel++)
                Add(sound[channel], taken, window, made[channel], at);
        }
        return made;
    }

    private static int Fitting(float[] mono, int natural, int wanted, int length, int slack)
    {
        if (Math.Abs(natural - wanted) <= slack) return natural;
        var (best, most) = (wanted, double.NegativeInfinity);
        for (var offset = -slack; offset <= slack; offset += 2)
        {
            double product = 0, energy = 1e-9;
            for (var i = 0; i < length; i += Coarse)
            {
                int a = natural + i, b = wanted + offset + i;
                if (a < 0 || b < 0 || a >= mono.Length || b >= mono.Length) continue;
                product += mono[a] * mono[b];
                energy += mono[b] * mono[b];
            }
            var fit = product / Math.Sqrt(energy);
            if (fit > most) (best, most) = (wanted + offset, fit);
        }
        return best;
    }

    private static void Add(float[] from, int taken, float[] window, float[] into, int at)
    {
        var first = Math.Max(0, Math.Max(-at, -taken));
        var end = Math.Min(window.Length, Math.Min(into.Length - at, from.Length - taken));
        for (var i = first; i < end; i++) into[at + i] += from[taken + i] * window[i];
    }

    private static float[] Mean(float[][] sound)
    {
        var mean = new float[sound[0].Length];
        foreach (var channel in sound)
            for (var i = 0; i < mean.Length; i++) mean[i] += channel[i] / sound.Length;
        return mean;
    }
}
