using System.Text.Json;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Passages;
using InnerCadence.Storage.Upkeep;

namespace InnerCadence.Storage.Listening;

/// <param name="Passages">Their numbers.</param>
/// <param name="Of">What they are, such as a recording's name.</param>
public sealed record MeasuringInput(IReadOnlyList<long> Passages, string Of);

/// <summary>The long work of measuring many passages against their sound: of a recording, of a section, of an idea.</summary>
public sealed class MeasuringWork(MeasurementStore measurements, PassageStore passages)
    : Work<MeasuringInput>(MeasurementKind, "Measuring against the sound")
{
    public const string MeasurementKind = "measuring";

    /// <param name="of">What they are, such as a recording's name.</param>
    public static string InputOf(IReadOnlyList<long> passages, string of) => JsonSerializer.Serialize(new MeasuringInput(passages, of));

    protected override async Task RunAsync(MeasuringInput input, JobRun run)
    {
        var (measured, without) = (0, 0);
        foreach (var (number, i) in input.Passages.Select((number, i) => (number, i)))
        {
            await run.BeatAsync(100 * i / input.Passages.Count, $"Measured {measured} of {input.Passages.Count} passages.",
                $"Cancelled: {measured} of {input.Passages.Count} passages were measured.");
            if (await passages.FindAsync(new(number), run.Stop) is not { } passage) continue;
            if ((await measurements.MeasureAsync(passage, run.Stop)).Measured is null) without++;
            else measured++;
        }
        await run.DoneAsync($"{input.Of}: {measured} of {input.Passages.Count} passages measured"
            + $"{(without > 0 ? $", {without} have no sound that was heard, or no bar lines" : "")}.");
    }
}
