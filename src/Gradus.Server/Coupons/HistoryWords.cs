using System.Globalization;
using System.Text.RegularExpressions;
using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Measure;
using Gradus.Core.Vocabulary;
using Gradus.Data;
using Gradus.Server.Hosting;

namespace Gradus.Server.Coupons;

/// <summary>Each record of a coupon as a sentence that an inspector can follow.</summary>
/// <param name="students">Names of the students that corrections name.</param>
/// <param name="booths">Numbers of the booths that corrections name.</param>
public sealed partial class HistoryWords(
    Coupon coupon,
    CouponLog log,
    IReadOnlyDictionary<Guid, string> students,
    IReadOnlyDictionary<Guid, int> booths
)
{
    /// <summary>The sentence of a record.</summary>
    public string Says(CouponRecord record) =>
        record switch
        {
            FitUpRecord fitUp =>
                $"Fit-up measured at {List(fitUp.Measured.Points.Select(point => point.At))}; {Count(fitUp.Measured.Tacks.Count, "tack")}.",
            PassRecord pass => Laid(pass),
            FindingRecord finding => $"{Of(finding)} found.",
            NoteRecord note => $"Note: {note.Text}",
            PhotoRecord => "Photo taken.",
            ClosingRecord { Because: { } because } => $"A later verdict stands beside the signed one: {because}.",
            ClosingRecord closing => $"Closed and signed: {CouponLog.Sentence(closing.Verdict)}.",
            EventRecord told => Sentence(told.Kind, told.Body),
            _ => throw new InvalidOperationException($"No words for {record.GetType().Name}."),
        };

    private string Laid(PassRecord pass)
    {
        var where = pass switch
        {
            { Part: true, Side: { } side } => $", run from {pass.StartAt} to {pass.StopAt} by {Words(side)} o'clock",
            { Part: true } => $", run from {pass.StartAt} to {pass.StopAt}",
            _ => "",
        };
        var bead = CouponLog.IsPatch(pass.BeadKey)
            ? "Patch"
            : $"{Texts.Capital(Words(pass.Stage))}, layer {pass.Layer}, bead {BeadNumber(pass.BeadKey)}";
        var despite = log.AsTest && pass.Despite is { Count: > 0 } concerns ? $"; laid in spite of: {string.Join(", ", concerns.Select(Words))}" : "";
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{bead}{where}: {pass.ElectrodeClass}, {pass.Amps:0.#} A, {Words(pass.Hand)} hand{(pass.InterpassC is { } before ? $", {before:0} °C before" : "")}{despite}."
        );
    }

    private string Sentence(BenchEventKind kind, BenchEventBody body)
    {
        var said = kind switch
        {
            BenchEventKind.Cut => "Material cut and bevelled",
            BenchEventKind.Voided => $"Given up as evidence: {Words(body.Reason!.Value)}",
            BenchEventKind.PositionWitnessed => "Position witnessed",
            BenchEventKind.TakenDown => "Coupon taken down",
            BenchEventKind.HoldCalled => $"Instructor called: {Title(body.Point)}",
            BenchEventKind.HoldAnswered => $"{Title(body.Point)} seen: {(body.Go == true ? "go on" : "mend first")}",
            BenchEventKind.TimerStarted =>
                $"{Texts.Capital(Words(body.Timer!.Value))} timer started{(body.Minutes is { } minutes ? $" for {Number(minutes)} min" : "")}",
            BenchEventKind.TimerStopped => $"{Texts.Capital(Words(body.Timer!.Value))} timer stopped",
            BenchEventKind.Repaired => $"{Repaired(body)}{Finding(body.FindingId, " of the ")}",
            BenchEventKind.LookedAgain =>
                $"Repair{Finding(body.FindingId, " of the ")} looked at again: {(body.Sound == true ? "sound" : "not sound")}",
            BenchEventKind.CauseChosen => $"Cause{Finding(body.FindingId, " of the ")}: {Cause(body.CauseId)}",
            BenchEventKind.FindingCorrected => $"{Texts.Capital(Finding(body.FindingId, "")).Trim()} put right: {Corrected(body.Finding!)}",
            BenchEventKind.Measured => body.Fillet is { } fillet
                ? $"Fillet at {body.At}: {Fillet(fillet)}"
                : $"{Texts.Capital(Words(body.Side!.Value))} at {body.At}: {(body.HeightMm < 0 ? $"{Number(-body.HeightMm.Value)} mm below flush" : $"{Number(body.HeightMm ?? 0)} mm over flush")}",
            BenchEventKind.SpecimenTested => Specimen(body),
            BenchEventKind.Breach => $"Rule broken: {Words(body.Rule!.Value)}",
            BenchEventKind.BeadAdded => body.Patch == true
                ? "A patch added before the cap"
                : $"One more bead added: {(body.BeadKey is null ? Words(body.Stage!.Value) : Bead(body.BeadKey))}",
            BenchEventKind.BeadLeftOut => $"Bead left out: {Bead(body.BeadKey!)}",
            BenchEventKind.Preflight => body.No is { Count: > 0 } no
                ? $"Before the arc, no: {string.Join("; ", no.Select(Asked))}"
                : $"Before the arc of {Bead(body.BeadKey!)}: all as it should be",
            BenchEventKind.Reopened => "Opened again",
            BenchEventKind.Corrected => $"Put right: {Changes(body.Was!, body.Correction!)}",
            _ => Texts.Capital(Words(kind)),
        };
        return body.Note is { Length: > 0 } note ? $"{said}: {note}" : $"{said}.";
    }

    private static string Repaired(BenchEventBody body) =>
        body.Action switch
        {
            RepairAction.Cool => body.Minutes is { } minutes ? $"Let cool for {Number(minutes)} min" : "Let cool",
            RepairAction.Grind => "Ground out",
            RepairAction.Taper => body.TaperMm is { } taper ? $"Taper of {Number(taper)} mm ground" : "Taper ground",
            RepairAction.Refill => "Refilled",
            RepairAction.CutOutAndRegap => "Cut out and re-gapped",
            _ => "Filed",
        };

    private string Finding(Guid? id, string before) =>
        coupon.Findings.FirstOrDefault(one => one.Id == id) is { } finding ? before + LowerFirst(Of(finding)) : "";

    private static string Of(FindingRecord finding)
    {
        (string Name, double? Mm)[] sizes =
        [
            ("deep", finding.DepthMm),
            ("high", finding.HeightMm),
            ("long", finding.LengthMm),
            ("across", finding.DiameterMm),
            ("wide", finding.WidthMm),
            ("of face over it", finding.FaceHeightThereMm),
        ];
        var size = string.Concat(sizes.Where(one => one.Mm is not null).Select(one => $", {Number(one.Mm!.Value)} mm {one.Name}"));
        return $"{Discontinuities.Of(finding.Kind).Name} in the {Words(finding.Stage)}{At(finding.ClockMinutes, finding.FromStartMm)}{Toe(finding.Toe)}{size}";
    }

    private static string Fillet(FilletMeasures fillet)
    {
        (string Name, double? Mm)[] sizes =
        [
            ("leg on the left", fillet.LegAMm),
            ("leg on the right", fillet.LegBMm),
            ("throat", fillet.ThroatMm),
            ("face wide", fillet.FaceWidthMm),
            ("convex", fillet.ConvexityMm),
        ];
        return string.Join(", ", sizes.Where(one => one.Mm is not null).Select(one => $"{one.Name} {Number(one.Mm!.Value)} mm"));
    }

    private static string Corrected(FindingValues said) =>
        LowerFirst(
            $"{Discontinuities.Of(said.Kind!.Value).Name} in the {Words(said.Stage!.Value)}"
                + (
                    said.Clock is { } clock ? $" at {clock}"
                    : said.FromStartMm is { } mm ? $" {Number(mm)} mm from the start"
                    : ""
                )
                + Toe(said.Toe)
        );

    private static string Toe(JointMember? toe) =>
        toe switch
        {
            JointMember.A => ", at the left toe",
            JointMember.B => ", at the right toe",
            _ => "",
        };

    private static string At(int? minutes, double? mm) =>
        minutes is { } clock ? $" at {ClockPosition.FromMinutes(clock)}"
        : mm is { } from ? $" {Number(from)} mm from the start"
        : "";

    private string Changes(CouponCorrection was, CouponCorrection now)
    {
        string Student(Guid? id) => id is { } known ? students.GetValueOrDefault(known, "another student") : "nobody";
        string Booth(Guid? id) => id is { } known ? $"booth {booths.GetValueOrDefault(known)}" : "no booth";
        List<string?> changes =
        [
            now.StudentId is null || now.StudentId == was.StudentId ? null : $"welded by {Student(now.StudentId)}, not {Student(was.StudentId)}",
            now.TestId is null || now.TestId == was.TestId ? null : $"test {now.TestId}, not {was.TestId}",
            now.Full == true && was.DrillId is not null ? $"a full coupon, not the drill {was.DrillId}"
            : now.DrillId is not null && now.DrillId != was.DrillId ? $"the drill {now.DrillId}, not {was.DrillId ?? "a full coupon"}"
            : null,
            now.AsTest is null || now.AsTest == was.AsTest ? null
            : now.AsTest.Value ? "as under test, not coached"
            : "coached, not as under test",
            now.BoothId is null || now.BoothId == was.BoothId ? null : $"{Booth(now.BoothId)}, not {Booth(was.BoothId)}",
            now.JudgedBy == was.JudgedBy || now.JudgedBy is null ? null : $"judged by {now.JudgedBy}, not {was.JudgedBy ?? "the test's own code"}",
            .. (now.Variants ?? [])
                .Where(one => was.Variants?.GetValueOrDefault(one.Key) != one.Value)
                .Select(one => $"{one.Key} {one.Value}, not {was.Variants?.GetValueOrDefault(one.Key) ?? "chosen"}"),
        ];
        return string.Join("; ", changes.OfType<string>().DefaultIfEmpty("nothing changed"));
    }

    private string Title(string? point) => log.HoldNamed(point)?.Title ?? point ?? "hold point";

    private string Specimen(BenchEventBody body)
    {
        var number = body.Specimen!.Value;
        var specimens = log.Test.Specimens;
        if (number >= specimens.Count || CouponLife.Judge(log.Profile, log.Test, body) is not { } verdict)
        {
            return $"Specimen {number + 1} tested";
        }

        var outcome = verdict.Kind switch
        {
            VerdictKind.Accept => "accepted",
            VerdictKind.Reject => "rejected",
            _ => "not to be judged",
        };
        return $"{Texts.Capital(new SpecimenVerdict(number, specimens[number].Kind, verdict).Name)} tested{(body.LabOrder is null ? "" : " by the laboratory")}: {outcome}";
    }

    private static string Bead(string key) => key.Replace('-', ' ').Replace("@", " on ", StringComparison.Ordinal);

    private static string BeadNumber(string key) => key.Split('@')[0].Split('-')[^1];

    private static string Asked(string id) => Core.Coaching.Procedures.Preflight.FirstOrDefault(check => check.Id == id)?.Ask.TrimEnd('?') ?? id;

    private static string Cause(string? id) => Core.Coaching.CauseFinder.Rules.FirstOrDefault(rule => rule.Id == id)?.Cause ?? "not said";

    private static string Count(int count, string what) => count == 1 ? $"1 {what}" : $"{count} {what}s";

    private static string List(IEnumerable<string> items) =>
        items.ToList() switch
        {
            [] => "no point",
            [var one] => one,
            var many => $"{string.Join(", ", many.SkipLast(1))} and {many[^1]}",
        };

    private static string Number(double value) => value.ToString("0.##", CultureInfo.InvariantCulture);

    private static string LowerFirst(string text) => text.Length == 0 ? text : char.ToLowerInvariant(text[0]) + text[1..];

    /// <summary>A name as words: <c>PositionWitnessed</c> is "position witnessed".</summary>
    private static string Words<T>(T value)
        where T : struct, Enum => Upper().Replace(value.ToString(), match => $" {match.Value.ToLowerInvariant()}").TrimStart();

    [GeneratedRegex("[A-Z]")]
    private static partial Regex Upper();
}
