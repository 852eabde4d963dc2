using Microsoft.AspNetCore.Authentication.Cookies;

namespace Gradus.Server.Accounts;

/// <summary>
/// Cookies of HTTPS and of HTTP by names of their own: on the machine itself both are used under one name, and a browser lets HTTP neither see nor
/// replace what HTTPS has set.
/// </summary>
public sealed class SchemeCookies : ICookieManager
{
    private readonly ChunkingCookieManager inner = new();

    /// <summary>The name that a cookie goes by in this request.</summary>
    public static string Name(HttpContext context, string name) => context.Request.IsHttps ? $"{name}-s" : name;

    public string? GetRequestCookie(HttpContext context, string key) => inner.GetRequestCookie(context, Name(context, key));

    public void AppendResponseCookie(HttpContext context, string key, string? value, CookieOptions options) =>
        inner.AppendResponseCookie(context, Name(context, key), value, options);

    public void DeleteCookie(HttpContext context, string key, CookieOptions options) => inner.DeleteCookie(context, Name(context, key), options);
}
