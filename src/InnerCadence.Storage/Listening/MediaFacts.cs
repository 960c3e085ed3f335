using System.Globalization;
using System.Text.Json;

namespace InnerCadence.Storage.Listening;

/// <summary>What a sound or film file holds, as the tool tells it.</summary>
/// <param name="Seconds">Nothing where it does not say.</param>
/// <param name="Film">Its moving picture’s codec; nothing where there is none. The sleeve that some sounds carry is no film.</param>
public sealed record MediaFacts(string Format, double? Seconds, string? Sound, int Channels, int Rate, string? Film)
{
    /// <summary>Longer than any side of a record, a concert or a film.</summary>
    public const double MostSeconds = 6 * 3600;

    /// <exception cref="UnreadableMediaException">There is no sound in it, or too much.</exception>
    public static MediaFacts Read(string json)
    {
        using var told = JsonDocument.Parse(json);
        var root = told.RootElement;
        var format = root.TryGetProperty("format", out var f) ? f : default;
        JsonElement? sound = null, film = null;
        foreach (var stream in root.TryGetProperty("streams", out var all) ? all.EnumerateArray() : default)
        {
            if (Word(stream, "codec_type") == "audio") sound ??= stream;
            if (Word(stream, "codec_type") == "video" && !IsSleeve(stream)) film ??= stream;
        }
        if (sound is not { } heard) throw new UnreadableMediaException("There is no sound in it.");
        var seconds = Number(format, "duration") ?? Number(heard, "duration");
        if (seconds > MostSeconds) throw new UnreadableMediaException("It lasts over six hours: split it.");
        return new(Word(format, "format_name"), seconds, Word(heard, "codec_name"), (int)(Number(heard, "channels") ?? 1),
            (int)(Number(heard, "sample_rate") ?? 44100), film is { } seen ? Word(seen, "codec_name") : null);
    }

    /// <summary>A browser plays the film as it is.</summary>
    public string? PlayedAs => Film is "vp8" or "vp9" or "av1" && Format.Contains("matroska,webm", StringComparison.Ordinal) ? "video/webm"
        : Film is "h264" && Format.Contains("mp4", StringComparison.Ordinal) ? "video/mp4" : null;

    private static bool IsSleeve(JsonElement stream) => stream.TryGetProperty("disposition", out var d) && Number(d, "attached_pic") == 1;

    private static string Word(JsonElement of, string name) =>
        of.ValueKind == JsonValueKind.Object && of.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String
            ? value.GetString()! : "";

    private static double? Number(JsonElement of, string name) =>
        of.ValueKind == JsonValueKind.Object && of.TryGetProperty(name, out var value)
            ? value.ValueKind == JsonValueKind.Number ? value.GetDouble()
            : double.TryParse(value.ValueKind == JsonValueKind.String ? value.GetString() : null, NumberStyles.Float,
                CultureInfo.InvariantCulture, out var number) ? number : null
            : null;
}
