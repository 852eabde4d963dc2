using System.Reflection;
using System.Text.Json;
using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>
/// Writes what happens to a coupon. Every record has an id made by whoever wrote it: the same record sent again changes nothing, another
/// record under the same id is refused. Nothing is overwritten; a record can be taken back, and stays.
/// </summary>
public sealed class CouponRecorder(GradusContext db, SchoolLibrary library, TimeProvider time)
{
    private const int MostAttempts = 5;
    private const int ConstraintFailed = 19; // SQLITE_CONSTRAINT

    public static readonly string ProgramVersion =
        typeof(CouponRecorder).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion.Split('+')[0] ?? "0";

    public async Task<Outcome<Written>> Start(Guid id, StartCoupon request, Guid by, CancellationToken cancel, int attempt = 1)
    {
        if (await db.Coupons.AsNoTracking().FirstOrDefaultAsync(coupon => coupon.Id == id, cancel) is { } known)
        {
            var same =
                known.StudentId == request.StudentId
                && known.TestId == request.TestId
                && known.DrillId == request.DrillId
                && known.AsTest == request.AsTest;
            return same ? new Written(id, false) : Refusal.Conflict("id", "Another coupon has this id.");
        }

        if (!await db.Students.AnyAsync(student => student.Id == request.StudentId, cancel))
        {
            return Refusal.NotFound("studentId", "A student of this school.");
        }

        if (request.BoothId is not null && !await db.Booths.AnyAsync(booth => booth.Id == request.BoothId, cancel))
        {
            return Refusal.NotFound("boothId", "A booth of this school.");
        }

        var template = library.Tests[request.TestId!];
        var number = (await db.Coupons.MaxAsync(coupon => (long?)coupon.Number, cancel) ?? 0) + 1;
        db.Coupons.Add(
            new Coupon
            {
                Id = id,
                Number = number,
                Stamp = Stamp.Of(number),
                StudentId = request.StudentId!.Value,
                TestId = template.Id,
                TestVersion = template.Version,
                DrillId = request.DrillId,
                Variants = Chosen(template, request.Variants),
                BoothId = request.BoothId,
                AsTest = request.AsTest!.Value,
                StartedAt = time.GetUtcNow(),
                StartedBy = by,
            }
        );
        try
        {
            return await Save(new Written(id, true), cancel);
        }
        catch (DbUpdateException) when (attempt < MostAttempts)
        {
            // Another coupon took the number in between, or this very write came twice.
            db.ChangeTracker.Clear();
            return await Start(id, request, by, cancel, attempt + 1);
        }
    }

    public async Task<Outcome<Written>> FitUp(Guid couponId, Guid id, RecordFitUp request, Guid by, CancellationToken cancel)
    {
        var measured = new FitUpMeasured(request.Points!, request.Tacks!, request.Answers!);
        return await Record(
            couponId,
            new FitUpRecord
            {
                Id = id,
                CouponId = couponId,
                RecordedAt = time.GetUtcNow(),
                RecordedBy = by,
                Measured = measured,
            },
            Check,
            cancel
        );

        Refusal? Check(Coupon coupon)
        {
            var template = library.Test(coupon.TestId, coupon.TestVersion).With(coupon.Variants);
            var points = template.FitUp.Points;
            if (measured.Points.FirstOrDefault(point => !points.Contains(point.At)) is { } strange)
            {
                return Refusal.Field("points", $"'{strange.At}' is not a point of this test. Give: {string.Join(", ", points)}.");
            }

            if (measured.Points.Any(point => point.RootFaceMm > template.Joint.ThicknessMm))
            {
                return Refusal.Field("points", $"A root face cannot be thicker than the material ({template.Joint.ThicknessMm:0.##} mm).");
            }

            var questions = template.FitUp.Questions.Select(question => question.Id).ToList();
            return measured.Answers.Keys.FirstOrDefault(key => !questions.Contains(key)) is { } unknown
                ? Refusal.Field("answers", $"'{unknown}' is not asked for this test. Give: {string.Join(", ", questions)}.")
                : null;
        }
    }

    public async Task<Outcome<Written>> Pass(Guid couponId, Guid id, RecordPass request, Guid by, CancellationToken cancel)
    {
        var coupon = await Load(couponId, cancel);
        if (coupon is null)
        {
            return UnknownCoupon();
        }

        var facts = new CouponFacts(coupon, library);
        if (facts.Beads.FirstOrDefault(bead => bead.Key == request.BeadKey) is not { } bead)
        {
            return Refusal.Field("beadKey", $"One of the planned beads: {string.Join(", ", facts.Beads.Select(one => one.Key))}.");
        }

        var record = new PassRecord
        {
            Id = id,
            CouponId = couponId,
            RecordedAt = time.GetUtcNow(),
            RecordedBy = by,
            BeadKey = bead.Key,
            Stage = bead.Stage,
            Layer = bead.Layer,
            Process = request.Process!.Value,
            ElectrodeClass = request.ElectrodeClass!,
            DiameterMm = request.DiameterMm!.Value,
            Polarity = request.Polarity!.Value,
            Amps = request.Amps!.Value,
            Volts = request.Volts,
            WireFeedMmPerMin = request.WireFeedMmPerMin,
            Gas = request.Gas,
            Technique = request.Technique!.Value,
            Progression = request.Progression!.Value,
            Hand = request.Hand!.Value,
            InterpassC = request.InterpassC,
            BelowFlushMm = request.BelowFlushMm,
            StartAt = request.StartAt,
            StopAt = request.StopAt,
        };
        return await Record(
            couponId,
            record,
            _ =>
                facts.Passes.Any(pass => pass.BeadKey == bead.Key)
                    ? Refusal.Conflict("beadKey", "That bead is logged already. Take it back first.")
                    : null,
            cancel
        );
    }

    public async Task<Outcome<Written>> Finding(Guid couponId, Guid id, RecordFinding request, Guid by, CancellationToken cancel)
    {
        var record = new FindingRecord
        {
            Id = id,
            CouponId = couponId,
            RecordedAt = time.GetUtcNow(),
            RecordedBy = by,
            PassId = request.PassId,
            Kind = request.Kind!.Value,
            Stage = request.Stage!.Value,
            ClockMinutes = request.Clock is null ? null : ClockPosition.Parse(request.Clock).Minutes,
            FromStartMm = request.FromStartMm,
            DepthMm = request.DepthMm,
            HeightMm = request.HeightMm,
            LengthMm = request.LengthMm,
            DiameterMm = request.DiameterMm,
            WidthMm = request.WidthMm,
            Count = request.Count,
        };
        if (request.PassId is { } passId && !await db.Passes.AnyAsync(pass => pass.Id == passId && pass.CouponId == couponId, cancel))
        {
            return Refusal.NotFound("passId", "A pass of this coupon.");
        }

        return await Record(couponId, record, Check, cancel);

        Refusal? Check(Coupon coupon)
        {
            var template = library.Test(coupon.TestId, coupon.TestVersion);
            if (record.Stage != Stage.FitUp && !template.StagesOf(coupon.DrillId).Contains(record.Stage))
            {
                return Refusal.Field("stage", "A stage that this coupon has.");
            }

            return template.Product == Product.Pipe
                ? record.ClockMinutes is null || record.FromStartMm is not null
                    ? Refusal.Field("clock", "Say where on the clock, 1:00 to 12:59; pipe has no start.")
                    : null
                : record.FromStartMm is null || record.ClockMinutes is not null || record.FromStartMm > template.Joint.LengthMm
                    ? Refusal.Field("fromStartMm", $"Say how far from the start, 0 to {template.Joint.LengthMm:0.##} mm; plate has no clock.")
                    : null;
        }
    }

    public Task<Outcome<Written>> Note(Guid couponId, Guid id, RecordNote request, Guid by, CancellationToken cancel) =>
        Record(
            couponId,
            new NoteRecord
            {
                Id = id,
                CouponId = couponId,
                RecordedAt = time.GetUtcNow(),
                RecordedBy = by,
                Text = request.Text!.Trim(),
            },
            _ => null,
            cancel,
            whenClosed: true
        );

    /// <summary>Records anything else that happened. A coupon that was closed can still be voided.</summary>
    public async Task<Outcome<Written>> Event(Guid couponId, Guid id, RecordEvent request, Guid by, CancellationToken cancel)
    {
        var coupon = await Load(couponId, cancel);
        if (coupon is null)
        {
            return UnknownCoupon();
        }

        var record = new EventRecord
        {
            Id = id,
            CouponId = couponId,
            RecordedAt = time.GetUtcNow(),
            RecordedBy = by,
            Kind = request.Kind!.Value,
            Body = request.Body!,
        };
        var facts = new CouponFacts(coupon, library);
        return await Record(couponId, record, Check, cancel, whenClosed: record.Kind == BenchEventKind.Voided);

        Refusal? Check(Coupon standing)
        {
            if (EventCheck.Refusal(facts, record) is { } refusal)
            {
                return refusal;
            }

            if (record.Kind == BenchEventKind.Voided)
            {
                (standing.VoidedAt, standing.ClosedAt) = (record.RecordedAt, standing.ClosedAt ?? record.RecordedAt);
            }

            return null;
        }
    }

    /// <summary>Closes the coupon with the verdict of this moment.</summary>
    public async Task<Outcome<Written>> Close(Guid couponId, Guid id, Guid by, CancellationToken cancel)
    {
        var coupon = await Load(couponId, cancel);
        if (coupon is null)
        {
            return UnknownCoupon();
        }

        var facts = new CouponFacts(coupon, library);
        var verdict = facts.Verdict();
        var now = time.GetUtcNow();
        var record = new ClosingRecord
        {
            Id = id,
            CouponId = couponId,
            RecordedAt = now,
            RecordedBy = by,
            Kind = verdict.Kind,
            Verdict = verdict,
            StageClean = verdict.StageClean.ToDictionary(),
            Facts = facts.ClosingFacts(verdict),
            Decides = verdict.Decides,
            Downgraded = coupon.AsTest && facts.Breaches(now).Count > 0,
            ProgramVersion = ProgramVersion,
        };
        return await Record(couponId, record, Check, cancel);

        Refusal? Check(Coupon standing)
        {
            if (verdict.StageClean.Count == 0)
            {
                return Refusal.Conflict("passes", "No stage is finished and nothing was rejected: there is nothing to judge yet.");
            }

            if (!facts.Profile.LimitsEntered)
            {
                return Refusal.Conflict("profile", verdict.Visual.Reasons[0].Rule);
            }

            if (verdict.Visual.Kind == VerdictKind.CannotJudge)
            {
                return Refusal.Conflict("findings", "A finding still lacks a measure that its limit needs.");
            }

            standing.ClosedAt = now;
            return null;
        }
    }

    /// <summary>Takes a record back; taking back a closing opens the coupon again. Done twice it changes nothing.</summary>
    public async Task<Outcome<Written>> Withdraw<T>(Guid couponId, Guid id, Guid by, CancellationToken cancel)
        where T : CouponRecord
    {
        var record = await db.Set<T>().FirstOrDefaultAsync(one => one.Id == id && one.CouponId == couponId, cancel);
        if (record is null)
        {
            return Refusal.NotFound("id", "A record of this coupon.");
        }

        if (record.WithdrawnAt is not null)
        {
            return new Written(id, false);
        }

        var coupon = await db.Coupons.SingleAsync(one => one.Id == couponId, cancel);
        if (record is EventRecord { Kind: BenchEventKind.Voided })
        {
            var closing = await db.Closings.FirstOrDefaultAsync(one => one.CouponId == couponId && one.WithdrawnAt == null, cancel);
            (coupon.VoidedAt, coupon.ClosedAt) = (null, closing?.RecordedAt);
        }
        else if (record is ClosingRecord)
        {
            coupon.ClosedAt = null;
        }
        else if (coupon.ClosedAt is not null)
        {
            return Closed();
        }

        (record.WithdrawnAt, record.WithdrawnBy) = (time.GetUtcNow(), by);
        return await Save(new Written(id, true), cancel);
    }

    /// <summary>A coupon with everything that belongs to it, not tracked; null when there is none.</summary>
    public Task<Coupon?> Load(Guid couponId, CancellationToken cancel) =>
        db
            .Coupons.AsNoTracking()
            .Include(coupon => coupon.Student)
            .Include(coupon => coupon.Booth)
            .Include(coupon => coupon.FitUps)
            .Include(coupon => coupon.Passes)
            .Include(coupon => coupon.Findings)
            .Include(coupon => coupon.Notes)
            .Include(coupon => coupon.Events)
            .Include(coupon => coupon.Photos)
            .Include(coupon => coupon.Closings)
            .FirstOrDefaultAsync(coupon => coupon.Id == couponId, cancel);

    internal static Refusal UnknownCoupon() => Refusal.NotFound("couponId", "A coupon of this school.");

    private static Refusal Closed() => Refusal.Conflict("couponId", "The coupon is closed. Open it again first.");

    private static Dictionary<string, string> Chosen(TestTemplate template, Dictionary<string, string>? asked) =>
        template.Variants.ToDictionary(group => group.Id, group => asked?.GetValueOrDefault(group.Id) ?? group.Options[0].Id);

    private async Task<Outcome<Written>> Record<T>(
        Guid couponId,
        T record,
        Func<Coupon, Refusal?> check,
        CancellationToken cancel,
        bool whenClosed = false
    )
        where T : CouponRecord
    {
        if (await Known(record, cancel) is { } known)
        {
            return known;
        }

        var coupon = await db.Coupons.FirstOrDefaultAsync(one => one.Id == couponId, cancel);
        if (coupon is null)
        {
            return UnknownCoupon();
        }

        if (coupon.ClosedAt is not null && !whenClosed)
        {
            return Closed();
        }

        if (check(coupon) is { } refusal)
        {
            return refusal;
        }

        if (await db.Set<T>().CountAsync(one => one.CouponId == couponId, cancel) >= Limits.RecordsPerCoupon)
        {
            return Refusal.Conflict("couponId", $"A coupon holds at most {Limits.RecordsPerCoupon} of these.");
        }

        db.Set<T>().Add(record);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException raced)
        {
            // The same write, sent twice at once: the other one won.
            db.ChangeTracker.Clear();
            if (await Known(record, cancel) is { } twin)
            {
                return twin;
            }

            if (raced.InnerException is SqliteException { SqliteErrorCode: ConstraintFailed })
            {
                return Refusal.Conflict("id", "Somebody else recorded the same at this moment. Look again.");
            }

            throw;
        }

        return new Written(record.Id, true);
    }

    private async Task<Outcome<Written>?> Known<T>(T record, CancellationToken cancel)
        where T : CouponRecord
    {
        var known = await db.Set<T>().AsNoTracking().FirstOrDefaultAsync(one => one.Id == record.Id, cancel);
        return known is null ? null
            : known.CouponId == record.CouponId && Text(known) == Text(record) ? new Written(record.Id, false)
            : Refusal.Conflict("id", "Another record has this id.");
    }

    private static string Text(CouponRecord record) => JsonSerializer.Serialize(record.Content, Core.CoreJson.Options);

    private async Task<Outcome<Written>> Save(Written written, CancellationToken cancel)
    {
        await db.SaveChangesAsync(cancel);
        return written;
    }
}
