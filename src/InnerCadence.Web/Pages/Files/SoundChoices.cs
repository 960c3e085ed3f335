using InnerCadence.Core.Interchange;
using InnerCadence.Core.Music;

namespace InnerCadence.Web.Pages.Files;

/// <summary>Pages that ask which drum an unknown sound is; the answers come to their handler Sounds.</summary>
public interface IAsksSounds
{
    IReadOnlyList<(string Called, int Times)> Unknown { get; }
}

/// <summary>What an unknown sound can be said to be: a voice, an open hat, or nothing.</summary>
public static class SoundChoices
{
    public const string LeftOut = "-";
    private const string OpenHat = "HH o";

    public static IReadOnlyList<(string Code, string Words)> All { get; } =
        [.. Voice.All.SelectMany(v => v == Voice.Hat ? new[] { ("HH", "hat, closed"), (OpenHat, "hat, open") } : [(v.Code, v.Name)]),
            (LeftOut, "none: leave it out")];

    public static string CodeOf(PercussionSound? sound) => sound is not { } s ? LeftOut : s.Voice == Voice.Hat
        && s.Openness == Openness.Open ? OpenHat : s.Voice.Code;

    /// <summary>What was chosen; a sound that nothing was said about is not in it.</summary>
    public static IReadOnlyDictionary<string, PercussionSound?> Read(IReadOnlyDictionary<string, string> chosen)
    {
        var said = new Dictionary<string, PercussionSound?>();
        foreach (var (called, code) in chosen)
        {
            if (PercussionMap.Called(called).Length == 0) continue;
            if (code == LeftOut) said[called] = null;
            else if (code == OpenHat) said[called] = new(Voice.Hat, Openness.Open);
            else if (Voice.Find(code ?? "") is { } voice) said[called] = new(voice, voice == Voice.Hat ? Openness.Closed : null);
        }
        return said;
    }
}
