using System.Security.Cryptography;
using Gradus.Data;
using Gradus.Server.School;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>The tablets of the shop: each carries a cookie that says which one it is.</summary>
public sealed class Tablets(GradusContext db, IDataProtectionProvider protection, SchoolClock clock)
{
    private const string Cookie = "gradus-tablet";
    private static readonly TimeSpan Lasts = TimeSpan.FromDays(400);
    private readonly IDataProtector protector = protection.CreateProtector("Gradus.Tablet.v1");

    /// <summary>The tablet that asks; null when it is none of the shop.</summary>
    public async Task<Tablet?> Of(HttpContext context, CancellationToken cancel) =>
        IdOf(context) is { } id ? await db.Tablets.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id && one.EndedAt == null, cancel) : null;

    /// <summary>Makes the device that asks a tablet of the shop; one that is gets the name.</summary>
    public async Task Pair(HttpContext context, string name, CancellationToken cancel)
    {
        if (await Of(context, cancel) is { } known)
        {
            await db.Tablets.Where(one => one.Id == known.Id).ExecuteUpdateAsync(set => set.SetProperty(one => one.Name, name), cancel);
            return;
        }

        var tablet = new Tablet
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            PairedBy = context.User.PersonId(),
            PairedAt = clock.Now,
        };
        db.Tablets.Add(tablet);
        await db.SaveChangesAsync(cancel);
        context.Response.Cookies.Append(
            SchemeCookies.Name(context, Cookie),
            protector.Protect($"{tablet.Id}"),
            new CookieOptions
            {
                HttpOnly = true,
                IsEssential = true,
                MaxAge = Lasts,
                SameSite = SameSiteMode.Strict,
                Secure = context.Request.IsHttps,
            }
        );
    }

    /// <summary>The device that asks is a tablet of the shop no more.</summary>
    public async Task Unpair(HttpContext context, CancellationToken cancel)
    {
        if (IdOf(context) is { } id)
        {
            await End(id, cancel);
            context.Response.Cookies.Delete(SchemeCookies.Name(context, Cookie));
        }
    }

    /// <summary>Ends a tablet; false when there is none.</summary>
    public async Task<bool> End(Guid id, CancellationToken cancel)
    {
        if (await db.Tablets.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } tablet)
        {
            return false;
        }

        tablet.EndedAt ??= clock.Now;
        await db.SaveChangesAsync(cancel);
        return true;
    }

    private Guid? IdOf(HttpContext context)
    {
        if (context.Request.Cookies[SchemeCookies.Name(context, Cookie)] is not { Length: > 0 } cookie)
        {
            return null;
        }

        try
        {
            return Guid.Parse(protector.Unprotect(cookie));
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
