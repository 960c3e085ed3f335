using System.Globalization;
using System.IO.Compression;
using System.Text;

namespace InnerCadence.Web.Tests.Faults;

/// <summary>Good files made bad, by a seed: what goes wrong comes again with the same number.</summary>
internal sealed class Mutations(int seed)
{
    private static readonly string[] Wild =
    [
        "\0", "\uFFFD", "\uD800", "𝄞", "\u202E", "-1", "0", "1", "64", "255", "256", "65535", "2147483647", "2147483648",
            "-9223372036854775808", "99999999999999999999", "1e999", "NaN", "null", "true", "[]", "{}", "[[", "]]",
        "<a>", "</a>", "&amp;", "&#0;", "<!DOCTYPE x [<!ENTITY e 'e'>]>", "\"", "'", ",", ";", "\t", "\r\n", "\n\n", " ", "%", "%*",
            "%x63", "|", "||", "-", "?", "(", ")", "32nds", "2[16/2]", "@1-4", "meter 32/1", "tempo 400", "lick 16t @3 x12", "...",
        "ST:", "ON:", "LV:", "HH|", "\\", "../", "00:00", "9:99", "[[claim:1]]", "[[", "]]", "> > > >", "* * *", "```", "| a | b |",
    ];

    private readonly Random random = new(seed);

    public int Next(int most) => random.Next(most);

    public byte[] Bytes(byte[] good, byte[] other)
    {
        var bytes = good.ToList();
        for (var times = random.Next(1, 6); times > 0; times--)
        {
            var at = random.Next(bytes.Count + 1);
            var length = random.Next(0, Math.Min(64, bytes.Count - at + 1));
            switch (random.Next(7))
            {
                case 0 when at < bytes.Count: bytes[at] ^= (byte)(1 << random.Next(8)); break;
                case 1 when at < bytes.Count: bytes[at] = (byte)random.Next(256); break;
                case 2: bytes.RemoveRange(at, length); break;
                case 3: bytes.InsertRange(at, bytes.GetRange(at, length)); break;
                case 4:
                    bytes.InsertRange(at, Enumerable.Range(0, random.Next(1, 9))
                    .Select(_ => (byte)(random.Next(3) == 0 ? 255 : random.Next(256)))); break;
                case 5: bytes.RemoveRange(at, bytes.Count - at); break;
                case 6 when other.Length > 0: bytes.InsertRange(at, other.Skip(random.Next(other.Length)).Take(random.Next(200))); break;
            }
        }
        return [.. bytes];
    }

    public string Text(string good, string other)
    {
        var text = new StringBuilder(good);
        for (var times = random.Next(1, 8); times > 0; times--)
        {
            var at = random.Next(text.Length + 1);
            var length = random.Next(0, Math.Min(40, text.Length - at + 1));
            switch (random.Next(6))
            {
                case 0: text.Insert(at, Wild[random.Next(Wild.Length)]); break;
                case 1: text.Remove(at, length); break;
                case 2: text.Insert(at, text.ToString(at, length)); break;
                case 3: text.Insert(at, string.Concat(Enumerable.Repeat(Wild[random.Next(Wild.Length)], random.Next(1, 200)))); break;
                case 4: text.Insert(at, random.Next().ToString(CultureInfo.InvariantCulture)); break;
                case 5 when other.Length > 0:
                    text.Insert(at, other.AsSpan(random.Next(other.Length))[..0])
                    .Insert(at, other[random.Next(other.Length)..]); break;
            }
        }
        return text.ToString();
    }

    /// <summary>A zip whose entries are made bad one by one, and sometimes the zip itself.</summary>
    public byte[] Zip(byte[] good)
    {
        if (random.Next(4) == 0) return Bytes(good, good);
        using var from = new ZipArchive(new MemoryStream(good));
        using var into = new MemoryStream();
        using (var zip = new ZipArchive(into, ZipArchiveMode.Create, leaveOpen: true))
            foreach (var entry in from.Entries)
            {
                using var reader = new StreamReader(entry.Open());
                var text = reader.ReadToEnd();
                using var writer = new StreamWriter(zip.CreateEntry(random.Next(40) == 0 ? "../" + entry.FullName : entry.FullName).Open(),
                    Encoding.GetEncoding("utf-8", EncoderFallback.ReplacementFallback, DecoderFallback.ReplacementFallback));
                writer.Write(random.Next(6) == 0 ? Text(text, text) : text);
            }
        return into.ToArray();
    }
}
