using System.Globalization;
using InnerCadence.Core.Music;
using Microsoft.ML.OnnxRuntime;

namespace InnerCadence.Core.Hearing;

/// <summary>The trained networks that hear what is struck and where the beat is; what they were trained on, and where they fail, stands in
/// ear.md beside this file.</summary>
/// <remarks>One session each, of two threads; calls from several threads at once are allowed.</remarks>
public sealed class Ear : IDisposable
{
    /// <summary>Frames a second of what was heard, and of the beat.</summary>
    public const int FramesPerSecond = 100, PulsesPerSecond = 50;

    /// <summary>Numbers a frame: strengths of seven families, four kinds, the strength of any stroke, loudness of the families, pitch of
    /// a tom.</summary>
    public const int Outputs = 20;

    /// <summary>Of a pulse frame: beat and bar line.</summary>
    internal const int PulseOutputs = 2;

    /// <summary>In the order of the outputs.</summary>
    public static readonly IReadOnlyList<Family> Families =
        [Family.Kick, Family.Snare, Family.Hat, Family.Ride, Family.Crash, Family.Tom, Family.Bell];

    private readonly InferenceSession strokes, pulse;

    private Ear(byte[] strokes, byte[] pulse)
    {
        using var options = new SessionOptions
        {
            IntraOpNumThreads = 2,
            // Without a plan of memory for each length of window the process holds an eighth less (bench: hear 4).
            EnableMemoryPattern = false,
            LogSeverityLevel = OrtLoggingLevel.ORT_LOGGING_LEVEL_ERROR,
        };
        (this.strokes, this.pulse) = (new(strokes, options), new(pulse, options));
        var facts = this.strokes.ModelMetadata.CustomMetadataMap;
        Version = facts["version"];
        Thresholds = [.. facts["thresholds"].Split(',').Select(t => double.Parse(t, CultureInfo.InvariantCulture))];
        OnsetThreshold = double.Parse(facts["onset"], CultureInfo.InvariantCulture);
    }

    /// <summary>Of the trained weights: what was heard by another is heard anew.</summary>
    public string Version { get; }

    /// <summary>Of each family, in the order of the outputs: a peak from here on is a stroke, chosen on sound that it was not trained
    /// on.</summary>
    public IReadOnlyList<double> Thresholds { get; }

    /// <summary>From here on something is struck, whatever it is: chosen like <see cref="Thresholds"/>.</summary>
    public double OnsetThreshold { get; }

    /// <param name="strokes">ear.onnx, and so <paramref name="pulse"/> pulse.onnx.</param>
    /// <returns>Nothing on a system for which the runtime has no library.</returns>
    public static Ear? Load(byte[] strokes, byte[] pulse)
    {
        try
        {
            return new(strokes, pulse);
        }
        catch (Exception e) when (e is DllNotFoundException or TypeInitializationException or BadImageFormatException
            or EntryPointNotFoundException)
        {
            return null;
        }
    }

    /// <param name="bands">Of a window of sound, 72 a frame.</param>
    /// <param name="into">Gets <see cref="Outputs"/> a frame, 0 to 1; it may be longer.</param>
    internal void Hear(Memory<float> bands, Memory<float> into) => Run(strokes, bands, EarFeatures.Bands, into, Outputs);

    /// <param name="strengths">Seven a pulse frame, of a whole sound.</param>
    /// <param name="into">Gets beat and bar line of each frame, 0 to 1; it may be longer.</param>
    internal void Beats(Memory<float> strengths, Memory<float> into) => Run(pulse, strengths, Families.Count, into, PulseOutputs);

    /// <summary>In the caller's memory, so that a long sound leaves no garbage window by window.</summary>
    private static void Run(InferenceSession session, Memory<float> values, int width, Memory<float> into, int outputs)
    {
        if (values.Length / width is not (> 0 and var frames)) return;
        using var options = new RunOptions();
        using var given = OrtValue.CreateTensorValueFromMemory(OrtMemoryInfo.DefaultInstance, values, [1, frames, width]);
        using var made = OrtValue.CreateTensorValueFromMemory(OrtMemoryInfo.DefaultInstance, into[..(frames * outputs)],
            [1, frames, outputs]);
        session.Run(options, session.InputNames, [given], session.OutputNames, [made]);
    }

    public void Dispose()
    {
        strokes.Dispose();
        pulse.Dispose();
    }
}
