using Gradus.Server.Hosting;
using QRCoder;

namespace Gradus.Server.Coupons;

/// <summary>The printed tag of a coupon: a QR code that opens it from any tablet that reaches the server.</summary>
public static class Tag
{
    public static void Map(RouteGroupBuilder coupon) =>
        coupon.MapGet("/tag.svg", Code).Produces(StatusCodes.Status200OK, contentType: "image/svg+xml");

    private static async Task<IResult> Code(Guid couponId, HttpRequest request, CouponRecorder recorder, CancellationToken cancel)
    {
        if (await recorder.Load(couponId, cancel) is null)
        {
            return CouponRecorder.UnknownCoupon().ToResult();
        }

        const int PixelsPerModule = 4;
        using var generator = new QRCodeGenerator();
        using var data = generator.CreateQrCode($"{request.Scheme}://{request.Host}/coupons/{couponId}", QRCodeGenerator.ECCLevel.M);
        using var code = new SvgQRCode(data);
        return TypedResults.Text(code.GetGraphic(PixelsPerModule), "image/svg+xml");
    }
}
