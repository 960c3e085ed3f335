namespace InnerCadence.Web.Pages.Shared;

/// <summary>What every room with sound has in hand: play, what is heard, loops, speed, what of the record, where one is.</summary>
/// <param name="Key">The key that plays and stops, beside Alt P.</param>
/// <param name="Words">On the button while nothing plays.</param>
/// <param name="Record">A record is at hand, so that speed keeps its pitch and parts of it can be heard alone.</param>
public sealed record TransportView(string Key, string Words = "Play", bool Record = true)
{
    /// <summary>Record, written, both or in turn can be chosen.</summary>
    public bool Sources { get; init; }

    /// <summary>The room has a loop that is switched on and off.</summary>
    public bool Loops { get; init; } = true;

    public bool Looped { get; init; }

    /// <summary>What a loop can be beside some bars, by its value: *all*, what is picked, what was drawn; nothing where loops of bars make
    /// no sense.</summary>
    public IReadOnlyList<(string Value, string Name)>? Spans { get; init; }

    public int Fastest { get; init; } = ListenLink.Fastest;

    /// <summary>In percent; what was heard last in this tab where it is not said.</summary>
    public int? Speed { get; init; }

    /// <summary>The button says its keys and stands out: there is one such transport on the page.</summary>
    public bool Chief { get; init; }

    /// <summary>What of a record can be heard, and how it is called.</summary>
    public static readonly IReadOnlyList<(string Value, string Name)> Parts =
    [
        ("whole", "whole record"), ("drums", "drums forward"), ("low", "low part"), ("middle", "middle part"), ("high", "high part"),
        ("left", "left"), ("right", "right"), ("mid", "middle of both"), ("side", "sides only"),
    ];
}
