namespace InnerCadence.Core.Music;

/// <summary>A place or a length in written music: 10080ths of a quarter note, so that every usual division is whole.</summary>
/// <remarks>
/// Not a time on the clock: the same tick lasts longer in a slow bar. The &amp; of 3 in 4/4 is
/// <c>Tick.PerQuarter * 2 + Tick.PerQuarter / 2</c>, 25200.
/// </remarks>
public readonly record struct Tick(int Value) : IComparable<Tick>
{
    public const int PerQuarter = 10080;
    public const int PerWhole = PerQuarter * 4;

    public static Tick Zero => default;

    /// <summary>Exact share of a quarter note.</summary>
    /// <exception cref="ArgumentException">The share does not land on a whole tick.</exception>
    public static Tick OfQuarter(int numerator, int denominator) =>
        PerQuarter * numerator % denominator == 0
            ? new(PerQuarter * numerator / denominator)
            : throw new ArgumentException($"{numerator}/{denominator} of a quarter is not a whole number of ticks.");

    public static Tick operator +(Tick a, Tick b) => new(checked(a.Value + b.Value));
    public static Tick operator -(Tick a, Tick b) => new(checked(a.Value - b.Value));
    public static Tick operator *(Tick a, int times) => new(checked(a.Value * times));
    public static bool operator <(Tick a, Tick b) => a.Value < b.Value;
    public static bool operator >(Tick a, Tick b) => a.Value > b.Value;
    public static bool operator <=(Tick a, Tick b) => a.Value <= b.Value;
    public static bool operator >=(Tick a, Tick b) => a.Value >= b.Value;

    public int CompareTo(Tick other) => Value.CompareTo(other.Value);
    public override string ToString() => Value.ToString();
}
