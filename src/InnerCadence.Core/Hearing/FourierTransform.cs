using NWaves.Transforms;

namespace InnerCadence.Core.Hearing;

/// <summary>Fourier transforms of pieces of sound of one size, in place, again and again without garbage.</summary>
/// <param name="size">A power of two.</param>
internal sealed class FourierTransform(int size)
{
    private readonly Fft fft = new(size);

    /// <summary>What is transformed, and what comes of it.</summary>
    public float[] Real { get; } = new float[size];
    public float[] Imaginary { get; } = new float[size];

    /// <summary>Without a factor.</summary>
    public void Forward() => fft.Direct(Real, Imaginary);

    /// <summary>Of what <see cref="Forward"/> made: gives back what that was given.</summary>
    public void Inverse() => fft.InverseNorm(Real, Imaginary);

    public float Power(int bin) => Real[bin] * Real[bin] + Imaginary[bin] * Imaginary[bin];
}
