using InnerCadence.Core.Music;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>The address at which a stretch of a recording is listened to: the loop and the speed stand in it.</summary>
public static class ListenLink
{
    public const int Slowest = 25, Fastest = 100;

    /// <param name="to">Nothing for no loop.</param>
    /// <param name="speed">In percent; nothing for the recorded one.</param>
    public static string Of(RecordingId recording, ClockTime from, ClockTime? to = null, int? speed = null) =>
        $"/recordings/{recording}/listen?from={from}{(to > from ? $"&to={to}" : "")}"
            + $"{(speed is >= Slowest and < Fastest ? $"&speed={speed}" : "")}";
}
