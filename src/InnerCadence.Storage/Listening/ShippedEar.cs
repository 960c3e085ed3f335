using InnerCadence.Core.Hearing;

namespace InnerCadence.Storage.Listening;

/// <summary>The ear that ships with the application, loaded once.</summary>
public static class ShippedEar
{
    private static readonly Lazy<Ear?> Loaded = new(() => Ear.Load(Resource("ear.onnx"), Resource("pulse.onnx")));

    /// <summary>Nothing on a system for which its runtime has no library: then the rules hear.</summary>
    public static Ear? Find() => Loaded.Value;

    private static byte[] Resource(string name)
    {
        using var stream = typeof(ShippedEar).Assembly.GetManifestResourceStream(name)!;
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        return bytes;
    }
}
