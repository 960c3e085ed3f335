using System.Globalization;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;

namespace InnerCadence.Core.Timing;

/// <summary>The form of a recording as one says it: count 1, intro 8, verse 16, chorus 8, bridge 8 of 7/8, stop of 3 beats, verse 16 @
/// 2:05.</summary>
/// <param name="Sections">In order, from bar 1; what could not be read is left out.</param>
public sealed record Form(ValueList<FormSection> Sections, ValueList<Problem> Problems)
{
    public const int MostBars = 100_000;
    public const int MostSections = 1000;
    public const int MostLength = 20_000;

    public static Form Empty { get; } = new([], []);

    public int Bars => Sections.Sum(s => s.Bars);

    /// <summary>The section in which a bar lies.</summary>
    public FormSection? SectionOf(int bar) => Sections.FirstOrDefault(s => bar >= s.FirstBar && bar <= s.LastBar);

    /// <summary>
    /// Items divided by commas, semicolons or line ends: a name and its bars; with "of 7/8" in another meter, "of 3 beats" one odd bar, "of
    /// 2.5 s" a pause on the clock,
    /// "x3" three times, "@ 1:05" the clock time at which it starts. A kind that comes more than once without a number of its own is
    /// numbered.
    /// </summary>
    /// <param name="usual">The recording's meter: its lower figure is the beat of odd bars.</param>
    public static Form Parse(string text, MeterCycle usual) => new FormReader(usual).Read(text);

    /// <summary>The form in its own words, so that reading it again gives the same sections.</summary>
    public override string ToString() => string.Join(", ", Sections.Select(Say));

    private static string Say(FormSection s)
    {
        var at = s.At is { } clock ? $" @ {clock}" : "";
        if (s.Bars == 0) return string.Create(CultureInfo.InvariantCulture, $"{s.Name} of {s.PauseSeconds:0.###} s{at}");
        if (s is { Bars: 1, Meters: { Meters: [var odd] } } && s.Kind is "stop" or "break") return $"{s.Name} of {odd.Counts} beats{at}";
        return $"{s.Name}: {s.Bars}{(s.Meters is { } m ? $" of {m}" : "")}{at}";
    }
}
