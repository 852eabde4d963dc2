using System.Globalization;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Qualification;
using Gradus.Core.Safety;
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
        foreach (var rule in profile.Visual)
        {
            yield return new("Visual limits", profile.Name, rule.Rule, rule.Source, rule.FromMemory);
        }

        if (profile.Bend is { } bend)
        {
            yield return new(
                "Bend limits",
                profile.Name,
                $"{Text(bend.MaxMm)} mm in any direction; corner {Text(bend.CornerMaxMm ?? 0)} mm",
                bend.Source,
                bend.FromMemory
            );
        }

        if (profile.Radiograph is { } film)
        {
            yield return new(
                "Radiograph limits",
                profile.Name,
                $"rounded {Text(film.RoundedShare)} t, {Text(film.RoundedMaxMm)} mm at most",
                film.Source,
                film.FromMemory
            );
        }

        if (profile.NickBreak is { } nick)
        {
            yield return new(
                "Nick-break limits",
                profile.Name,
                $"pore {Text(nick.PoreMaxMm)} mm, {Text(nick.PorePercent)} % of the surface",
                nick.Source,
                nick.FromMemory
            );
        }

        if (profile.FilletBreak is { } fillet)
        {
            yield return new("Fillet break limits", profile.Name, $"sum {Text(fillet.SumMaxMm)} mm", fillet.Source, fillet.FromMemory);
        }

        if (profile.Macro is { } macro)
        {
            yield return new(
                "Macro limits",
                profile.Name,
                $"convexity {string.Join(", ", macro.Convexity.Select(step => Text(step.MaxMm)))} mm by width",
                macro.Source,
                macro.FromMemory
            );
        }
    }

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
                keeping.Continuity.Source,
                keeping.Continuity.FromMemory
            );
            yield return new("Qualification", $"{code}: retest", keeping.Retest.Rule, keeping.Retest.Source, keeping.Retest.FromMemory);
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
