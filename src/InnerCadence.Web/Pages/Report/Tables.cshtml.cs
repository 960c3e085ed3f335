using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Report;

/// <summary>The tables of a study to take away.</summary>
public sealed class TablesModel(StudyStore studies, StudyTables tables, TraitsTable traits, StudyArchive archive) : StudyPage(studies)
{
    /// <summary>The whole study as a zip, to keep or to bring into another installation.</summary>
    public async Task<IActionResult> OnGetArchiveAsync(StudyId study, CancellationToken stop) =>
        await archive.WriteAsync(study, stop) is { } zip ? File(zip, "application/zip", $"study-{study}-{DateTime.Now:yyyy-MM-dd}.zip")
            : NotFound();

    public async Task<IActionResult> OnGetAsync(StudyId study, string? table, string? format, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (table is null) return Page();
        format ??= Sheet.Formats[0];
        var sheet = !Sheet.Formats.Contains(format) ? null : table == TraitsTable.Name ? await traits.ReadAsync(study, stop)
            : await tables.ReadAsync(study, table, stop);
        return sheet is null ? NotFound() : File(sheet.As(format), Sheet.MediaOf(format), $"{table}.{format}");
    }

    /// <summary>What the rows of an archive are.</summary>
    public async Task<IActionResult> OnGetSchemaAsync(CancellationToken stop) =>
        Content((await archive.SchemaAsync(stop)).ToJsonString(new() { WriteIndented = true }), "application/schema+json");
}
