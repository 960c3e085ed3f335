using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages;

/// <summary>The tables of a study as CSV.</summary>
public sealed class TablesModel(Storage.Studies studies, StudyTables tables, TraitsTable traits, StudyArchive archive) : StudyPage(studies)
{
    /// <summary>The whole study as a zip, to keep or to bring into another installation.</summary>
    public async Task<IActionResult> OnGetArchiveAsync(StudyId study, CancellationToken stop) =>
        await archive.WriteAsync(study, stop) is { } zip ? File(zip, "application/zip", $"study-{study}-{DateTime.Now:yyyy-MM-dd}.zip") : NotFound();

    public async Task<IActionResult> OnGetAsync(StudyId study, string? table, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (table is null) return Page();
        if (table == TraitsTable.Name) return File(await traits.WriteAsync(study, stop), "text/csv; charset=utf-8", "traits.csv");
        return await tables.WriteAsync(study, table, stop) is { } csv ? File(csv, "text/csv; charset=utf-8", $"{table}.csv") : NotFound();
    }
}
