namespace InnerCadence.Core.Hearing;

/// <summary>Two channels as one, sample by sample: their mean; where one of them is turned over against the other, so that they would
/// cancel out, half their difference.</summary>
/// <remarks>sound.md, "What the ear sees".</remarks>
public sealed class SidesAsOne
{
    /// <summary>Of the channels' power the part that they have in common: below zero they are against each other. From one to the other
    /// way it takes more than it takes to stay.</summary>
    private const double TurnedOver = -0.5, TurnedBack = -0.3;

    /// <summary>Power that speaks for no turning, so that the first few samples do not decide.</summary>
    private const double Inert = 0.3;

    private double power = Inert, common;
    private bool isTurned;

    public float Next(double left, double right)
    {
        (power, common) = (power + (left * left + right * right) / 2, common + left * right);
        isTurned = common < (isTurned ? TurnedBack : TurnedOver) * power;
        return (float)((isTurned ? left - right : left + right) / 2);
    }

    /// <summary>A whole stretch, all of it mixed in one way.</summary>
    /// <param name="sound">One or two channels, as long as each other.</param>
    public static float[] Of(float[][] sound)
    {
        if (sound is [var mono]) return mono;
        var (left, right) = (sound[0], sound[^1]);
        var (power, common) = (0.0, 0.0);
        for (var i = 0; i < left.Length; i++)
            (power, common) = (power + (left[i] * left[i] + right[i] * right[i]) / 2, common + left[i] * right[i]);
        var sign = common < TurnedOver * power ? -1 : 1;
        return [.. left.Zip(right, (l, r) => (l + sign * r) / 2)];
    }
}
