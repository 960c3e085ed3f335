using System.Globalization;
using InnerCadence.Core.Text;

namespace InnerCadence.Storage.Recordings;

/// <summary>Reads an issue of a recording as typed.</summary>
public static class IssueText
{
    /// <param name="speed">Per cent of the recording’s own speed, 102 for two in a hundred sharp; empty for the same.</param>
    /// <param name="offset">Seconds of the issue before the recording begins, negative where its start is cut; empty for none.</param>
    /// <returns>Nothing, with the problems told beside their fields, where one cannot be read.</returns>
    public static IssueDraft? Read(string? label, string? number, string? transfer, string? issued, string? speed, string? offset,
        string? note, Action<string, string> tell)
    {
        var good = true;
        Action<string> At(string field) => message =>
        {
            good = false;
            tell(field, message);
        };
        var (percent, seconds) = (100.0, 0.0);
        if (!string.IsNullOrWhiteSpace(speed) && !(double.TryParse(speed.Trim().TrimEnd('%'), NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture, out percent) && percent is >= 50 and <= 200))
            At("Speed")($"‘{speed}’ is no speed: write per cent of the recording’s own from 50 to 200, such as 102.3.");
        if (!string.IsNullOrWhiteSpace(offset) && !(double.TryParse(offset.Trim(),
            NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture,
            out seconds) && Math.Abs(seconds) <= 3600))
            At("Offset")($"‘{offset}’ is no offset: write seconds, such as 1.5, or -0.8 where the start is cut.");
        var draft = new IssueDraft(
            Typed.Text(label, At("Label")), Typed.Text(number, At("Number")), Typed.Text(transfer, At("Transfer")),
                Typed.Date(issued, At("Issued")),
            percent / 100, (int)Math.Round(seconds * 1000), Typed.Text(note, At("Note"), most: Typed.Note));
        if (draft.Label.Length == 0 && draft.Number.Length == 0) At("Label")("Under which label or number is it to be had?");
        return good ? draft : null;
    }
}
