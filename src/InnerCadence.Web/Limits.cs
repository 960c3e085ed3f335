namespace InnerCadence.Web;

/// <summary>The most that a request may bring.</summary>
public static class Limits
{
    /// <summary>Bytes of a whole request; a text of count lines is at most 64 KiB.</summary>
    public const long Body = 1024 * 1024;
    public const int Name = Storage.Typed.Name;
    public const int Note = Storage.Typed.Note;
    public const int Bars = Storage.Typed.Bars;
}
