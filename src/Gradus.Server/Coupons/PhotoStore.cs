using Gradus.Server.Hosting;

namespace Gradus.Server.Coupons;

/// <summary>The files of the photos, beside the database. They are named by the ids of coupon and photo, never by what a client says.</summary>
public sealed class PhotoStore(GradusOptions options)
{
    /// <summary>Where the photo of an id lies.</summary>
    public string PathOf(Guid couponId, Guid photoId, bool isSmall = false) =>
        Path.Combine(options.PhotoFolder, isSmall ? PhotoNames.Small(couponId, photoId) : PhotoNames.Whole(couponId, photoId));

    /// <summary>True when the photo and its thumbnail are there.</summary>
    public bool IsThere(Guid couponId, Guid photoId) =>
        File.Exists(PathOf(couponId, photoId)) && File.Exists(PathOf(couponId, photoId, isSmall: true));

    /// <summary>Puts a photo in its place; when that fails, nothing of it is left.</summary>
    /// <exception cref="IOException">The disk is full or cannot be written to.</exception>
    public async Task Put(Guid couponId, Guid photoId, MadePhoto photo, CancellationToken cancel)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(PathOf(couponId, photoId))!);
        try
        {
            await Write(PathOf(couponId, photoId), photo.Jpeg, cancel);
            await Write(PathOf(couponId, photoId, isSmall: true), photo.Thumbnail, cancel);
        }
        catch
        {
            Remove(couponId, photoId);
            throw;
        }
    }

    /// <summary>Takes the files of a photo away.</summary>
    public void Remove(Guid couponId, Guid photoId) => PhotoNames.Delete(options.PhotoFolder, couponId, photoId);

    // Beside its place first, and on the disk before it is named, so that a killed server leaves no half of a photo under its name.
    private static async Task Write(string path, byte[] bytes, CancellationToken cancel)
    {
        await using (var file = new FileStream(path + ".new", FileMode.Create, FileAccess.Write))
        {
            await file.WriteAsync(bytes, cancel);
            file.Flush(flushToDisk: true);
        }

        File.Move(path + ".new", path, overwrite: true);
    }
}
