using InnerCadence.Core.Hearing;
using InnerCadence.Storage.Listening;

namespace InnerCadence.Web.Api;

/// <summary>A WAV file that came with a form, heard once.</summary>
/// <param name="Mono">Empty where nobody asked for it.</param>
internal sealed record SentSound(WavHead Head, Ear Ear, Activations Heard, float[] Mono)
{
    /// <param name="samples">What is measured needs the samples too.</param>
    /// <returns>The sound, or a sentence that says why there is none.</returns>
    public static async Task<(SentSound? Sound, string? Problem)> HearAsync(IFormFile? file, bool samples, CancellationToken stop)
    {
        if (file is null) return (null, "sound is a WAV file.");
        if (ShippedEar.Find() is not { } ear) return (null, "The ear's runtime is missing on this machine: nothing can be heard.");
        await using var content = file.OpenReadStream();
        var start = new byte[(int)Math.Min(WavHead.Most, file.Length)];
        await content.ReadExactlyAsync(start, stop);
        var (head, problem) = WavHead.Read(start, file.Length);
        if (head is null) return (null, problem);
        var (pass, mono) = (new EarPass(ear, head.Rate), new List<float>());
        await HearingApi.SamplesAsync(content, head, start, piece =>
        {
            pass.Add(piece);
            if (samples) mono.AddRange(piece);
        }, stop);
        return (new(head, ear, pass.End(), [.. mono]), null);
    }
}
