using System.Security.Claims;
using FluentValidation;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;

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
    /// <summary>What a wall screen may do; whoever is signed in may do it too.</summary>
    public const string Policy = "wall";
    private const string NamesClaim = "gradus.wall";
    private static readonly TimeSpan Lasts = TimeSpan.FromDays(90);

    /// <summary>Rights: what asks for a sign-in is refused to a wall screen, unless it says otherwise.</summary>
    public static void AddRights(this IServiceCollection services) =>
        services
            .AddAuthorizationBuilder()
            .SetDefaultPolicy(
                new AuthorizationPolicyBuilder().RequireAuthenticatedUser().RequireAssertion(context => context.User.WallNames() is null).Build()
            )
            .AddPolicy(Policy, policy => policy.RequireAuthenticatedUser());

    public static void MapWallSession(this IEndpointRouteBuilder routes) =>
        routes
            .MapPost("/api/session/wall", Begin)
            .WithTags("Accounts")
            .RequireAuthorization()
            .Validated<WallRequest>()
            .Produces(StatusCodes.Status204NoContent);

    /// <summary>How this session names students, when it is a wall screen; else null.</summary>
    public static WallNames? WallNames(this ClaimsPrincipal user) =>
        Enum.TryParse<WallNames>(user.FindFirstValue(NamesClaim), out var names) ? names : null;

    private static async Task<IResult> Begin(WallRequest request, HttpContext context)
    {
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
