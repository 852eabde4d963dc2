using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Data;
using Gradus.Server.Readiness;

namespace Gradus.Server.Students;

/// <summary>A class.</summary>
/// <param name="Students">How many come.</param>
/// <param name="TermEnds">When its term is to end; null while that is open.</param>
/// <param name="EndedAt">Since when it is over; null while it meets.</param>
public sealed record ClassView(Guid Id, string Name, IReadOnlyList<DayOfWeek> MeetsOn, int Students, DateOnly? TermEnds, DateTimeOffset? EndedAt);

/// <summary>A student of a class, as its list for safety and PINs shows them.</summary>
public sealed record ClassStudent(Guid Id, string Name, DateTimeOffset? SafetySignedAt, bool HasPin);

/// <summary>A student with their tests, their latest coupons and decisions.</summary>
public sealed record StudentView(
    Guid Id,
    string Name,
    Guid ClassGroupId,
    string ClassName,
    OperatorHand Hand,
    string? Note,
    DateTimeOffset? LeftAt,
    string TargetTestId,
    IReadOnlyList<StudentTest> Tests,
    CouponPage Coupons,
    IReadOnlyList<DecisionView> Decisions,
    DateTimeOffset? SafetySignedAt,
    DateTimeOffset? ErasedAt
);

/// <summary>How a student stands on one test.</summary>
/// <param name="Brief">The test in two words: 6G pipe.</param>
/// <param name="Whole">The chance of passing everything with a whole coupon made now.</param>
/// <param name="Bar">The chance that the school asks for.</param>
/// <param name="Says">The advice in a few words, and why in a sentence: the same as wherever else it is shown.</param>
/// <param name="Weakest">The stage with the least chance among those that enough is known of; null when none is.</param>
public sealed record StudentTest(
    string Id,
    string Title,
    string Brief,
    ChanceView Whole,
    double Bar,
    Core.Readiness.Advised Advised,
    string Says,
    string Why,
    bool TakeBack,
    IReadOnlyList<StageChance> Stages,
    Stage? Weakest,
    IReadOnlyList<FaultCount> Faults
);

public sealed record StageChance(Stage Stage, ChanceView Chance);

/// <summary>A fault that a closed coupon was rejected for, and on how many coupons.</summary>
public sealed record FaultCount(DiscontinuityKind Kind, string Name, Stage Stage, int Coupons, int OfCoupons);

/// <summary>Coupons, latest first; <c>next</c> is what to pass as <c>before</c> for older ones, null at the end.</summary>
public sealed record CouponPage(IReadOnlyList<CouponRow> Rows, DateTimeOffset? Next);

public sealed record CouponRow(
    Guid Id,
    string Stamp,
    string TestId,
    string? DrillId,
    bool AsTest,
    DateTimeOffset StartedAt,
    DateTimeOffset? ClosedAt,
    DateTimeOffset? VoidedAt,
    VerdictKind? Verdict,
    IReadOnlyList<string> RejectedFor
);

/// <summary>A decision as it was signed, with the chance of that moment.</summary>
public sealed record DecisionView(
    Guid Id,
    string TestId,
    DecisionKind Kind,
    string Reason,
    ChanceView Whole,
    IReadOnlyDictionary<string, ChanceView> Stages,
    string MethodVersion,
    DateTimeOffset SignedAt,
    string SignedBy,
    Core.Readiness.Advised? Advised,
    string? AdviceSaid,
    WithdrawnView? Withdrawn,
    SinceThen Since
);

/// <summary>When a decision was taken back, by whom and why.</summary>
public sealed record WithdrawnView(DateTimeOffset At, string By, string Reason);

/// <summary>What came after a decision: full coupons on the same test, how many of them were clean, and the first sitting.</summary>
public sealed record SinceThen(int Coupons, int Clean, SatView? Sat);

/// <summary>A sitting that came out.</summary>
public sealed record SatView(string TestId, DateOnly Day, bool Passed);

/// <summary>A student who has left.</summary>
public sealed record FormerStudent(Guid Id, string Name, string ClassName, DateTimeOffset LeftAt);

/// <summary>What has worked for a student on a test, each with its counts.</summary>
public sealed record WhatWorked(string TestId, IReadOnlyList<VariantComparison> Variants, IReadOnlyList<PassCard> Cards);
