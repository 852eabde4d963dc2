using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using ImageMagick;

namespace Gradus.Server.Tests;

public sealed class PhotoTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static Task<HttpResponseMessage> Put(HttpClient client, Guid coupon, byte[] bytes, string type = "image/jpeg", Guid? id = null)
    {
        var body = new ByteArrayContent(bytes);
        body.Headers.ContentType = new MediaTypeHeaderValue(type);
        return client.PutAsync($"/api/coupons/{coupon}/photos/{id ?? Guid.CreateVersion7()}", body);
    }

    private static byte[] Picture(MagickFormat format, uint width = 3000, uint height = 1000)
    {
        using var image = new MagickImage(MagickColors.SteelBlue, width, height);
        var profile = new ExifProfile();
        profile.SetValue(ExifTag.Artist, "Somebody");
        profile.SetValue(ExifTag.Orientation, (ushort)6); // turned: the camera was held upright
        image.SetProfile(profile);
        return image.ToByteArray(format);
    }

    private async Task<(HttpClient Client, Guid Coupon)> Begin()
    {
        var client = await server.SignedIn();
        return (client, await client.StartCoupon(await client.AddStudent()));
    }

    [Theory]
    [InlineData(MagickFormat.Jpeg)]
    [InlineData(MagickFormat.Png)]
    [InlineData(MagickFormat.WebP)]
    public async Task A_photo_is_made_anew_upright_without_its_metadata_with_a_thumbnail(MagickFormat format)
    {
        var (client, coupon) = await Begin();
        var id = Guid.CreateVersion7();
        (await Put(client, coupon, Picture(format), "image/" + format.ToString().ToLowerInvariant(), id)).EnsureSuccessStatusCode();
        using var kept = new MagickImage(await client.GetByteArrayAsync($"/api/coupons/{coupon}/photos/{id}"));
        Assert.Null(kept.GetExifProfile());
        Assert.Equal(MagickFormat.Jpeg, kept.Format);
        Assert.Equal(2400u, Math.Max(kept.Width, kept.Height));
        using var small = new MagickImage(await client.GetByteArrayAsync($"/api/coupons/{coupon}/photos/{id}/thumbnail"));
        Assert.Equal(320u, Math.Max(small.Width, small.Height));
        Assert.Equal(1, (await client.Coupon(coupon)).GetProperty("photos").GetArrayLength());

        var again = await (await Put(client, coupon, Picture(format), "image/jpeg", id)).Content.ReadFromJsonAsync<JsonElement>();
        Assert.False(again.GetProperty("isNew").GetBoolean());
        (await client.DeleteAsync($"/api/coupons/{coupon}/photos/{id}")).EnsureSuccessStatusCode();
        Assert.Equal(404, (int)(await client.GetAsync($"/api/coupons/{coupon}/photos/{id}")).StatusCode);
    }

    [Fact]
    public async Task A_bomb_a_disguise_and_a_script_are_refused()
    {
        var (client, coupon) = await Begin();
        Assert.Equal(["photo"], await (await Put(client, coupon, Picture(MagickFormat.Png, 12_000, 6_000), "image/png")).Fields(400)); // 72 megapixels in a small file
        Assert.Equal(["photo"], await (await Put(client, coupon, Encoding.UTF8.GetBytes("<svg xmlns='http://www.w3.org/2000/svg'/>"))).Fields(400));
        Assert.Equal(
            ["photo"],
            await (
                await Put(client, coupon, Encoding.UTF8.GetBytes("push graphic-context\nviewbox 0 0 1 1\nimage over 0,0 0,0 '/etc/passwd'"))
            ).Fields(400)
        );
        Assert.Equal(["photo"], await (await Put(client, coupon, Picture(MagickFormat.Gif, 10, 10), "image/jpeg")).Fields(400));
        Assert.Equal(["photo"], await (await Put(client, coupon, [])).Fields(400));
        client.DefaultRequestHeaders.ExpectContinue = true; // so that the answer comes before the body is sent
        Assert.Equal(413, (int)(await Put(client, coupon, new byte[16 * 1024 * 1024])).StatusCode);
        Assert.Equal(0, (await client.Coupon(coupon)).GetProperty("photos").GetArrayLength());
    }

    [Theory]
    [InlineData("..%2F..%2Fgradus.db")]
    [InlineData("not-an-id")]
    public async Task A_name_that_is_no_id_finds_nothing(string name)
    {
        var (client, coupon) = await Begin();
        Assert.Equal(404, (int)(await client.GetAsync($"/api/coupons/{coupon}/photos/{name}")).StatusCode);
    }
}
