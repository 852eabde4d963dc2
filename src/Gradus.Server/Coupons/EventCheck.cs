using Gradus.Core.Bench;
using Gradus.Core.Coaching;
using Gradus.Data;
using Gradus.Server.Hosting;

namespace Gradus.Server.Coupons;

/// <summary>Whether an event can be, on the coupon that it is for.</summary>
internal static class EventCheck
{
    private const double MostMinutes = 24 * 60;
    private const double MostHeightMm = 25;
    private static readonly string[] PlatePlaces = ["start", "middle", "end"];

    /// <summary>Why it cannot be, naming the field; null when it can.</summary>
    public static Refusal? Refusal(CouponFacts facts, EventRecord record)
    {
        var body = record.Body;
        return record.Kind switch
        {
            BenchEventKind.Voided => Needs(body.Reason is not null, "reason", $"Give one of: {Validation.Names<VoidReason>()}."),
            BenchEventKind.HoldCalled => Point(facts, body),
            BenchEventKind.HoldAnswered => Point(facts, body) ?? Needs(body.Go is not null, "go", "Say true to go on, false to mend first."),
            BenchEventKind.TimerStarted or BenchEventKind.TimerStopped => Needs(
                body.Timer is not null,
                "timer",
                $"Give one of: {Validation.Names<BenchTimer>()}."
            ) ?? Needs(body.Minutes is null or (> 0 and <= MostMinutes), "minutes", $"Over 0 and at most {MostMinutes:0} minutes, or left out."),
            BenchEventKind.Repaired => Finding(facts, body)
                ?? Needs(body.Action is not null, "action", $"Give one of: {Validation.Names<RepairAction>()}."),
            BenchEventKind.CauseChosen => Finding(facts, body)
                ?? Needs(CauseFinder.Rules.Any(rule => rule.Id == body.CauseId), "causeId", "One of the causes that the finding is shown with."),
            BenchEventKind.Measured => Measured(facts, body),
            BenchEventKind.SpecimenTested => Specimen(facts, body),
            BenchEventKind.Breach => Needs(body.Rule is not null, "rule", $"Give one of: {Validation.Names<SittingRule>()}."),
            _ => null,
        };
    }

    /// <summary>The places where face and root are measured.</summary>
    public static IReadOnlyList<string> PlacesOf(CouponFacts facts) =>
        facts.Template.Product == Product.Pipe ? facts.Template.FitUp.Points : PlatePlaces;

    private static Refusal? Needs(bool holds, string field, string accepts) => holds ? null : Hosting.Refusal.Field($"body.{field}", accepts);

    private static Refusal? Point(CouponFacts facts, BenchEventBody body) =>
        Needs(
            facts.Template.Rules.HoldPoints.Contains(body.Point ?? ""),
            "point",
            $"Give one of: {string.Join(", ", facts.Template.Rules.HoldPoints)}."
        );

    private static Refusal? Finding(CouponFacts facts, BenchEventBody body) =>
        Needs(facts.Findings.Any(finding => finding.Id == body.FindingId), "findingId", "A finding of this coupon.");

    private static Refusal? Measured(CouponFacts facts, BenchEventBody body) =>
        Needs(body.Member is null || body.Side == JointSide.Root, "member", "Only the root is looked at from the side of a member.")
        ?? Needs(body.Side is not null, "side", $"Give one of: {Validation.Names<JointSide>()}.")
        ?? Needs(PlacesOf(facts).Contains(body.At ?? ""), "at", $"Give one of: {string.Join(", ", PlacesOf(facts))}.")
        ?? Needs(
            body.HeightMm is >= -MostHeightMm and <= MostHeightMm,
            "heightMm",
            $"The height over flush in mm, from {-MostHeightMm:0} (below flush) to {MostHeightMm:0}."
        );

    private static Refusal? Specimen(CouponFacts facts, BenchEventBody body)
    {
        var specimens = facts.Template.Specimens;
        if (body.Specimen is not { } number || number < 0 || number >= specimens.Count)
        {
            return Needs(
                false,
                "specimen",
                specimens.Count == 0 ? "This test has no specimens." : $"A specimen of this test, 0 to {specimens.Count - 1}."
            );
        }

        var (field, given) = specimens[number].Kind switch
        {
            "nickBreak" => ("nickBreak", body.NickBreak is not null),
            "filletBreak" => ("filletBreak", body.FilletBreak is not null),
            "macro" => ("macro", body.Macro is not null),
            "radiograph" => ("indications", body.Indications is not null),
            _ => ("bend", body.Bend is not null),
        };
        return Needs(given, field, "What was seen on this specimen.")
            ?? Needs(Sizes(body).All(size => size is null or (>= 0 and <= 1000)), field, "Each size is from 0 to 1000 mm, or left out.");
    }

    private static IEnumerable<double?> Sizes(BenchEventBody body) =>
        [
            .. body.Bend?.Discontinuities.Select(one => one.SizeMm) ?? [],
            body.Bend?.WallMm,
            .. body.NickBreak?.PoresMm ?? [],
            body.NickBreak?.PorePercent,
            .. body.NickBreak?.Slag.SelectMany(piece => new[] { piece.DepthMm, piece.LengthMm, piece.ApartMm }) ?? [],
            .. body.FilletBreak?.InclusionsMm ?? [],
            body.Macro?.ConvexityMm,
            body.Macro?.LegAMm,
            body.Macro?.LegBMm,
            body.Macro?.UndercutMm,
            .. body.Indications?.Select(one => one.SizeMm) ?? [],
        ];
}
