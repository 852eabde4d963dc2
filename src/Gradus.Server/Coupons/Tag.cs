using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>The printed tag of a coupon: a QR code that opens it from any tablet that reaches the server.</summary>
public static class Tag
{
    public static void Map(RouteGroupBuilder coupon) =>
        coupon.MapGet("/tag.svg", Code).Produces(StatusCodes.Status200OK, contentType: "image/svg+xml");

    private static async Task<IResult> Code(Guid couponId, HttpRequest request, CouponRecorder recorder, GradusContext db, CancellationToken cancel)
    {
        if (await recorder.Load(couponId, cancel) is null)
        {
            return CouponRecorder.UnknownCoupon().ToResult();
        }

        // A tag outlives the tablet that printed it: where the school says where it is reached, that stands on the steel.
        var address = await db.Schools.Select(school => school.Address).SingleAsync(cancel) ?? $"{request.Scheme}://{request.Host}";
        return TypedResults.Text(QrPicture.Of($"{address}/coupons/{couponId}"), "image/svg+xml");
    }
}
