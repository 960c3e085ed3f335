using CsCheck;

namespace InnerCadence.Core.Tests;

internal static class Among
{
    /// <summary>One of these, each as likely.</summary>
    public static Gen<T> These<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(i => values[i]);
}
