using Microsoft.AspNetCore.StaticFiles;
using Microsoft.Extensions.FileProviders;
using Microsoft.Net.Http.Headers;

namespace Gradus.Server.Hosting;

/// <summary>
/// Serves the built interface: each file as it was compressed when it was built, kept by the browser for good where its name carries its content.
/// </summary>
public static class Pages
{
    private const string Forever = "public, max-age=31536000, immutable";
    private const string AskFirst = "no-cache";
    private const string NamedByContent = "/_app/immutable/";
    private const string Packed = "gradus.packed";

    private static readonly (string Encoding, string Ending)[] Packings = [("br", ".br"), ("gzip", ".gz")];

    /// <summary>The pages of a path, packed as the browser takes them.</summary>
    public static void UsePages(this WebApplication app)
    {
        app.UseDefaultFiles();
        app.Use(
            (context, next) =>
            {
                Choose(context, app.Environment.WebRootFileProvider);
                return next(context);
            }
        );
        app.UseStaticFiles(new StaticFileOptions { ContentTypeProvider = new UnpackedType(), OnPrepareResponse = Tell });

        // What was not there is asked for under its own name again.
        app.Use(
            (context, next) =>
            {
                if (context.Items.Remove(Packed, out var packed))
                {
                    context.Request.Path = ((Packing)packed!).Asked;
                }

                return next(context);
            }
        );
    }

    /// <summary>How the page itself is served, under any path of it.</summary>
    public static StaticFileOptions Page { get; } = new() { OnPrepareResponse = Tell };

    private static void Choose(HttpContext context, IFileProvider files)
    {
        var request = context.Request;
        if (!HttpMethods.IsGet(request.Method) && !HttpMethods.IsHead(request.Method))
        {
            return;
        }

        var accepted = request.GetTypedHeaders().AcceptEncoding;
        foreach (var (encoding, ending) in Packings)
        {
            if (
                accepted.Any(one => one.Value.Equals(encoding, StringComparison.OrdinalIgnoreCase) && one.Quality is null or > 0)
                && files.GetFileInfo(request.Path + ending).Exists
            )
            {
                context.Items[Packed] = new Packing(encoding, request.Path);
                request.Path += ending;
                return;
            }
        }
    }

    private static void Tell(StaticFileResponseContext served)
    {
        var (context, headers) = (served.Context, served.Context.Response.Headers);
        var asked = context.Request.Path;
        if (context.Items.TryGetValue(Packed, out var packed))
        {
            asked = ((Packing)packed!).Asked;
            headers.ContentEncoding = ((Packing)packed).Encoding;
        }

        headers.Append(HeaderNames.Vary, HeaderNames.AcceptEncoding);
        headers.CacheControl = asked.StartsWithSegments(NamedByContent.TrimEnd('/')) ? Forever : AskFirst;
    }

    private sealed record Packing(string Encoding, PathString Asked);

    /// <summary>The type of a packed file is that of what is in it.</summary>
    private sealed class UnpackedType : IContentTypeProvider
    {
        private readonly FileExtensionContentTypeProvider known = new();

        public bool TryGetContentType(string subpath, [System.Diagnostics.CodeAnalysis.MaybeNullWhen(false)] out string contentType) =>
            known.TryGetContentType(
                Packings.Any(one => subpath.EndsWith(one.Ending, StringComparison.Ordinal)) ? Path.ChangeExtension(subpath, null) : subpath,
                out contentType
            );
    }
}
