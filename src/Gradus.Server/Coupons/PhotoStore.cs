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
    public void Put(Guid couponId, Guid photoId, MadePhoto photo)
    {
        try
        {
            WholeFile.Write(PathOf(couponId, photoId), photo.Jpeg);
            WholeFile.Write(PathOf(couponId, photoId, isSmall: true), photo.Thumbnail);
        }
        catch
        {
            Remove(couponId, photoId);
            throw;
        }
    }

    /// <summary>Takes the files of a photo away.</summary>
    public void Remove(Guid couponId, Guid photoId) => PhotoNames.Delete(options.PhotoFolder, couponId, photoId);
}
