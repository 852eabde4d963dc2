using System.Globalization;
using System.Security.Claims;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>
/// Says who wrote a record that waits on a tablet. It is issued at sign-in, kept with each waiting record, and good for that alone: nobody is
/// signed in by it, and nothing is signed with it.
/// </summary>
public sealed class AuthorTickets(IDataProtectionProvider protection, TimeProvider time)
{
    /// <summary>A record does not wait longer than this on a tablet.</summary>
    public const int MostDays = 60;
    private readonly IDataProtector protector = protection.CreateProtector("Gradus.AuthorTicket.v1");

    /// <summary>The ticket of an author.</summary>
    public string Issue(Guid instructorId) =>
        protector.Protect(string.Create(CultureInfo.InvariantCulture, $"{instructorId}|{time.GetUtcNow().ToUnixTimeSeconds()}"));

    /// <summary>The author of a ticket; null when it is none of this school, or too old.</summary>
    public Guid? AuthorOf(string? ticket)
    {
        if (string.IsNullOrEmpty(ticket))
        {
            return null;
        }

        try
        {
            var parts = protector.Unprotect(ticket).Split('|');
            var issued = DateTimeOffset.FromUnixTimeSeconds(long.Parse(parts[1], CultureInfo.InvariantCulture));
            return time.GetUtcNow() - issued <= TimeSpan.FromDays(MostDays) ? Guid.Parse(parts[0]) : null;
        }
        catch (System.Security.Cryptography.CryptographicException)
        {
            return null;
        }
    }
}

/// <summary>Who recorded something and when it happened, beside who sent it and when it arrived.</summary>
/// <param name="SentBy">Who was signed in; null when that was the author.</param>
/// <param name="Proposed">True when its author is a student.</param>
public sealed record Provenance(Guid By, Guid? SentBy, DateTimeOffset HappenedAt, DateTimeOffset ArrivedAt, bool Proposed = false)
{
    /// <summary>When it happened, in milliseconds since 1970 by the clock of the tablet.</summary>
    public const string HappenedHeader = "Gradus-Happened-At";

    /// <summary>When it is sent, by the same clock: what that clock is wrong by shows from it.</summary>
    public const string SentHeader = "Gradus-Sent-At";

    /// <summary>The ticket of its author.</summary>
    public const string AuthorHeader = "Gradus-Author";

    /// <summary>Reads it off a request of somebody who is signed in. What the headers do not say is now, and the sender.</summary>
    /// <exception cref="RefusedException">A time is no time.</exception>
    public static async ValueTask<Provenance?> BindAsync(HttpContext context)
    {
        var arrived = context.RequestServices.GetRequiredService<TimeProvider>().GetUtcNow();
        var sender = context.User.PersonId();
        var author = context.RequestServices.GetRequiredService<AuthorTickets>().AuthorOf(context.Request.Headers[AuthorHeader]) ?? sender;
        var role = context.User.Role();
        if (author != sender)
        {
            var db = context.RequestServices.GetRequiredService<GradusContext>();
            var known = await db.People.AsNoTracking().FirstOrDefaultAsync(one => one.Id == author);
            if (known is not null && role == PersonRole.Student)
            {
                // What somebody else wrote on this tablet waits for them, or for an instructor.
                throw new RefusedException(
                    Refusal.Of(
                        StatusCodes.Status403Forbidden,
                        "That was written by somebody else.",
                        AuthorHeader,
                        "It goes to the server when they or an instructor sign in."
                    )
                );
            }

            // Written under a record that this school does not have any more, it is the sender's.
            (author, role) = known is null ? (sender, role) : (author, known.Role);
        }

        var happened = Happened(Milliseconds(context, HappenedHeader), Milliseconds(context, SentHeader), arrived);
        return new Provenance(author, author == sender ? null : sender, happened, arrived, role == PersonRole.Student);
    }

    /// <summary>A record made here and now.</summary>
    public static Provenance Direct(Guid by, DateTimeOffset now) => new(by, null, now, now);

    /// <summary>When it happened by the clock of the school: the tablet's own span from then to the sending, counted back from now.</summary>
    public static DateTimeOffset Happened(long? happenedMs, long? sentMs, DateTimeOffset arrived)
    {
        if (happenedMs is not { } happened)
        {
            return arrived;
        }

        var ago = (sentMs ?? arrived.ToUnixTimeMilliseconds()) - happened;
        return arrived.AddMilliseconds(-Math.Clamp(ago, 0, TimeSpan.FromDays(AuthorTickets.MostDays).TotalMilliseconds));
    }

    private static long? Milliseconds(HttpContext context, string header)
    {
        const long Furthest = 253_402_300_799_999; // the end of the year 9999
        var text = context.Request.Headers[header].FirstOrDefault();
        return string.IsNullOrEmpty(text) ? null
            : long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var value) && value <= Furthest ? value
            : throw new RefusedException(Refusal.Field(header, "Milliseconds since 1970, a whole number."));
    }
}
