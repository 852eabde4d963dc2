using System.Collections.Frozen;
using System.Security.Claims;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.EntityFrameworkCore;
using Microsoft.OpenApi;

namespace Gradus.Server.Accounts;

/// <summary>Who may do something.</summary>
[Flags]
public enum Who
{
    /// <summary>Whoever asks, signed in or not.</summary>
    Anybody = 1,
    Wall = 2,

    /// <summary>Any student.</summary>
    Student = 4,

    /// <summary>A student, on what is their own.</summary>
    Own = 8,
    Inspector = 16,
    Instructor = 32,
    Lead = 64,

    Staff = Instructor | Lead,
    Readers = Inspector | Staff,
    Everyone = Anybody | Wall | Student | Inspector | Staff,
    SignedIn = Student | Inspector | Staff,
}

/// <summary>
/// The one table of who may do what. What does not stand in it, nobody may; a test holds it against the OpenAPI document. A student's own are the
/// record under their id and their coupons.
/// </summary>
public static class Rights
{
    private const string LibraryIsTheLeads = "The lead instructor owns the library.";
    private const string PlanIsTheLeads = "The lead instructor owns booths, prices and what planning goes by.";
    private const string SchoolIsTheLeads = "The lead instructor sets the school up.";
    private const string BackupsAreTheLeads = "The lead instructor looks after the backups.";
    private const string Scheme = "session";
    private const string PeopleAreTheLeads = "The lead instructor looks after people, classes and tablets.";

    private static readonly FrozenDictionary<string, (Who Who, string? Why)> Table = Rows()
        .ToFrozenDictionary(row => row.Key, row => (row.Who, row.Why));

    /// <summary>Who may do an operation, named by its method and path; none when it does not stand in the table.</summary>
    public static Who? Of(string method, string path) => Table.TryGetValue(ApiOperations.Named(method, path), out var row) ? row.Who : null;

    /// <summary>All operations that the table names.</summary>
    public static IEnumerable<string> Operations => Table.Keys;

    /// <summary>States in the OpenAPI document who may do each operation.</summary>
    public static Task State(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancel)
    {
        document.Components ??= new OpenApiComponents();
        document.Components.SecuritySchemes = new Dictionary<string, IOpenApiSecurityScheme>
        {
            [Scheme] = new OpenApiSecurityScheme
            {
                Type = SecuritySchemeType.ApiKey,
                In = ParameterLocation.Cookie,
                Name = "gradus",
                Description = "The session that POST /api/session begins. Where a change is signed, the PIN comes with it in the header Gradus-Pin.",
            },
        };
        foreach (var (path, item) in document.Paths)
        {
            foreach (var (method, operation) in item.Operations ?? [])
            {
                var may = Of(method.Method, path) is { } who ? Words(who) : "nobody";
                if (Of(method.Method, path) is not { } given || !given.HasFlag(Who.Anybody))
                {
                    operation.Security = [new OpenApiSecurityRequirement { [new OpenApiSecuritySchemeReference(Scheme, document)] = [] }];
                    ApiOperations.Refuses(operation, StatusCodes.Status401Unauthorized, document);
                    ApiOperations.Refuses(operation, StatusCodes.Status403Forbidden, document);
                }

                operation.Description = $"{operation.Description} May: {may}.".TrimStart();
            }
        }

        return Task.CompletedTask;
    }

    private static string Words(Who who) =>
        who.HasFlag(Who.Anybody)
            ? "anybody"
            : string.Join(
                ", ",
                new[]
                {
                    (Who.Wall, "wall screen"),
                    (Who.Student, "student"),
                    (Who.Own, "student on their own"),
                    (Who.Inspector, "inspector"),
                    (Who.Instructor, "instructor"),
                    (Who.Lead, "lead"),
                }
                    .Where(one => who.HasFlag(one.Item1))
                    .Select(one => one.Item2)
            );

    /// <summary>Refuses what the table does not give to whoever asks.</summary>
    public static void UseRights(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                if (context.GetEndpoint() is RouteEndpoint endpoint && IsGuarded(endpoint.RoutePattern.RawText!))
                {
                    if (await Refuse(context, endpoint) is { } refusal)
                    {
                        await refusal.ToResult().ExecuteAsync(context);
                        return;
                    }
                }

                await next(context);
            }
        );

    /// <summary>What somebody who is signed in is at the school; null for anybody else.</summary>
    public static PersonRole? Role(this ClaimsPrincipal user) =>
        Enum.TryParse<PersonRole>(user.FindFirstValue(ClaimTypes.Role), out var role) ? role : null;

    private static bool IsGuarded(string path) =>
        !path.Contains("{**", StringComparison.Ordinal) && !path.Contains("{*path", StringComparison.Ordinal);

    private static async ValueTask<Refusal?> Refuse(HttpContext context, RouteEndpoint endpoint)
    {
        var path = endpoint.RoutePattern.RawText!;
        if (!Table.TryGetValue(ApiOperations.Named(context.Request.Method, path), out var row))
        {
            return Forbidden("Nobody may do that.", "It does not stand in the table of rights.");
        }

        var (may, why) = row;
        if (may.HasFlag(Who.Anybody))
        {
            return null;
        }

        var user = context.User;
        if (user.WallNames() is not null)
        {
            return may.HasFlag(Who.Wall) ? null : Forbidden("A wall screen reads the floor and nothing else.", "Sign in first.");
        }

        if (user.Role() is not { } role)
        {
            return Refusal.Of(401, "Sign in first.", "session", "POST /api/session with a name and a PIN.");
        }

        if (may.HasFlag(OfRole(role)))
        {
            return null;
        }

        if (role == PersonRole.Student && may.HasFlag(Who.Own))
        {
            return await IsOwn(context, path) ? null : Forbidden("That is somebody else's.", "You see your own record.");
        }

        return why is not null && role is PersonRole.Instructor or PersonRole.Inspector
            ? Forbidden(why, "Sign in as the lead instructor.")
            : Forbidden("That is for the instructors.", "Sign in as an instructor.");
    }

    private static async ValueTask<bool> IsOwn(HttpContext context, string path)
    {
        var me = context.User.PersonId();
        var values = context.Request.RouteValues;
        if (values.TryGetValue("couponId", out var coupon))
        {
            return Guid.TryParse(coupon as string, out var id)
                && await context
                    .RequestServices.GetRequiredService<GradusContext>()
                    .Coupons.AnyAsync(one => one.Id == id && one.StudentId == me, context.RequestAborted);
        }

        var student = values.GetValueOrDefault("studentId") ?? (path.StartsWith("/api/students/{id", StringComparison.Ordinal) ? values["id"] : null);
        return Guid.TryParse(student as string, out var own) && own == me;
    }

    private static Who OfRole(PersonRole role) =>
        role switch
        {
            PersonRole.Lead => Who.Lead,
            PersonRole.Instructor => Who.Instructor,
            PersonRole.Inspector => Who.Inspector,
            _ => Who.Student,
        };

    private static Refusal Forbidden(string title, string says) => Refusal.Of(403, title, "session", says);

    private static IEnumerable<(string Key, Who Who, string? Why)> Rows()
    {
        (string Key, Who Who, string? Why) May(Who who, string operation, string? why = null) => (operation, who, why);

        // Stateless, and what says how the school is entered.
        foreach (
            var open in (string[])
                [
                    "GET /openapi/{documentName}.json",
                    "GET /authority.crt",
                    "GET /network.json",
                    "GET /api/health",
                    "GET /api/health/ready",
                    "GET /api/health/live",
                    "GET /api/session",
                    "POST /api/session",
                    "DELETE /api/session",
                    "POST /api/setup",
                    "POST /api/calc/length",
                    "POST /api/calc/groove",
                    "POST /api/calc/beads",
                    "POST /api/calc/heat-input",
                    "POST /api/calc/purge",
                    "POST /api/calc/electrode",
                    "POST /api/calc/wire",
                    "POST /api/calc/bend",
                    "POST /api/calc/bead-plan",
                    "POST /api/calc/lens",
                    "POST /api/calc/preheat",
                    "POST /api/calc/plunger",
                    "POST /api/calc/travel",
                    "POST /api/calc/gap-left",
                    "POST /api/calc/continuity",
                    "POST /api/judge/visual",
                    "POST /api/judge/bend",
                    "POST /api/judge/radiograph",
                    "POST /api/judge/nick-break",
                    "POST /api/judge/fillet-break",
                    "POST /api/judge/macro",
                    "POST /api/qualifies",
                    "POST /api/covered",
                    "GET /api/pipe-sizes",
                    "GET /api/pipe-sizes/{nps}/{schedule}",
                    "GET /api/pipe-sizes/{inches}/{parts}/{schedule}",
                    "POST /api/causes",
                    "POST /api/trace/analyse",
                    "PUT /api/arc/batches/{sequence}", // the key of the device is the secret
                    "GET /api/lab/orders", // as above
                    "PUT /api/lab/orders/{id}/received",
                    "PUT /api/lab/orders/{id}/report",
                    "PUT /api/lab/orders/{id}/files/{fileId}",
                    "POST /api/coverage",
                    "GET /api/codes",
                    "GET /api/formulas",
                    "GET /api/tests",
                    "GET /api/tests/{id}",
                    "GET /api/tests/{id}/file",
                    "GET /api/profiles",
                    "GET /api/profiles/{id}",
                    "GET /api/finding-kinds",
                    "POST /api/readiness/evaluate",
                    "POST /api/tests/preview",
                    "GET /api/schemas/test-template",
                    "GET /api/schemas/qualification-record",
                    "GET /calendar/{key}.ics", // the key is the secret
                ]
        )
        {
            yield return May(Who.Everyone, open);
        }

        yield return May(Who.Wall | Who.Readers, "GET /api/wall");

        // A session and the tablet.
        yield return May(Who.Staff, "POST /api/session/wall");
        yield return May(Who.SignedIn, "PUT /api/session/pin");
        yield return May(Who.SignedIn, "POST /api/session/everywhere");
        yield return May(Who.SignedIn, "PUT /api/session/likes");
        yield return May(Who.Staff, "POST /api/session/tablet");
        yield return May(Who.Staff, "DELETE /api/session/tablet");

        // People.
        yield return May(Who.Readers, "GET /api/people");
        yield return May(Who.Lead, "PUT /api/people/{id}", PeopleAreTheLeads);
        yield return May(Who.Lead, "PUT /api/people/{id}/role", PeopleAreTheLeads);
        yield return May(Who.Lead, "PUT /api/people/{id}/pin", PeopleAreTheLeads);
        yield return May(Who.Lead, "PUT /api/people/{id}/left", PeopleAreTheLeads);
        yield return May(Who.Lead, "DELETE /api/people/{id}/left", PeopleAreTheLeads);
        yield return May(Who.Lead, "DELETE /api/tablets/{id}", PeopleAreTheLeads);
        yield return May(Who.Readers, "GET /api/school");
        yield return May(Who.Lead, "PUT /api/school", SchoolIsTheLeads);
        yield return May(Who.Readers, "GET /api/school/way-in.svg");
        yield return May(Who.Lead, "GET /api/school/backups", BackupsAreTheLeads);
        yield return May(Who.Lead, "POST /api/school/backups", BackupsAreTheLeads);
        yield return May(Who.Lead, "GET /api/school/keeping", PeopleAreTheLeads);
        yield return May(Who.Lead, "PUT /api/school/keeping", PeopleAreTheLeads);
        yield return May(Who.Lead, "GET /api/acts", PeopleAreTheLeads);
        yield return May(Who.Readers, "GET /api/school/clock");
        yield return May(Who.Lead, "PUT /api/classes/{id}", PeopleAreTheLeads);
        yield return May(Who.Lead, "PUT /api/classes/{id}/ended", PeopleAreTheLeads);
        yield return May(Who.Staff, "PUT /api/classes/{id}/safety");
        yield return May(Who.Staff, "GET /api/classes/{id}/students");
        yield return May(Who.Lead, "POST /api/students/import", PeopleAreTheLeads);
        yield return May(Who.Lead, "PUT /api/booths/{id}/removed", PlanIsTheLeads);
        yield return May(Who.Lead, "DELETE /api/booths/{id}/removed", PlanIsTheLeads);

        // A student, by the instructors and by themselves.
        yield return May(Who.Student, "GET /api/me");
        yield return May(Who.Readers, "GET /api/classes");
        yield return May(Who.Staff, "POST /api/classes/{id}/pins");
        yield return May(Who.Staff, "PUT /api/students/{id}/pin");
        yield return May(Who.Staff, "DELETE /api/students/{id}/pin");
        yield return May(Who.Readers, "GET /api/students/left");
        yield return May(Who.Staff, "PUT /api/students/{id}");
        yield return May(Who.Readers, "GET /api/students/{id}");
        yield return May(Who.Staff, "PUT /api/students/{id}/details");
        yield return May(Who.Staff, "PUT /api/students/{id}/left");
        yield return May(Who.Staff, "DELETE /api/students/{id}/left");
        yield return May(Who.Lead, "PUT /api/students/{id}/erased", PeopleAreTheLeads);
        yield return May(Who.Lead | Who.Own, "GET /api/students/{studentId}/file.json", PeopleAreTheLeads);
        yield return May(Who.Lead | Who.Own, "GET /api/students/{studentId}/file.pdf", PeopleAreTheLeads);
        yield return May(Who.Readers | Who.Own, "GET /api/students/{id}/coupons");
        yield return May(Who.Readers, "GET /api/students/{studentId}/tests/{testId}/grounds");
        yield return May(Who.Readers, "GET /api/students/{studentId}/tests/{testId}/readiness");
        yield return May(Who.Readers, "GET /api/students/{studentId}/tests/{testId}/reached");
        yield return May(Who.Staff, "PUT /api/students/{studentId}/safety");
        yield return May(Who.Staff, "DELETE /api/students/{studentId}/safety");
        yield return May(Who.Readers, "GET /api/students/{studentId}/way");
        yield return May(Who.Staff, "PUT /api/students/{studentId}/goal");
        yield return May(Who.Staff, "PUT /api/students/{studentId}/credits/{testId}");
        yield return May(Who.Staff, "DELETE /api/students/{studentId}/credits/{testId}");
        yield return May(Who.Readers, "GET /api/learn/students/{studentId}");

        // Instruments.
        yield return May(Who.Readers, "GET /api/devices");
        yield return May(Who.Lead, "PUT /api/devices/{id}", SchoolIsTheLeads);
        yield return May(Who.Lead, "PUT /api/devices/{id}/removed", SchoolIsTheLeads);
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/arcs");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/arcs/live");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/arcs/{traceId}/points");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/arcs/{traceId}/file");
        yield return May(Who.Staff, "PUT /api/coupons/{couponId}/arcs/{traceId}/bead");
        yield return May(Who.Readers | Who.Own, "GET /api/students/{studentId}/arcs");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/lab");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/lab/{id}/files/{fileId}");
        yield return May(Who.Staff, "PUT /api/coupons/{couponId}/lab/{id}");
        yield return May(Who.Staff, "PUT /api/coupons/{couponId}/lab/{id}/taken");
        yield return May(Who.Staff, "PUT /api/coupons/{couponId}/lab/{id}/ended");

        // A coupon: students propose what they did on their own.
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/coach");
        yield return May(Who.Readers, "GET /api/coach");
        yield return May(Who.Readers, "GET /api/coach/demonstration");
        yield return May(Who.Lead, "PUT /api/coach/sentences", LibraryIsTheLeads);
        yield return May(Who.Staff, "PUT /api/coupons/{couponId}");
        foreach (var proposed in (string[])["fit-ups", "passes", "findings", "events", "notes", "photos"])
        {
            yield return May(Who.Staff | Who.Own, $"PUT /api/coupons/{{couponId}}/{proposed}/{{id}}");
            yield return May(Who.Staff | Who.Own, $"DELETE /api/coupons/{{couponId}}/{proposed}/{{id}}");
        }

        yield return May(Who.Staff, "PUT /api/coupons/{couponId}/confirmed");
        yield return May(Who.Staff | Who.Own, "POST /api/coupons/{couponId}/findings/preview");
        yield return May(Who.Staff, "PUT /api/coupons/{couponId}/closings/{id}");
        yield return May(Who.Staff, "DELETE /api/coupons/{couponId}/closings/{id}");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/tag.svg");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/history");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/photos/{id}");
        yield return May(Who.Readers | Who.Own, "GET /api/coupons/{couponId}/photos/{id}/thumbnail");

        // The floor, what is ready, what was decided.
        yield return May(Who.Readers, "GET /api/floor");
        yield return May(Who.Readers, "GET /api/floor/events");
        yield return May(Who.Readers, "GET /api/floor/booths-for/{testId}");
        yield return May(Who.Readers, "GET /api/floor/due");
        yield return May(Who.Readers, "GET /api/find");
        yield return May(Who.Readers, "GET /api/ready");
        yield return May(Who.Staff, "PUT /api/decisions/{id}");
        yield return May(Who.Staff, "PUT /api/decisions/{id}/withdrawal");
        yield return May(Who.Readers, "GET /api/results");
        yield return May(Who.Readers, "PUT /api/results/{id}");
        yield return May(Who.Staff, "DELETE /api/results/{id}");
        yield return May(Who.Readers, "GET /api/verdicts/today");
        yield return May(Who.Lead, "PUT /api/verdicts/today", "The lead instructor says which verdict counts.");
        yield return May(Who.Readers, "GET /api/policies/{testId}");
        yield return May(Who.Lead, "PUT /api/policies/{testId}", "The lead instructor sets the policy.");
        yield return May(Who.Readers, "GET /api/model");
        yield return May(Who.Staff, "POST /api/readiness/fit");
        yield return May(Who.Lead, "POST /api/model/fit", "The lead instructor looks after the model.");
        yield return May(Who.Lead, "POST /api/model/shipped", "The lead instructor looks after the model.");
        yield return May(Who.Readers, "GET /api/learn/class");

        // Sittings and the records that come of them: an inspector reads, witnesses and signs.
        yield return May(Who.Readers, "GET /api/sittings");
        yield return May(Who.Readers, "GET /api/sittings/{id}");
        yield return May(Who.Readers | Who.Own, "GET /api/students/{studentId}/sittings");
        yield return May(Who.Readers, "GET /api/students/{studentId}/tests/{testId}/booking");
        yield return May(Who.Readers, "PUT /api/sittings/{id}/marks/{markId}");
        yield return May(Who.Readers, "DELETE /api/sittings/{id}/marks/{markId}");
        yield return May(Who.Readers, "PUT /api/sittings/{id}/result");
        yield return May(Who.Readers, "PUT /api/sittings/{id}/files/{fileId}");
        yield return May(Who.Readers, "GET /api/sittings/{id}/files/{fileId}");
        yield return May(Who.Readers, "PUT /api/certificates/{id}");
        yield return May(Who.Readers, "PUT /api/certificates/{id}/revoked");
        yield return May(Who.Readers, "PUT /api/certificates/{id}/renewals/{renewalId}");
        yield return May(Who.Readers | Who.Student, "GET /api/certificates/{id}"); // of students only their own: the handler looks
        foreach (var file in (string[])["pdf", "json", "csv"])
        {
            yield return May(Who.Readers | Who.Student, $"GET /api/certificates/{{id}}/record.{file}");
        }

        yield return May(Who.Readers, "PUT /api/certificates/{id}/files/{fileId}");
        yield return May(Who.Readers, "GET /api/certificates/{id}/files/{fileId}");
        yield return May(Who.Readers, "GET /api/certificates/board");
        yield return May(Who.Readers, "GET /api/certificates/board.csv");
        yield return May(Who.Readers, "GET /api/certificates/figures");
        yield return May(Who.Readers, "GET /api/certificates/figures.csv");
        yield return May(Who.Readers, "GET /api/certificates/cards.pdf");
        yield return May(Who.Readers | Who.Own, "GET /api/students/{studentId}/holds");
        yield return May(Who.Readers | Who.Own, "GET /api/students/{studentId}/log.pdf");
        yield return May(Who.Readers, "POST /api/students/{studentId}/covers");
        yield return May(Who.Readers, "PUT /api/students/{studentId}/outside/{id}");
        yield return May(Who.Readers, "PUT /api/uses");
        yield return May(Who.Readers, "DELETE /api/uses/{id}");

        // The library.
        yield return May(Who.Lead, "PUT /api/tests/{id}", LibraryIsTheLeads);
        yield return May(Who.Lead, "POST /api/tests/{id}/shipped", LibraryIsTheLeads);
        yield return May(Who.Lead, "PUT /api/profiles/{id}", LibraryIsTheLeads);
        yield return May(Who.Lead, "POST /api/profiles/{id}/shipped", LibraryIsTheLeads);

        // The plan.
        yield return May(Who.Staff, "POST /api/plan/solve");
        foreach (var read in (string[])["", "/cutlist", "/cards", "/plan.csv", "/cutlist.csv", "/draws.csv", "/calendar.ics", "/job"])
        {
            yield return May(Who.Readers, $"GET /api/weeks/{{monday}}{read}");
        }

        foreach (
            var planned in (string[])
                [
                    "POST /api/weeks/{monday}/solve",
                    "DELETE /api/weeks/{monday}/job",
                    "POST /api/weeks/{monday}/accept",
                    "DELETE /api/weeks/{monday}/proposal",
                    "PUT /api/weeks/{monday}/cells",
                    "PUT /api/weeks/{monday}/sawn/{id}",
                    "PUT /api/absences/{id}",
                    "DELETE /api/absences/{studentId}/{day}",
                    "PUT /api/sittings/{id}",
                    "PUT /api/sittings/{id}/moved",
                    "PUT /api/sittings/{id}/cancelled",
                    "PUT /api/sittings/{id}/coupons/{madeId}",
                    "PUT /api/booths/{id}/closed", // whoever sees that it is broken
                    "PUT /api/stock/moves/{id}",
                    "POST /api/stock/import",
                    "POST /api/attendance/import",
                ]
        )
        {
            yield return May(Who.Staff, planned);
        }

        yield return May(Who.Readers, "GET /api/stock");
        yield return May(Who.Readers, "POST /api/calc/cost"); // at the school's own prices
        yield return May(Who.Readers, "GET /api/steps");
        yield return May(Who.Readers, "GET /api/plan/setup");
        yield return May(Who.Lead, "PUT /api/steps", PlanIsTheLeads);
        yield return May(Who.Lead, "PUT /api/plan/setup", PlanIsTheLeads);
        yield return May(Who.Lead, "POST /api/plan/calendar-key", PlanIsTheLeads);
        yield return May(Who.Lead, "PUT /api/booths/{id}", PlanIsTheLeads);
    }
}
