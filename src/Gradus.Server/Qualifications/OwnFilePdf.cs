using System.Globalization;
using System.Text.Json.Nodes;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Gradus.Server.Students;

namespace Gradus.Server.Qualifications;

/// <summary>
/// What is kept of a student, to be read on paper: all that is about the person, row by row, and of each coupon a line with how much was entered on it.
/// Every single entry stands in the file that machines read.
/// </summary>
public static class OwnFilePdf
{
    private const float Margin = 40;
    private const float Body = 9;
    private const float Step = 11.5f;

    // Entered on coupons: counted with each of them.
    private static readonly string[] Entries = ["fitUps", "passes", "findings", "events", "notes", "photos", "closings", "todaysVerdicts"];

    // Worked out anew from the entries whenever it is asked for.
    private static readonly string[] WorkedOut = ["readiness", "skills"];

    public static void MapOwnFilePdf(this IEndpointRouteBuilder routes) =>
        routes
            .MapGet("/api/students/{studentId:guid}/file.pdf", Give)
            .WithTags("Students")
            .Kept()
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(404);

    private static async Task<IResult> Give(
        Guid studentId,
        PaperSize? paper,
        GradusContext db,
        SchoolClock clock,
        TimeProvider time,
        CancellationToken cancel
    ) =>
        await OwnFile.Read(studentId, db, time, cancel) is { } file
            ? TypedResults.File(Make(file, paper ?? PaperSize.A4, clock), "application/pdf", $"student-{studentId:N}.pdf")
            : OwnFile.Unknown.ToResult();

    /// <summary>Sets the file on paper.</summary>
    public static byte[] Make(JsonObject file, PaperSize size, SchoolClock clock)
    {
        using var paper = new PdfPaper(size, $"What is kept of {file["student"]}", clock.Now);
        var width = paper.Width - (2 * Margin);
        var y = 0f;
        void Set(string text, float high, bool bold = false, float indent = 0, float gray = 0)
        {
            foreach (var line in PdfPaper.Lines(text, width - indent, high, bold))
            {
                if (y + high + 3 > paper.Height - Margin)
                {
                    paper.NextPage();
                    y = Margin;
                }

                y += high + 2.5f;
                paper.Text(line, Margin + indent, y, high, bold, gray);
            }
        }

        paper.NextPage();
        y = Margin;
        Set($"{file["student"]}", 17, bold: true);
        Set($"What {file["school"]} keeps, as of {RecordPdf.Day(clock.Today)}", Body + 1);
        y += Step;
        var kept = file["kept"]!.AsObject();
        foreach (var (table, rows) in kept.Where(one => !Entries.Contains(one.Key) && !WorkedOut.Contains(one.Key) && one.Key != "coupons"))
        {
            Set($"{Words(table)} ({rows!.AsArray().Count})", Body + 2, bold: true);
            foreach (var row in rows.AsArray())
            {
                Set(Line(row!.AsObject(), clock), Body, indent: 8);
                y += 2;
            }

            y += Step / 2;
        }

        if (kept["coupons"] is JsonArray coupons)
        {
            var counts = Entries
                .Where(kept.ContainsKey)
                .SelectMany(table => kept[table]!.AsArray().Select(row => (Table: table, Coupon: (string?)row!["couponId"])))
                .CountBy(one => one)
                .ToLookup(one => one.Key.Coupon, one => $"{Words(one.Key.Table).ToLowerInvariant()} {one.Value}");
            Set($"Coupons ({coupons.Count})", Body + 2, bold: true);
            foreach (var coupon in coupons.Select(one => one!.AsObject()))
            {
                Set($"{Line(coupon, clock)}; entered: {string.Join(", ", counts[(string?)coupon["id"]].DefaultIfEmpty("nothing"))}", Body, indent: 8);
                y += 2;
            }
        }

        y += Step;
        Set(
            $"Every single entry, with its numbers, stands in the file student-….json. Worked out anew whenever it is asked for, and not kept as said: {string.Join(" and ", WorkedOut)}.",
            Body - 1,
            gray: 0.3f
        );
        return paper.Finish();
    }

    /// <summary>A row in words; what only a machine reads is left out.</summary>
    private static string Line(JsonObject row, SchoolClock clock) =>
        string.Join(
            "; ",
            row.Where(one => one.Value is JsonValue)
                .Select(one => (one.Key, Said: one.Value!.ToString()))
                .Where(one => one.Said.Length > 0 && !Guid.TryParse(one.Said, out _))
                .Select(one => $"{Words(one.Key).ToLowerInvariant()} {Said(one.Key, one.Said, clock)}")
        );

    private static string Said(string name, string value, SchoolClock clock) =>
        name.EndsWith("At", StringComparison.Ordinal)
        && DateTimeOffset.TryParse(value, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var at)
            ? $"{RecordPdf.Day(clock.DayOf(at))} {clock.TimeOfDayAt(at).ToString("HH:mm", CultureInfo.InvariantCulture)}"
            : value;

    /// <summary>A name as the file has it, in words: <c>safetySignedAt</c> is Safety signed at.</summary>
    private static string Words(string name) =>
        Texts.Capital(string.Concat(name.Select(letter => char.IsUpper(letter) ? $" {char.ToLowerInvariant(letter)}" : $"{letter}")));
}
