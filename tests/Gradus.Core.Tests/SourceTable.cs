using System.Globalization;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Qualification;
using Gradus.Core.Safety;
using Gradus.Core.Traces;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests;

/// <summary>A value or table that the core uses, with where it comes from.</summary>
/// <param name="Where">The part of the trade.</param>
public sealed record SourcedValue(string Where, string What, string Value, string Source, bool FromMemory);

/// <summary>Every value of the core with its source: read from the same data that the rules read.</summary>
public static class Sources
{
    /// <summary>All of them, by part.</summary>
    public static IReadOnlyList<SourcedValue> All() => [.. Values().DistinctBy(value => (value.Where, value.What, value.Value, value.Source))];

    private static IEnumerable<SourcedValue> Values()
    {
        foreach (var number in TradeNumbers.All)
        {
            yield return new("Numbers", number.Meaning, $"{Text(number.Value)} {number.Unit}".Trim(), number.Source, number.FromMemory);
        }

        foreach (var formula in Formulas.All)
        {
            yield return new("Formulas", formula.Title, formula.Text, formula.Source, formula.FromMemory);
        }

        foreach (var one in TraceThresholds.Standing.Thresholds)
        {
            yield return new("Traces", one.Meaning, $"{Text(one.Value)} {one.Unit}".Trim(), one.Source, false);
        }

        foreach (var cup in CupFlow.All)
        {
            yield return new(
                "Gas",
                $"Flow by cup {cup.FromCup} to {cup.ToCup}",
                $"{Text(cup.MinLPerMin)} to {Text(cup.MaxLPerMin)} L/min",
                cup.Source,
                false
            );
        }

        yield return new(
            "Pipe",
            "Outside diameters and walls",
            $"NPS {PipeSizes.NominalSizes[0]} to {PipeSizes.NominalSizes[^1]}",
            PipeSizes.Source,
            PipeSizes.FromMemory
        );
        foreach (var group in Preheat.Categories)
        {
            yield return new(
                "Preheat",
                group.Name,
                string.Join("; ", group.Rows.Select(row => $"{(row.UpToMm is { } most ? $"to {Text(most)} mm" : "over")} {Text(row.LeastC)} °C")),
                $"{group.Source}; {group.Confidence} %",
                true
            );
        }

        foreach (var row in BendJig.Plungers)
        {
            yield return new(
                "Plunger",
                $"{row.Code}: {row.Name}",
                row.DiameterMm is { } diameter ? $"{Text(diameter)} mm"
                    : row.TimesThickness is { } times ? $"{Text(times)} t"
                    : "100 t/A − t",
                $"{row.Source}; {row.Confidence} %",
                true
            );
        }

        yield return new(
            "Discontinuities",
            "Names, numbers, stages and measures",
            $"{Discontinuities.All.Count} kinds",
            Discontinuities.Source,
            true
        );
        foreach (var value in AcceptanceProfiles.Shipped.Values.SelectMany(OfProfile))
        {
            yield return value;
        }

        foreach (var (code, rules) in CoveringRules.ByCode)
        {
            foreach (var value in OfCode(code, rules))
            {
                yield return value;
            }
        }

        foreach (var tolerance in TestLibrary.Shipped.Values.SelectMany(test => test.FitUp.Tolerances))
        {
            yield return new(
                "Fit-up",
                Words(tolerance.Measure.ToString()),
                $"{Text(tolerance.Min)} to {Text(tolerance.Max)}",
                tolerance.Source,
                tolerance.FromMemory
            );
        }

        foreach (var test in TestLibrary.Shipped.Values)
        {
            yield return new("Library", test.Id, test.Title, test.Source, test.FromMemory);
            if (test.Temperatures is { } heat)
            {
                yield return new(
                    "Library",
                    $"{test.Id}: temperatures",
                    $"preheat {heat.PreheatMinC} °C, interpass {heat.InterpassMaxC} °C",
                    heat.Source,
                    heat.FromMemory
                );
            }
        }

        foreach (var shade in Cautions.Shades)
        {
            yield return new(
                "Safety",
                $"Lens, {string.Join(", ", shade.Processes)} {Text(shade.AmpsFrom)} to {Text(shade.AmpsBelow ?? 0)} A",
                $"least {shade.Least}{(shade.Suggested is { } start ? $", suggested {start}" : "")}",
                shade.Source,
                shade.FromMemory
            );
        }

        foreach (var rule in Cautions.All)
        {
            yield return new("Safety", rule.Id, rule.Text, rule.Source, rule.FromMemory);
        }

        foreach (var rule in CauseFinder.Rules)
        {
            yield return new("Causes", rule.Cause, rule.Cure, rule.Source, false);
        }
    }

    private static IEnumerable<SourcedValue> OfProfile(AcceptanceProfile profile)
    {
        SourcedValue Of(string where, string value, string source, int? confidence) =>
            new(where, profile.Name, value, confidence is { } sure ? Sure(source, sure) : source, true);
        foreach (var rule in profile.Visual)
        {
            yield return Of("Visual limits", $"{Kinds(rule.Kinds)}: {rule.Rule}", rule.Source, rule.Confidence);
        }

        if (profile.Fillet is { } shape)
        {
            yield return Of("Fillet limits", shape.NoLimit ?? Shape(shape), shape.Source, shape.Confidence);
        }

        if (profile.Bend is { } bend)
        {
            yield return Of("Bend limits", Bends(bend), bend.Source, bend.Confidence);
        }

        if (profile.Radiograph is { } film)
        {
            if (film.RoundedMaxMm > 0)
            {
                var slag = string.Join(", ", film.Elongated.Select(step => $"{Text(step.Base)} mm + {Text(step.PerThickness)} t"));
                var text = $"slag {slag}; rounded {Text(film.RoundedShare)} t, {Text(film.RoundedMaxMm)} mm at most";
                yield return Of("Radiograph limits", text, film.Source, film.Confidence);
            }

            if (film.NotFor is { } barred)
            {
                yield return Of("Radiograph limits", $"no film of {string.Join(", ", barred)}", film.Source, film.Confidence);
            }

            foreach (var rule in film.Rules ?? [])
            {
                yield return Of("Radiograph limits", $"{Kinds(rule.Kinds)}: {rule.Rule}", film.Source, rule.Confidence);
            }
        }

        if (profile.NickBreak is { } nick)
        {
            var text =
                $"pore {Text(nick.PoreMaxMm)} mm, {Text(nick.PorePercent)} % of the surface; slag {Text(nick.SlagDepthMm)} mm deep, "
                + $"{Text(nick.SlagLengthMm)} mm or {Text(nick.SlagShareOfWall)} of the wall long, {Text(nick.SlagApartMm)} mm apart";
            yield return Of("Nick-break limits", text, nick.Source, nick.Confidence);
        }

        if (profile.FilletBreak is { } fillet)
        {
            var text = string.Join(
                "; ",
                new[]
                {
                    fillet.MaxMm is { } one ? $"one {Text(one)} mm" : null,
                    fillet.MaxShareOfThroat is { } throat ? $"{Text(throat)} of the throat" : null,
                    fillet.SumMaxMm is { } sum ? $"sum {Text(sum)} mm" : null,
                    fillet.SumShareOfPipeMm is { } pipe ? $"of pipe {Text(pipe)} of the piece" : null,
                    fillet.PorePercent is { } pores ? $"pores {Text(pores)} % of the face" : null,
                }.OfType<string>()
            );
            yield return Of("Fillet break limits", text, fillet.Source, fillet.Confidence);
        }

        if (profile.Macro is { } macro)
        {
            var convexity = macro.ConvexityBy is { } by ? Terms(by) : string.Join(", ", macro.Convexity.Select(step => $"{Text(step.MaxMm)} mm"));
            var text =
                $"convexity {convexity}; root line {Text(macro.RootIndicationMm)} mm; legs {(macro.LegsAsAsked ? "as asked" : "not asked for")}";
            yield return Of("Macro limits", text, macro.Source, macro.Confidence);
        }
    }

    private static string Kinds<T>(IReadOnlyList<T> kinds) => string.Join(", ", kinds.Select(kind => Words(kind!.ToString()!)));

    private static string Terms(IEnumerable<LimitTerm> terms) =>
        string.Join(" or ", terms.Select(term => term.PerWidth > 0 ? $"{Text(term.Base)} mm + {Text(term.PerWidth)} b" : $"{Text(term.Base)} mm"));

    private static string Shape(FilletLimits shape) =>
        string.Join(
            "; ",
            new[]
            {
                shape.LegsAsAsked ? "legs as asked" : null,
                shape.ThroatAsAsked ? "throat as asked" : null,
                shape.LegDifference is { } uneven ? $"legs apart {Text(uneven.Base)} mm + {Text(uneven.PerWidth)} a" : null,
                shape.ThroatOver is { } over ? $"throat over by {Terms(over)}" : null,
                shape.Convexity is { } steps ? $"convexity {string.Join(", ", steps.Select(step => $"{Text(step.MaxMm)} mm"))}" : null,
                shape.ConvexityBy is { } by ? $"convexity {Terms(by)}" : null,
            }.OfType<string>()
        );

    private static string Bends(BendLimits bend) =>
        string.Join(
            "; ",
            new[]
            {
                $"one {(bend.MaxBelow ? "under" : "up to")} {Text(bend.MaxMm)} mm",
                bend.MaxShareOfWall is { } share ? $"{Text(share)} of the wall" : null,
                bend.SumMaxMm is { } sum
                    ? $"sum of those {(bend.SumCountsFrom ? "from" : "over")} {Text(bend.SumCountsOverMm ?? 0)} mm: {Text(sum)} mm"
                    : null,
                bend.CornerMaxMm is { } corner
                    ? $"corner {(bend.CornerBelow ? "under" : "up to")} {Text(corner)} mm{(bend.CornerVoids ? ", else void" : "")}"
                    : "corners not counted",
                $"corner with a fault {Text(bend.CornerFaultMaxMm)} mm",
            }.OfType<string>()
        );

    private static IEnumerable<SourcedValue> OfCode(string code, CoveringRules rules)
    {
        var table = Positions.Of(rules.Positions)!;
        yield return new("Qualification", $"{code}: positions", $"{table.Rules.Count} rows", table.Source, table.FromMemory);
        foreach (var row in rules.Thickness)
        {
            yield return new("Qualification", $"{code}: thickness{Narrowed(row)}", Range(row), Sure(row.Source, row.Confidence), true);
        }

        foreach (var row in rules.Diameter)
        {
            yield return new("Qualification", $"{code}: outside diameter{Narrowed(row)}", Range(row), Sure(row.Source, row.Confidence), true);
        }

        foreach (var reach in rules.PlatesPipe)
        {
            var how = $"from {Text(reach.FromMm)} mm{(reach.Rotated ? ", rotated" : "")}{(reach.NeedsBacking ? ", with backing" : "")}";
            yield return new("Qualification", $"{code}: pipe by a plate test", how, Sure(reach.Source, reach.Confidence), true);
        }

        foreach (var (tested, covers) in rules.Backing)
        {
            var what = $"{code}: backing, tested {Words(tested.ToString())}";
            yield return new(
                "Qualification",
                what,
                string.Join(", ", covers.Select(one => Words(one.ToString()))),
                Sure(rules.BackingSource, rules.BackingConfidence),
                true
            );
        }

        yield return new("Qualification", $"{code}: F-numbers", Fillers(rules), Sure(rules.FillerSource, rules.FillerConfidence), true);
        if (rules.Groups is { } groups)
        {
            var text = string.Join("; ", groups.Select(one => $"{one.Key}: {string.Join(' ', one.Value)}"));
            yield return new("Qualification", $"{code}: filler groups", text, Sure(rules.GroupSource!, rules.GroupConfidence), true);
        }

        yield return new("Qualification", $"{code}: processes", Processes(rules), Sure(rules.ProcessSource, rules.ProcessConfidence), true);
        yield return new("Qualification", $"{code}: base metal", Metals(rules), Sure(rules.MetalSource, rules.MetalConfidence), true);
        yield return new(
            "Qualification",
            $"{code}: film",
            $"not {string.Join(", ", rules.NoFilm.DefaultIfEmpty("for fillets"))}",
            Sure(rules.FilmSource, rules.FilmConfidence),
            true
        );
        yield return new("Qualification", $"{code}: lapses", $"{rules.LapseMonths} months", Sure(rules.LapseSource, rules.LapseConfidence), true);
        if (Ranges.ByCode.TryGetValue(code, out var keeping))
        {
            yield return new(
                "Qualification",
                $"{code}: continuity",
                keeping.Continuity.Rule,
                Sure(keeping.Continuity.Source, keeping.Continuity.Confidence),
                keeping.Continuity.FromMemory
            );
            foreach (var route in keeping.Continuity.Renewals)
            {
                yield return new(
                    "Qualification",
                    $"{code}: renewal, {route.Id}",
                    route.Rule,
                    Sure(keeping.Continuity.Source, keeping.Continuity.Confidence),
                    true
                );
            }

            yield return new("Qualification", $"{code}: retest", keeping.Retest.Rule, Sure(keeping.Retest.Source, keeping.Retest.Confidence), true);
        }
    }

    private static string Sure(string source, int confidence) => $"{source}; {confidence} %";

    private static string Narrowed(CoverRow row) =>
        string.Concat(
            row.Weld is { } weld ? $", {Words(weld.ToString())}" : "",
            row.Product is { } product ? $", {Words(product.ToString())}" : "",
            row.Position is { } position ? $", {position}" : "",
            row.Process is { } process ? $", {process}" : "",
            row.ThicknessFromMm is { } from ? $", from {Text(from)} mm" : "",
            row.ThicknessToMm is { } until ? $", to {Text(until)} mm" : "",
            row.ThicknessBelowMm is { } below ? $", under {Text(below)} mm" : "",
            row.DiameterFromMm is { } over ? $", OD from {Text(over)} mm" : "",
            row.DiameterToMm is { } to ? $", OD to {Text(to)} mm" : "",
            row.DiameterBelowMm is { } under ? $", OD under {Text(under)} mm" : "",
            row.LeastLayers is { } layers ? $", {layers} layers or more" : ""
        );

    private static string Range(CoverRow row) => $"{End(row.Min)} to {(row.Max is null ? "unlimited" : End(row.Max))}";

    private static string End(CoverEnd end) =>
        end.Per == 0 ? $"{Text(Math.Max(end.Base, end.AtLeast))} mm"
        : end.AtLeast > 0 ? $"{Text(end.Per)} x, at least {Text(end.AtLeast)} mm"
        : end.AtMost is { } most ? $"{Text(end.Per)} x, at most {Text(most)} mm"
        : $"{Text(end.Per)} x what was tested";

    private static string Fillers(CoveringRules rules)
    {
        var tables = rules.Fillers.SelectMany(table => table.Value.Select(one => $"F{one.Key}: {string.Join(' ', one.Value)}"));
        var sets = (rules.FillerSets ?? []).Select(set => $"any of {string.Join(' ', set)}");
        return string.Join("; ", tables.Concat(sets).DefaultIfEmpty("no variable"));
    }

    private static string Processes(CoveringRules rules) =>
        string.Join("; ", rules.ProcessCovers.Select(one => $"{one.Key} also {string.Join(' ', one.Value)}").DefaultIfEmpty("each by itself"));

    private static string Metals(CoveringRules rules) =>
        string.Join("; ", rules.PGroups.Select(group => $"P-{string.Join(' ', group)}").DefaultIfEmpty("no variable"));

    private static string Words(string name) =>
        string.Concat(name.Select((letter, at) => char.IsUpper(letter) && at > 0 ? $" {char.ToLowerInvariant(letter)}" : $"{letter}"))
            .Replace(" mm", ", mm", StringComparison.Ordinal);

    private static string Text(double value) => value.ToString("0.####", CultureInfo.InvariantCulture);
}
