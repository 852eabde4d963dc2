using System.Security.Claims;
using Gradus.Data;
using Microsoft.AspNetCore.Authentication.Cookies;

namespace Gradus.Server.Accounts;

/// <summary>What the cookie of a session says, and how it is held against what stands on the server.</summary>
public static class SessionCookie
{
    /// <summary>A session is not kept longer than this, whatever its cookie says.</summary>
    public static readonly TimeSpan Longest = TimeSpan.FromDays(60);
    private const string SessionClaim = "gradus.session";
    private const string StampClaim = "gradus.stamp";

    /// <summary>The session of whoever asks; null for nobody.</summary>
    public static Guid? SessionId(this ClaimsPrincipal user) => Guid.TryParse(user.FindFirstValue(SessionClaim), out var id) ? id : null;

    /// <summary>Who and which session; what they may is looked up at every request.</summary>
    public static ClaimsPrincipal Principal(SignedSession session, Person person) =>
        new(
            new ClaimsIdentity(
                [
                    new Claim(ClaimTypes.NameIdentifier, person.Id.ToString()),
                    new Claim(SessionClaim, session.Id.ToString()),
                    new Claim(StampClaim, person.SecurityStamp!),
                ],
                CookieAuthenticationDefaults.AuthenticationScheme
            )
        );

    /// <summary>Takes a session for what it is now; one that has ended on the server is nobody's.</summary>
    public static async Task Validate(CookieValidatePrincipalContext context)
    {
        var user = context.Principal!;
        if (user.WallNames() is not null)
        {
            return;
        }

        var sessions = context.HttpContext.RequestServices.GetRequiredService<SessionBook>();
        if (
            user.SessionId() is { } session
            && user.FindFirstValue(StampClaim) is { } stamp
            && await sessions.Check(session, user.PersonId(), stamp) is { } role
        )
        {
            var identity = new ClaimsIdentity(user.Identity!);
            identity.AddClaim(new Claim(ClaimTypes.Role, $"{role}"));
            context.HttpContext.User = context.Principal = new ClaimsPrincipal(identity);
            return;
        }

        context.RejectPrincipal();
    }
}
