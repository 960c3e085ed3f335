using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace InnerCadence.Core.Music;

/// <summary>A time on the clock, or a length of it. It goes wherever a number is shown or drawn; a bare number is never taken for
/// one.</summary>
[JsonConverter(typeof(AsNumber))]
public readonly record struct Seconds(double Value) : IComparable<Seconds>, IFormattable
{
    public static Seconds Zero => default;

    public static Seconds OfMilliseconds(double value) => new(value / 1000);

    public double Milliseconds => Value * 1000;

    public static Seconds operator +(Seconds a, Seconds b) => new(a.Value + b.Value);
    public static Seconds operator -(Seconds a, Seconds b) => new(a.Value - b.Value);
    public static Seconds operator -(Seconds a) => new(-a.Value);
    public static Seconds operator *(Seconds a, double times) => new(a.Value * times);
    public static Seconds operator /(Seconds a, double by) => new(a.Value / by);
    public static double operator /(Seconds a, Seconds b) => a.Value / b.Value;
    public static bool operator <(Seconds a, Seconds b) => a.Value < b.Value;
    public static bool operator >(Seconds a, Seconds b) => a.Value > b.Value;
    public static bool operator <=(Seconds a, Seconds b) => a.Value <= b.Value;
    public static bool operator >=(Seconds a, Seconds b) => a.Value >= b.Value;

    public static implicit operator double(Seconds seconds) => seconds.Value;

    public int CompareTo(Seconds other) => Value.CompareTo(other.Value);
    public override string ToString() => Value.ToString(CultureInfo.InvariantCulture);
    public string ToString(string? format, IFormatProvider? provider) => Value.ToString(format, provider);

    /// <summary>Kept and answered as a bare number, wherever it stands.</summary>
    private sealed class AsNumber : JsonConverter<Seconds>
    {
        public override Seconds Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetDouble());

        public override void Write(Utf8JsonWriter writer, Seconds value, JsonSerializerOptions options) =>
            writer.WriteNumberValue(value.Value);
    }
}
