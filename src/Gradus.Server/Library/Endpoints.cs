using System.Security.Claims;
using System.Text.Json;
using Gradus.Core;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Qualification;
using Gradus.Core.Safety;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Library;

/// <summary>
/// The tests and profiles of the school. Anyone who can reach the server may read them; the lead instructor changes them. Their number is
/// bounded by what a school keeps by hand.
/// </summary>
public static class Endpoints
{
    public static void MapLibrary(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Library");
        group.MapGet("/tests", Tests).Produces<IReadOnlyList<TestRow>>();
        group.MapGet("/tests/{id}", Test).Produces<TestView>().ProducesProblem(404);
        group.MapGet("/tests/{id}/file", TestFile).Produces<TestTemplate>().ProducesProblem(404);
        group.MapPost("/tests/preview", Preview).Validated<PreviewTest>().Produces<TestView>();
        group.MapGet("/profiles", Profiles).Produces<IReadOnlyList<ProfileRow>>();
        group.MapGet("/profiles/{id}", Profile).Produces<ProfileView>().ProducesProblem(404);
        group.MapGet("/finding-kinds", Kinds).Produces<IReadOnlyList<FindingKind>>();
        group
            .MapGet("/schemas/test-template", () => TypedResults.Json(TestLibrary.Schema(), contentType: "application/schema+json"))
            .ExcludeFromDescription();

        var lead = routes.MapGroup("/api").WithTags("Library");
        lead.MapPut("/tests/{id}", SaveTest).Validated<SaveTest>().Writes().Produces<SavedVersion>().ProducesProblem(403).ProducesProblem(409);
        lead.MapPost("/tests/{id}/shipped", TakeTest)
            .Writes()
            .Produces<SavedVersion>()
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        lead.MapPost("/profiles/{id}/shipped", TakeProfile)
            .Writes()
            .Produces<SavedVersion>()
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        lead.MapPut("/profiles/{id}", SaveProfile)
            .Validated<SaveProfile>()
            .Writes()
            .Produces<SavedVersion>()
            .ProducesProblem(403)
            .ProducesProblem(409);
    }

    private static List<TestRow> Tests(SchoolLibrary library) =>
        [
            .. library
                .Tests.Values.OrderBy(test => test.Id[..1], StringComparer.Ordinal)
                .ThenBy(test => test.Id.Length)
                .ThenBy(test => test.Id, StringComparer.Ordinal)
                .Select(test => new TestRow(
                    test.Id,
                    test.Version,
                    test.Title,
                    test.Kind,
                    test.Code,
                    test.Product,
                    test.Positions,
                    [.. test.Passes.Select(pass => pass.Process).Distinct()],
                    test.BaseMetal,
                    test.Variants,
                    test.Drills,
                    test.Stages,
                    library.JudgeableBy(test.Id)
                )),
        ];

    private static IResult Test(string id, int? version, SchoolLibrary library, [Microsoft.AspNetCore.Mvc.FromQuery] string[]? variants = null)
    {
        var history = library.TestHistory(id);
        var stored = history.FirstOrDefault(one => version is null || one.Value.Version == version);
        return stored is null
            ? Unknown(library).ToResult()
            : TypedResults.Ok(
                ViewOf(
                    stored.Value.With(Chosen(variants)),
                    library,
                    Rows(history, one => one.Version),
                    stored == history[0] ? Offers.Of(stored.Value, stored.Shipped) : null
                )
            );
    }

    private static IResult TestFile(string id, SchoolLibrary library) =>
        library.Tests.TryGetValue(id, out var test)
            ? TypedResults.File(JsonSerializer.SerializeToUtf8Bytes(test, CoreJson.Options), "application/json", $"{id}.json")
            : Unknown(library).ToResult();

    private static async Task<IResult> Preview(PreviewTest request, SchoolLibrary library, GradusContext db, CancellationToken cancel)
    {
        try
        {
            var test = TestLibrary.Parse(request.Test!.Value.GetRawText(), library.Profiles.Keys);
            var change = library.Tests.TryGetValue(test.Id, out var now)
                ? new TestChange(
                    now.Version,
                    await db.Coupons.CountAsync(coupon => coupon.TestId == test.Id && coupon.ClosedAt == null && coupon.VoidedAt == null, cancel),
                    Offers.Changes(test, now)
                )
                : null;
            return TypedResults.Ok(ViewOf(test.With(request.Variants ?? []), library, []) with { Change = change });
        }
        catch (JsonException error)
        {
            return SchoolLibrary.Misshapen("test", error).ToResult();
        }
        catch (InvalidOperationException error)
        {
            return Refusal.Field("test", error.Message).ToResult();
        }
    }

    private static TestView ViewOf(TestTemplate test, SchoolLibrary library, IReadOnlyList<VersionRow> history, Offer? offer = null)
    {
        var profile = library.Profiles[test.Code];
        return new TestView(
            test,
            RowOf(profile, library),
            test.Halves.Count == 0
                ? [new SectionOfHalf(null, test.Section())]
                : [.. test.Halves.Select(half => new SectionOfHalf(half.Id, test.Section(null, half.Id)))],
            CouponBudget.Of(test),
            [
                .. Positions.Codes.SelectMany(code =>
                    TestQualification
                        .PassesOf(test, code)
                        .Where(passed => Ranges.Tested(code, passed))
                        .Select(passed => new QualifiedBy(
                            code,
                            passed,
                            Qualifier.Combine(Positions.Of(code)!, [passed]),
                            CoveringRules.ByCode[code].ClausesOf(passed)
                        ))
                ),
            ],
            Cautions.Of(test),
            history,
            offer,
            test.Kind == TestKind.Drill
                ? []
                :
                [
                    .. SpecimenPlan
                        .Codes.Where(code => TestQualification.Takes(test, code))
                        .Select(code => (Code: code, Plan: test.CutBy(code)))
                        .Where(one => one.Plan is not null)
                        .Select(one => new CutBy(
                            one.Code,
                            [.. one.Plan!.Specimens.Select(specimen => specimen.Kind)],
                            one.Plan.Specimens,
                            one.Plan.Instead,
                            TestQualification.TakesFilm(test, one.Code),
                            one.Plan.LeastLengthMm,
                            one.Plan.Fits,
                            one.Plan.Note,
                            one.Plan.Source,
                            one.Plan.Confidence
                        )),
                ]
        );
    }

    private static List<ProfileRow> Profiles(SchoolLibrary library) =>
        [.. library.Profiles.Values.OrderBy(profile => profile.Id, StringComparer.Ordinal).Select(profile => RowOf(profile, library))];

    private static IResult Profile(string id, SchoolLibrary library)
    {
        var history = library.ProfileHistory(id);
        return history.Count == 0
            ? Refusal.NotFound("id", $"One of: {string.Join(", ", library.Profiles.Keys)}.").ToResult()
            : TypedResults.Ok(new ProfileView(history[0].Value, history[0].Shipped, Rows(history, one => one.Version), Offers.Of(history[0].Value)));
    }

    private static async Task<IResult> SaveTest(
        string id,
        SaveTest request,
        ClaimsPrincipal user,
        GradusContext db,
        Writes writes,
        SchoolLibrary library,
        CancellationToken cancel
    ) =>
        (
            await library.SaveTest(db, writes, id, request.Test!.Value, request.BasedOnVersion, request.Why!.Trim(), user.PersonId(), cancel)
        ).ToResult();

    private static async Task<IResult> SaveProfile(
        string id,
        SaveProfile request,
        ClaimsPrincipal user,
        GradusContext db,
        Writes writes,
        SchoolLibrary library,
        CancellationToken cancel
    ) =>
        (
            await library.SaveProfile(db, writes, id, request.Profile!.Value, request.BasedOnVersion, request.Why!.Trim(), user.PersonId(), cancel)
        ).ToResult();

    /// <summary>Takes a test as it ships in place of the school's own version, as its next one.</summary>
    private static async Task<IResult> TakeTest(
        string id,
        ClaimsPrincipal user,
        GradusContext db,
        Writes writes,
        SchoolLibrary library,
        CancellationToken cancel
    ) =>
        library.TestHistory(id) is not [var own, ..] || Offers.Of(own.Value, own.Shipped) is null
            ? Refusal.NotFound("id", "A test of which another version ships than the school's own.").ToResult()
            : (
                await library.SaveTest(
                    db,
                    writes,
                    id,
                    JsonSerializer.SerializeToElement(TestLibrary.Shipped[id], CoreJson.Options),
                    own.Value.Version,
                    AsShipped,
                    user.PersonId(),
                    cancel
                )
            ).ToResult();

    /// <summary>Takes the limits of a profile as they ship into the school's copy of it, as its next version.</summary>
    private static async Task<IResult> TakeProfile(
        string id,
        ClaimsPrincipal user,
        GradusContext db,
        Writes writes,
        SchoolLibrary library,
        CancellationToken cancel
    )
    {
        if (library.ProfileHistory(id) is not [var own, ..] || Offers.Of(own.Value) is null)
        {
            return Refusal.NotFound("id", "A school's copy of a profile that ships otherwise.").ToResult();
        }

        var taken = AcceptanceProfiles.Shipped[own.Value.BasedOn!] with { Id = own.Value.Id, Name = own.Value.Name, BasedOn = own.Value.BasedOn };
        return (
            await library.SaveProfile(
                db,
                writes,
                id,
                JsonSerializer.SerializeToElement(taken, CoreJson.Options),
                own.Value.Version,
                AsShipped,
                user.PersonId(),
                cancel
            )
        ).ToResult();
    }

    private const string AsShipped = "Taken as the program ships it.";

    private static Refusal Unknown(SchoolLibrary library) => Refusal.NotFound("id", $"One of: {string.Join(", ", library.Tests.Keys)}.");

    private static ProfileRow RowOf(AcceptanceProfile profile, SchoolLibrary library) =>
        new(
            profile.Id,
            profile.Name,
            profile.Version,
            library.ProfileHistory(profile.Id)[0].Shipped,
            profile.BasedOn,
            profile.LimitsEntered,
            profile.Note
        );

    private static List<VersionRow> Rows<T>(IReadOnlyList<Stored<T>> history, Func<T, int> version) =>
        [.. history.Select(one => new VersionRow(version(one.Value), one.Shipped, one.SavedAt, one.SavedBy, one.Why)).Take(Limits.PageRows)];

    /// <summary>Choices as they stand in an address: <c>variants=cap:two</c>.</summary>
    private static Dictionary<string, string> Chosen(string[]? variants) =>
        (variants ?? [])
            .Select(one => one.Split(':', 2))
            .Where(parts => parts.Length == 2)
            .GroupBy(parts => parts[0])
            .ToDictionary(group => group.Key, group => group.Last()[1], StringComparer.Ordinal);

    private static async Task<IResult> Kinds(FindingCounts counts, CancellationToken cancel)
    {
        var found = await counts.Read(cancel);
        var order = Enum.GetValues<Stage>()
            .ToDictionary(stage => stage, stage => Discontinuities.Ordered(stage, kind => found((stage, kind))).ToList());
        return TypedResults.Ok(
            (List<FindingKind>)
                [
                    .. Discontinuities.All.Select(entry => new FindingKind(
                        entry.Kind,
                        entry.Name,
                        entry.ShopName,
                        entry.Stages,
                        entry.Hidden,
                        entry.Measures,
                        entry.Usual ?? [],
                        entry.Stages.ToDictionary(stage => stage, stage => order[stage].IndexOf(entry)),
                        [.. CauseFinder.Rules.Where(rule => rule.Kinds.Contains(entry.Kind)).SelectMany(rule => rule.Shapes ?? []).Distinct().Order()]
                    )),
                ]
        );
    }
}
