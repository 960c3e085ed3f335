using System.Globalization;
using System.Text;
using InnerCadence.Core.Evidence;
using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Recordings;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Imports;

/// <param name="Holds">The field that is read from it; empty where it is not used.</param>
public sealed record FileColumn(int At, string Head, IReadOnlyList<string> Samples, string Holds);

/// <summary>A file of recordings before and after it is imported: how its columns are read, what its rows become, which cannot be
/// read.</summary>
public sealed class ImportModel(StudyStore studies, ImportStore imports, JobStore jobs) : StudyPage(studies)
{
    public const int PreviewRows = 12, MostKinds = 20, MostMended = 50;

    public ImportFile Import { get; private set; } = null!;
    public CsvTable Table { get; private set; } = null!;
    public ImportReading Reading { get; private set; } = null!;
    public IReadOnlyList<(string Word, int Rows)> UnknownKinds { get; private set; } = [];
    public IReadOnlyList<ImportRow> Rows { get; private set; } = [];
    public int Good { get; private set; }
    public int Doubles { get; private set; }
    /// <summary>Rows with an amount of searched bars and no place for it.</summary>
    public int NotPlaced { get; private set; }
    public IReadOnlyList<ImportRow> Bad { get; private set; } = [];
    /// <summary>Rows that come in without some of their cells, and those with cells that were mended.</summary>
    public IReadOnlyList<ImportRow> Doubtful { get; private set; } = [];
    /// <summary>Cells that were put right and can be read now.</summary>
    public IReadOnlyList<(int Line, ImportField Field, string Stands, string Instead)> PutRight { get; private set; } = [];
    public IReadOnlyList<FileColumn> FileColumns { get; private set; } = [];
    /// <summary>Some dates could be day first or month first, and none of the file says which.</summary>
    public bool AsksForOrder { get; private set; }
    public Job? Job { get; private set; }

    public async Task<IActionResult> OnGetAsync(ImportId import, CancellationToken stop)
    {
        if (!await FindAsync(import, stop)) return NotFound();
        await LookAsync(stop);
        return Page();
    }

    /// <param name="column">Field to column, from 0.</param>
    /// <param name="holds">The same the other way round: column to field.</param>
    /// <param name="kind">Words of the file, in the order in which they were asked about.</param>
    /// <param name="kindIs">What each of them is.</param>
    /// <param name="cell">What is to stand in a cell instead: line and field, such as 12.recorded.</param>
    public async Task<IActionResult> OnPostAsync(ImportId import, Dictionary<string, int> column, List<string?> holds,
        List<string> kind, List<string?> kindIs, Dictionary<string, string?> cell, string? duplicates, string? places, string? dayMonth,
        bool begin, CancellationToken stop)
    {
        if (!await FindAsync(import, stop) || Import.JobId is not null) return NotFound();
        // Without a column of its own a dictionary is filled with whatever else was sent.
        var asked = Request.Form.Keys.Any(k => k.StartsWith("column[", StringComparison.Ordinal))
            ? column.Select(c => (Field: c.Key, At: c.Value))
            : holds.Select((field, i) => (Field: field ?? "", At: i));
        var reading = Import.ReadingOf(Table);
        // Of two columns with one field the one that was chosen just now has it.
        var columns = asked.Where(c => ImportColumns.Find(c.Field) is not null && c.At >= 0 && c.At < Table.Head.Count)
            .GroupBy(c => c.Field).ToDictionary(g => g.Key, g => g.MinBy(c => reading.Columns.GetValueOrDefault(g.Key, -1) == c.At).At);
        await imports.MapAsync(Import, Table, new(columns, ImportFile.DuplicateWords.Contains(duplicates) ? duplicates! : "merge",
            places == "first" ? "first" : "asked", dayMonth is "day" or "month" ? dayMonth : "")
        { Kinds = KindsOf(reading, kind, kindIs), Mended = MendedOf(reading, cell) }, stop);
        if (!begin) return Redirect($"/imports/{import}");
        if (columns.ContainsKey("title"))
        {
            Import = (await imports.FindAsync(import, stop))!;
            return Redirect($"/jobs/{await imports.BeginAsync(Import, stop)}");
        }
        ModelState.AddModelError("", "No column is the title: choose the one that names the piece.");
        Import = (await imports.FindAsync(import, stop))!;
        await LookAsync(stop);
        return Again();
    }

    public async Task<IActionResult> OnGetBadAsync(ImportId import, CancellationToken stop) =>
        await FindAsync(import, stop) && Import.BadRows is { } bad
            ? File(Encoding.UTF8.GetBytes(bad), "text/csv; charset=utf-8", "rows-not-read.csv") : NotFound();

    private async Task LookAsync(CancellationToken stop)
    {
        if (Import.JobId is { } job)
        {
            Job = await jobs.FindAsync(job, stop);
            return;
        }
        Reading = Import.ReadingOf(Table);
        var all = Table.Rows.Select(r => ImportRow.Read(r, Reading, Study)).ToList();
        AsksForOrder = ImportColumns.AsksForOrder(Table, Reading.Columns);
        UnknownKinds = [.. Reading.UnknownKinds(Table).Take(MostKinds)];
        Doubtful = [.. all.Where(r => r.IsDoubtful)];
        FileColumns = [.. Table.Head.Select((head, i) => new FileColumn(i, head, ImportColumns.Samples(Table, i),
            Reading.Columns.FirstOrDefault(c => c.Value == i).Key ?? ""))];
        PutRight = Reading.Mended.Count == 0 ? [] : [.. from row in all
                       from field in ImportColumns.Fields
                       let instead = Reading.Mended.GetValueOrDefault(ImportReading.CellOf(row.Source.Line, field.Word))
                       where instead is not null && row.Unread.All(u => u.Field != field)
                       select (row.Source.Line, field, Reading.CellIn(row.Source, field.Word), instead)];
        var keys = (await imports.KeysAsync(Study.Id, stop)).Keys.ToHashSet();
        Rows = [.. all.Take(PreviewRows)];
        Bad = [.. all.Where(r => r.Draft is null)];
        Good = all.Count - Bad.Count;
        NotPlaced = all.Count(r => r is { Draft: { } d, Searched: { FromBar: null, Clock: null } searched }
            && searched.Bars < (d.TotalBars ?? int.MaxValue));
        Doubles = all.Count(r => r.DraftKey is { } key && !keys.Add(key));
    }

    private static Dictionary<string, string> KindsOf(ImportReading reading, List<string> words, List<string?> said)
    {
        var kinds = reading.Kinds.ToDictionary();
        foreach (var (word, kind) in words.Zip(said))
        {
            if (word.Length > Typed.Name) continue;
            if (kind is { Length: > 0 } && RecordingKind.Called(kind) is { } known) kinds[word] = known.Word;
            else kinds.Remove(word);
        }
        return kinds;
    }

    /// <summary>What is typed into a cell that could not be read; emptied, the cell of the file stands again.</summary>
    private Dictionary<string, string> MendedOf(ImportReading reading, Dictionary<string, string?> cells)
    {
        var mended = reading.Mended.ToDictionary();
        foreach (var (at, typed) in cells)
        {
            if (at.Split('.') is not [var figures, var field] || ImportColumns.Find(field) is null
                || !int.TryParse(figures, NumberStyles.None, CultureInfo.InvariantCulture, out var line)
                || Table.Rows.FirstOrDefault(r => r.Line == line) is not { } row) continue;
            var stands = reading.CellIn(row, field);
            if (string.IsNullOrWhiteSpace(typed) || typed.Trim() == stands) mended.Remove(at);
            else mended[at] = typed.Trim()[..Math.Min(typed.Trim().Length, Typed.Note)];
        }
        return mended;
    }

    private async Task<bool> FindAsync(ImportId id, CancellationToken stop)
    {
        if (await imports.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        (Import, Table) = (found, CsvTable.Read(found.Content));
        return true;
    }
}
