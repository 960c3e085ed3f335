using InnerCadence.Core.Music;

namespace InnerCadence.Core.Counting;

/// <summary>Which of two voices struck at once the right hand takes (count-lines.md, "Sticking line").</summary>
internal static class HandOrder
{
    private static readonly string[] Order =
        ["HH", "RD", "RB", "CB", "CR", "C2", "CH", "SP", "CY", "P1", "P2", "P3", "P4", "P5", "P6", "P7", "P8", "T1", "T2", "T3", "T4",
            "TT", "FT", "F2", "SN", "XS"];

    /// <summary>The voice that the upper hand takes first: the right one, or the left with left or open hands.</summary>
    public static IReadOnlyList<Voice> Sorted(IEnumerable<Voice> voices) => [.. voices.OrderBy(v => Array.IndexOf(Order, v.Code))];

    public static (Side Upper, Side Lower) Hands(Handedness? hands) => hands is Handedness.Left or Handedness.Open
        ? (Side.Left, Side.Right) : (Side.Right, Side.Left);
}
