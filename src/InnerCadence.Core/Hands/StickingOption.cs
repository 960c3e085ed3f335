using InnerCadence.Core.Music;

namespace InnerCadence.Core.Hands;

/// <summary>One way to stick a passage.</summary>
/// <param name="Hands">The hand of each hand stroke, in the order of the passage's hand strokes; an echo has none.</param>
/// <param name="Letters">One letter a moment: R, L, or B for both.</param>
/// <param name="Reasons">What speaks for and against it, in words.</param>
public sealed record StickingOption(ValueList<Side> Hands, string Letters, double Cost, ValueList<string> Reasons)
{
    /// <summary>The passage with these hands written into it.</summary>
    public Passage In(Passage passage)
    {
        var next = 0;
        return passage with
        {
            Strokes = [.. passage.Strokes.Select(s => s.Voice.Limbs != LimbClass.Hand || s.Echo || next >= Hands.Count
            ? s : s with { Side = Hands[next++], SideUnsure = false })]
        };
    }
}

/// <summary>The best ways to stick a passage, and what no two hands can do.</summary>
public sealed record StickingOptions(ValueList<StickingOption> Options, ValueList<string> Problems);
