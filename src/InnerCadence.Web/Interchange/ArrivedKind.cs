using System.IO.Compression;
using InnerCadence.Storage.Exchange;

namespace InnerCadence.Web.Interchange;

/// <summary>What a file is for.</summary>
public enum ArrivedKind { Score, Recordings, Study, Backup, Sound }

/// <summary>Tells by what is in a file what it is for, whatever it is called.</summary>
public static class Arriving
{
    public const int MostBytes = StudyArchive.MostBytes;

    public static ArrivedKind KindOf(byte[] bytes) => bytes switch
    {
        [0x50, 0x4B, 3, 4, ..] when IsStudy(bytes) => ArrivedKind.Study,
        [(byte)'P', (byte)'G', (byte)'D', (byte)'M', (byte)'P', ..] => ArrivedKind.Backup,
        [(byte)'R', (byte)'I', (byte)'F', (byte)'F', _, _, _, _, (byte)'W', (byte)'A', (byte)'V', (byte)'E', ..]
            or [(byte)'f', (byte)'L', (byte)'a', (byte)'C', ..] or [(byte)'O', (byte)'g', (byte)'g', (byte)'S', ..]
            or [(byte)'I', (byte)'D', (byte)'3', ..] => ArrivedKind.Sound,
        _ when IsRecordings(bytes) => ArrivedKind.Recordings,
        _ => ArrivedKind.Score,
    };

    /// <summary>The last part of what the browser calls a file; it is shown, never used as a path.</summary>
    public static string NameOf(IFormFile file)
    {
        var name = new string([.. file.FileName.Split('/', '\\')[^1].Where(c => !char.IsControl(c))]);
        return name.Length == 0 ? "file" : name.Length > UploadLimits.Name ? name[..UploadLimits.Name] : name;
    }

    /// <summary>What the piece may be called.</summary>
    public static string TitleOf(string name) => name.LastIndexOf('.') is > 0 and var dot ? name[..dot].Replace('_', ' ')
        .Trim() is { Length: > 0 } title ? title : name : name;

    private static bool IsStudy(byte[] bytes)
    {
        try
        {
            using var zip = new ZipArchive(new MemoryStream(bytes), ZipArchiveMode.Read);
            return zip.GetEntry("study.json") is not null;
        }
        catch (Exception e) when (e is InvalidDataException or IOException or ArgumentException)
        {
            return false;
        }
    }

    /// <summary>A table whose head names a title and something else that is known of recordings.</summary>
    private static bool IsRecordings(byte[] bytes)
    {
        try
        {
            var columns = ImportColumns.Guess(CsvTable.Read(bytes).Head);
            return columns.ContainsKey("title") && columns.Count > 1;
        }
        catch (InvalidDataException)
        {
            return false;
        }
    }
}
