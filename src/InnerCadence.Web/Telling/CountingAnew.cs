using InnerCadence.Storage.Claims;
using InnerCadence.Storage.Studies;

namespace InnerCadence.Web.Telling;

/// <summary>Counts studies anew whose numbers are of an earlier account, once: claims with their cause, and what the article said when it
/// was saved.</summary>
public sealed class CountingAnew(RecountStore recounts, StudyStore studies, ClaimStore claims, ArticleStore articles, ArticleReader reader)
{
    public async Task RunAsync(CancellationToken stop)
    {
        foreach (var id in await recounts.DueAsync(stop))
        {
            if (await studies.FindAsync(id, stop) is not { } study) continue;
            await claims.WeighAsync(study, stop);
            var article = await articles.OfStudyAsync(id, stop);
            foreach (var (code, was, now) in (await reader.ReadAsync(study, article.Text, article.Numbers, false, stop)).Changed)
                await recounts.TellAsync(id, new($"[[{code}]] in the article", $"/studies/{id}/article", was, now), stop);
            await recounts.DoneAsync(id, stop);
        }
    }
}
