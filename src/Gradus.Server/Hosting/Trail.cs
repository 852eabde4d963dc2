using System.Security.Claims;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Hosting;

/// <summary>
/// Keeps who did what, in the same write as what was done. What is entered on a coupon is not repeated here: it carries who and when on itself, and
/// stays when it is taken back.
/// </summary>
public static class Trail
{
    // One's own session and likes are nobody else's business; how a sitting's day goes is on its marks.
    private static readonly string[] SaidElsewhere = ["/api/coupons/", "/api/session/", "/api/sittings/{id:guid}/marks/"];
    private const int LongestDetail = 120;

    /// <summary>Keeps that the request was done. Part of the write that is open.</summary>
    public static async Task Keep(HttpContext context, GradusContext db, TimeProvider time)
    {
        if (
            !Guid.TryParse(context.User.FindFirstValue(ClaimTypes.NameIdentifier), out var person)
            || context.GetEndpoint() is not RouteEndpoint { RoutePattern.RawText: { } path }
            || SaidElsewhere.Any(one => path.StartsWith(one, StringComparison.Ordinal))
        )
        {
            return;
        }

        var values = context.Request.RouteValues.Values.OfType<string>().ToList();
        var subject = values.Select(one => Guid.TryParse(one, out var id) ? id : (Guid?)null).FirstOrDefault(id => id is not null);
        var detail = string.Join(' ', values.Where(one => !Guid.TryParse(one, out _)));
        db.Acts.Add(
            new Act
            {
                At = time.GetUtcNow(),
                PersonId = person,
                Operation = ApiOperations.Named(context.Request.Method, path),
                SubjectId = subject,
                Detail = detail.Length == 0 ? null : detail[..Math.Min(detail.Length, LongestDetail)],
            }
        );
        await db.SaveChangesAsync(CancellationToken.None);
    }

    /// <summary>Keeps who took something along that is read and not written: what is kept of a person.</summary>
    public static RouteHandlerBuilder Kept(this RouteHandlerBuilder route) =>
        route.AddEndpointFilter(
            async (context, next) =>
            {
                var result = await next(context);
                if (result is not IStatusCodeHttpResult { StatusCode: >= StatusCodes.Status400BadRequest })
                {
                    var services = context.HttpContext.RequestServices;
                    var db = services.GetRequiredService<GradusContext>();
                    await services
                        .GetRequiredService<Writes>()
                        .Whole(
                            async () =>
                            {
                                await Keep(context.HttpContext, db, services.GetRequiredService<TimeProvider>());
                                return true;
                            },
                            _ => true,
                            CancellationToken.None
                        );
                }

                return result;
            }
        );

    /// <summary>True where nothing came of a request: it was a retry, and all of it was there.</summary>
    public static bool IsRepeat(object? result) => result is IValueHttpResult { Value: Written { IsNew: false } };
}
