using InnerCadence.Core.Music;
using MathNet.Numerics;

namespace InnerCadence.Core.Hearing;

/// <summary>How loud a sound and each of its three bands are over time: what stands behind the strands before anything better is
/// heard.</summary>
/// <param name="Peak">The loudest sample of every step, 0 to 1.</param>
/// <param name="Low">Root of the band's energy in every step, against the loudest step of the band; likewise the others.</param>
/// <remarks>sound.md, "Ridges".</remarks>
public sealed record BandEnergy(ValueList<float> Peak, ValueList<float> Low, ValueList<float> Middle, ValueList<float> High)
{
    /// <summary>Seconds between two values.</summary>
    public const double Step = 0.005;

    public static BandEnergy Of(float[] mono, int rate)
    {
        var steps = (int)Math.Ceiling(mono.Length / (Step * rate));
        var size = 256;
        while (size < rate * 0.018) size *= 2;
        var window = Window.HannPeriodic(size);
        var bands = new float[3][];
        for (var band = 0; band < 3; band++) bands[band] = new float[steps];
        var (peak, piece) = (new float[steps], new FourierTransform(size));
        for (var step = 0; step < steps; step++)
        {
            var middle = (int)(step * Step * rate);
            for (var i = 0; i < size; i++)
                piece.Real[i] = middle - size / 2 + i is var at && at >= 0 && at < mono.Length ? (float)(mono[at] * window[i]) : 0;
            Array.Clear(piece.Imaginary);
            for (var i = middle; i < Math.Min(mono.Length, (int)((step + 1) * Step * rate)); i++) peak[step] =
                Math.Max(peak[step], Math.Abs(mono[i]));
            piece.Forward();
            for (var bin = 1; bin < size / 2; bin++)
            {
                var hz = (double)bin * rate / size;
                if (hz < SoundBands.Lowest) continue;
                bands[(int)SoundBands.Of(hz)][step] += piece.Power(bin);
            }
        }
        foreach (var band in bands)
        {
            var most = band.Length == 0 ? 0 : band.Max();
            for (var i = 0; i < band.Length; i++) band[i] = most > 0 ? (float)Math.Sqrt(band[i] / most) : 0;
        }
        return new(peak, bands[0], bands[1], bands[2]);
    }
}
