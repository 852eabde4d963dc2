using System.Security.Claims;
using FluentValidation;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>How students are named on a wall screen, where everybody reads it.</summary>
public enum WallNames
{
    /// <summary>By the first name, with one letter more where two are alike.</summary>
    First,

    /// <summary>By the stamp on the steel; whoever has none in work is counted, not named.</summary>
    Stamps,
}

/// <summary>Makes this screen a wall screen: whoever was signed in on it is signed out.</summary>
public sealed record WallRequest(WallNames? Names);

public sealed class WallRequestValidator : AbstractValidator<WallRequest>
{
    public WallRequestValidator() => RuleFor(request => request.Names).NeedsOneOf();
}

/// <summary>A session that reads the wall view and nothing else.</summary>
public static class WallSession
{
    private const string NamesClaim = "gradus.wall";
    private static readonly TimeSpan Lasts = TimeSpan.FromDays(90);

    public static void MapWallSession(this IEndpointRouteBuilder routes) =>
        routes.MapPost("/api/session/wall", Begin).WithTags("Accounts").Validated<WallRequest>().Writes().Produces(StatusCodes.Status204NoContent);

    /// <summary>How this session names students, when it is a wall screen; else null.</summary>
    public static WallNames? WallNames(this ClaimsPrincipal user) =>
        Enum.TryParse<WallNames>(user.FindFirstValue(NamesClaim), out var names) ? names : null;

    private static async Task<IResult> Begin(
        WallRequest request,
        HttpContext context,
        GradusContext db,
        SessionBook sessions,
        CancellationToken cancel
    )
    {
        // Whoever was signed in here is not any more.
        var session = context.User.SessionId();
        await db.Sessions.Where(one => one.Id == session).ExecuteDeleteAsync(cancel);
        sessions.Changed(context.User.PersonId());
        var identity = new ClaimsIdentity([new Claim(NamesClaim, $"{request.Names}")], CookieAuthenticationDefaults.AuthenticationScheme);
        await context.SignInAsync(
            new ClaimsPrincipal(identity),
            new AuthenticationProperties
            {
                IsPersistent = true,
                ExpiresUtc = context.RequestServices.GetRequiredService<TimeProvider>().GetUtcNow() + Lasts,
            }
        );
        return TypedResults.NoContent();
    }
}
