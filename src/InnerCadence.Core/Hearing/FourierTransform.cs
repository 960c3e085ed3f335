using MathNet.Numerics;
using MathNet.Numerics.IntegralTransforms;

namespace InnerCadence.Core.Hearing;

/// <summary>Fourier transforms of short pieces of sound, in place, on the caller's thread.</summary>
/// <remarks>Split over threads, as the library does from 1024 values on, they take longer and leave kilobytes of garbage each.</remarks>
internal static class FourierTransform
{
    static FourierTransform() => Control.UseSingleThread();

    /// <summary>Without a factor.</summary>
    public static void Forward(Complex32[] piece) => Fourier.Forward(piece, FourierOptions.NoScaling);

    /// <summary>Of what <see cref="Forward"/> made: gives back what that was given.</summary>
    public static void Inverse(Complex32[] piece) => Fourier.Inverse(piece, FourierOptions.AsymmetricScaling);
}
