using System.Security.Claims;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using ImageMagick;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>A photo of a coupon, as the bench lists it.</summary>
public sealed record PhotoView(Guid Id, int WidthPx, int HeightPx, string RecordedBy, DateTimeOffset RecordedAt);

/// <summary>
/// Photos from the tablet's camera. Each is made anew as a JPEG of bounded size without its metadata, with a thumbnail beside it; what was sent
/// is not kept. Files are named by the ids of coupon and photo, never by what a client says.
/// </summary>
public static class Photos
{
    private const int MostBytes = 15 * 1024 * 1024;
    private const long MostPixels = 60_000_000;
    private const int LongestSidePx = 2400;
    private const int ThumbnailPx = 320;
    private const int Quality = 82;
    private const int MostPhotos = 100;
    private static readonly MagickFormat[] Taken = [MagickFormat.Jpeg, MagickFormat.Jpg, MagickFormat.Png, MagickFormat.WebP];
    private static readonly string Accepts =
        $"A JPEG, PNG or WebP photo of at most {MostBytes / 1024 / 1024} MB and {MostPixels / 1_000_000} megapixels.";

    public static void Map(RouteGroupBuilder coupon)
    {
        coupon
            .MapPut("/photos/{id:guid}", Take)
            .Accepts<IFormFile>("image/jpeg", "image/png", "image/webp")
            .WithMetadata(new RequestSizeLimitAttribute(MostBytes))
            .Produces<Written>()
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge);
        coupon
            .MapGet(
                "/photos/{id:guid}",
                (Guid couponId, Guid id, GradusContext db, GradusOptions options, CancellationToken cancel) =>
                    Show(couponId, id, "", db, options, cancel)
            )
            .Produces(200, contentType: "image/jpeg");
        coupon
            .MapGet(
                "/photos/{id:guid}/thumbnail",
                (Guid couponId, Guid id, GradusContext db, GradusOptions options, CancellationToken cancel) =>
                    Show(couponId, id, ".small", db, options, cancel)
            )
            .Produces(200, contentType: "image/jpeg");
    }

    private static async Task<IResult> Take(
        Guid couponId,
        Guid id,
        HttpRequest request,
        ClaimsPrincipal user,
        GradusContext db,
        GradusOptions options,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await db.Photos.AsNoTracking().FirstOrDefaultAsync(photo => photo.Id == id, cancel) is { } known)
        {
            return known.CouponId == couponId
                ? TypedResults.Ok(new Written(id, false))
                : Refusal.Conflict("id", "Another photo has this id.").ToResult();
        }

        if (!await db.Coupons.AnyAsync(coupon => coupon.Id == couponId, cancel))
        {
            return CouponRecorder.UnknownCoupon().ToResult();
        }

        if (await db.Photos.CountAsync(photo => photo.CouponId == couponId, cancel) >= MostPhotos)
        {
            return Refusal.Conflict("couponId", $"A coupon holds at most {MostPhotos} photos.").ToResult();
        }

        using var sent = new MemoryStream();
        await request.Body.CopyToAsync(sent, cancel);
        if (Read(sent.ToArray()) is not { } image)
        {
            return Refusal.Field("photo", Accepts).ToResult();
        }

        using (image)
        {
            var folder = Directory.CreateDirectory(Folder(options, couponId)).FullName;
            image.AutoOrient();
            image.Strip();
            image.Resize(new MagickGeometry(LongestSidePx, LongestSidePx) { Greater = true });
            image.Quality = Quality;
            await Write(image, Path.Combine(folder, $"{id}.jpg"), cancel);
            db.Photos.Add(
                new PhotoRecord
                {
                    Id = id,
                    CouponId = couponId,
                    RecordedAt = time.GetUtcNow(),
                    RecordedBy = user.InstructorId(),
                    WidthPx = (int)image.Width,
                    HeightPx = (int)image.Height,
                }
            );
            image.Resize(new MagickGeometry(ThumbnailPx, ThumbnailPx) { Greater = true });
            await Write(image, Path.Combine(folder, $"{id}.small.jpg"), cancel);
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    /// <summary>The image, when it is of a kind and size that is taken; its head is read before its pixels, so that a small file cannot unpack to a huge one.</summary>
    private static MagickImage? Read(byte[] bytes)
    {
        if (bytes.Length == 0)
        {
            return null;
        }

        try
        {
            var head = new MagickImageInfo(bytes);
            return Taken.Contains(head.Format) && (long)head.Width * head.Height <= MostPixels ? new MagickImage(bytes, head.Format) : null;
        }
        catch (MagickException)
        {
            return null;
        }
    }

    // Beside its place first, so that a killed server leaves no half of a photo under its name.
    private static async Task Write(MagickImage image, string path, CancellationToken cancel)
    {
        await File.WriteAllBytesAsync(path + ".new", image.ToByteArray(MagickFormat.Jpeg), cancel);
        File.Move(path + ".new", path, overwrite: true);
    }

    private static async Task<IResult> Show(Guid couponId, Guid id, string size, GradusContext db, GradusOptions options, CancellationToken cancel)
    {
        var path = Path.Combine(Folder(options, couponId), $"{id}{size}.jpg");
        return
            await db.Photos.AnyAsync(photo => photo.Id == id && photo.CouponId == couponId && photo.WithdrawnAt == null, cancel) && File.Exists(path)
            ? TypedResults.PhysicalFile(path, "image/jpeg")
            : Refusal.NotFound("id", "A photo of this coupon.").ToResult();
    }

    private static string Folder(GradusOptions options, Guid couponId) =>
        Path.Combine(Path.GetFullPath(options.DataFolder), "photos", couponId.ToString());
}
