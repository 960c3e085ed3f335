namespace InnerCadence.Web;

/// <summary>What a page may load and run: only what ships with the application, and no script or style in the page itself.</summary>
public static class ContentPolicy
{
    public static HeaderPolicyCollection Headers { get; } = new HeaderPolicyCollection()
        .AddDefaultSecurityHeaders()
        .AddContentSecurityPolicy(policy =>
        {
            policy.AddDefaultSrc().None();
            policy.AddScriptSrc().Self();
            policy.AddStyleSrc().Self();
            policy.AddFontSrc().Self();
            // Bootstrap's own arrows and ticks are pictures written into its style sheet.
            policy.AddImgSrc().Self().Data();
            policy.AddMediaSrc().Self();
            policy.AddConnectSrc().Self();
            policy.AddFormAction().Self();
            policy.AddBaseUri().None();
            policy.AddFrameAncestors().None();
        });
}
