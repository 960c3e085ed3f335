using InnerCadence.Core.Music;
using InnerCadence.Storage.Exchange;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Recordings;

/// <summary>Takes a CSV file of recordings; what is in it is shown before anything is added.</summary>
[RequestSizeLimit(CsvTable.MostBytes + 1024 * 1024), RequestFormLimits(MultipartBodyLengthLimit = CsvTable.MostBytes + 1024 * 1024)]
public sealed class ImportRecordingsModel(StudyStore studies, ImportStore imports) : StudyPage(studies)
{
    public string? Problem { get; private set; }

    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop) =>
        await EnterAsync(study, stop) ? Page() : NotFound();

    public async Task<IActionResult> OnPostAsync(StudyId study, IFormFile? file, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        if (file is null or { Length: 0 })
        {
            Problem = file is null ? "Choose a file first." : $"{Name(file)} is empty: nothing was added.";
            return Again();
        }
        using var content = new MemoryStream();
        await file.CopyToAsync(content, stop);
        try
        {
            var bytes = content.ToArray();
            return Redirect($"/imports/{await imports.AddAsync(study, Name(file), bytes, CsvTable.Read(bytes), stop)}");
        }
        catch (InvalidDataException e)
        {
            Problem = $"{Name(file)}: {e.Message} Nothing was added.";
            return Again();
        }
    }

    /// <summary>The last part of what the browser calls the file; it is shown, never used as a path.</summary>
    private static string Name(IFormFile file)
    {
        var name = new string([.. file.FileName.Split('/', '\\')[^1].Where(c => !char.IsControl(c))]);
        return name.Length == 0 ? "file" : name.Length > UploadLimits.Name ? name[..UploadLimits.Name] : name;
    }
}
