using SkiaSharp;

namespace Gradus.Server.Coupons;

/// <summary>A photo made anew: as a JPEG without metadata, upright, of bounded size, with its thumbnail.</summary>
public sealed record MadePhoto(byte[] Jpeg, byte[] Thumbnail, int WidthPx, int HeightPx);

/// <summary>
/// Makes photos anew. What a file is shows from its first bytes, and how large it unpacks from its head; one photo is made at a time, within a
/// bounded time.
/// </summary>
public sealed class PhotoMaker : IDisposable
{
    /// <summary>The largest photo that is made anew, in pixels.</summary>
    public const long MostPixels = 50_000_000;
    private const int LongestSidePx = 2400;
    private const int ThumbnailPx = 320;
    private const int Quality = 82;
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(20);
    private readonly SemaphoreSlim turn = new(1, 1);

    /// <summary>The photo made anew; null when it is none, or too large, or takes too long.</summary>
    public async Task<MadePhoto?> Make(byte[] sent, CancellationToken cancel)
    {
        if (KindOf(sent) is not { } kind)
        {
            return null;
        }

        await turn.WaitAsync(cancel);
        var making = Task.Run(() => Make(sent, kind), CancellationToken.None);

        // The next one waits until this one has really ended, even when nobody waits for it any more.
        _ = making.ContinueWith(_ => turn.Release(), CancellationToken.None, TaskContinuationOptions.None, TaskScheduler.Default);
        try
        {
            return await making.WaitAsync(Longest, cancel);
        }
        catch (TimeoutException)
        {
            return null;
        }
    }

    public void Dispose() => turn.Dispose();

    private static SKEncodedImageFormat? KindOf(ReadOnlySpan<byte> bytes) =>
        bytes.StartsWith<byte>([0xFF, 0xD8, 0xFF]) ? SKEncodedImageFormat.Jpeg
        : bytes.StartsWith<byte>([0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A]) ? SKEncodedImageFormat.Png
        : bytes.Length >= 12 && bytes.StartsWith("RIFF"u8) && bytes[8..].StartsWith("WEBP"u8) ? SKEncodedImageFormat.Webp
        : null;

    private static MadePhoto? Make(byte[] sent, SKEncodedImageFormat kind)
    {
        using var data = SKData.CreateCopy(sent);
        using var codec = SKCodec.Create(data);
        if (codec is null || codec.EncodedFormat != kind || codec.Info.Width < 1 || codec.Info.Height < 1)
        {
            return null;
        }

        if ((long)codec.Info.Width * codec.Info.Height > MostPixels)
        {
            return null;
        }

        using var read = Read(codec);
        if (read is null)
        {
            return null;
        }

        var isTurned = (int)codec.EncodedOrigin >= (int)SKEncodedOrigin.LeftTop; // the last four lie on their side
        var (width, height) = isTurned ? (codec.Info.Height, codec.Info.Width) : (codec.Info.Width, codec.Info.Height);
        using var photo = Draw(read, codec.EncodedOrigin, Within(width, height, LongestSidePx));
        using var small = Draw(photo, SKEncodedOrigin.TopLeft, Within(width, height, ThumbnailPx));
        return new MadePhoto(Encode(photo), Encode(small), photo.Width, photo.Height);
    }

    /// <summary>The pixels, already reduced where the format can do that while reading; null when the file is broken.</summary>
    private static SKBitmap? Read(SKCodec codec)
    {
        var longest = Math.Max(codec.Info.Width, codec.Info.Height);
        var size =
            longest > LongestSidePx ? codec.GetScaledDimensions((float)LongestSidePx / longest) : new SKSizeI(codec.Info.Width, codec.Info.Height);

        // A reading that came out smaller than what is kept would be enlarged again.
        if (Math.Max(size.Width, size.Height) < Math.Min(longest, LongestSidePx))
        {
            size = new SKSizeI(codec.Info.Width, codec.Info.Height);
        }

        var bitmap = new SKBitmap(new SKImageInfo(size.Width, size.Height, SKColorType.Rgba8888, SKAlphaType.Premul, SKColorSpace.CreateSrgb()));
        if (codec.GetPixels(bitmap.Info, bitmap.GetPixels()) == SKCodecResult.Success)
        {
            return bitmap;
        }

        bitmap.Dispose();
        return null;
    }

    private static SKSizeI Within(int width, int height, int longest)
    {
        var scale = Math.Min(1, (double)longest / Math.Max(width, height));
        return new SKSizeI(Math.Max(1, (int)Math.Round(width * scale)), Math.Max(1, (int)Math.Round(height * scale)));
    }

    /// <summary>A picture upright, in a size, on white.</summary>
    private static SKBitmap Draw(SKBitmap from, SKEncodedOrigin origin, SKSizeI size)
    {
        var drawn = new SKBitmap(new SKImageInfo(size.Width, size.Height, SKColorType.Rgba8888, SKAlphaType.Opaque, SKColorSpace.CreateSrgb()));
        using var canvas = new SKCanvas(drawn);
        canvas.Clear(SKColors.White);
        var turned = (int)origin >= (int)SKEncodedOrigin.LeftTop;
        var (width, height) = turned ? (from.Height, from.Width) : (from.Width, from.Height);
        canvas.Scale((float)size.Width / width, (float)size.Height / height);
        canvas.Concat(Upright(origin, width, height));
        using var image = SKImage.FromBitmap(from);
        canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        return drawn;
    }

    /// <summary>From the pixels as they lie in the file to the picture as it was seen (orientations of Exif 2.3, 1 to 8).</summary>
    private static SKMatrix Upright(SKEncodedOrigin origin, float width, float height) =>
        origin switch
        {
            SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, width, 0, 1, 0, 0, 0, 1),
            SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, width, 0, -1, height, 0, 0, 1),
            SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, height, 0, 0, 1),
            SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightTop => new SKMatrix(0, -1, width, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, width, -1, 0, height, 0, 0, 1),
            SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, height, 0, 0, 1),
            _ => SKMatrix.Identity,
        };

    private static byte[] Encode(SKBitmap bitmap)
    {
        using var encoded = bitmap.Encode(SKEncodedImageFormat.Jpeg, Quality);
        return encoded.ToArray();
    }
}
