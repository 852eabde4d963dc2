namespace Gradus.Core.Inspection;

/// <summary>Judges a radiograph.</summary>
public static class RadiographJudge
{
    private static readonly IndicationKind[] SlagInLine = [IndicationKind.ElongatedSlag, IndicationKind.IsolatedSlag];

    /// <summary>
    /// The verdict on all indications of a weld. A kind without a rule leaves it open, and so does a measure, a place or a length of weld that a
    /// limit hangs on and that is not known.
    /// </summary>
    public static TestVerdict Judge(AcceptanceProfile profile, FilmedWeld weld, IReadOnlyList<Indication> indications) =>
        profile.Radiograph is not { } limits
            ? TestVerdict.NoLimits(profile.Name, "radiograph")
            : TestVerdict.From([.. new Film(limits, weld, indications).Judge()]);

    private sealed class Film(RadiographLimits limits, FilmedWeld weld, IReadOnlyList<Indication> all)
    {
        private readonly List<(Indication One, int Index)> seen =
        [
            .. all.Select((one, index) => (one, index)).Where(pair => LiesIn(limits, weld, pair.one)),
        ];

        public IEnumerable<TestReason> Judge()
        {
            if (weld.Process is { } process && limits.NotFor?.Contains(process, StringComparer.Ordinal) == true)
            {
                yield return Reason(-1, "process", null, null, VerdictKind.CannotJudge, $"The code takes no film for {process}: bend it.");
            }

            if (weld.Process is { } other && limits.NotAlone?.Contains(other, StringComparer.Ordinal) == true)
            {
                yield return Reason(-1, "process", null, null, VerdictKind.Accept, $"Film alone does not do for {other}: bends or breaks as well.");
            }

            if (limits.LeastWeldMm is { } least && weld is { Product: Product.Plate, LengthMm: { } length } && length < least)
            {
                yield return Reason(-1, "weldLengthMm", length, least, VerdictKind.CannotJudge, "The code takes film of a longer weld only.");
            }

            foreach (var reason in seen.SelectMany(OfItself).Concat(InLine()).Concat((limits.Rules ?? []).SelectMany(Apply)))
            {
                yield return reason;
            }
        }

        private static bool LiesIn(RadiographLimits limits, FilmedWeld weld, Indication one) =>
            limits.LeavesOutMm == 0
            || weld.Product != Product.Plate
            || !(one.AtMm + (one.SizeMm ?? double.MaxValue) <= limits.LeavesOutMm || one.AtMm >= weld.LengthMm - limits.LeavesOutMm);

        private TestReason Reason(int index, string measure, double? measured, double? limit, VerdictKind outcome, string rule) =>
            new(index, null, measure, measured, limit, outcome, rule, limits.Source, limits.FromMemory);

        /// <summary>The limits on slag and rounded indications that go by thickness, and kinds that nothing limits.</summary>
        private IEnumerable<TestReason> OfItself((Indication One, int Index) pair)
        {
            TestReason Sized(double limit, string rule) =>
                Reason(pair.Index, "sizeMm", pair.One.SizeMm, limit, Against(pair.One.SizeMm, limit), rule);
            var named = (limits.Rules ?? []).Where(rule => rule.Kinds.Contains(pair.One.Kind)).ToList();
            switch (pair.One.Kind)
            {
                case IndicationKind.ElongatedSlag or IndicationKind.IsolatedSlag when limits.Elongated.Count > 0:
                    yield return Sized(LongestSlag(), "Length of slag.");
                    break;
                case IndicationKind.Rounded when limits.RoundedMaxMm > 0:
                    yield return Sized(Math.Min(limits.RoundedShare * weld.ThicknessMm, limits.RoundedMaxMm), "Size of a rounded indication.");
                    break;
                case IndicationKind.Crack or IndicationKind.IncompleteFusion or IndicationKind.IncompletePenetration when named.Count == 0:
                    yield return Reason(pair.Index, "count", 1, 0, VerdictKind.Reject, "No crack, incomplete fusion or incomplete penetration.");
                    break;
                default:
                    if (named.Count == 0)
                    {
                        yield return Reason(
                            pair.Index,
                            "kind",
                            null,
                            null,
                            VerdictKind.CannotJudge,
                            "No rule here for this on a film: the governing edition or a qualified inspector decides."
                        );
                    }

                    break;
            }
        }

        private double LongestSlag()
        {
            var step = limits.Elongated.First(step => step.ToMm is null || weld.ThicknessMm <= step.ToMm);
            return step.Base + (step.PerThickness * weld.ThicknessMm);
        }

        /// <summary>Slag in line: from each indication on, those that follow without a gap of over so many of the longest, within the window.</summary>
        private IEnumerable<TestReason> InLine()
        {
            const string Rule = "Sum of slag in line.";
            var slag = seen.Where(pair => SlagInLine.Contains(pair.One.Kind) && pair.One.SizeMm is not null).ToList();
            if (slag.Count < 2 || limits.GroupSumThicknesses <= 0)
            {
                yield break;
            }

            var most = limits.GroupSumThicknesses * weld.ThicknessMm;
            if (slag.FirstOrDefault(pair => pair.One.AtMm is null) is { One: not null } unplaced)
            {
                // Wherever it lies, all of it together cannot be too much.
                var whole = slag.Sum(pair => pair.One.SizeMm!.Value);
                yield return whole.Within(most)
                    ? Reason(unplaced.Index, "sumMm", whole, most, VerdictKind.Accept, Rule)
                    : Reason(unplaced.Index, "atMm", null, most, VerdictKind.CannotJudge, Rule);
                yield break;
            }

            var line = slag.OrderBy(pair => pair.One.AtMm).ToList();
            var worst = (Sum: 0.0, Index: line[0].Index);
            for (var from = 0; from < line.Count; from++)
            {
                var (sum, longest, end) = (0.0, 0.0, double.NaN);
                for (var to = from; to < line.Count; to++)
                {
                    var (at, size) = (line[to].One.AtMm!.Value, line[to].One.SizeMm!.Value);
                    longest = Math.Max(longest, size);
                    if (
                        at + size - line[from].One.AtMm!.Value > limits.GroupWindowThicknesses * weld.ThicknessMm
                        || at - end > limits.GroupGapLengths * longest
                    )
                    {
                        break;
                    }

                    (sum, end) = (sum + size, at + size);
                    worst = sum > worst.Sum ? (sum, line[from].Index) : worst;
                }
            }

            yield return Reason(worst.Index, "sumMm", worst.Sum, most, worst.Sum.Within(most) ? VerdictKind.Accept : VerdictKind.Reject, Rule);
        }

        private IEnumerable<TestReason> Apply(FilmRule rule)
        {
            var scope = rule.When ?? new FilmScope();
            var (holds, unknown) = Holds(scope);
            var ones = seen.Where(pair => rule.Kinds.Contains(pair.One.Kind)).ToList();
            if (!holds || ones.Count == 0)
            {
                return [];
            }

            // An indication whose size nobody measured may be any that the rule asks for; its own rules leave it open.
            var own = ones.Where(pair => MayBe(scope, pair.One)).ToList();
            if (own.Count == 0)
            {
                return [];
            }

            var judged = rule.Measure switch
            {
                FilmMeasure.Size => own.Select(pair => Single(rule, pair, pair.One.SizeMm, "sizeMm")),
                FilmMeasure.Width => own.Select(pair => Single(rule, pair, pair.One.WidthMm, "widthMm")),
                FilmMeasure.Clear => Clear(rule, own),
                _ => Together(rule, own),
            };
            if (rule.Says != RuleVerdict.Limit)
            {
                judged = own.Select(pair =>
                    Reason(
                        pair.Index,
                        "kind",
                        null,
                        null,
                        rule.Says is RuleVerdict.NoLimit or RuleVerdict.Warn ? VerdictKind.Accept : VerdictKind.CannotJudge,
                        rule.Rule
                    )
                );
            }

            // A limit that would reject, under a condition that is not known, leaves it open.
            var untold = unknown ?? UnknownOf(scope, own);
            return judged.Select(reason =>
                reason.Outcome != VerdictKind.Accept && untold is { } missing
                    ? reason with
                    {
                        Measure = missing,
                        Measured = null,
                        Outcome = VerdictKind.CannotJudge,
                    }
                    : reason
            );
        }

        /// <summary>Whether a rule holds for the weld, and what of the weld would tell when that is not known.</summary>
        private (bool Holds, string? Unknown) Holds(FilmScope scope)
        {
            var diameter = weld.Product == Product.Plate ? double.PositiveInfinity : weld.OutsideDiameterMm;
            var byDiameter = scope.OutsideFromMm is not null || scope.OutsideBelowMm is not null;
            var known =
                !(diameter < scope.OutsideFromMm)
                && !(diameter >= scope.OutsideBelowMm)
                && !(weld.WeldMm >= scope.WeldBelowMm)
                && !(weld.ThicknessMm >= scope.ThicknessBelowMm)
                && !(weld.ThicknessMm < scope.ThicknessFromMm);
            return (
                known,
                byDiameter && diameter is null ? "outsideDiameterMm"
                : scope.WeldBelowMm is not null && weld.WeldMm is null ? "weldLengthMm"
                : null
            );
        }

        private static bool MayBe(FilmScope scope, Indication one) =>
            !(one.SizeMm < scope.SizeFromMm)
            && !(one.SizeMm >= scope.SizeBelowMm)
            && (scope.Dense is null || (one.DenserThanBase ?? scope.Dense) == scope.Dense);

        private string? UnknownOf(FilmScope scope, List<(Indication One, int Index)> own) =>
            scope.Dense is not null && own.Exists(pair => pair.One.DenserThanBase is null) ? "denserThanBase"
            : scope.AnyWiderThan is { } wide && Least(wide) is { } width && !own.Exists(pair => pair.One.WidthMm > width) ? "widthMm"
            : null;

        private double? Limit(FilmRule rule) => Least(rule.Limit);

        private double? Least(IReadOnlyList<FilmTerm> terms) =>
            terms.Any(term => term.PerLength > 0) && weld.WeldMm is null
                ? null
                : terms.Min(term => term.Base + (term.PerThickness * weld.ThicknessMm) + (term.PerLength * (weld.WeldMm ?? 0)));

        private TestReason Single(FilmRule rule, (Indication One, int Index) pair, double? measured, string measure)
        {
            var limit = Limit(rule);
            return limit is null
                ? Reason(pair.Index, "weldLengthMm", null, null, VerdictKind.CannotJudge, rule.Rule)
                : Reason(pair.Index, measure, measured, limit, limit == 0 ? VerdictKind.Reject : Against(measured, limit.Value), rule.Rule);
        }

        private IEnumerable<TestReason> Together(FilmRule rule, List<(Indication One, int Index)> own)
        {
            var counts = rule.Measure == FilmMeasure.Count;
            var measure = counts ? "count" : "sumMm";
            if (rule.When?.AnyWiderThan is { } wide)
            {
                var width = Least(wide);
                if (own.TrueForAll(pair => pair.One.WidthMm <= width))
                {
                    yield break;
                }
            }

            if (Limit(rule) is not { } limit)
            {
                yield return Reason(own[0].Index, "weldLengthMm", null, null, VerdictKind.CannotJudge, rule.Rule);
                yield break;
            }

            var window = rule.WindowMm is { } wanted && weld.WeldMm < wanted && counts ? weld.WeldMm : rule.WindowMm;
            if (counts && rule.WindowMm is { } full && weld.WeldMm < full)
            {
                limit *= weld.WeldMm.Value / full;
            }

            // A count is so many of one point each.
            var stretches = own.Select(pair => new SummedLength(pair.Index, pair.One.AtMm, counts ? 1e-6 : pair.One.SizeMm)).ToList();
            var unit = counts ? 1e-6 : 1;
            var worst = Lengths.Worst(stretches, window, weld.WeldMm, weld.Product == Product.Pipe || weld.OutsideDiameterMm is not null);
            var (known, most) = counts ? (Math.Round(worst.Known / unit), Math.Round(worst.All / unit)) : (worst.Known, worst.All);
            var missing = stretches.Find(one => one.LengthMm is null);
            if (!known.Within(limit))
            {
                yield return !rule.ByChart ? Reason(worst.Index, measure, known, limit, VerdictKind.Reject, rule.Rule)
                : weld.InsideChart is { } inside
                    ? Reason(worst.Index, measure, known, limit, inside ? VerdictKind.Accept : VerdictKind.Reject, rule.Rule)
                : Reason(worst.Index, "insideChart", null, null, VerdictKind.CannotJudge, rule.Rule);
            }
            else if (missing is not null)
            {
                yield return Reason(missing.Index, "sizeMm", null, limit, VerdictKind.CannotJudge, rule.Rule);
            }
            else if (!most.Within(limit))
            {
                yield return Reason(stretches.First(one => one.AtMm is null).Index, "atMm", null, limit, VerdictKind.CannotJudge, rule.Rule);
            }
            else
            {
                yield return Reason(worst.Index, measure, most, limit, VerdictKind.Accept, rule.Rule);
            }
        }

        /// <summary>The clear distance between neighbours.</summary>
        private IEnumerable<TestReason> Clear(FilmRule rule, List<(Indication One, int Index)> own)
        {
            if (own.Count < 2)
            {
                yield break;
            }

            if (own.FirstOrDefault(pair => pair.One.AtMm is null || pair.One.SizeMm is null) is { One: not null } open)
            {
                yield return Reason(open.Index, open.One.SizeMm is null ? "sizeMm" : "atMm", null, null, VerdictKind.CannotJudge, rule.Rule);
                yield break;
            }

            var line = own.OrderBy(pair => pair.One.AtMm).ToList();
            foreach (var (one, next) in line.Zip(line.Skip(1)))
            {
                var gap = next.One.AtMm!.Value - one.One.AtMm!.Value - one.One.SizeMm!.Value;
                var wanted = rule.Limit[0].Base + (rule.TimesLarger * Math.Max(one.One.SizeMm.Value, next.One.SizeMm!.Value));
                yield return Reason(next.Index, "apartMm", gap, wanted, wanted.Within(gap) ? VerdictKind.Accept : VerdictKind.Reject, rule.Rule);
            }
        }

        private static VerdictKind Against(double? measured, double limit) =>
            measured is null ? VerdictKind.CannotJudge
            : measured.Value.Within(limit) ? VerdictKind.Accept
            : VerdictKind.Reject;
    }
}
