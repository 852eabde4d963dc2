using System.Security.Claims;
using System.Text.Json;
using System.Text.Json.Schema;
using Gradus.Core;
using Gradus.Core.Certification;
using Gradus.Core.Qualification;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Gradus.Server.ShopMath;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Qualifications;

/// <summary>Records of qualification, what keeps them alive, and who holds what.</summary>
public static class Endpoints
{
    private const int MostCards = 200;

    public static void MapCertificates(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api/certificates").WithTags("Certificates");
        group
            .MapPut(
                "/{id:guid}",
                async (Guid id, CertifyRequest body, ClaimsPrincipal user, CertificateBook book, CancellationToken cancel) =>
                    (await book.Certify(id, body, user.PersonId(), cancel)).ToResult()
            )
            .Validated<CertifyRequest>()
            .Signed();
        group
            .MapPut(
                "/{id:guid}/revoked",
                async (Guid id, RevokeRequest body, ClaimsPrincipal user, CertificateBook book, CancellationToken cancel) =>
                    (await book.Revoke(id, body.Why!, user.PersonId(), cancel)).ToResult()
            )
            .Validated<RevokeRequest>()
            .Signed();
        group
            .MapPut(
                "/{id:guid}/renewals/{renewalId:guid}",
                async (
                    Guid id,
                    Guid renewalId,
                    RenewRequest body,
                    ClaimsPrincipal user,
                    CertificateBook book,
                    HoldsReader holds,
                    CancellationToken cancel
                ) => (await book.Renew(id, renewalId, body, user.PersonId(), holds, cancel)).ToResult()
            )
            .Validated<RenewRequest>()
            .Signed();
        group.MapGet("/{id:guid}", Read).Produces<CertificateView>().ProducesProblem(404);
        group.MapGet("/{id:guid}/record.pdf", Pdf).Produces(200, contentType: "application/pdf").ProducesProblem(404);
        group.MapGet("/{id:guid}/record.json", Json).Produces(200, contentType: "application/json").ProducesProblem(404);
        group.MapGet("/{id:guid}/record.csv", Csv).Produces<string>(contentType: "text/csv").ProducesProblem(404);
        group.MapPut("/{id:guid}/files/{fileId:guid}", TakeScan).TakesFile();
        group
            .MapGet(
                "/{id:guid}/files/{fileId:guid}",
                (Guid id, Guid fileId, GivenFiles files, CancellationToken cancel) => files.Show(id, fileId, cancel)
            )
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(404);
        group
            .MapGet("/board", async (BoardReader reader, CancellationToken cancel) => TypedResults.Ok(await reader.Board(cancel)))
            .Produces<HoldsBoard>();
        group.MapGet("/board.csv", BoardCsv).Produces<string>(contentType: "text/csv");
        group
            .MapGet("/figures", async (BoardReader reader, CancellationToken cancel) => TypedResults.Ok(await reader.Figures(cancel)))
            .Produces<IReadOnlyList<ClassFigures>>();
        group.MapGet("/figures.csv", FiguresCsv).Produces<string>(contentType: "text/csv");
        group.MapGet("/cards.pdf", Cards).Produces(200, contentType: "application/pdf").ProducesProblem(404);

        var students = routes.MapGroup("/api/students/{studentId:guid}").WithTags("Certificates");
        students.MapGet("/holds", Holds).Produces<HoldsView>().ProducesProblem(404);
        students.MapPost("/covers", Covers).Validated<CoverageRequest>().Produces<IReadOnlyList<HeldFor>>().ProducesProblem(404);
        students.MapGet("/log.pdf", Log).Produces(200, contentType: "application/pdf").ProducesProblem(404);
        students
            .MapPut(
                "/outside/{id:guid}",
                async (Guid studentId, Guid id, OutsideRequest body, ClaimsPrincipal user, CertificateBook book, CancellationToken cancel) =>
                    (await book.Enter(studentId, id, body, user.PersonId(), cancel)).ToResult()
            )
            .Validated<OutsideRequest>()
            .Signed();

        var uses = routes.MapGroup("/api/uses").WithTags("Certificates");
        uses.MapPut(
                "",
                async (SignUses body, ClaimsPrincipal user, CertificateBook book, HoldsReader holds, CancellationToken cancel) =>
                    (await book.Sign(body, user.PersonId(), holds, cancel)).ToResult()
            )
            .Validated<SignUses>()
            .Signed();
        uses.MapDelete(
                "/{id:guid}",
                async (Guid id, ClaimsPrincipal user, CertificateBook book, CancellationToken cancel) =>
                    (await book.Unsign(id, user.PersonId(), cancel)).ToResult()
            )
            .Signed();
        routes
            .MapGet(
                "/api/schemas/qualification-record",
                () => TypedResults.Text(CoreJson.Options.GetJsonSchemaAsNode(typeof(QualificationRecord)).ToJsonString(), "application/schema+json")
            )
            .ExcludeFromDescription();
    }

    // What is not Letter is A4.
    private static PaperSize SizeOf(string? paper) =>
        string.Equals(paper, "letter", StringComparison.OrdinalIgnoreCase) ? PaperSize.Letter : PaperSize.A4;

    private static RouteHandlerBuilder Signed(this RouteHandlerBuilder route) =>
        route.WithPin().Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);

    private static async Task<IResult> Read(
        Guid id,
        ClaimsPrincipal user,
        GradusContext db,
        HoldsReader holds,
        BoardReader board,
        GivenFiles files,
        CancellationToken cancel
    )
    {
        if (await Mine(id, user, db, cancel) is not { } certificate)
        {
            return CertificateBook.Unknown().ToResult();
        }

        var names = await Names.Of(db, cancel);
        var revisions = await db
            .Certificates.AsNoTracking()
            .Where(one => one.Number == certificate.Number)
            .OrderBy(one => one.Revision)
            .ToListAsync(cancel);
        var renewals = await db
            .CertificateRenewals.AsNoTracking()
            .Where(one => one.Number == certificate.Number)
            .OrderBy(one => one.Day)
            .ToListAsync(cancel);
        return TypedResults.Ok(
            new CertificateView(
                certificate.Id,
                certificate.StudentId,
                certificate.SittingId,
                board.NameOf(certificate.Code),
                certificate.Outside,
                CertificateBook.RecordOf(certificate),
                certificate.Signature,
                certificate.PublicKey,
                [.. (await holds.Read([certificate.StudentId], cancel)).Where(one => one.Id == id)],
                [
                    .. revisions.Select(one => new RevisionView(
                        one.Id,
                        one.Revision,
                        one.IssuedAt,
                        names.GetValueOrDefault(one.IssuedBy, ""),
                        CertificateBook.RecordOf(one).Because
                    )),
                ],
                [.. renewals.Select(one => new RenewalView(one.Id, one.Day, one.Evidence, names.GetValueOrDefault(one.By, "")))],
                Continuity.RoutesOf(Ranges.ByCode[certificate.Code].Continuity),
                certificate.ReplacedBy,
                certificate.RevokedAt,
                certificate.RevokedWhy,
                await files.Of(id, cancel)
            )
        );
    }

    // A student sees their own.
    private static async Task<Certificate?> Mine(Guid id, ClaimsPrincipal user, GradusContext db, CancellationToken cancel)
    {
        var certificate = await db.Certificates.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel);
        return user.Role() == PersonRole.Student && certificate?.StudentId != user.PersonId() ? null : certificate;
    }

    private static async Task<IResult> Pdf(
        Guid id,
        string? paper,
        HttpRequest request,
        ClaimsPrincipal user,
        GradusContext db,
        BoardReader board,
        CancellationToken cancel
    )
    {
        if (await Mine(id, user, db, cancel) is not { } certificate)
        {
            return CertificateBook.Unknown().ToResult();
        }

        var record = CertificateBook.RecordOf(certificate);
        var written = await db
            .SittingMarks.Where(mark => mark.SittingId == certificate.SittingId && mark.WithdrawnAt == null && mark.Signature != null)
            .OrderByDescending(mark => mark.At)
            .Select(mark => mark.Signature)
            .FirstOrDefaultAsync(cancel);
        var file = RecordPdf.Make(
            record,
            new Printed(
                board.NameOf(certificate.Code),
                await AddressOf(id, request, db, cancel),
                certificate.Signature,
                written,
                certificate.IssuedAt
            ),
            SizeOf(paper)
        );
        return TypedResults.File(file, "application/pdf", $"qualification-{record.Number}-{record.Revision}.pdf");
    }

    private static async Task<string> AddressOf(Guid id, HttpRequest request, GradusContext db, CancellationToken cancel) =>
        $"{await db.Schools.Select(school => school.Address).SingleAsync(cancel) ?? $"{request.Scheme}://{request.Host}"}/certificates/{id}";

    private static async Task<IResult> Json(Guid id, ClaimsPrincipal user, GradusContext db, CancellationToken cancel) =>
        await Mine(id, user, db, cancel) is { } certificate
            ? TypedResults.File(
                System.Text.Encoding.UTF8.GetBytes(RecordSigner.FileOf(certificate.Body, certificate.Signature, certificate.PublicKey)),
                "application/json",
                $"qualification-{certificate.Number}-{certificate.Revision}.json"
            )
            : CertificateBook.Unknown().ToResult();

    private static async Task<IResult> Csv(Guid id, ClaimsPrincipal user, GradusContext db, CancellationToken cancel)
    {
        if (await Mine(id, user, db, cancel) is not { } certificate)
        {
            return CertificateBook.Unknown().ToResult();
        }

        var record = CertificateBook.RecordOf(certificate);
        string?[][] head =
        [
            ["", "number", "Number", $"{record.Number}.{record.Revision}", ""],
            ["", "welder", "Welder", record.Welder.Name, ""],
            ["", "code", "Code", record.Code, ""],
            ["", "edition", "Edition", record.Edition, ""],
            ["", "testedOn", "Tested on", $"{record.TestedOn:yyyy-MM-dd}", ""],
            ["", "procedure", "Procedure (WPS)", record.Procedure, ""],
            ["", "useBy", "Process used again by", $"{record.Validity.UseBy:yyyy-MM-dd}", ""],
        ];
        return CsvTable.File(
            $"qualification-{record.Number}-{record.Revision}.csv",
            ["part", "key", "variable", "actual", "qualified"],
            [
                .. head,
                .. record.Fields.Select(one => new[] { "", one.Key, one.Label, one.Actual, one.Qualified }),
                .. record.Parts.SelectMany(part => part.Fields.Select(one => new[] { part.Name, one.Key, one.Label, one.Actual, one.Qualified })),
                .. record.Tests.Select(one => new[] { "", "test", one.Name, one.Result, one.Report }),
            ]
        );
    }

    private static async Task<IResult> TakeScan(
        Guid id,
        Guid fileId,
        string? name,
        HttpRequest request,
        ClaimsPrincipal user,
        GradusContext db,
        GivenFiles files,
        Writes writes,
        CancellationToken cancel
    )
    {
        if (!await db.Certificates.AnyAsync(one => one.Id == id, cancel))
        {
            return CertificateBook.Unknown().ToResult();
        }

        return await files.Take(fileId, id, name, "scan", settles: false, request, user.PersonId(), writes, cancel);
    }

    private static async Task<IResult> Holds(Guid studentId, GradusContext db, HoldsReader holds, CancellationToken cancel)
    {
        var view = await HoldsOf(studentId, db, holds, cancel);
        return view is null ? Refusal.NotFound("studentId", "A student of this school.").ToResult() : TypedResults.Ok(view);
    }

    private static async Task<HoldsView?> HoldsOf(Guid studentId, GradusContext db, HoldsReader holds, CancellationToken cancel)
    {
        if (await db.Students.AsNoTracking().FirstOrDefaultAsync(one => one.Id == studentId, cancel) is not { } student)
        {
            return null;
        }

        var held = await holds.Read([studentId], cancel);
        var names = await Names.Of(db, cancel);
        var proofs = await db
            .UseProofs.AsNoTracking()
            .Where(one => one.StudentId == studentId && one.WithdrawnAt == null)
            .OrderByDescending(one => one.Day)
            .Take(HoldsReader.MostUses)
            .ToListAsync(cancel);
        var couponIds = proofs.Select(one => one.CouponId).OfType<Guid>().ToList();
        var stamps = await db.Coupons.Where(one => couponIds.Contains(one.Id)).ToDictionaryAsync(one => one.Id, one => one.Stamp, cancel);
        return new HoldsView(
            studentId,
            student.Name,
            [.. held.OrderBy(one => one.Keeping.EndsOn)],
            [
                .. proofs.Select(one => new UseView(
                    one.Id,
                    one.CouponId,
                    one.CouponId is { } coupon ? stamps.GetValueOrDefault(coupon) : null,
                    one.Process,
                    one.Day,
                    one.Says,
                    names.GetValueOrDefault(one.SignedBy, ""),
                    [
                        .. held.Where(record =>
                                record.Process == one.Process
                                && record.Keeping.Counted.Contains(one.Day)
                                && (!HoldsReader.NeedsRange(record.Code) || one.Within.Contains(record.Number))
                            )
                            .Select(record => record.Number)
                            .Distinct(),
                    ]
                )),
            ],
            held.Count == 0
                ? []
                :
                [
                    .. (await holds.Open(studentId, held.Min(one => one.QualifiedOn), cancel)).Where(use =>
                        held.Any(one => one.Process == use.Process && one.Keeping.Kind != HoldKind.Ended)
                    ),
                ]
        );
    }

    // Which welds of a job are covered by what a student holds today, each by one record whole.
    private static async Task<IResult> Covers(Guid studentId, CoverageRequest request, GradusContext db, HoldsReader holds, CancellationToken cancel)
    {
        if (!await db.Students.AnyAsync(one => one.Id == studentId, cancel))
        {
            return Refusal.NotFound("studentId", "A student of this school.").ToResult();
        }

        var held = (await holds.Read([studentId], cancel)).Where(one => one.Keeping.Kind != HoldKind.Ended && one.Code == request.Code).ToList();
        var ids = held.Select(one => one.Id).Distinct().ToList();
        var records = (await db.Certificates.AsNoTracking().Where(one => ids.Contains(one.Id)).ToListAsync(cancel)).ToDictionary(
            one => one.Id,
            CertificateBook.RecordOf
        );
        return TypedResults.Ok(
            request
                .Welds!.Select(weld =>
                {
                    var job = weld!.Asked;
                    var by = held.Where(one => one.Process == job.Process && CoversAll(records[one.Id], job)).MaxBy(one => one.Keeping.EndsOn);
                    return new HeldFor(job.Name, by?.Id, by?.Number, by?.Keeping.EndsOn);
                })
                .ToList()
        );
    }

    private static bool CoversAll(QualificationRecord record, JobWeld job) =>
        new[] { job.ThicknessMinMm, job.ThicknessMaxMm }.All(thickness =>
            record.Covers(
                new AskedWeld(
                    job.Product,
                    job.Weld,
                    job.Position,
                    thickness,
                    job.DiameterMm,
                    job.Weld == WeldKind.Fillet ? Backed.None
                        : job.Backing ? Backed.Steel
                        : Backed.None,
                    job.Process,
                    job.FNumber,
                    job.Position == "V" ? job.Progression : Progression.None
                )
            )
        );

    private static async Task<IResult> Log(
        Guid studentId,
        string? paper,
        GradusContext db,
        HoldsReader holds,
        BoardReader board,
        SchoolClock clock,
        CancellationToken cancel
    )
    {
        if (await HoldsOf(studentId, db, holds, cancel) is not { } view)
        {
            return Refusal.NotFound("studentId", "A student of this school.").ToResult();
        }

        var school = await db.Schools.Select(one => one.Name).SingleAsync(cancel);
        return TypedResults.File(
            LogPdf.Make(view, school, board.NameOf, SizeOf(paper), clock.Today, clock.Now),
            "application/pdf",
            $"use-of-process-{clock.Today:yyyy-MM-dd}.pdf"
        );
    }

    private static async Task<IResult> Cards(
        Guid? id,
        Guid? studentId,
        Guid? classId,
        string? paper,
        HttpRequest request,
        GradusContext db,
        HoldsReader holds,
        BoardReader board,
        SchoolClock clock,
        CancellationToken cancel
    )
    {
        var students = await db
            .Students.Where(student => (studentId == null || student.Id == studentId) && (classId == null || student.ClassGroupId == classId))
            .Where(student => id == null || db.Certificates.Any(one => one.Id == id && one.StudentId == student.Id))
            .Select(student => student.Id)
            .ToListAsync(cancel);
        var held = (await holds.Read(students, cancel))
            .Where(one => (id is null || one.Id == id) && one.Keeping.Kind != HoldKind.Ended)
            .GroupBy(one => one.Id)
            .Take(MostCards)
            .ToDictionary(group => group.Key, group => group.Min(one => one.Keeping.EndsOn));
        if (held.Count == 0)
        {
            return Refusal.NotFound("id", "A record that holds.").ToResult();
        }

        var records = await db.Certificates.AsNoTracking().Where(one => held.Keys.Contains(one.Id)).ToListAsync(cancel);
        var address = await db.Schools.Select(school => school.Address).SingleAsync(cancel) ?? $"{request.Scheme}://{request.Host}";
        return TypedResults.File(
            CardPdf.Make(
                [
                    .. records
                        .Select(one => new Card(
                            CertificateBook.RecordOf(one),
                            board.NameOf(one.Code),
                            $"{address}/certificates/{one.Id}",
                            held[one.Id]
                        ))
                        .OrderBy(card => card.Record.Welder.Name, StringComparer.CurrentCulture),
                ],
                SizeOf(paper),
                clock.Now
            ),
            "application/pdf",
            "qualification-cards.pdf"
        );
    }

    private static async Task<IResult> BoardCsv(BoardReader reader, CancellationToken cancel) =>
        CsvTable.File(
            "qualifications.csv",
            ["student", "class", "code", "process", "test", "number", "testedOn", "lastUsedOn", "endsOn", "state", "outside"],
            (await reader.Board(cancel)).Rows.SelectMany(row =>
                row.Held.Select(one =>
                    (object?[])
                        [
                            row.Name,
                            row.ClassName,
                            one.Code,
                            one.Process,
                            one.Title,
                            $"{one.Number}.{one.Revision}",
                            $"{one.QualifiedOn:yyyy-MM-dd}",
                            $"{one.Keeping.LastUsedOn:yyyy-MM-dd}",
                            $"{one.Keeping.EndsOn:yyyy-MM-dd}",
                            JsonNamingPolicy.CamelCase.ConvertName(one.Keeping.Kind.ToString()),
                            one.Outside,
                        ]
                )
            )
        );

    private static async Task<IResult> FiguresCsv(BoardReader reader, CancellationToken cancel) =>
        CsvTable.File(
            "certificates-by-class.csv",
            [
                "class",
                "termEnds",
                "over",
                "students",
                "certificates",
                "firstSittings",
                "firstPassed",
                "passRate",
                "lower",
                "upper",
                "cost",
                "costPerCertificate",
            ],
            (await reader.Figures(cancel)).Select(one =>
                (object?[])
                    [
                        one.Name,
                        one.TermEnds is { } day ? $"{day:yyyy-MM-dd}" : null,
                        one.Over,
                        one.Students,
                        one.Certificates,
                        one.FirstSittings,
                        one.FirstPassed,
                        one.PassRate?.Share,
                        one.PassRate?.Lower,
                        one.PassRate?.Upper,
                        one.Cost,
                        one.CostPerCertificate,
                    ]
            )
        );
}
