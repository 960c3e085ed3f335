using System.Diagnostics;
using InnerCadence.Core.Counting.Reading;

namespace InnerCadence.Bench;

/// <summary>Random texts through the reader of count lines: no exception whatever the text, and how long the slowest take.</summary>
public static class Fuzz
{
    private static readonly string[] Words =
    [
        "SN", "HH", "BD", "FT", "P1", "XX", ":", ":", "|", "|", "%", "%x3", "%*", "-", "?", "1", "2", "3", "4", "9", "e", "&", "a", "t",
            "l", "ti", "ta", "'", "3&", "2a", "4ti",
        "8ths", "16ths", "32nds", "8t", "16t", "@1-3", "@3", "3x", "-3", "-@3-4", "(", ")", ">", "o", "~", "f", "d", "z", "r", "c", "R",
            "L", "?", "*", "{edge}", "{", "_4", "[5]", "[5:1,3-5]",
        "2[7/2]", "ST:", "SF:", "ON:", "lick", "K", "B", "...", "meter", "4/4", "7/8(2+2+3)", "12/8", "tempo", "96", "3/8=60", "feel",
            "swing", "half-time", "pickup", "count", "triplet", "hands",
        "left", "voice", "gong,", "crash", "title", "#", "\n", "\n", "\n", "\r\n", " ", " ", "\t", "\0", "\u202E", "é", "𝄞", "—", "’", "…",
    ];

    public static void Run(int cases)
    {
        var random = new Random(20261125);
        var (slowest, slowText, watch) = (TimeSpan.Zero, "", new Stopwatch());
        for (var i = 0; i < cases; i++)
        {
            var text = i % 1000 == 0 ? Text(random, 64 * 1024) : Text(random, random.Next(1, 300));
            watch.Restart();
            CountLines.Parse(text);
            if (i > 1000 && watch.Elapsed > slowest) (slowest, slowText) = (watch.Elapsed, text);
        }
        Console.WriteLine($"{cases} texts, a thousandth of them of 64 KiB: no exception. Slowest {slowest.TotalMilliseconds:0.0} ms for "
            + $"{slowText.Length} characters beginning {slowText[..Math.Min(60, slowText.Length)].ReplaceLineEndings("⏎")}");
    }

    private static string Text(Random random, int length)
    {
        var text = new System.Text.StringBuilder();
        while (text.Length < length)
        {
            text.Append(Words[random.Next(Words.Length)]);
            if (random.Next(3) == 0) text.Append(' ');
        }
        return text.ToString();
    }
}
