using System.Text;
using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Studies;
using InnerCadence.Storage.Upkeep;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Imports;

/// <summary>A file of recordings before and after it is imported: how its columns are read, what its rows become, which cannot be
/// read.</summary>
public sealed class ImportModel(StudyStore studies, ImportStore imports, JobStore jobs) : StudyPage(studies)
{
    public const int PreviewRows = 12;

    public ImportFile Import { get; private set; } = null!;
    public CsvTable Table { get; private set; } = null!;
    public IReadOnlyDictionary<string, int> Columns { get; private set; } = new Dictionary<string, int>();
    public IReadOnlyList<ImportRow> Rows { get; private set; } = [];
    public int Good { get; private set; }
    public int Doubles { get; private set; }
    /// <summary>Rows with an amount of searched bars and no place for it.</summary>
    public int NotPlaced { get; private set; }
    public IReadOnlyList<ImportRow> Bad { get; private set; } = [];
    /// <summary>Rows that come in without some of their cells.</summary>
    public IReadOnlyList<ImportRow> Doubtful { get; private set; } = [];
    /// <summary>Some dates could be day first or month first, and none of the file says which.</summary>
    public bool AsksForOrder { get; private set; }
    public Job? Job { get; private set; }

    public async Task<IActionResult> OnGetAsync(ImportId import, CancellationToken stop)
    {
        if (!await FindAsync(import, stop)) return NotFound();
        await LookAsync(stop);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(ImportId import, Dictionary<string, int> column, string? duplicates, string? places,
        string? dayMonth, bool begin, CancellationToken stop)
    {
        if (!await FindAsync(import, stop) || Import.JobId is not null) return NotFound();
        var columns = ImportColumns.Fields.Where(f => column.TryGetValue(f.Field, out var at) && at >= 0 && at < Table.Head.Count)
            .ToDictionary(f => f.Field, f => column[f.Field]);
        await imports.MapAsync(Import, Table, columns, ImportFile.DuplicateWords.Contains(duplicates) ? duplicates! : "merge",
            places == "first" ? "first" : "asked", dayMonth is "day" or "month" ? dayMonth : "", stop);
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
        Columns = Import.ColumnOf;
        var all = Table.Rows.Select(r => ImportRow.Read(r, Columns, Study, Import.OrderIn(Table))).ToList();
        AsksForOrder = ImportColumns.AsksForOrder(Table, Columns);
        Doubtful = [.. all.Where(r => r.IsDoubtful)];
        var keys = (await imports.KeysAsync(Study.Id, stop)).Keys.ToHashSet();
        Rows = [.. all.Take(PreviewRows)];
        Bad = [.. all.Where(r => r.Draft is null)];
        Good = all.Count - Bad.Count;
        NotPlaced = all.Count(r => r is { Draft: { } d, Searched: { FromBar: null, Clock: null } searched }
            && searched.Bars < (d.TotalBars ?? int.MaxValue));
        Doubles = all.Count(r => r.DraftKey is { } key && !keys.Add(key));
    }

    private async Task<bool> FindAsync(ImportId id, CancellationToken stop)
    {
        if (await imports.FindAsync(id, stop) is not { } found || !await EnterAsync(found.StudyId, stop)) return false;
        (Import, Table) = (found, CsvTable.Read(found.Content));
        return true;
    }
}
