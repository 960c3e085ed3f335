using System.Security.Cryptography;
using System.Text;

namespace InnerCadence.Web.Pages.Shared;

/// <summary>What a form showed when it was opened, as a short mark; by it a save notices that another tab saved meanwhile, where what is
/// kept has no version of its own.</summary>
public static class Seen
{
    public static string Of(params IEnumerable<object?> kept) =>
        Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(string.Join('\0',
            kept.Select(k => string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{k}"))))))[..16];

    /// <param name="seen">As the form sent it; a script that sends none overwrites.</param>
    public static bool IsStale(string? seen, params IEnumerable<object?> kept) => seen is { Length: > 0 } && seen != Of(kept);
}
