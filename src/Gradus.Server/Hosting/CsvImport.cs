using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using Gradus.Data;
using Microsoft.AspNetCore.Mvc;

namespace Gradus.Server.Hosting;

/// <summary>A line of a file that was read: what it says, or what is wrong with it.</summary>
public sealed record ImportRow(int Line, bool Good, string Says);

/// <summary>What a file would bring, or has brought. Nothing is taken while one row is bad.</summary>
public sealed record ImportView(IReadOnlyList<ImportRow> Rows, int Good, int Bad, bool Taken);

/// <summary>Files that come in: first looked at, then taken as a whole.</summary>
public static class CsvImport
{
    private const int MostRows = 2000;
    private const int FileBytes = 512 * 1024;

    /// <summary>An endpoint that takes such a file.</summary>
    public static void TakesCsv(this RouteHandlerBuilder route) =>
        route
            .Accepts<string>("text/csv")
            .WithMetadata(new RequestSizeLimitAttribute(FileBytes), new WriteMark())
            .Produces<ImportView>()
            .ProducesProblem(400);

    /// <summary>Reads a file row by row; it is taken as one write, when every row is good and it is to be taken.</summary>
    /// <param name="read">What a row says, or what is wrong with it, and how it is taken.</param>
    public static async Task<IResult> Read(
        HttpRequest request,
        string[] columns,
        bool take,
        Func<CsvReader, (string? Says, string? Error, Action? Take)> read,
        GradusContext db,
        Writes writes,
        CancellationToken cancel
    )
    {
        using var body = new StreamReader(request.Body);
        var text = await body.ReadToEndAsync(cancel);
        if (CleanBodies.OfText(text.TrimStart('\ufeff')) is { } unclean)
        {
            return Refusal.Field("body", unclean).ToResult();
        }

        using var csv = new CsvReader(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                PrepareHeaderForMatch = header => header.Header.Trim().ToUpperInvariant(),
                MissingFieldFound = null,
                BadDataFound = null,
                DetectDelimiter = true,
            }
        );
        if (
            !await csv.ReadAsync()
            || !csv.ReadHeader()
            || columns.Any(column => !csv.HeaderRecord!.Contains(column, StringComparer.OrdinalIgnoreCase))
        )
        {
            return Refusal.Field("body", $"The first line names the columns: {string.Join(", ", columns)}.").ToResult();
        }

        var rows = new List<ImportRow>();
        var takes = new List<Action>();
        while (await csv.ReadAsync())
        {
            if (rows.Count >= MostRows)
            {
                return Refusal.Field("body", $"At most {MostRows} rows at once.").ToResult();
            }

            var (says, error, onTake) = read(csv);
            rows.Add(new ImportRow(csv.Parser.RawRow, error is null, says ?? error!));
            if (onTake is not null)
            {
                takes.Add(onTake);
            }
        }

        var bad = rows.Count(row => !row.Good);
        var isTaken = take && bad == 0 && rows.Count > 0;
        if (isTaken)
        {
            takes.ForEach(one => one());
            await writes.Whole(() => db.SaveChangesAsync(cancel), _ => true, cancel);
        }

        return TypedResults.Ok(new ImportView(rows, rows.Count - bad, bad, isTaken));
    }
}
