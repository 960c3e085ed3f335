namespace InnerCadence.Web;

/// <summary>What computes for pages is not there for pages of others: any site that is open beside it could keep the machine busy, or read
/// out of it.</summary>
public static class OwnPagesOnly
{
    /// <summary>Refuses what a browser says comes from another site; a script of the user's own sends neither header and is
    /// taken.</summary>
    public static IApplicationBuilder UseOwnPagesOnly(this IApplicationBuilder app) => app.Use(next => async context =>
    {
        if (!IsForeign(context.Request))
        {
            await next(context);
            return;
        }
        await Results.Problem("This was sent by a page of another site; only pages of this one, and programs, are answered.",
            statusCode: StatusCodes.Status403Forbidden).ExecuteAsync(context);
    });

    private static bool IsForeign(HttpRequest request)
    {
        if (HttpMethods.IsGet(request.Method) || HttpMethods.IsHead(request.Method)) return false;
        if (request.Headers["Sec-Fetch-Site"].ToString() is "cross-site" or "same-site") return true;
        var origin = request.Headers.Origin.ToString();
        return origin.Length > 0 && !origin.Equals($"{request.Scheme}://{request.Host}", StringComparison.OrdinalIgnoreCase);
    }
}
