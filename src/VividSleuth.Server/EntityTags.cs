using Microsoft.Net.Http.Headers;

namespace VividSleuth.Server;

/// <summary>Answers that are sent again only where they are another than the asker has.</summary>
public static class EntityTags
{
    /// <summary>Names what is answered, for this person alone and to be asked for each time; true where the asker has it already.</summary>
    public static bool Has(this HttpContext context, EntityTagHeaderValue tag)
    {
        context.Response.Headers.CacheControl = "private, no-cache";
        context.Response.Headers.ETag = tag.ToString();
        return context.Request.GetTypedHeaders().IfNoneMatch.Any(k => k.Compare(tag, useStrongComparison: false));
    }
}
