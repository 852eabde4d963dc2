using Gradus.Core.Bench;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>
/// Writes what happens to a coupon: load, one call of the core, save. Every record has an id made by whoever wrote it. Nothing is overwritten; a
/// record can be taken back, and stays. Each call is to be made inside a whole write.
/// </summary>
public sealed class CouponRecorder(GradusContext db, SchoolLibrary library, FollowUp follow)
{
    /// <summary>Starts a coupon.</summary>
    /// <param name="sitting">The sitting that it is made at; null for practice.</param>
    public async Task<Outcome<Written>> Start(Guid id, StartCoupon request, Provenance from, CancellationToken cancel, Sitting? sitting = null)
    {
        var template = library.Tests[request.TestId!];
        var number = (await db.Coupons.MaxAsync(coupon => (long?)coupon.Number, cancel) ?? 0) + 1;
        var coupon = new Coupon
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
            JudgedBy = request.JudgedBy == template.Code ? null : request.JudgedBy,
            SittingId = sitting?.Id,
            Terms = sitting is { Rules: not null } or { ByFilm: true } ? new SittingTerms(sitting.Rules, sitting.ByFilm) : null,
            StartedAt = from.HappenedAt,
            StartedBy = from.By,
            ArrivedAt = from.ArrivedAt,
            SentBy = from.SentBy,
        };
        if (await db.Coupons.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
        {
            return Twins.Answer(id, known.Content, coupon.Content);
        }

        if (await db.Students.AsNoTracking().FirstOrDefaultAsync(student => student.Id == request.StudentId, cancel) is not { } student)
        {
            return Refusal.NotFound("studentId", "A student of this school.");
        }

        if (student.LeftAt is not null)
        {
            return Refusal.Conflict("studentId", $"{student.Name} has left. Let the student come back first.");
        }

        if (request.BoothId is not null && !await db.Booths.Standing().AnyAsync(booth => booth.Id == request.BoothId, cancel))
        {
            return Refusal.NotFound("boothId", "A booth of this school.");
        }

        db.Coupons.Add(coupon);
        await DrawBlank(coupon, template, cancel);
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>A drill that begins over what was laid before takes a blank out of the store, where one is kept.</summary>
    private async Task DrawBlank(Coupon coupon, TestTemplate template, CancellationToken cancel)
    {
        var drill = template.Drills.FirstOrDefault(one => one.Id == coupon.DrillId);
        if (
            ItemWork.BlankOf(template, drill) is { } blank
            && await db.StockMoves.Where(move => move.Stock == blank).SumAsync(move => move.Amount, cancel) >= 1
        )
        {
            db.StockMoves.Add(
                new StockMove
                {
                    Id = Guid.CreateVersion7(coupon.StartedAt),
                    Stock = blank,
                    Unit = "each",
                    Amount = -1,
                    Why = $"For {coupon.Stamp}",
                    At = coupon.StartedAt,
                    By = coupon.StartedBy,
                }
            );
        }
    }

    public Task<Outcome<Written>> FitUp(Guid couponId, Guid id, RecordFitUp request, Provenance from, CancellationToken cancel)
    {
        var measured = new FitUpMeasured(request.Points!, request.Tacks!, request.Answers!);
        return Record(
            couponId,
            (log, at) =>
                new FitUpRecord
                {
                    Id = id,
                    CouponId = couponId,
                    HappenedAt = at,
                    RecordedAt = from.ArrivedAt,
                    RecordedBy = from.By,
                    SentBy = from.SentBy,
                    Proposed = from.Proposed,
                    Measured = measured,
                },
            log => MayRecord.FitUp(log, measured),
            id,
            from,
            cancel
        );
    }

    public Task<Outcome<Written>> Pass(Guid couponId, Guid id, RecordPass request, Provenance from, CancellationToken cancel) =>
        Record(
            couponId,
            (log, at) =>
            {
                var bead = log.Beads.FirstOrDefault(one => one.Key == request.BeadKey);
                return new PassRecord
                {
                    Id = id,
                    CouponId = couponId,
                    HappenedAt = at,
                    RecordedAt = from.ArrivedAt,
                    RecordedBy = from.By,
                    SentBy = from.SentBy,
                    Proposed = from.Proposed,
                    BeadKey = request.BeadKey!,
                    Stage = bead?.Stage ?? default,
                    Layer = bead?.Layer ?? 0,
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
                    // What comes to a bead that has a run already is a further run of it.
                    Part = request.Part == true || log.RunsOf(request.BeadKey!).Count > 0,
                    Side = request.Side,
                    Measured = request.Measured,
                    Despite = bead is null ? null : [.. log.Wanting(bead.Stage, request.InterpassC, at).Select(one => one.Concern).Distinct()],
                };
            },
            log => MayRecord.Pass(log, request.BeadKey!, request.StartAt, request.StopAt, request.Part == true, request.Side),
            id,
            from,
            cancel
        );

    public Task<Outcome<Written>> Finding(Guid couponId, Guid id, RecordFinding request, Provenance from, CancellationToken cancel) =>
        Record(
            couponId,
            (_, at) => ToRecord(couponId, id, request, @from with { HappenedAt = at }),
            log => MayRecord.Finding(log, request.PassId, request.Stage!.Value, request.Clock, request.FromStartMm),
            id,
            from,
            cancel
        );

    /// <summary>A finding as it is kept.</summary>
    internal static FindingRecord ToRecord(Guid couponId, Guid id, RecordFinding request, Provenance from) =>
        new()
        {
            Id = id,
            CouponId = couponId,
            HappenedAt = from.HappenedAt,
            RecordedAt = from.ArrivedAt,
            RecordedBy = from.By,
            SentBy = from.SentBy,
            Proposed = from.Proposed,
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
            FaceHeightThereMm = request.FaceHeightThereMm,
            Shape = request.Shape,
            Count = request.Count,
            Toe = request.Toe,
        };

    public Task<Outcome<Written>> Note(Guid couponId, Guid id, RecordNote request, Provenance from, CancellationToken cancel) =>
        Record(
            couponId,
            (_, at) =>
                new NoteRecord
                {
                    Id = id,
                    CouponId = couponId,
                    HappenedAt = at,
                    RecordedAt = from.ArrivedAt,
                    RecordedBy = from.By,
                    SentBy = from.SentBy,
                    Proposed = from.Proposed,
                    Text = request.Text!.Trim(),
                },
            _ => null,
            id,
            from,
            cancel
        );

    /// <summary>Records anything else that happened. A coupon that was closed can still be given up, opened again, and learn of its specimens.</summary>
    /// <param name="labOrder">The order of a laboratory that it is taken over from; null for what was seen here.</param>
    public async Task<Outcome<Written>> Event(
        Guid couponId,
        Guid id,
        RecordEvent request,
        Provenance from,
        CancellationToken cancel,
        Guid? labOrder = null
    )
    {
        var (kind, body) = (request.Kind!.Value, request.Body! with { Was = null, LabOrder = labOrder });
        if (from.Proposed && MayRecord.Propose(kind) is { } notTheirs)
        {
            return notTheirs.ToRefusal();
        }

        CouponCorrection? was = null;
        if (
            kind == BenchEventKind.Corrected
            && body.Correction is { } correction
            && await db.Events.AllAsync(one => one.Id != id, cancel)
            && await Tracked(couponId, cancel) is { } coupon
        )
        {
            if (await follow.Check(coupon, correction, cancel) is { } refusal)
            {
                return refusal;
            }

            was = coupon.Said();
        }

        return await Record(
            couponId,
            (_, at) =>
                new EventRecord
                {
                    Id = id,
                    CouponId = couponId,
                    HappenedAt = at,
                    RecordedAt = from.ArrivedAt,
                    RecordedBy = from.By,
                    SentBy = from.SentBy,
                    Proposed = from.Proposed,
                    Kind = kind,
                    Body = body with { Was = was },
                },
            log => MayRecord.Event(log, kind, body),
            id,
            from,
            cancel
        );
    }

    /// <summary>Closes the coupon with the verdict of this moment.</summary>
    /// <param name="sign">Asks for the signature, where a verdict was signed before; null when it is given.</param>
    public async Task<Outcome<Written>> Close(Guid couponId, Guid id, Provenance from, Func<Task<Refusal?>> sign, CancellationToken cancel)
    {
        if (await db.Closings.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
        {
            return Twins.Answer(id, known.Content, new { CouponId = couponId });
        }

        if (await Tracked(couponId, cancel) is not { } coupon)
        {
            return UnknownCoupon();
        }

        if (await IsFull<ClosingRecord>(couponId, cancel) is { } full)
        {
            return full;
        }

        if (await IsSat<ClosingRecord>(coupon, cancel) is { } sat)
        {
            return sat;
        }

        await CouponLoad.AddTraces(db, coupon, cancel);
        var log = CouponLogs.Of(coupon, library);
        var at = Bounded(from.HappenedAt, coupon);
        var (made, refusal) = log.Close(at);
        if (refusal is not null)
        {
            return refusal.ToRefusal();
        }

        if (await db.Closings.AnyAsync(one => one.CouponId == couponId, cancel) && await sign() is { } unsigned)
        {
            return unsigned;
        }

        db.Closings.Add(Closing(id, couponId, made!, at, from.ArrivedAt, from.By, from.SentBy, Unconfirmed(coupon)));
        return await Save(coupon, new Written(id, true), cancel);
    }

    /// <summary>Confirms what a student proposed, as it was seen. Done twice it changes nothing.</summary>
    public async Task<Outcome<Written>> Confirm(Guid couponId, IReadOnlyCollection<Guid> ids, Provenance from, CancellationToken cancel)
    {
        if (await Tracked(couponId, cancel) is not { } coupon)
        {
            return UnknownCoupon();
        }

        // Remarks and photos follow from nothing that is recorded: only here are they needed.
        await db.Entry(coupon).Collection(one => one.Notes).Query().Where(one => one.Proposed).LoadAsync(cancel);
        await db.Entry(coupon).Collection(one => one.Photos).Query().Where(one => one.Proposed).LoadAsync(cancel);
        var waiting = Proposals(coupon).Where(one => ids.Contains(one.Id)).ToList();
        foreach (var one in waiting)
        {
            (one.ConfirmedAt, one.ConfirmedBy) = (Bounded(from.HappenedAt, coupon), from.By);
        }

        await db.SaveChangesAsync(cancel);
        return new Written(couponId, waiting.Count > 0);
    }

    /// <summary>What a student proposed and nobody has confirmed, oldest first.</summary>
    internal static IEnumerable<CouponRecord> Proposals(Coupon coupon) =>
        coupon.AllRecords().Where(one => one is { Proposed: true, ConfirmedAt: null, WithdrawnAt: null }).OrderBy(one => one.HappenedAt);

    /// <summary>How much of what a verdict stands on nobody has confirmed: a remark or a photo changes none.</summary>
    internal static int Unconfirmed(Coupon coupon) => Proposals(coupon).Count(one => one is not (NoteRecord or PhotoRecord));

    /// <summary>A closing as it is kept.</summary>
    internal static ClosingRecord Closing(
        Guid id,
        Guid couponId,
        Closing made,
        DateTimeOffset at,
        DateTimeOffset arrivedAt,
        Guid by,
        Guid? sentBy,
        int unconfirmed,
        string? because = null,
        Guid? eventId = null
    ) =>
        new()
        {
            Id = id,
            CouponId = couponId,
            HappenedAt = at,
            RecordedAt = arrivedAt,
            RecordedBy = by,
            SentBy = sentBy,
            Kind = made.Verdict.Kind,
            Verdict = made.Verdict,
            StageClean = made.Verdict.StageClean.ToDictionary(),
            Facts = made.Facts,
            Decides = made.Verdict.Decides && !made.Hidden,
            Downgraded = made.Downgraded,
            Unconfirmed = unconfirmed,
            ProgramVersion = ThisProgram.Version,
            Because = because,
            EventId = eventId,
        };

    /// <summary>Takes a record back; taking back a closing opens the coupon again. Done twice it changes nothing.</summary>
    public async Task<Outcome<Written>> Withdraw<T>(Guid couponId, Guid id, Provenance from, CancellationToken cancel)
        where T : CouponRecord
    {
        if (await Tracked(couponId, cancel) is not { } coupon)
        {
            return UnknownCoupon();
        }

        var record = await db.Set<T>().FirstOrDefaultAsync(one => one.Id == id && one.CouponId == couponId, cancel);
        if (record is null)
        {
            return Refusal.NotFound("id", "A record of this coupon.");
        }

        if (record.WithdrawnAt is not null)
        {
            return new Written(id, false);
        }

        if (from.Proposed && (record.RecordedBy != from.By || record.ConfirmedAt is not null))
        {
            return Refusal.Conflict("id", "That was recorded or confirmed by an instructor. Ask them to take it back.");
        }

        if (await IsSat<T>(coupon, cancel) is { } sat)
        {
            return sat;
        }

        var told = record as EventRecord;
        var log = CouponLogs.Of(coupon, library);
        if (MayRecord.TakeBack(log, KindOf(record), told is null ? null : log.Events.First(one => one.Id == told.Id)) is { } refusal)
        {
            return refusal.ToRefusal();
        }

        if (told?.Kind == BenchEventKind.Reopened && FollowUp.HasMoved(coupon, told, log))
        {
            return Refusal.Conflict("id", "Something changed since it was opened again. Close it anew instead.");
        }

        // The closings beside a signed one are of it, and go with it.
        var at = Bounded(from.HappenedAt, coupon);
        List<CouponRecord> beside = record is ClosingRecord ? [.. FollowUp.Chain(coupon)] : [];
        foreach (var one in beside.Contains(record) ? beside : [record])
        {
            (one.WithdrawnAt, one.WithdrawnBy) = (at, from.By);
        }

        if (told is not null)
        {
            await follow.Undo(coupon, told, cancel);
        }

        return await Save(coupon, new Written(id, true), cancel);
    }

    /// <summary>A coupon with everything that belongs to it, not tracked; null when there is none.</summary>
    public Task<Coupon?> Load(Guid couponId, CancellationToken cancel) => CouponLoad.Whole(db, couponId, cancel);

    internal static Refusal UnknownCoupon() => Refusal.NotFound("couponId", "A coupon of this school.");

    /// <summary>A coupon with what stands on it, ready to be changed; null when there is none.</summary>
    private Task<Coupon?> Tracked(Guid couponId, CancellationToken cancel) =>
        db
            .Coupons.Include(coupon => coupon.Student)
            .Include(coupon => coupon.FitUps.Where(one => one.WithdrawnAt == null))
            .Include(coupon => coupon.Passes.Where(one => one.WithdrawnAt == null))
            .Include(coupon => coupon.Findings.Where(one => one.WithdrawnAt == null))
            .Include(coupon => coupon.Events.Where(one => one.WithdrawnAt == null))
            .Include(coupon => coupon.Closings.Where(one => one.WithdrawnAt == null))
            .FirstOrDefaultAsync(coupon => coupon.Id == couponId, cancel);

    private static BenchRecord KindOf(CouponRecord record) =>
        record switch
        {
            FitUpRecord => BenchRecord.FitUp,
            PassRecord => BenchRecord.Pass,
            FindingRecord => BenchRecord.Finding,
            NoteRecord => BenchRecord.Note,
            EventRecord => BenchRecord.Event,
            PhotoRecord => BenchRecord.Photo,
            _ => BenchRecord.Closing,
        };

    private static Dictionary<string, string> Chosen(TestTemplate template, Dictionary<string, string>? asked) =>
        template.Variants.ToDictionary(group => group.Id, group => asked?.GetValueOrDefault(group.Id) ?? group.Options[0].Id);

    /// <summary>Nothing happens to a coupon before it was started.</summary>
    private static DateTimeOffset Bounded(DateTimeOffset at, Coupon coupon) => at < coupon.StartedAt ? coupon.StartedAt : at;

    private async Task<Outcome<Written>> Record<T>(
        Guid couponId,
        Func<CouponLog, DateTimeOffset, T> make,
        Func<CouponLog, NotPossible?> check,
        Guid id,
        Provenance from,
        CancellationToken cancel
    )
        where T : CouponRecord
    {
        var known = await db.Set<T>().AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel);
        if (known is not null && known.CouponId != couponId)
        {
            return Twins.Answer(id, new { known.CouponId }, new { CouponId = couponId });
        }

        if (await Tracked(couponId, cancel) is not { } coupon)
        {
            return UnknownCoupon();
        }

        var log = CouponLogs.Of(coupon, library);
        var record = make(log, Bounded(from.HappenedAt, coupon));
        if (known is not null)
        {
            return Twins.Answer(id, known.Content, record.Content);
        }

        if (check(log) is { } refusal)
        {
            return refusal.ToRefusal();
        }

        if ((await IsSat<T>(coupon, cancel) ?? IsOfASitting(coupon, record)) is { } sat)
        {
            return sat;
        }

        if (await IsFull<T>(couponId, cancel) is { } full)
        {
            return full;
        }

        db.Set<T>().Add(record);
        if (record is EventRecord told)
        {
            await follow.Follow(coupon, told, cancel);
        }

        return await Save(coupon, new Written(id, true), cancel);
    }

    // What a signed result stands on is changed no more; a remark or a photo changes nothing.
    private async Task<Refusal?> IsSat<T>(Coupon coupon, CancellationToken cancel)
        where T : CouponRecord =>
        coupon.SittingId is not null
        && typeof(T) != typeof(NoteRecord)
        && typeof(T) != typeof(PhotoRecord)
        && await db.SittingResults.AnyAsync(result => result.SittingId == coupon.SittingId, cancel)
            ? Refusal.Conflict("couponId", "The result of its sitting is signed. Take that back first.")
            : null;

    // A coupon of a sitting is whose and what the sitting is.
    private static Refusal? IsOfASitting(Coupon coupon, CouponRecord record) =>
        coupon.SittingId is not null
        && record is EventRecord { Body.Correction: { } put }
        && (put.StudentId ?? (object?)put.TestId ?? put.DrillId ?? (object?)put.AsTest ?? put.JudgedBy) is not null
            ? Refusal.Conflict("body", "It was made at a sitting: whose it is and of which test is the sitting's. Void it, and begin another there.")
            : null;

    private async Task<Refusal?> IsFull<T>(Guid couponId, CancellationToken cancel)
        where T : CouponRecord =>
        await db.Set<T>().CountAsync(one => one.CouponId == couponId, cancel) >= Limits.RecordsPerCoupon
            ? Refusal.Conflict("couponId", $"A coupon holds at most {Limits.RecordsPerCoupon} of these.")
            : null;

    /// <summary>Saves, with what follows for the coupon itself: closed and given up are as its records say.</summary>
    private async Task<Outcome<Written>> Save(Coupon coupon, Written written, CancellationToken cancel)
    {
        var standing = CouponLogs.Of(coupon, library).Standing;
        (coupon.ClosedAt, coupon.VoidedAt) = (standing.ClosedAt, standing.VoidedAt);
        await db.SaveChangesAsync(cancel);
        return written;
    }
}
