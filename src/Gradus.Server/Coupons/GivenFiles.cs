using System.Security.Cryptography;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>A file as it is listed.</summary>
public sealed record FileView(Guid Id, string Name, string MediaType, long Bytes, bool Settles, DateTimeOffset At);

/// <summary>Reports and scans, kept byte for byte as they were given and read by nothing; shown by the browser alone.</summary>
public sealed class GivenFiles(GradusOptions options, GradusContext db, TimeProvider time)
{
    /// <summary>The largest that is taken.</summary>
    public const int MostBytes = 15 * 1024 * 1024;

    private const int MostForOne = 20;

    // By how a file begins; what it is called says nothing.
    private static readonly (string MediaType, byte[] Begins)[] Kinds =
    [
        ("application/pdf", "%PDF-"u8.ToArray()),
        ("image/jpeg", [0xFF, 0xD8, 0xFF]),
        ("image/png", [0x89, 0x50, 0x4E, 0x47]),
        ("image/webp", "RIFF"u8.ToArray()),
    ];

    /// <summary>Takes a file that is sent; it is read before the turn to write begins: nobody waits for a slow tablet.</summary>
    /// <param name="usual">What it is called where no name is given.</param>
    public async Task<IResult> Take(
        Guid id,
        Guid ownerId,
        string? name,
        string usual,
        bool settles,
        HttpRequest request,
        Guid by,
        Writes writes,
        CancellationToken cancel
    )
    {
        var sent = await Sent(request, cancel);
        return (await writes.Whole(() => Keep(id, ownerId, Called(name, usual), settles, sent, by, cancel), cancel)).ToResult();
    }

    /// <summary>All of a file that is sent.</summary>
    public static async Task<byte[]> Sent(HttpRequest request, CancellationToken cancel)
    {
        using var sent = new MemoryStream();
        await request.Body.CopyToAsync(sent, cancel);
        return sent.ToArray();
    }

    /// <summary>What a file is called.</summary>
    public static string Called(string? name, string usual) => name is { Length: > 0 and <= 200 } ? name : usual;

    /// <summary>Keeps a file. The same one sent again changes nothing.</summary>
    public async Task<Outcome<Written>> Keep(Guid id, Guid ownerId, string name, bool settles, byte[] bytes, Guid by, CancellationToken cancel)
    {
        if (Array.Find(Kinds, kind => bytes.AsSpan().StartsWith(kind.Begins)).MediaType is not { } mediaType)
        {
            return Refusal.Field("file", $"A PDF or a JPEG, PNG or WebP picture of at most {MostBytes / 1024 / 1024} MB.");
        }

        var hash = Convert.ToHexStringLower(SHA256.HashData(bytes));
        if (await db.SittingFiles.AsNoTracking().FirstOrDefaultAsync(file => file.Id == id, cancel) is { } known)
        {
            return Twins.Answer(id, new { known.OwnerId, File = known.Hash }, new { OwnerId = ownerId, File = hash });
        }

        if (await db.SittingFiles.CountAsync(file => file.OwnerId == ownerId, cancel) >= MostForOne)
        {
            return Refusal.Conflict("file", $"At most {MostForOne} files.");
        }

        WholeFile.Write(PathOf(ownerId, id), bytes);
        db.SittingFiles.Add(
            new SittingFile
            {
                Id = id,
                OwnerId = ownerId,
                Name = name,
                MediaType = mediaType,
                Bytes = bytes.Length,
                Hash = hash,
                Settles = settles,
                At = time.GetUtcNow(),
                By = by,
            }
        );
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>The files of a sitting, a record or an order of a laboratory, oldest first.</summary>
    public async Task<IReadOnlyList<FileView>> Of(Guid ownerId, CancellationToken cancel) => [.. (await Of([ownerId], cancel))[ownerId]];

    /// <summary>Those of several, by whose they are.</summary>
    public async Task<ILookup<Guid, FileView>> Of(IReadOnlyCollection<Guid> ownerIds, CancellationToken cancel) =>
        (await db.SittingFiles.AsNoTracking().Where(file => ownerIds.Contains(file.OwnerId)).OrderBy(file => file.At).ToListAsync(cancel)).ToLookup(
            file => file.OwnerId,
            file => new FileView(file.Id, file.Name, file.MediaType, file.Bytes, file.Settles, file.At)
        );

    /// <summary>A file as it was given.</summary>
    public async Task<IResult> Show(Guid ownerId, Guid id, CancellationToken cancel) =>
        await db.SittingFiles.AsNoTracking().FirstOrDefaultAsync(file => file.Id == id && file.OwnerId == ownerId, cancel) is { } kept
        && File.Exists(PathOf(ownerId, id))
            ? TypedResults.PhysicalFile(PathOf(ownerId, id), kept.MediaType)
            : Refusal.NotFound("id", "A file of this.").ToResult();

    // Beside the photos, so that every backup has them.
    private string PathOf(Guid ownerId, Guid id) => Path.Combine(options.PhotoFolder, $"{ownerId}", $"{id}.given");
}

/// <summary>Endpoints that take such a file.</summary>
public static class GivenFileRoutes
{
    /// <summary>States what is taken, how much of it and how often.</summary>
    public static void TakesFile(this RouteHandlerBuilder route) =>
        route
            .Accepts<IFormFile>("application/pdf", "image/jpeg", "image/png", "image/webp")
            .WithMetadata(new RequestSizeLimitAttribute(GivenFiles.MostBytes), new WriteMark())
            .RequireRateLimiting(Photos.UploadLimit)
            .Produces<Written>()
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(413);
}
