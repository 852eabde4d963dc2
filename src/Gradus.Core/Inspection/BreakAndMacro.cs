using System.Text.Json.Serialization;

namespace Gradus.Core.Inspection;

/// <summary>The limits of a profile on the broken faces of a nick-break. Lengths in mm.</summary>
/// <param name="PorePercent">The most that all pores may cover of the exposed surface.</param>
/// <param name="SlagShareOfWall">The longest slag as a share of the wall, when that is less than <paramref name="SlagLengthMm"/>.</param>
/// <param name="SlagApartMm">The least of sound metal between two pieces of slag.</param>
/// <param name="Confidence">How sure the values from memory are, in percent.</param>
public sealed record NickBreakLimits(
    double PoreMaxMm,
    double PorePercent,
    double SlagDepthMm,
    double SlagLengthMm,
    double SlagShareOfWall,
    double SlagApartMm,
    string Source,
    bool FromMemory,
    int? Confidence = null
);

/// <summary>Slag on a broken face: depth, length, and sound metal to the next piece. Lengths in mm; null where it was not measured.</summary>
/// <param name="ApartMm">Null also for the only or the last piece.</param>
public sealed record BreakSlag(double? DepthMm, double? LengthMm, double? ApartMm);

/// <summary>A nick-break specimen as seen on both broken faces. Null where it was not looked at or measured.</summary>
public sealed record NickBreakSpecimen(
    bool? CompletePenetration,
    bool? CompleteFusion,
    double? WallMm,
    double? PorePercent,
    IReadOnlyList<double?> PoresMm,
    IReadOnlyList<BreakSlag> Slag
);

/// <summary>The limits of a profile on a broken fillet. Lengths in mm.</summary>
/// <param name="MaxMm">The largest pore or inclusion; null when only their sum counts.</param>
/// <param name="SumCountsOverMm">Those over this are summed...</param>
/// <param name="SumMaxMm">...and may come to this in the specimen; null when their sum is not limited.</param>
/// <param name="SumForLengthMm">The length of specimen that the sum is for: of a shorter one it is that share; null when the length plays no part.</param>
/// <param name="SumShareOfPipeMm">On a piece of pipe the sum may come to this share of its length instead; null when pipe is as plate.</param>
/// <param name="MaxShareOfThroat">The largest as a share of the throat, when that is less; null when the throat plays no part.</param>
/// <param name="PorePercent">The most that pores may cover of the broken face; null when that is not limited.</param>
/// <param name="FlatPasses">True when a specimen that bends flat on itself passes; false when it has to be broken.</param>
/// <param name="Confidence">How sure the values from memory are, in percent.</param>
public sealed record FilletBreakLimits(
    double? MaxMm,
    double SumCountsOverMm,
    double? SumMaxMm,
    string Source,
    bool FromMemory,
    double? SumForLengthMm = null,
    double? SumShareOfPipeMm = null,
    double? MaxShareOfThroat = null,
    double? PorePercent = null,
    bool FlatPasses = true,
    int? Confidence = null
);

/// <summary>A fillet break: bent flat on itself without breaking, or broken and looked at. Lengths in mm; null where it was not measured.</summary>
/// <param name="LengthMm">Length of weld in the specimen.</param>
/// <param name="Pipe">True for a piece of pipe.</param>
/// <param name="PorePercent">What the pores cover of the broken face.</param>
public sealed record FilletBreakSpecimen(
    bool? BentFlat,
    bool? FusionToRoot,
    bool? Crack,
    IReadOnlyList<double?> InclusionsMm,
    double? LengthMm = null,
    bool? Pipe = null,
    double? ThroatMm = null,
    double? PorePercent = null
);

/// <summary>The limits of a profile on a polished and etched section. Lengths in mm; null where the profile sets none.</summary>
/// <param name="LegsAsAsked">True when neither leg of a fillet may be under the leg asked for.</param>
/// <param name="ConvexityBy">The most that a fillet may bulge, as the least of <c>base + perWidth·b</c>, in place of the steps.</param>
/// <param name="LegDifferencePerThroat">Added to <paramref name="LegDifferenceMm"/>, for each mm of throat.</param>
/// <param name="UndercutBy">The most undercut as the least of <c>base + perThickness·T</c>, in place of <paramref name="UndercutMm"/>.</param>
/// <param name="PlugSlagMm">All slag together in a section through a plug; null when the profile does not know plugs.</param>
/// <param name="LeastSections">So many sections of a fillet are looked at.</param>
/// <param name="Confidence">How sure the values from memory are, in percent.</param>
public sealed record MacroLimits(
    IReadOnlyList<ConvexityStep> Convexity,
    double? ConcavityMm,
    double? LegDifferenceMm,
    double? UndercutMm,
    double RootIndicationMm,
    string Source,
    bool FromMemory,
    bool LegsAsAsked = true,
    IReadOnlyList<LimitTerm>? ConvexityBy = null,
    double LegDifferencePerThroat = 0,
    IReadOnlyList<LimitTerm>? UndercutBy = null,
    int LeastSections = 1,
    int? Confidence = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] double? PlugSlagMm = null
);

/// <summary>A macro section. The leg asked for and both measured are for a fillet; null for a groove, or where not measured.</summary>
/// <param name="Plug">True for a section through a plug weld.</param>
/// <param name="SlagMm">All slag in a plug together.</param>
public sealed record MacroSpecimen(
    bool Fillet,
    bool? Crack,
    bool? FusionComplete,
    double? RootIndicationMm,
    double? LegAskedMm,
    double? LegAMm,
    double? LegBMm,
    double? FaceWidthMm,
    double? ConvexityMm,
    double? ConcavityMm,
    double? UndercutMm,
    double? ThroatMm = null,
    double? ThicknessMm = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] bool Plug = false,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] double? SlagMm = null
);

/// <summary>Judges what was broken open or cut through.</summary>
public static class BreakAndMacroJudge
{
    private delegate TestReason Line(int? which, string measure, double? measured, double? limit, VerdictKind outcome, string rule);

    /// <summary>The verdict on nick-breaks.</summary>
    public static TestVerdict NickBreak(AcceptanceProfile profile, IReadOnlyList<NickBreakSpecimen> specimens) =>
        profile.NickBreak is not { } limits
            ? TestVerdict.NoLimits(profile.Name, "nick-break")
            : TestVerdict.From([.. specimens.SelectMany((one, index) => NickBreakOne(limits, one, Liner(index, limits.Source, limits.FromMemory)))]);

    /// <summary>The verdict on fillet breaks. A specimen bent flat on itself passes without a broken face.</summary>
    /// <param name="weld">A tack goes by limits of its own.</param>
    public static TestVerdict FilletBreak(AcceptanceProfile profile, IReadOnlyList<FilletBreakSpecimen> specimens, WeldKind weld = WeldKind.Fillet) =>
        (weld == WeldKind.Tack ? profile.TackBreak : profile.FilletBreak) is not { } limits
            ? TestVerdict.NoLimits(profile.Name, weld == WeldKind.Tack ? "tack break" : "fillet break")
            : TestVerdict.From([
                .. specimens.SelectMany((one, index) => FilletBreakOne(limits, one, Liner(index, limits.Source, limits.FromMemory))),
            ]);

    /// <summary>The verdict on macro sections.</summary>
    /// <param name="all">True when these are all the sections that are cut, so that there have to be enough of them.</param>
    public static TestVerdict Macro(AcceptanceProfile profile, IReadOnlyList<MacroSpecimen> specimens, bool all = false) =>
        profile.Macro is not { } limits
            ? TestVerdict.NoLimits(profile.Name, "macro")
            : TestVerdict.From([
                .. specimens.SelectMany((one, index) => MacroOne(limits, one, Liner(index, limits.Source, limits.FromMemory))),
                .. all && specimens.Count(one => one.Fillet) is > 0 and var cut && cut < limits.LeastSections
                    ? new[]
                    {
                        Liner(-1, limits.Source, limits.FromMemory)(
                            null,
                            "specimens",
                            cut,
                            limits.LeastSections,
                            VerdictKind.CannotJudge,
                            $"{limits.LeastSections} sections at least, one of them at the stop."
                        ),
                    }
                    : [],
            ]);

    private static Line Liner(int index, string source, bool fromMemory) =>
        (which, measure, measured, limit, outcome, rule) => new TestReason(index, which, measure, measured, limit, outcome, rule, source, fromMemory);

    private static IEnumerable<TestReason> NickBreakOne(NickBreakLimits limits, NickBreakSpecimen one, Line line)
    {
        yield return Must(line, "completePenetration", one.CompletePenetration, "Complete penetration on the broken faces.");
        yield return Must(line, "completeFusion", one.CompleteFusion, "Complete fusion on the broken faces.");
        for (var which = 0; which < one.PoresMm.Count; which++)
        {
            yield return AtMost(line, which, "poresMm", one.PoresMm[which], limits.PoreMaxMm, "Largest pore.");
        }

        if (one.PoresMm.Count > 0 || one.PorePercent is not null)
        {
            yield return AtMost(
                line,
                null,
                "porePercent",
                one.PorePercent,
                limits.PorePercent,
                "All pores together, as a share of the exposed surface."
            );
        }

        for (var which = 0; which < one.Slag.Count; which++)
        {
            var slag = one.Slag[which];
            yield return AtMost(line, which, "slag.depthMm", slag.DepthMm, limits.SlagDepthMm, "Depth of slag.");

            // The wall matters only for a piece that the plain limit would let pass.
            yield return one.WallMm is null && slag.LengthMm <= limits.SlagLengthMm
                ? line(which, "wallMm", null, null, VerdictKind.CannotJudge, "The limit on the length of slag depends on the wall.")
                : AtMost(
                    line,
                    which,
                    "slag.lengthMm",
                    slag.LengthMm,
                    Math.Min(limits.SlagLengthMm, limits.SlagShareOfWall * (one.WallMm ?? double.MaxValue)),
                    "Length of slag: the plain limit or half the wall, whichever is less."
                );
            if (which < one.Slag.Count - 1 || slag.ApartMm is not null)
            {
                yield return slag.ApartMm switch
                {
                    null => line(
                        which,
                        "slag.apartMm",
                        null,
                        limits.SlagApartMm,
                        VerdictKind.CannotJudge,
                        "Sound metal to the next piece of slag was not measured."
                    ),
                    { } apart => line(
                        which,
                        "slag.apartMm",
                        apart,
                        limits.SlagApartMm,
                        limits.SlagApartMm.Within(apart) ? VerdictKind.Accept : VerdictKind.Reject,
                        "Least sound metal between two pieces of slag."
                    ),
                };
            }
        }
    }

    private static IEnumerable<TestReason> FilletBreakOne(FilletBreakLimits limits, FilletBreakSpecimen one, Line line)
    {
        if (one.BentFlat == true)
        {
            yield return line(
                null,
                "bentFlat",
                null,
                null,
                limits.FlatPasses ? VerdictKind.Accept : VerdictKind.CannotJudge,
                limits.FlatPasses ? "Bent flat on itself without breaking." : "It has to be broken: notch it and break it."
            );
            yield break;
        }

        if (one.BentFlat is null)
        {
            yield return line(null, "bentFlat", null, null, VerdictKind.CannotJudge, "Say whether it bent flat or broke.");
        }

        yield return Must(line, "fusionToRoot", one.FusionToRoot, "Fusion to the root over the whole length.");
        yield return MustNot(line, "crack", one.Crack, "No crack on the broken faces.");
        for (var which = 0; which < one.InclusionsMm.Count; which++)
        {
            if (limits.MaxMm is { } most)
            {
                yield return limits.MaxShareOfThroat is not null
                && one.ThroatMm is null
                && one.InclusionsMm[which] is > 0 and var size
                && size <= most
                    ? line(which, "throatMm", null, null, VerdictKind.CannotJudge, "The limit depends on the throat.")
                    : AtMost(
                        line,
                        which,
                        "inclusionsMm",
                        one.InclusionsMm[which],
                        Math.Min(most, limits.MaxShareOfThroat * one.ThroatMm ?? most),
                        "Largest pore or inclusion."
                    );
            }
            else if (one.InclusionsMm[which] is null)
            {
                yield return line(which, "inclusionsMm", null, null, VerdictKind.CannotJudge, "The size was not measured.");
            }
        }

        if (limits.PorePercent is { } share && one.InclusionsMm.Any(size => size > 0))
        {
            yield return AtMost(line, null, "porePercent", one.PorePercent, share, "Pores together, as a share of the broken face.");
        }

        if (limits.SumMaxMm is { } sum)
        {
            var together = one.InclusionsMm.Where(size => size > limits.SumCountsOverMm).Sum() ?? 0;
            yield return limits.SumShareOfPipeMm is not null && one is { Pipe: true, LengthMm: null } && together > 0
                ? line(null, "lengthMm", null, null, VerdictKind.CannotJudge, "The limit on their sum goes by the length of the piece of pipe.")
                : AtMost(line, null, "sumMm", together, SumFor(limits, one, sum), "Sum of pores and inclusions in the specimen.");
        }
    }

    private static double SumFor(FilletBreakLimits limits, FilletBreakSpecimen one, double sum) =>
        one.Pipe == true && limits.SumShareOfPipeMm is { } ofPipe && one.LengthMm is { } piece ? ofPipe * piece
        : limits.SumForLengthMm is { } whole && one.LengthMm < whole ? sum * one.LengthMm.Value / whole
        : sum;

    private static IEnumerable<TestReason> MacroOne(MacroLimits limits, MacroSpecimen one, Line line)
    {
        yield return MustNot(line, "crack", one.Crack, "No crack in the section.");
        yield return Must(line, "fusionComplete", one.FusionComplete, "Complete fusion, to the root.");
        if (one.Plug)
        {
            yield return limits.PlugSlagMm is { } slag
                ? AtMost(line, null, "slagMm", one.SlagMm, slag, "All slag in the plug together.")
                : line(null, "slagMm", one.SlagMm, null, VerdictKind.CannotJudge, "No limits on a plug here.");
            yield break;
        }

        if (one.RootIndicationMm is { } root)
        {
            yield return AtMost(line, null, "rootIndicationMm", root, limits.RootIndicationMm, "Linear indication at the root.");
        }

        if (limits.UndercutBy is { } by)
        {
            yield return Undercut(by, one, line);
        }
        else if (limits.UndercutMm is { } undercut)
        {
            yield return AtMost(line, null, "undercutMm", one.UndercutMm, undercut, "Undercut.");
        }

        if (!one.Fillet)
        {
            yield break;
        }

        foreach (var (measure, leg) in limits.LegsAsAsked ? [("legAMm", one.LegAMm), ("legBMm", one.LegBMm)] : Array.Empty<(string, double?)>())
        {
            yield return (leg, one.LegAskedMm) switch
            {
                (null, _) => line(null, measure, null, one.LegAskedMm, VerdictKind.CannotJudge, "The leg was not measured."),
                (_, null) => line(null, "legAskedMm", null, null, VerdictKind.CannotJudge, "Say which leg was asked for."),
                ({ } size, { } asked) => line(
                    null,
                    measure,
                    size,
                    asked,
                    asked.Within(size) ? VerdictKind.Accept : VerdictKind.Reject,
                    "Leg at least as asked."
                ),
            };
        }

        if (limits.LegDifferenceMm is { } difference)
        {
            yield return LegDifference(limits, difference, one, line);
        }

        yield return Convexity(limits, one, line);
        if (limits.ConcavityMm is { } concave && one.ConcavityMm is not null)
        {
            yield return AtMost(line, null, "concavityMm", one.ConcavityMm, concave, "Concavity of the face.");
        }
    }

    private static TestReason Convexity(MacroLimits limits, MacroSpecimen one, Line line)
    {
        const string Rule = "Convexity of the face, by its width.";
        if (one.ConvexityMm is null)
        {
            return line(null, "convexityMm", null, null, VerdictKind.CannotJudge, Rule);
        }

        // Below the least limit no width could reject it, above the greatest none could save it.
        var (least, greatest) = (At(0), At(double.PositiveInfinity));
        var limit =
            one.FaceWidthMm is { } width ? At(width)
            : one.ConvexityMm <= least ? least
            : one.ConvexityMm > greatest ? greatest
            : (double?)null;
        return limit is null
            ? line(null, "faceWidthMm", null, null, VerdictKind.CannotJudge, "The limit on convexity depends on the width of the face.")
            : AtMost(line, null, "convexityMm", one.ConvexityMm, limit.Value, Rule);

        double At(double face) => Limits.At(limits.ConvexityBy is null ? limits.Convexity : null, limits.ConvexityBy, 0, face);
    }

    private static TestReason LegDifference(MacroLimits limits, double most, MacroSpecimen one, Line line)
    {
        const string Rule = "Difference of the legs.";
        if (one.LegAMm is not { } a || one.LegBMm is not { } b)
        {
            return line(null, one.LegAMm is null ? "legAMm" : "legBMm", null, null, VerdictKind.CannotJudge, Rule);
        }

        var apart = Math.Abs(a - b);
        return limits.LegDifferencePerThroat > 0 && one.ThroatMm is null && apart > most
            ? line(null, "throatMm", null, null, VerdictKind.CannotJudge, Rule)
            : AtMost(line, null, "legDifferenceMm", apart, most + (limits.LegDifferencePerThroat * (one.ThroatMm ?? 0)), Rule);
    }

    private static TestReason Undercut(IReadOnlyList<LimitTerm> by, MacroSpecimen one, Line line)
    {
        const string Rule = "Undercut, by the thickness.";
        var (least, most) = one.ThicknessMm is { } thickness
            ? (Limits.Least(by, thickness, 0), Limits.Least(by, thickness, 0))
            : (0, Limits.Least(by, double.PositiveInfinity, 0));
        return one.UndercutMm is { } deep && deep > least && deep <= most
            ? line(null, "thicknessMm", null, null, VerdictKind.CannotJudge, Rule)
            : AtMost(line, null, "undercutMm", one.UndercutMm, most, Rule);
    }

    private static TestReason Must(Line line, string measure, bool? seen, string rule) =>
        line(
            null,
            measure,
            null,
            null,
            seen switch
            {
                null => VerdictKind.CannotJudge,
                true => VerdictKind.Accept,
                false => VerdictKind.Reject,
            },
            rule
        );

    private static TestReason MustNot(Line line, string measure, bool? seen, string rule) => Must(line, measure, !seen, rule);

    private static TestReason AtMost(Line line, int? which, string measure, double? measured, double limit, string rule) =>
        line(
            which,
            measure,
            measured,
            limit,
            measured is null ? VerdictKind.CannotJudge
                : measured.Value.Within(limit) ? VerdictKind.Accept
                : VerdictKind.Reject,
            rule
        );
}
