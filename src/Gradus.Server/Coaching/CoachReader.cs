using Gradus.Core.Bench;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Safety;
using Gradus.Core.Vocabulary;
using Gradus.Core.Welding;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coaching;

/// <summary>Puts together what the coach says of a coupon.</summary>
public sealed class CoachReader(GradusContext db, CouponRecorder recorder, SchoolLibrary library, Speaker speaker, SchoolClock clock)
{
    // What a student showed lately says more than what was long ago.
    private const int RecentCoupons = 30;

    public async Task<CoachView?> Read(Guid couponId, string? language, CancellationToken cancel)
    {
        await db.Database.OpenConnectionAsync(cancel);
        if (await recorder.Load(couponId, cancel) is not { } coupon)
        {
            return null;
        }

        var log = CouponLogs.Of(coupon, library);
        var words = language is null ? await speaker.Words(cancel) : await speaker.In(language, cancel);
        var cautions = Cautions
            .BySteps(log.Test, [.. log.Beads])
            .ToDictionary(one => one.At, one => (IReadOnlyList<string>)[.. one.Texts.Select(words.Say)]);
        var earlier = log.AsTest ? Earlier.None : await Before(coupon, log, cancel);
        var (cards, beads) = Beads(log, words, cautions, earlier);
        return new CoachView(
            words.Language,
            log.AsTest,
            log.AsTest ? [] : cards,
            beads,
            cautions.GetValueOrDefault(Cautions.FitUpStep) ?? [],
            cautions.GetValueOrDefault(Cautions.LookStep) ?? [],
            log.AsTest ? null : Gap(log, words, earlier),
            log.AsTest ? null : Level(log, words),
            log.AsTest || !TestElements.IsZoned(log.Test) ? null : SideBook.Of(coupon.Student!.Hand, earlier.Sides, words),
            log.AsTest ? [] : [.. Procedures.BurnThrough.Select(words.Say)],
            words.Say(Cautions.Line),
            log.Test.Rules.HoldPoints.Select(point => point.Title).Append(CouponLife.Call).Distinct().ToDictionary(title => title, words.Say)
        );
    }

    private static (IReadOnlyList<CoachCard> Cards, IReadOnlyDictionary<string, CoachBead> Beads) Beads(
        CouponLog log,
        Wording words,
        Dictionary<string, IReadOnlyList<string>> cautions,
        Earlier earlier
    )
    {
        var planned = log.Beads.ToList();
        var cards = new List<CoachCard>();
        var known = new Dictionary<CoachPlace, int>();
        int CardOf(CoachPlace place)
        {
            if (!known.TryGetValue(place, out var number))
            {
                known[place] = number = cards.Count;
                cards.Add(CoachBook.Card(place, words));
            }

            return number;
        }

        var beads = new Dictionary<string, CoachBead>();
        var asked = earlier.Asked;
        foreach (var bead in planned)
        {
            var pass = log.Test.Passes[bead.Pass];
            var answered = log.Events.LastOrDefault(one => one.Kind == BenchEventKind.Preflight && one.Body.BeadKey == bead.Key);
            var checks = Procedures.PreflightOf(log.Test, pass, asked);
            asked = pass;
            if (log.AsTest)
            {
                // Nothing is said of how it is done; what can hurt is said always.
                beads[bead.Key] = new CoachBead(-1, NoZones, NoRestart, cautions.GetValueOrDefault(bead.Key) ?? [], [], [], null);
                continue;
            }

            var isPatch = CouponLog.IsPatch(bead.Key);
            var zones = CoachBook
                .ZonesOf(log.Test)
                .Select(zone => (Zone: zone, Place: CoachBook.PlaceOf(log.Test, planned, bead, zone, isPatch)))
                .ToList();
            var shown = zones.Find(one => one.Zone is null or PipeZone.Side);
            beads[bead.Key] = new CoachBead(
                CardOf(shown.Place),
                zones.Count == 1
                    ? NoZones
                    : log.Test.FitUp.Points.ToDictionary(at => at, at => CardOf(zones.Find(one => one.Zone == ClockPosition.Parse(at).Zone).Place)),
                Procedures.RestartOf(shown.Place, words),
                cautions.GetValueOrDefault(bead.Key) ?? [],
                answered is not null
                    ? []
                    : [.. checks.Select(check => new PreflightAsk(check.Id, words.Say(check.Ask), words.Say(check.Mend), words.Say(check.Why)))],
                answered?.Body.No is { } no
                    ? [.. no.Select(id => Procedures.Preflight.First(check => check.Id == id)).Select(check => words.Say(check.Mend))]
                    : [],
                earlier.Last.TryGetValue(bead.Stage, out var found)
                    ? words.Say("Last time here: {finding}. {cure}", ("finding", words.Say(found.Name)), ("cure", words.Say(found.Cure)))
                    : null
            );
        }

        return (cards, beads);
    }

    private static readonly Dictionary<string, int> NoZones = [];
    private static readonly RestartPlan NoRestart = new("", new CoachWhen(), "", "", "", "", "");

    /// <summary>What the gap says at the places where it was measured.</summary>
    private static CoachGap? Gap(CouponLog log, Wording words, Earlier earlier)
    {
        var root = log.Beads.FirstOrDefault(bead => bead.Stage == Stage.Root);
        if (root is null || log.FitUp?.Measured is not { } measured || CoachBook.JointOf(log.Test) != CoachJoint.Open)
        {
            return null;
        }

        var place = CoachBook.PlaceOf(log.Test, [.. log.Beads], root, CoachBook.ZonesOf(log.Test)[0]);
        var card = CoachBook.BaseOf(place).Id;
        var tacks = measured.Tacks.Count;
        var numbers = FitUpNumbers.Of(log.Test.Joint, log.Test.FitUp, log.Test.Positions[0], measured);
        GapForecast? forecast = null;
        var points = new List<GapAt>();
        foreach (var point in measured.Points.Where(point => point.RootOpeningMm is not null))
        {
            var gap = point.RootOpeningMm!.Value;
            var shrinks = numbers.Points.FirstOrDefault(one => one.At == point.At)?.ShrinkageMm ?? 0;
            forecast = GapLeft.Forecast(
                gap,
                shrinks,
                log.Test.Product,
                tacks,
                log.Test.FitUp.Tacks.Bridged == true || log.Test.Joint.Fixture is not null,
                earlier.Closings
            );
            points.Add(
                new GapAt(
                    point.At,
                    gap,
                    forecast.EndMm,
                    GapLeft.Of(card, gap, place.DiameterMm, words),
                    GapLeft.Of(card, forecast.EndMm, place.DiameterMm, words)
                )
            );
        }

        return points.Count == 0 ? null : new CoachGap(points, forecast);
    }

    /// <summary>What the fill asks for before the cap, where its level was measured.</summary>
    private static CapLevelAdvice? Level(CouponLog log, Wording words)
    {
        var levels = log
            .Passes.Where(pass => pass.Stage != Stage.Cap)
            .LastOrDefault(pass => pass.Measured?.Levels is { Count: > 0 })
            ?.Measured!.Levels;
        var cap = log.Beads.Where(bead => bead.Stage == Stage.Cap && !CouponLog.IsPatch(bead.Key)).ToList();
        if (levels is null || cap.Count == 0 || log.Test.Weld == WeldKind.Fillet)
        {
            return null;
        }

        var shape = JointShape.Of(log.Test.Joint, null);
        var face = shape.WidthAt(shape.ThicknessMm) + (2 * TradeNumbers.Of("capLapMm"));
        var width = face / (1 + ((cap.Count(one => one.Half == cap[0].Half) - 1) * (1 - TradeNumbers.Of("beadOverlap"))));
        var fill = log.Beads.LastOrDefault(bead => bead.Stage != Stage.Cap && !CouponLog.IsPatch(bead.Key)) ?? cap[0];
        return CapLevel.Of(levels, face, width, fill.AreaMm2, words);
    }

    /// <summary>What this student's last coupons say: what was found, how roots closed, how each side came out, what was asked today.</summary>
    private async Task<Earlier> Before(Coupon coupon, CouponLog log, CancellationToken cancel)
    {
        var recent = await db
            .Coupons.AsNoTracking()
            .Where(one => one.StudentId == coupon.StudentId && one.Id != coupon.Id && one.StartedAt <= coupon.StartedAt)
            .OrderByDescending(one => one.StartedAt)
            .Take(RecentCoupons)
            .Select(one => new
            {
                one.Id,
                one.TestId,
                one.TestVersion,
                one.Variants,
                one.BoothId,
                one.StartedAt,
                one.ClosedAt,
            })
            .ToListAsync(cancel);
        var ids = recent.Select(one => one.Id).ToList();
        var tests = recent.ToDictionary(one => one.Id, one => library.Test(one.TestId, one.TestVersion).With(one.Variants));
        var alike = tests
            .Where(one => one.Value.Positions[0] == log.Test.Positions[0] && one.Value.Product == log.Test.Product)
            .Select(one => one.Key)
            .ToHashSet();
        var findings = await db
            .Findings.AsNoTracking()
            .Where(one => ids.Contains(one.CouponId) && one.WithdrawnAt == null)
            .Select(one => new
            {
                one.CouponId,
                one.Kind,
                one.Stage,
                one.ClockMinutes,
                one.HappenedAt,
            })
            .ToListAsync(cancel);
        var last = new Dictionary<Stage, (string Name, string Cure)>();
        foreach (var found in findings.Where(one => alike.Contains(one.CouponId)).OrderByDescending(one => one.HappenedAt))
        {
            var pass = log.Test.Passes.FirstOrDefault(one => one.Stage == found.Stage);
            if (pass is null || last.ContainsKey(found.Stage) || tests[found.CouponId].Passes.All(one => one.Process != pass.Process))
            {
                continue;
            }

            var facts = CauseFacts.Of(log.Test, pass) with { ClockMinutes = found.ClockMinutes };
            if (CauseFinder.Rank(found.Kind, facts) is [var cause, ..])
            {
                last[found.Stage] = (Discontinuities.Of(found.Kind).Name, cause.Cure);
            }
        }

        var passes = await db
            .Passes.AsNoTracking()
            .Where(one => ids.Contains(one.CouponId) && one.WithdrawnAt == null && (one.Side != null || one.Stage == Stage.Root))
            .Select(one => new
            {
                one.CouponId,
                one.Stage,
                one.Side,
                one.Measured,
            })
            .ToListAsync(cancel);
        var closed = recent.Where(one => one.ClosedAt is not null).Select(one => one.Id).ToHashSet();
        var sides = passes
            .Where(one => one.Side is not null && closed.Contains(one.CouponId))
            .GroupBy(one => one.Side!.Value)
            .Select(group => new SideRecord(
                group.Key,
                group.Count(one =>
                    !findings.Any(found => found.CouponId == one.CouponId && found.Stage == one.Stage && SideOf(found.ClockMinutes) == group.Key)
                ),
                group.Count()
            ))
            .ToList();
        var tiedIn = passes.Where(one => one.Measured?.GapAtTieInMm is not null && alike.Contains(one.CouponId)).ToList();
        var fitted = (
            await db
                .FitUps.AsNoTracking()
                .Where(one => tiedIn.Select(pass => pass.CouponId).Contains(one.CouponId) && one.WithdrawnAt == null)
                .ToListAsync(cancel)
        ).ToLookup(one => one.CouponId);
        var closings = tiedIn
            .Select(one => fitted[one.CouponId].LastOrDefault()?.Measured.Points.Average(point => point.RootOpeningMm) - one.Measured!.GapAtTieInMm)
            .OfType<double>()
            .Select(closes => Math.Max(0, closes))
            .ToList();
        return new Earlier(
            last,
            closings,
            sides,
            await AskedToday(
                coupon,
                recent.Where(one => one.BoothId == coupon.BoothId && IsToday(one.StartedAt)).ToDictionary(one => one.Id, one => tests[one.Id]),
                cancel
            )
        );
    }

    private bool IsToday(DateTimeOffset at) => clock.DayOf(at) == clock.Today;

    /// <summary>The pass before which the questions were last answered today, in the booth of the coupon.</summary>
    private async Task<PassPlan?> AskedToday(Coupon coupon, Dictionary<Guid, TestTemplate> today, CancellationToken cancel)
    {
        if (today.Count == 0)
        {
            return null;
        }

        var ids = today.Keys.ToList();
        var asked = await db
            .Events.AsNoTracking()
            .Where(one => ids.Contains(one.CouponId) && one.Kind == BenchEventKind.Preflight && one.WithdrawnAt == null)
            .OrderByDescending(one => one.HappenedAt)
            .FirstOrDefaultAsync(cancel);
        if (asked is null || asked.HappenedAt < coupon.StartedAt.AddDays(-1))
        {
            return null;
        }

        var test = today[asked.CouponId];
        return test.Beads().FirstOrDefault(bead => bead.Key == asked.Body.BeadKey) is { } bead ? test.Passes[bead.Pass] : null;
    }

    private static PipeSide? SideOf(int? clockMinutes) =>
        clockMinutes is not { } minutes ? null
        : minutes < ClockPosition.MinutesRound / 2 ? PipeSide.Three
        : PipeSide.Nine;

    /// <param name="Last">By stage what was last found, and what to do about it.</param>
    /// <param name="Closings">By how much earlier roots closed, in mm.</param>
    /// <param name="Asked">The pass that was asked about last today in this booth.</param>
    private sealed record Earlier(
        IReadOnlyDictionary<Stage, (string Name, string Cure)> Last,
        IReadOnlyList<double> Closings,
        IReadOnlyList<SideRecord> Sides,
        PassPlan? Asked
    )
    {
        public static readonly Earlier None = new(new Dictionary<Stage, (string, string)>(), [], [], null);
    }
}
