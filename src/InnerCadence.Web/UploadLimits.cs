using InnerCadence.Core.Text;

namespace InnerCadence.Web;

/// <summary>The most that a request may bring.</summary>
public static class UploadLimits
{
    /// <summary>Bytes of a whole request; a text of count lines is at most 64 KiB.</summary>
    public const long Body = 1024 * 1024;
    public const int Name = Typed.Name;
    public const int Note = Typed.Note;
    public const int Bars = Typed.Bars;
}
