using System.Security.Cryptography;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>A photo of a coupon, as the bench lists it.</summary>
/// <param name="Missing">True when its file is gone: sent again under the same id, it is kept again.</param>
public sealed record PhotoView(Guid Id, int WidthPx, int HeightPx, string RecordedBy, DateTimeOffset RecordedAt, bool Missing);

/// <summary>Photos from the tablet's camera. What was sent is not kept; see <see cref="PhotoMaker"/>.</summary>
public static class Photos
{
    private const int MostBytes = 15 * 1024 * 1024;
    private const int MostPhotos = 100;

    /// <summary>The limit that uploads stand under, and how many a session sends in a minute at most.</summary>
    public const string UploadLimit = "uploads";
    public const int MostAMinute = 120;

    private static readonly string Accepts =
        $"A JPEG, PNG or WebP photo of at most {MostBytes / 1024 / 1024} MB and {PhotoMaker.MostPixels / 1_000_000} megapixels.";

    public static void Map(RouteGroupBuilder coupon)
    {
        coupon
            .MapPut("/photos/{id:guid}", Take)
            .Accepts<IFormFile>("image/jpeg", "image/png", "image/webp")
            .WithMetadata(new RequestSizeLimitAttribute(MostBytes), new WriteMark())
            .Produces<Written>()
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge)
            .ProducesProblem(StatusCodes.Status429TooManyRequests)
            .RequireRateLimiting(UploadLimit);
        coupon
            .MapGet(
                "/photos/{id:guid}",
                (Guid couponId, Guid id, GradusContext db, PhotoStore store, CancellationToken cancel) => Show(couponId, id, false, db, store, cancel)
            )
            .Produces(200, contentType: "image/jpeg");
        coupon
            .MapGet(
                "/photos/{id:guid}/thumbnail",
                (Guid couponId, Guid id, GradusContext db, PhotoStore store, CancellationToken cancel) => Show(couponId, id, true, db, store, cancel)
            )
            .Produces(200, contentType: "image/jpeg");
    }

    private static async Task<IResult> Take(
        Guid couponId,
        Guid id,
        HttpRequest request,
        Provenance from,
        PhotoMaker maker,
        PhotoStore store,
        GradusContext db,
        Writes writes,
        CancellationToken cancel
    )
    {
        using var sent = new MemoryStream();
        await request.Body.CopyToAsync(sent, cancel);
        var bytes = sent.ToArray();
        var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));

        // Made before the turn to write begins: nobody's pass waits for a photo to be unpacked.
        if (await maker.Make(bytes, cancel) is not { } photo)
        {
            return Refusal.Field("photo", Accepts).ToResult();
        }

        var put = false;
        try
        {
            return (await writes.Whole(Keep, cancel)).ToResult();
        }
        catch when (put)
        {
            store.Remove(couponId, id);
            throw;
        }

        async Task<Outcome<Written>> Keep()
        {
            if (await db.Photos.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
            {
                var answer =
                    known.CouponId != couponId
                        ? Twins.Answer(id, new { known.CouponId }, new { CouponId = couponId })
                        : Twins.Answer(id, new { Photo = known.SentHash ?? hash }, new { Photo = hash });
                if (answer.Refusal is not null || store.IsThere(couponId, id))
                {
                    return answer;
                }

                store.Put(couponId, id, photo);
                return new Written(id, true);
            }

            if (await db.Coupons.AsNoTracking().FirstOrDefaultAsync(one => one.Id == couponId, cancel) is not { } coupon)
            {
                return CouponRecorder.UnknownCoupon();
            }

            if (await db.Photos.CountAsync(one => one.CouponId == couponId, cancel) >= MostPhotos)
            {
                return Refusal.Conflict("couponId", $"A coupon holds at most {MostPhotos} photos.");
            }

            // The file before its row: a row never stands without its file.
            put = true;
            store.Put(couponId, id, photo);
            db.Photos.Add(
                new PhotoRecord
                {
                    Id = id,
                    CouponId = couponId,
                    HappenedAt = from.HappenedAt < coupon.StartedAt ? coupon.StartedAt : from.HappenedAt,
                    RecordedAt = from.ArrivedAt,
                    RecordedBy = from.By,
                    SentBy = from.SentBy,
                    Proposed = from.Proposed,
                    WidthPx = photo.WidthPx,
                    HeightPx = photo.HeightPx,
                    SentHash = hash,
                }
            );
            await db.SaveChangesAsync(cancel);
            return new Written(id, true);
        }
    }

    private static async Task<IResult> Show(Guid couponId, Guid id, bool isSmall, GradusContext db, PhotoStore store, CancellationToken cancel)
    {
        var path = store.PathOf(couponId, id, isSmall);
        return
            await db.Photos.AnyAsync(photo => photo.Id == id && photo.CouponId == couponId && photo.WithdrawnAt == null, cancel) && File.Exists(path)
            ? TypedResults.PhysicalFile(path, "image/jpeg")
            : Refusal.NotFound("id", "A photo of this coupon.").ToResult();
    }
}
