using InnerCadence.Core.Music;
using InnerCadence.Core.Text;
using InnerCadence.Storage.Studies;
using InnerCadence.Web.Pages.Shared;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Studies;

/// <summary>The jump box: straight to the thing when only one is called so.</summary>
public sealed class FindModel(StudyStore studies, Finder finder) : StudyPage(studies)
{
    public string Query { get; private set; } = "";
    public IReadOnlyList<FoundThing> Found { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(StudyId study, string? q, CancellationToken stop)
    {
        if (!await EnterAsync(study, stop)) return NotFound();
        Query = q?.Trim() ?? "";
        if (Query.Length is 0 or > UploadLimits.Name || Typed.HasUnkeepable(Query)) return Page();
        Found = await finder.FindAsync(study, Query, stop);
        // What is called exactly so goes before what only mentions it.
        var called = Found.Where(f => string.Equals(f.Name, Query, StringComparison.OrdinalIgnoreCase)).ToList();
        var only = Found.Count == 1 ? Found[0] : called.Count == 1 ? called[0] : null;
        return only is null ? Page() : Redirect($"/{only.Kind}s/{only.Id}");
    }
}
