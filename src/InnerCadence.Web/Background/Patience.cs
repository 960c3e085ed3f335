namespace InnerCadence.Web.Background;

/// <summary>How long to wait for a database that is away: longer each time, up to half a minute. That it went and that it is back is said
/// once each.</summary>
public sealed class Patience
{
    private static readonly TimeSpan First = TimeSpan.FromMilliseconds(500), Longest = TimeSpan.FromSeconds(30);
    private TimeSpan pause;

    /// <returns>How long to wait now, and whether it has only just gone.</returns>
    public (TimeSpan Pause, bool JustGone) Away()
    {
        var justGone = pause == TimeSpan.Zero;
        pause = justGone ? First : pause * 2 > Longest ? Longest : pause * 2;
        return (pause, justGone);
    }

    /// <returns>It was away until now.</returns>
    public bool Here()
    {
        var wasAway = pause > TimeSpan.Zero;
        pause = TimeSpan.Zero;
        return wasAway;
    }
}
