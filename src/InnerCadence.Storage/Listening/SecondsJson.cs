using System.Text.Json;
using System.Text.Json.Serialization;
using InnerCadence.Core.Music;

namespace InnerCadence.Storage.Listening;

/// <summary>Seconds are kept as a bare number.</summary>
internal sealed class SecondsJson : JsonConverter<Seconds>
{
    public static JsonSerializerOptions Options { get; } = new() { Converters = { new SecondsJson() } };

    public override Seconds Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) => new(reader.GetDouble());

    public override void Write(Utf8JsonWriter writer, Seconds value, JsonSerializerOptions options) => writer.WriteNumberValue(value.Value);
}
