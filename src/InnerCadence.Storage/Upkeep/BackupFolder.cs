using System.Globalization;
using System.Text.RegularExpressions;

namespace InnerCadence.Storage.Upkeep;

/// <summary>Why a backup was made.</summary>
public enum BackupReason { ByHand, Scheduled, BeforeRestore, BeforeUpdate, Brought }

/// <summary>A backup on this machine's disk.</summary>
/// <param name="Name">Made here, never from a request.</param>
public sealed record BackupFile(string Name, DateTime MadeAt, BackupReason Reason, long Bytes);

/// <summary>The folder of backups. A file of it is only ever found by a name that this list has.</summary>
public sealed partial class BackupFolder(string folder)
{
    public const long MostBytes = 1024L * 1024 * 1024;
    private const string Moment = "yyyy-MM-dd'T'HHmmssfff";
    private static readonly (BackupReason Reason, string Word)[] Words = [(BackupReason.ByHand, "by-hand"),
        (BackupReason.Scheduled, "scheduled"), (BackupReason.BeforeRestore, "before-restore"),
        (BackupReason.BeforeUpdate, "before-update"), (BackupReason.Brought, "brought")];

    /// <summary>Newest first.</summary>
    public IReadOnlyList<BackupFile> All() => !Directory.Exists(folder) ? [] :
        [.. new DirectoryInfo(folder).EnumerateFiles("*.dump").Select(f => (File: f, Said: Name().Match(f.Name))).Where(f => f.Said.Success)
            .Select(f => new BackupFile(f.File.Name, DateTime.ParseExact(f.Said.Groups["at"].Value, Moment, CultureInfo.InvariantCulture),
                Words.Single(w => w.Word == f.Said.Groups["why"].Value).Reason, f.File.Length))
            .OrderByDescending(b => b.MadeAt)];

    public BackupFile? Find(string? name) => All().FirstOrDefault(b => b.Name == name);

    public string PathOf(BackupFile backup) => Path.Combine(folder, backup.Name);

    /// <summary>A file to write to; it is no backup until it is kept.</summary>
    public string Part()
    {
        Directory.CreateDirectory(folder);
        return Path.Combine(folder, Guid.NewGuid().ToString("n") + ".part");
    }

    public BackupFile Keep(string part, BackupReason reason, DateTime at)
    {
        var name = $"{at.ToString(Moment, CultureInfo.InvariantCulture)}-{Words.Single(w => w.Reason == reason).Word}.dump";
        File.Move(part, Path.Combine(folder, name));
        return Find(name)!;
    }

    public void Remove(BackupFile backup) => File.Delete(PathOf(backup));

    [GeneratedRegex(@"^(?<at>\d{4}-\d{2}-\d{2}T\d{9})-(?<why>by-hand|scheduled|before-restore|before-update|brought)\.dump$")]
    private static partial Regex Name();
}
