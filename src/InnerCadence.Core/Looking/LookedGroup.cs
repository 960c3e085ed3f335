namespace InnerCadence.Core.Looking;

/// <summary>Recordings that sound alike, as far as the ear looked through them.</summary>
public sealed record LookedGroup(SoundGroup Sound, int Recordings, LookedThrough Through)
{
    /// <summary>looked through by the ear: 2,400 bars of 12 studio recordings; of 17 places known without it, 14 were in its list</summary>
    /// <param name="isBegun">Somebody judged the list's top.</param>
    public string Words(bool isBegun) => FormattableString.Invariant($"looked through by the ear: {Through.Bars:#,0} ")
        + $"{(Through.Bars == 1 ? "bar" : "bars")} of {Sound.Words(Recordings)}; "
        + (Through.Known == 0 ? "no place is known there without it" : !isBegun
            ? $"{Places} {(Through.Known == 1 ? "is" : "are")} known without it, and its list is not judged yet"
            : $"of {Places} known without it, {Through.Recalled} {(Through.Recalled == 1 ? "was" : "were")} in its list");

    private string Places => $"{Through.Known} {(Through.Known == 1 ? "place" : "places")}";
}
