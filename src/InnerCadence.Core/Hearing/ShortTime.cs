using MathNet.Numerics;

namespace InnerCadence.Core.Hearing;

/// <summary>A sound as spectra of short overlapping pieces, and back.</summary>
internal sealed class ShortTime
{
    /// <summary>Samples from piece to piece, as a share of a piece.</summary>
    private const int Overlap = 4;

    private readonly int size, hop;
    private readonly double[] window;
    private readonly FourierTransform transform;

    /// <param name="rate">Samples a second; a piece lasts about 46 ms.</param>
    public ShortTime(int rate)
    {
        size = 1;
        while (size < rate * 0.035) size *= 2;
        (hop, Rate, transform) = (size / Overlap, rate, new(size));
        // Applied going in and coming back, Hann's root adds up to a constant.
        window = [.. Window.HannPeriodic(size).Select(Math.Sqrt)];
    }

    public int Rate { get; }
    public int Bins => size / 2 + 1;

    /// <summary>Hz of a bin's middle.</summary>
    public double Frequency(int bin) => (double)bin * Rate / size;

    /// <summary>The first piece ends a hop into the sound, so that every sample lies in as many pieces.</summary>
    private int StartOf(int piece) => (piece + 1) * hop - size;

    /// <summary>Spectra from before the sound until it has ended.</summary>
    public Complex32[][] Forward(float[] sound)
    {
        var spectra = new Complex32[(sound.Length + size) / hop + 1][];
        for (var i = 0; i < spectra.Length; i++)
        {
            var (piece, start) = (new Complex32[size], StartOf(i));
            for (var j = 0; j < size; j++)
                if (start + j >= 0 && start + j < sound.Length) piece[j] = new((float)(sound[start + j] * window[j]), 0);
            Transformed(piece, transform.Forward);
            spectra[i] = piece;
        }
        return spectra;
    }

    /// <param name="spectra">As <see cref="Forward"/> gives them; each is written over.</param>
    /// <param name="length">Samples of the sound.</param>
    /// <param name="keep">Share of a bin of a spectrum that is kept, 0 to 1.</param>
    public float[] Back(Complex32[][] spectra, int length, Func<int, int, double> keep)
    {
        var sound = new float[length];
        const float gain = 2f / Overlap;
        for (var i = 0; i < spectra.Length; i++)
        {
            var (piece, start) = (spectra[i], StartOf(i));
            for (var bin = 0; bin < Bins; bin++)
            {
                var share = (float)keep(i, bin);
                piece[bin] *= share;
                if (bin > 0 && bin < size / 2) piece[size - bin] *= share;
            }
            Transformed(piece, transform.Inverse);
            for (var j = 0; j < size; j++)
                if (start + j >= 0 && start + j < length) sound[start + j] += (float)(piece[j].Real * window[j]) * gain;
        }
        return sound;
    }

    private void Transformed(Complex32[] piece, Action how)
    {
        for (var i = 0; i < size; i++) (transform.Real[i], transform.Imaginary[i]) = (piece[i].Real, piece[i].Imaginary);
        how();
        for (var i = 0; i < size; i++) piece[i] = new(transform.Real[i], transform.Imaginary[i]);
    }
}
