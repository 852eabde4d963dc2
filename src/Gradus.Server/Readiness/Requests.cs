using FluentValidation;
using Gradus.Core.Readiness;
using Gradus.Core.Vocabulary;
using Gradus.Data;
using Gradus.Server.Hosting;

namespace Gradus.Server.Readiness;

/// <summary>One coupon of a history. <c>day</c> counts from any day; <c>clean</c> goes with <c>elements</c>, one for one.</summary>
/// <param name="Kind">full, drill, or sitting: then <c>passed</c> stands in place of the elements.</param>
/// <param name="Inside">True when every specimen that was cut passed, false when one failed; left out when nothing was cut.</param>
/// <param name="Passed">Whether a sitting was passed.</param>
/// <param name="Truth">The true chance of a simulated student; not looked at.</param>
/// <param name="Test">Of a career the test that it was made for.</param>
public sealed record CouponRequest(
    double? Day,
    string? Kind,
    bool? Aided,
    IReadOnlyList<string?>? Elements,
    IReadOnlyList<bool>? Clean,
    int? N = null,
    double? Truth = null,
    bool? Inside = null,
    bool? Passed = null,
    string? Test = null
)
{
    internal bool IsSitting => Kind == "sitting";

    /// <summary>The coupon as the core takes it; only once it was validated.</summary>
    public CouponEvidence ToEvidence() =>
        new(
            Day!.Value,
            Kind != "drill",
            Aided ?? false,
            IsSitting
                ? new Dictionary<string, bool>()
                : Elements!.Zip(Clean!).ToDictionary(one => one.First!, one => one.Second, StringComparer.Ordinal),
            Inside,
            IsSitting ? Passed : null
        );
}

/// <summary>What a test has in common with others.</summary>
/// <param name="Product">plate, pipe or sheet.</param>
/// <param name="Progression">uphill or downhill; none, or left out, where the position has none.</param>
public record TraitsRequest(string? Process, string? Product, string? Position, string? Progression, bool? OpenRoot)
{
    /// <summary>The traits as the core takes them; only once they were validated.</summary>
    internal TestTraits ToTraits() =>
        new(
            Process!,
            Enum.Parse<Product>(Product!, ignoreCase: true),
            Position!,
            string.IsNullOrEmpty(Progression) ? Core.Vocabulary.Progression.None : Enum.Parse<Progression>(Progression, ignoreCase: true),
            OpenRoot!.Value
        );
}

/// <summary>What the student made on another test.</summary>
public sealed record EarlierRequest(
    string? Process,
    string? Product,
    string? Position,
    string? Progression,
    bool? OpenRoot,
    IReadOnlyList<string?>? Elements,
    IReadOnlyList<CouponRequest?>? Coupons
) : TraitsRequest(Process, Product, Position, Progression, OpenRoot);

/// <summary>A history to be judged on a day.</summary>
/// <param name="Constants">Constants from a fit; the shipped ones when left out.</param>
/// <param name="Traits">Of the asked test; needed where there are earlier ones.</param>
/// <param name="Earlier">What the student made on other tests.</param>
public sealed record EvaluateRequest(
    IReadOnlyList<string?>? Elements,
    IReadOnlyList<CouponRequest?>? Coupons,
    double? Today,
    ReadinessConstants? Constants = null,
    TraitsRequest? Traits = null,
    IReadOnlyList<EarlierRequest?>? Earlier = null
)
{
    /// <summary>The asked test as the core takes it; only once it was validated.</summary>
    internal SkillTest ToTest() => new("asked", Traits?.ToTraits(), [.. Elements!.Select(element => element!)]);

    /// <summary>
    /// The earlier tests as the core takes them. One with the traits and elements of the asked test is another test all the same: what is asked
    /// of is given as its coupons.
    /// </summary>
    internal List<TestHistory> ToEarlier() =>
        [
            .. (Earlier ?? [])
                .Index()
                .Select(one => new TestHistory(
                    new SkillTest($"earlier {one.Index}", one.Item!.ToTraits(), [.. one.Item.Elements!.Select(element => element!)]),
                    [.. one.Item.Coupons!.Select(coupon => coupon!.ToEvidence())]
                )),
        ];
}

/// <summary>The chance of a clean full coupon with its 90 % interval, that of each element, and what it was right after each coupon.</summary>
/// <param name="Passing">The chance of passing everything: clean by eye, and sound where it is cut open.</param>
public sealed record EvaluateAnswer(
    double Mean,
    double Lower,
    double Upper,
    IReadOnlyList<ElementChance> Elements,
    IReadOnlyList<BandView> Trace,
    BandView Passing
);

/// <summary>The histories of a school's students, in the form of a cohort.</summary>
public sealed record FitRequest(IReadOnlyList<FitStudent?>? Students);

/// <summary>One student: the elements of one test and the coupons on it, or the tests of a career and coupons that each name theirs.</summary>
public sealed record FitStudent(
    IReadOnlyList<string?>? Elements,
    IReadOnlyList<CouponRequest?>? Coupons,
    string? Student = null,
    IReadOnlyList<FitTest?>? Tests = null
)
{
    /// <summary>The student as the core takes it; only once it was validated.</summary>
    internal StudentHistory ToHistory() =>
        Tests is null
            ? new StudentHistory([
                new TestHistory(
                    new SkillTest("asked", null, [.. Elements!.Select(element => element!)]),
                    [.. Coupons!.Select(coupon => coupon!.ToEvidence())]
                ),
            ])
            : new StudentHistory([
                .. Tests.Select(test => new TestHistory(
                    new SkillTest(test!.Id!, test.ToTraits(), [.. test.Elements!.Select(element => element!)]),
                    [.. Coupons!.Where(coupon => coupon!.Test == test.Id).Select(coupon => coupon!.ToEvidence())]
                )),
            ]);
}

/// <summary>A test of a career.</summary>
/// <param name="TruthFirst">The true chance of a simulated student before the first coupon; not looked at.</param>
public sealed record FitTest(
    string? Id,
    string? Process,
    string? Product,
    string? Position,
    string? Progression,
    bool? OpenRoot,
    IReadOnlyList<string?>? Elements,
    double? TruthFirst = null
) : TraitsRequest(Process, Product, Position, Progression, OpenRoot);

/// <summary>The constants to go on with. Scores are mean log scores of a coupon one step ahead, on students that were held out.</summary>
public sealed record FitAnswer(ReadinessConstants Constants, double ScoreBefore, double ScoreAfter, bool Adopted);

public sealed class CouponRequestValidator : AbstractValidator<CouponRequest>
{
    private const double MostDays = 100_000;

    public CouponRequestValidator()
    {
        RuleFor(coupon => coupon.Day).Needs(-MostDays, MostDays, "The day as a number");
        RuleFor(coupon => coupon.Kind).NeedsOneOf(["full", "drill", "sitting"]);
        When(
                coupon => coupon.IsSitting,
                () =>
                {
                    RuleFor(coupon => coupon.Passed).NotNull().WithMessage("true when the sitting was passed, false when not.");
                    RuleFor(coupon => coupon.Elements)
                        .Must(elements => elements is null or { Count: 0 })
                        .WithMessage("Of a sitting only the result is given, in passed.");
                }
            )
            .Otherwise(() =>
            {
                RuleFor(coupon => coupon.Elements).IsElements();
                RuleFor(coupon => coupon.Passed).Null().WithMessage("Only a sitting is passed or not.");
                RuleFor(coupon => coupon.Clean)
                    .Must((coupon, clean) => clean is not null && clean.Count == (coupon.Elements?.Count ?? 0))
                    .WithMessage("Give true or false for each element, in the same order.");
            });
    }
}

public sealed class TraitsRequestValidator : AbstractValidator<TraitsRequest>
{
    /// <summary>As the field writes them.</summary>
    private static readonly string[] Processes = ["SMAW", "GTAW", "GMAW", "GMAW-S", "FCAW-G", "FCAW-S"];

    public TraitsRequestValidator()
    {
        RuleFor(traits => traits.Process).NeedsOneOf(Processes);
        RuleFor(traits => traits.Product).NeedsOneOf(["plate", "pipe", "sheet"]);
        RuleFor(traits => traits.Position).NeedsOneOf(SkillTest.Positions);
        RuleFor(traits => traits.Progression)
            .Must(progression => progression is null or "" or "none" or "uphill" or "downhill")
            .WithMessage("uphill, downhill or none.");
        RuleFor(traits => traits.OpenRoot).NotNull().WithMessage("true when nothing solid backs the root, false when something does.");
    }
}

internal static class ReadinessRules
{
    public const int MostElements = 60;
    public const int MostCoupons = 6000;

    // The state of a student grows with their square.
    public const int MostTogether = 600;
    public static readonly string TooMany = $"At most {MostTogether} elements over all tests together.";

    public static bool IsName(string? name) => name is { Length: > 0 and <= 60 };

    public static IRuleBuilderOptions<T, IReadOnlyList<string?>?> IsElements<T>(this IRuleBuilder<T, IReadOnlyList<string?>?> rule) =>
        rule.Must(elements =>
                elements is { Count: > 0 and <= MostElements }
                && elements.All(IsName)
                && elements.Distinct(StringComparer.Ordinal).Count() == elements.Count
            )
            .WithMessage($"Give 1 to {MostElements} element names, none twice.");

    public static bool AreOf(CouponRequest? coupon, IReadOnlyList<string?>? elements) =>
        coupon?.Elements is null || elements is null || coupon.Elements.All(elements.Contains);
}

public sealed class EarlierRequestValidator : AbstractValidator<EarlierRequest>
{
    public EarlierRequestValidator()
    {
        Include(new TraitsRequestValidator());
        RuleFor(earlier => earlier.Elements).IsElements();
        RuleFor(earlier => earlier.Coupons)
            .Must(coupons => coupons is not null && coupons.All(coupon => coupon is not null))
            .WithMessage("Give the coupons; an empty list when there is none.");
        RuleForEach(earlier => earlier.Coupons).SetValidator(new CouponRequestValidator()!);
        RuleForEach(earlier => earlier.Coupons)
            .Must((earlier, coupon) => ReadinessRules.AreOf(coupon, earlier.Elements))
            .WithMessage("An element of this coupon is not an element of its test.");
    }
}

public sealed class EvaluateRequestValidator : AbstractValidator<EvaluateRequest>
{
    private const int MostEarlier = 60;

    public EvaluateRequestValidator()
    {
        RuleFor(request => request.Elements).IsElements();
        RuleFor(request => request.Coupons)
            .Must(coupons => coupons is not null && coupons.All(coupon => coupon is not null))
            .WithMessage($"Give the coupons, at most {ReadinessRules.MostCoupons}; an empty list when there is none.");
        RuleFor(request => request.Coupons)
            .Must(
                (request, coupons) =>
                    (coupons?.Count ?? 0) + (request.Earlier?.Sum(one => one?.Coupons?.Count ?? 0) ?? 0) <= ReadinessRules.MostCoupons
            )
            .WithMessage($"At most {ReadinessRules.MostCoupons} coupons together.");
        RuleForEach(request => request.Coupons).SetValidator(new CouponRequestValidator()!);
        RuleForEach(request => request.Coupons)
            .Must((request, coupon) => ReadinessRules.AreOf(coupon, request.Elements))
            .WithMessage("An element of this coupon is not an element of the test.");
        RuleFor(request => request.Today).Needs(-100_000, 200_000, "The day to judge as a number");
        RuleFor(request => request.Traits!).SetValidator(new TraitsRequestValidator()).When(request => request.Traits is not null);
        RuleFor(request => request.Traits)
            .NotNull()
            .When(request => request.Earlier is { Count: > 0 })
            .WithMessage("Give process, product, position, progression and openRoot of the asked test, or nothing can be drawn from earlier ones.");
        RuleFor(request => request.Earlier)
            .Must(earlier => earlier is null || (earlier.Count <= MostEarlier && earlier.All(one => one is not null)))
            .WithMessage($"At most {MostEarlier} earlier tests, none null.");
        RuleFor(request => request.Earlier)
            .Must(earlier => earlier is null || earlier.Sum(one => one?.Elements?.Count ?? 0) <= ReadinessRules.MostTogether)
            .WithMessage(ReadinessRules.TooMany);
        RuleForEach(request => request.Earlier).SetValidator(new EarlierRequestValidator()!);
        RuleFor(request => request.Constants)
            .Must(constants => constants is null || ReadinessConstants.Problem(constants) is null)
            .WithMessage(request => ReadinessConstants.Problem(request.Constants!) ?? "");
    }
}

public sealed class FitTestValidator : AbstractValidator<FitTest>
{
    public FitTestValidator()
    {
        Include(new TraitsRequestValidator());
        RuleFor(test => test.Id).Must(ReadinessRules.IsName).WithMessage("A name of 1 to 60 characters.");
        RuleFor(test => test.Elements).IsElements();
    }
}

public sealed class FitStudentValidator : AbstractValidator<FitStudent>
{
    private const int MostTests = 60;

    public FitStudentValidator()
    {
        RuleFor(student => student.Elements).IsElements().When(student => student.Tests is null);
        RuleFor(student => student.Tests)
            .Must(tests =>
                tests is null
                || (
                    tests.Count is > 0 and <= MostTests
                    && tests.All(test => test is not null)
                    && tests.Select(test => test!.Id).Distinct(StringComparer.Ordinal).Count() == tests.Count
                )
            )
            .WithMessage($"Give 1 to {MostTests} tests, none twice.");
        RuleFor(student => student.Tests)
            .Must(tests => tests is null || tests.Sum(test => test?.Elements?.Count ?? 0) <= ReadinessRules.MostTogether)
            .WithMessage(ReadinessRules.TooMany);
        RuleForEach(student => student.Tests).SetValidator(new FitTestValidator()!);
        RuleFor(student => student.Coupons)
            .Must(coupons => coupons is not null && coupons.All(coupon => coupon is not null))
            .WithMessage("Give the coupons.");
        RuleForEach(student => student.Coupons).SetValidator(new CouponRequestValidator()!);
        RuleForEach(student => student.Coupons)
            .Must((student, coupon) => student.Tests is null || student.Tests.Any(test => test?.Id == coupon?.Test))
            .WithMessage("The test of this coupon is none of the student's tests.");
    }
}

public sealed class FitRequestValidator : AbstractValidator<FitRequest>
{
    private const int LeastStudents = 4;
    private const int MostStudents = 200;
    private const int MostObservations = 200_000;

    public FitRequestValidator()
    {
        RuleFor(request => request.Students)
            .Must(students => students is { Count: >= LeastStudents and <= MostStudents } && students.All(student => student is not null))
            .WithMessage($"Give {LeastStudents} to {MostStudents} students.");
        RuleFor(request => request.Students)
            .Must(students =>
                students is null || students.Sum(one => one?.Coupons?.Sum(coupon => coupon?.Elements?.Count ?? 0) ?? 0) <= MostObservations
            )
            .WithMessage($"At most {MostObservations} element observations together.");
        RuleForEach(request => request.Students).SetValidator(new FitStudentValidator()!);
    }
}

public sealed class TestPolicyValidator : AbstractValidator<TestPolicy>
{
    public TestPolicyValidator()
    {
        RuleFor(policy => policy.BarMean).InclusiveBetween(0.01, 0.99).WithMessage("A chance from 0.01 to 0.99.");
        RuleFor(policy => policy.BarLower).InclusiveBetween(0, 0.99).WithMessage("A chance from 0 to 0.99.");
        RuleFor(policy => policy.BarLower).LessThanOrEqualTo(policy => policy.BarMean).WithMessage("Not over the bar for the mean.");
        RuleFor(policy => policy.RunLength).InclusiveBetween(1, 20).WithMessage("A whole number from 1 to 20.");
        RuleFor(policy => policy.LeastFullCoupons).InclusiveBetween(0, 30).WithMessage("A whole number from 0 to 30.");
        RuleFor(policy => policy.WithinDays).InclusiveBetween(1, 365).WithMessage("Days, 1 to 365.");
        RuleFor(policy => policy.SittingCost).InclusiveBetween(0.01, 1_000_000).WithMessage("Over 0 and at most 1 000 000.");
        RuleFor(policy => policy.CouponCost).InclusiveBetween(0, 1_000_000).WithMessage("From 0 to 1 000 000.");
        RuleFor(policy => policy.CutCost).InclusiveBetween(0, 1_000_000).WithMessage("From 0 to 1 000 000.");
        RuleFor(policy => policy.CleanAfterFailed).InclusiveBetween(0, 20).WithMessage("A whole number from 0 to 20.");
        RuleFor(policy => policy.RetestWaitCost).InclusiveBetween(0, 1_000_000).WithMessage("From 0 to 1 000 000.");
    }
}
