using AngleSharp.Html.Dom;

namespace InnerCadence.Web.Tests.Pages;

internal static class LongWork
{
    /// <summary>Presses a button that begins long work, and waits until it is done.</summary>
    /// <returns>The page of the work.</returns>
    public static async Task<IHtmlDocument> WorkAsync(this Application application, IHtmlDocument page, string address, string button)
    {
        var (response, _) = await application.PressAsync(page, address, button);
        for (var tries = 0; ; tries++)
        {
            var job = await application.PageAsync(response.RequestMessage!.RequestUri!.PathAndQuery);
            if (job.QuerySelector("#job-state")!.TextContent.StartsWith("done", StringComparison.Ordinal)) return job;
            tries.ShouldBeLessThan(1200, job.QuerySelector("#job-said")!.TextContent);
            await Task.Delay(250, TestContext.Current.CancellationToken);
        }
    }
}
