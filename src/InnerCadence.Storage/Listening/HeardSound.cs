using System.Text.Json;
using System.Text.Json.Serialization;
using InnerCadence.Core.Hearing;
using InnerCadence.Core.Music;

namespace InnerCadence.Storage.Listening;

/// <summary>What was heard in a sound: derived from its file, made again from it, and never part of an archive.</summary>
/// <param name="Ear">Version of the trained ear; nothing where the rules heard it.</param>
public sealed record HeardSound(IReadOnlyList<HeardStroke> Strokes, IReadOnlyList<HeardBeat> Beats, IReadOnlyList<SoundTempo> Tempos,
    string? Ear)
{
    /// <summary>Taken out before it was listened to.</summary>
    public IReadOnlyList<HeardEcho> Echoes { get; init; } = [];

    private static readonly JsonSerializerOptions Kept = new()
    {
        Converters = { new VoiceAsCode(), new JsonStringEnumConverter() },
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    public string ToJson() => JsonSerializer.Serialize(this, Kept);

    public static HeardSound FromJson(string json) => JsonSerializer.Deserialize<HeardSound>(json, Kept)!;

    private sealed class VoiceAsCode : JsonConverter<Voice>
    {
        public override Voice Read(ref Utf8JsonReader reader, Type type, JsonSerializerOptions options) =>
            Voice.Find(reader.GetString()!) ?? throw new JsonException("No voice has this code.");

        public override void Write(Utf8JsonWriter writer, Voice value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.Code);
    }
}
