using System.Globalization;

namespace InnerCadence.Core.Music;

/// <summary>Quarter notes a minute, 20 to 400.</summary>
public readonly record struct Bpm
{
    private Bpm(double value) => Value = value;

    public double Value { get; }

    /// <summary>Where nobody says one.</summary>
    public static Bpm Usual { get; } = new(100);

    /// <summary>How long a quarter lasts.</summary>
    public Seconds SecondsPerQuarter => new(60.0 / Value);

    /// <summary>Nothing when the tempo is out of bounds: below 20 or above 400.</summary>
    public static Bpm? Of(double value) => value is >= 20 and <= 400 ? new(value) : null;

    public static Bpm? Parse(string text) =>
        double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var value) ? Of(value) : null;

    /// <summary>How long so many ticks last.</summary>
    public Seconds SecondsOf(Tick length) => new(60.0 / Value * length.Value / Tick.PerQuarter);

    public override string ToString() => Value.ToString("0.###", CultureInfo.InvariantCulture);
}
