using InnerCadence.Storage;
using Microsoft.AspNetCore.Mvc;

namespace InnerCadence.Web.Pages.Compare;

public sealed class IndexModel(Storage.Studies studies) : StudyPage(studies)
{
    public async Task<IActionResult> OnGetAsync(StudyId study, CancellationToken stop) => await EnterAsync(study, stop) ? Page() : NotFound();
}
