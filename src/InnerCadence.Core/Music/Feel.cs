namespace InnerCadence.Core.Music;

public enum FeelTime { Normal, Half, Double }

/// <summary>How written notes are to be played. It changes playing and words, never ticks.</summary>
/// <param name="SwingShare">Share of the quarter (or, with sixteenths, of the eighth) before the off-beat, 0.5 to 0.8; nothing if
/// straight.</param>
public sealed record Feel(bool Swing, bool SwingSixteenths, double? SwingShare, FeelTime Time)
{
    public static readonly Feel Straight = new(false, false, null, FeelTime.Normal);

    public const double UsualSwing = 2.0 / 3;

    public override string ToString()
    {
        var words = new List<string>();
        if (Time == FeelTime.Half) words.Add("half-time");
        if (Time == FeelTime.Double) words.Add("double-time");
        if (Swing) words.Add("swing" + (SwingSixteenths ? " 16ths" : "")
            + (SwingShare is { } s ? FormattableString.Invariant($" {s * 100:0.##}%") : ""));
        return words.Count == 0 ? "straight" : string.Join(' ', words);
    }
}

/// <summary>How the player sits at the kit: a setting of the player.</summary>
public enum Handedness { Right, Left, Open }
