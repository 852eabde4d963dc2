namespace Gradus.Server.Hosting;

/// <summary>How the files of a photo are named in the folder of the photos: by coupon and photo, never by what a client says.</summary>
public static class PhotoNames
{
    public static string Whole(Guid coupon, Guid photo) => $"{coupon}/{photo}.jpg";

    public static string Small(Guid coupon, Guid photo) => $"{coupon}/{photo}.small.jpg";

    /// <summary>The measurements of an arc, by the device that made them.</summary>
    public static string Trace(Guid device, Guid trace) => $"{device}/{trace}.csv.gz";

    public static string[] Both(Guid coupon, Guid photo) => [Whole(coupon, photo), Small(coupon, photo)];

    /// <summary>Takes the files of a photo away, also half written ones. Where its folder never was, as after a restore, there is nothing to take.</summary>
    public static void Delete(string folder, Guid coupon, Guid photo)
    {
        foreach (var path in Both(coupon, photo).SelectMany(name => new[] { name, name + ".new" }).Select(name => Path.Combine(folder, name)))
        {
            if (File.Exists(path))
            {
                File.Delete(path);
            }
        }
    }
}
