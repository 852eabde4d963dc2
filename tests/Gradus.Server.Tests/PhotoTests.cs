using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using SkiaSharp;

namespace Gradus.Server.Tests;

public sealed class PhotoTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static Task<HttpResponseMessage> Put(HttpClient client, Guid coupon, byte[] bytes, string type = "image/jpeg", Guid? id = null) =>
        client.PutPhoto(coupon, id ?? Guid.CreateVersion7(), bytes, type);

    /// <summary>Red on the left, blue on the right, as the pixels lie in the file.</summary>
    private static byte[] Picture(SKEncodedImageFormat format, int width = 3000, int height = 1000)
    {
        using var bitmap = new SKBitmap(width, height);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.Red);
        canvas.DrawRect(width / 2f, 0, width, height, new SKPaint { Color = SKColors.Blue });
        using var data = bitmap.Encode(format, 90);
        return data.ToArray();
    }

    /// <summary>A JPEG whose Exif says how the camera was held, and whose it is (TIFF 6.0 tags 0x0112 and 0x013B in an APP1 segment).</summary>
    private static byte[] Held(byte[] jpeg, ushort orientation)
    {
        byte[] artist = [.. "Somebody\0"u8];
        byte[] tiff =
        [
            .. "II*\0"u8,
            8,
            0,
            0,
            0,
            2,
            0,
            0x12,
            0x01,
            3,
            0,
            1,
            0,
            0,
            0,
            (byte)orientation,
            0,
            0,
            0,
            0x3B,
            0x01,
            2,
            0,
            (byte)artist.Length,
            0,
            0,
            0,
            38,
            0,
            0,
            0,
            0,
            0,
            0,
            0,
            .. artist,
        ];
        byte[] exif = [.. "Exif\0\0"u8, .. tiff];
        var length = exif.Length + 2;
        return [.. jpeg[..2], 0xFF, 0xE1, (byte)(length >> 8), (byte)length, .. exif, .. jpeg[2..]];
    }

    private static bool IsRed(SKColor color) => color.Red > 200 && color.Blue < 60;

    private async Task<(HttpClient Client, Guid Coupon)> Begin()
    {
        var client = await server.SignedIn();
        return (client, await client.StartCoupon(await client.AddStudent()));
    }

    [Theory]
    [InlineData(SKEncodedImageFormat.Jpeg)]
    [InlineData(SKEncodedImageFormat.Png)]
    [InlineData(SKEncodedImageFormat.Webp)]
    public async Task A_photo_is_made_anew_as_a_jpeg_of_bounded_size_with_a_thumbnail(SKEncodedImageFormat format)
    {
        var (client, coupon) = await Begin();
        var id = Guid.CreateVersion7();
        (await Put(client, coupon, Picture(format), "image/" + format.ToString().ToLowerInvariant(), id)).EnsureSuccessStatusCode();
        using var kept = SKCodec.Create(new MemoryStream(await client.GetByteArrayAsync($"/api/coupons/{coupon}/photos/{id}")));
        Assert.Equal((SKEncodedImageFormat.Jpeg, 2400, 800), (kept.EncodedFormat, kept.Info.Width, kept.Info.Height));
        using var small = SKBitmap.Decode(await client.GetByteArrayAsync($"/api/coupons/{coupon}/photos/{id}/thumbnail"));
        Assert.Equal((320, 107), (small.Width, small.Height));
        Assert.True(IsRed(small.GetPixel(40, 50)));
        Assert.Equal(1, (await client.Coupon(coupon)).GetProperty("photos").GetArrayLength());

        var again = await (await Put(client, coupon, Picture(format), "image/jpeg", id)).Content.ReadFromJsonAsync<JsonElement>();
        Assert.False(again.GetProperty("isNew").GetBoolean());
        Assert.Equal(["photo"], await (await Put(client, coupon, Picture(format, 40, 30), "image/jpeg", id)).Fields(409)); // another one
        (await client.DeleteAsync($"/api/coupons/{coupon}/photos/{id}")).EnsureSuccessStatusCode();
        Assert.Equal(404, (int)(await client.GetAsync($"/api/coupons/{coupon}/photos/{id}")).StatusCode);
    }

    // Exif 2.3, orientation: where row 0 and column 0 of the file lie in the picture as it was seen. The left half of the file is red.
    [Theory]
    [InlineData(1, 0.25, 0.5)] // top left: as it lies
    [InlineData(2, 0.75, 0.5)] // top right: mirrored
    [InlineData(3, 0.75, 0.5)] // bottom right: upside down
    [InlineData(4, 0.25, 0.5)] // bottom left: mirrored upside down
    [InlineData(5, 0.5, 0.25)] // left top: column 0 is the top
    [InlineData(6, 0.5, 0.25)] // right top: column 0 is the top
    [InlineData(7, 0.5, 0.75)] // right bottom: column 0 is the bottom
    [InlineData(8, 0.5, 0.75)] // left bottom: column 0 is the bottom
    public async Task A_photo_stands_upright_however_the_camera_was_held_and_its_metadata_is_gone(ushort orientation, double redX, double redY)
    {
        var (client, coupon) = await Begin();
        var id = Guid.CreateVersion7();
        (await Put(client, coupon, Held(Picture(SKEncodedImageFormat.Jpeg, 300, 100), orientation), id: id)).EnsureSuccessStatusCode();
        var bytes = await client.GetByteArrayAsync($"/api/coupons/{coupon}/photos/{id}");
        Assert.DoesNotContain("Somebody", Encoding.Latin1.GetString(bytes), StringComparison.Ordinal);
        using var kept = SKBitmap.Decode(bytes);
        Assert.Equal(orientation < 5 ? (300, 100) : (100, 300), (kept.Width, kept.Height));
        Assert.True(IsRed(kept.GetPixel((int)(redX * kept.Width), (int)(redY * kept.Height))));
        Assert.False(IsRed(kept.GetPixel((int)((1 - redX) * kept.Width), (int)((1 - redY) * kept.Height))) && redX != redY);
    }

    [Fact]
    public async Task A_photo_whose_file_is_gone_is_asked_for_again()
    {
        var (client, coupon) = await Begin();
        var (id, picture) = (Guid.CreateVersion7(), Picture(SKEncodedImageFormat.Jpeg, 300, 100));
        (await Put(client, coupon, picture, id: id)).EnsureSuccessStatusCode();
        async Task<bool> Missing() => (await client.Coupon(coupon)).GetProperty("photos")[0].GetProperty("missing").GetBoolean();
        Assert.False(await Missing());
        Directory.Delete(Path.Combine(server.Folder, "photos"), recursive: true);
        Assert.True(await Missing());
        Assert.Equal(["photo"], await (await Put(client, coupon, Picture(SKEncodedImageFormat.Jpeg, 40, 40), id: id)).Fields(409));
        (await Put(client, coupon, picture, id: id)).EnsureSuccessStatusCode();
        Assert.False(await Missing());
        Assert.Equal(1, (await client.Coupon(coupon)).GetProperty("photos").GetArrayLength());
    }

    [Fact]
    public async Task The_same_photo_eight_times_at_once_is_one()
    {
        var (client, coupon) = await Begin();
        var (id, picture) = (Guid.CreateVersion7(), Picture(SKEncodedImageFormat.Jpeg, 600, 400));
        var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => Put(client, coupon, picture, id: id)));
        Assert.All(answers, answer => Assert.Equal(200, (int)answer.StatusCode));
        Assert.Equal(1, (await client.Coupon(coupon)).GetProperty("photos").GetArrayLength());
        Assert.Equal(2, Directory.GetFiles(Path.Combine(server.Folder, "photos"), "*", SearchOption.AllDirectories).Length); // and its thumbnail
    }

    [Fact]
    public async Task A_bomb_a_disguise_and_a_script_are_refused_and_leave_no_file()
    {
        var (client, coupon) = await Begin();
        Assert.Equal(["photo"], await (await Put(client, coupon, Picture(SKEncodedImageFormat.Png, 12_000, 6_000), "image/png")).Fields(400)); // 72 megapixels in a small file
        foreach (
            var text in new[]
            {
                "<svg xmlns='http://www.w3.org/2000/svg'/>",
                "push graphic-context\nviewbox 0 0 1 1\nimage over 0,0 0,0 '/etc/passwd'",
                "%PDF-1.4\n1 0 obj\n<< /Type /Catalog >>\nendobj",
                "%!PS-Adobe-3.0\n(%pipe%id) (w) file",
                "GIF89a",
            }
        )
        {
            Assert.Equal(["photo"], await (await Put(client, coupon, Encoding.UTF8.GetBytes(text))).Fields(400));
        }

        var whole = Picture(SKEncodedImageFormat.Jpeg);
        Assert.Equal(["photo"], await (await Put(client, coupon, whole[..(whole.Length / 2)])).Fields(400)); // cut off on the way
        Assert.Equal(["photo"], await (await Put(client, coupon, [])).Fields(400));
        client.DefaultRequestHeaders.ExpectContinue = true; // so that the answer comes before the body is sent
        Assert.Equal(413, (int)(await Put(client, coupon, new byte[16 * 1024 * 1024])).StatusCode);
        Assert.Equal(0, (await client.Coupon(coupon)).GetProperty("photos").GetArrayLength());
        Assert.False(Directory.Exists(Path.Combine(server.Folder, "photos")));
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
