using FluentValidation;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Hosting;

namespace Gradus.Server.Readiness;

/// <summary>One coupon of a history. <c>day</c> counts from any day; <c>clean</c> goes with <c>elements</c>, one for one.</summary>
/// <param name="Truth">The true chance of a simulated student; not looked at.</param>
public sealed record CouponRequest(
    double? Day,
    string? Kind,
    bool? Aided,
    IReadOnlyList<string?>? Elements,
    IReadOnlyList<bool>? Clean,
    int? N = null,
    double? Truth = null
)
{
    /// <summary>The coupon as the core takes it; only once it was validated.</summary>
    public CouponEvidence ToEvidence() =>
        new(
            Day!.Value,
            Kind == "full",
            Aided ?? false,
            Elements!.Zip(Clean!).ToDictionary(one => one.First!, one => one.Second, StringComparer.Ordinal)
        );
}

/// <summary>A history to be judged on a day.</summary>
/// <param name="Constants">Constants from a fit; the shipped ones when left out.</param>
public sealed record EvaluateRequest(
    IReadOnlyList<string?>? Elements,
    IReadOnlyList<CouponRequest?>? Coupons,
    double? Today,
    ReadinessConstants? Constants = null
);

/// <summary>The chance of a clean full coupon with its 90 % interval, that of each element, and what it was right after each coupon.</summary>
public sealed record EvaluateAnswer(double Mean, double Lower, double Upper, IReadOnlyList<ElementChance> Elements, IReadOnlyList<BandView> Trace);

/// <summary>The histories of a school's students, in the form of a cohort.</summary>
public sealed record FitRequest(IReadOnlyList<FitStudent?>? Students);

public sealed record FitStudent(IReadOnlyList<string?>? Elements, IReadOnlyList<CouponRequest?>? Coupons, string? Student = null);

/// <summary>The constants to go on with. Scores are mean log scores of a coupon one step ahead, on students that were held out.</summary>
public sealed record FitAnswer(ReadinessConstants Constants, double ScoreBefore, double ScoreAfter, bool Adopted);

public sealed class CouponRequestValidator : AbstractValidator<CouponRequest>
{
    private const int MostElements = 60;
    private const double MostDays = 100_000;

    public CouponRequestValidator()
    {
        RuleFor(coupon => coupon.Day).Needs(-MostDays, MostDays, "The day as a number");
        RuleFor(coupon => coupon.Kind).NeedsOneOf(["full", "drill"]);
        RuleFor(coupon => coupon.Elements)
            .Must(elements =>
                elements is { Count: > 0 and <= MostElements }
                && elements.All(IsName)
                && elements.Distinct(StringComparer.Ordinal).Count() == elements.Count
            )
            .WithMessage($"Give 1 to {MostElements} element names, none twice.");
        RuleFor(coupon => coupon.Clean)
            .Must((coupon, clean) => clean is not null && clean.Count == (coupon.Elements?.Count ?? 0))
            .WithMessage("Give true or false for each element, in the same order.");
    }

    internal static bool IsName(string? name) => name is { Length: > 0 and <= 60 };
}

public sealed class EvaluateRequestValidator : AbstractValidator<EvaluateRequest>
{
    private const int MostElements = 60;
    private const int MostCoupons = 6000;

    public EvaluateRequestValidator()
    {
        RuleFor(request => request.Elements)
            .Must(elements =>
                elements is { Count: > 0 and <= MostElements }
                && elements.All(CouponRequestValidator.IsName)
                && elements.Distinct(StringComparer.Ordinal).Count() == elements.Count
            )
            .WithMessage($"Give 1 to {MostElements} element names, none twice.");
        RuleFor(request => request.Coupons)
            .Must(coupons => coupons is { Count: <= MostCoupons } && coupons.All(coupon => coupon is not null))
            .WithMessage($"Give the coupons, at most {MostCoupons}; an empty list when there is none.");
        RuleForEach(request => request.Coupons).SetValidator(new CouponRequestValidator()!);
        RuleForEach(request => request.Coupons)
            .Must((request, coupon) => coupon?.Elements is null || request.Elements is null || coupon.Elements.All(request.Elements.Contains))
            .WithMessage("An element of this coupon is not an element of the test.");
        RuleFor(request => request.Today).Needs(-100_000, 200_000, "The day to judge as a number");
        RuleFor(request => request.Constants)
            .Must(constants => constants is null || ReadinessConstants.Problem(constants) is null)
            .WithMessage(request => ReadinessConstants.Problem(request.Constants!) ?? "");
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
        RuleForEach(request => request.Students)
            .ChildRules(student =>
            {
                student
                    .RuleFor(one => one!.Elements)
                    .Must(elements =>
                        elements is { Count: > 0 and <= 60 }
                        && elements.All(CouponRequestValidator.IsName)
                        && elements.Distinct(StringComparer.Ordinal).Count() == elements.Count
                    )
                    .WithMessage("Give 1 to 60 element names, none twice.");
                student
                    .RuleFor(one => one!.Coupons)
                    .Must(coupons => coupons is not null && coupons.All(coupon => coupon is not null))
                    .WithMessage("Give the coupons.");
                student.RuleForEach(one => one!.Coupons).SetValidator(new CouponRequestValidator()!);
            });
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
    }
}
