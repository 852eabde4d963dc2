using Gradus.Core.Bench;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Instruments;

/// <summary>
/// Specimens at laboratories. What a laboratory returns stands beside the coupon until an instructor takes it over: then it is judged as what was
/// seen here is. Each call that changes something is to be made inside a whole write.
/// </summary>
public sealed class LabBook(GradusContext db, SchoolLibrary library, CouponRecorder recorder, GivenFiles files, SchoolClock clock, Writes writes)
{
    private const int MostOrders = 100;

    /// <summary>What is struck into a specimen.</summary>
    public static string Mark(string stamp, int specimen) => $"{stamp}-{specimen + 1}";

    /// <summary>Gives specimens to a laboratory.</summary>
    public async Task<Outcome<Written>> Send(Guid couponId, Guid id, LabOrderRequest request, Guid by, CancellationToken cancel)
    {
        var asked = request.Specimens!.Order().ToList();
        if (await db.LabOrders.AsNoTracking().FirstOrDefaultAsync(order => order.Id == id, cancel) is { } known)
        {
            return Twins.Answer(
                id,
                new
                {
                    known.CouponId,
                    known.DeviceId,
                    known.Specimens,
                },
                new
                {
                    CouponId = couponId,
                    DeviceId = request.DeviceId!.Value,
                    Specimens = asked,
                }
            );
        }

        if (await Header(couponId, cancel) is not { } coupon)
        {
            return CouponRecorder.UnknownCoupon();
        }

        if (
            !await db.Devices.AnyAsync(
                device => device.Id == request.DeviceId && device.Kind == DeviceKind.Laboratory && device.RemovedAt == null,
                cancel
            )
        )
        {
            return Refusal.NotFound("deviceId", "A laboratory of this school.");
        }

        if (coupon.VoidedAt is not null)
        {
            return Refusal.Conflict("couponId", "The coupon was given up.");
        }

        // A drill is not cut into the specimens of its test.
        var count = coupon.DrillId is null ? CouponLogs.TestOf(coupon, library).Test.Specimens.Count : 0;
        if (asked[^1] >= count)
        {
            return Refusal.Field("specimens", count == 0 ? "This coupon is not cut into specimens." : $"Specimens of this test, 0 to {count - 1}.");
        }

        var away = await db
            .LabOrders.AsNoTracking()
            .Where(order => order.CouponId == couponId && order.DoneAt == null && order.ReturnedAt == null)
            .ToListAsync(cancel);
        if (away.SelectMany(order => order.Specimens).Intersect(asked).Any())
        {
            return Refusal.Conflict("specimens", "One of them is at a laboratory. Call it back first.");
        }

        if (await db.LabOrders.CountAsync(order => order.CouponId == couponId, cancel) >= MostOrders)
        {
            return Refusal.Conflict("couponId", $"At most {MostOrders} orders for one coupon.");
        }

        db.LabOrders.Add(
            new LabOrder
            {
                Id = id,
                CouponId = couponId,
                DeviceId = request.DeviceId!.Value,
                Specimens = asked,
                SentAt = clock.Now,
                SentBy = by,
            }
        );
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Takes over what a laboratory saw: from now on it is judged. Done twice it changes nothing.</summary>
    public async Task<Outcome<Written>> TakeOver(Guid couponId, Guid id, Provenance from, CancellationToken cancel)
    {
        if (await Order(couponId, id, cancel) is not { } order)
        {
            return NoOrder();
        }

        if (order.DoneAt is not null)
        {
            return order.IsTaken ? new Written(id, false) : Refusal.Conflict("id", "It was called back or put aside.");
        }

        if (order.Report is not { } report)
        {
            return Refusal.Conflict("id", "The laboratory has returned no results. Enter what its file says by hand.");
        }

        var coupon = await db.Coupons.AsNoTracking().FirstAsync(one => one.Id == couponId, cancel);
        var (test, _) = CouponLogs.TestOf(coupon, library);
        foreach (var found in report.Found)
        {
            var told = new RecordEvent(BenchEventKind.SpecimenTested, found.Body(test, id));
            if ((await recorder.Event(couponId, Guid.CreateVersion7(), told, from, cancel, id)).Refusal is { } refusal)
            {
                return refusal;
            }
        }

        (order.DoneAt, order.DoneBy, order.IsTaken) = (clock.Now, from.By, true);
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Calls specimens back, or puts aside what came of them. Done twice it changes nothing.</summary>
    public async Task<Outcome<Written>> End(Guid couponId, Guid id, Guid by, CancellationToken cancel)
    {
        if (await Order(couponId, id, cancel) is not { } order)
        {
            return NoOrder();
        }

        if (order.DoneAt is not null)
        {
            return order.IsTaken ? Refusal.Conflict("id", "What it saw was taken over. Take that back on the coupon.") : new Written(id, false);
        }

        (order.DoneAt, order.DoneBy) = (clock.Now, by);
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>What laboratories have of a coupon, and had; null when there is no such coupon.</summary>
    public async Task<CouponLab?> OfCoupon(Guid couponId, CancellationToken cancel)
    {
        if (await Header(couponId, cancel) is not { } coupon)
        {
            return null;
        }

        var labs = await db
            .Devices.AsNoTracking()
            .Where(device => device.Kind == DeviceKind.Laboratory)
            .Select(device => new
            {
                device.Id,
                device.Name,
                device.RemovedAt,
            })
            .ToListAsync(cancel);
        var places = labs.Where(one => one.RemovedAt is null).OrderBy(one => one.Name, StringComparer.Ordinal);
        var orders = await db
            .LabOrders.AsNoTracking()
            .Where(order => order.CouponId == couponId)
            .OrderByDescending(order => order.SentAt)
            .Take(MostOrders)
            .ToListAsync(cancel);
        var (test, profile) = CouponLogs.TestOf(coupon, library);
        var names = await Names.Of(db, cancel);
        var given = await files.Of([.. orders.Select(order => order.Id)], cancel);
        var views = orders.Select(order => new LabOrderView(
            order.Id,
            labs.First(one => one.Id == order.DeviceId).Name,
            [.. order.Specimens.Select(one => new LabMark(one, Mark(coupon.Stamp, one), one < test.Specimens.Count ? test.Specimens[one].Kind : ""))],
            order.SentAt,
            names.GetValueOrDefault(order.SentBy) ?? "",
            order.ReceivedAt,
            order.ReturnedAt,
            order.Report?.Remark,
            [
                .. (order.Report?.Found ?? []).Select(found => new LabFoundView(
                    found,
                    found.Specimen < test.Specimens.Count ? CouponLife.Judge(profile, test, found.Body(test, order.Id)) : null
                )),
            ],
            [.. given[order.Id]],
            order.DoneAt,
            order.IsTaken
        ));
        return new CouponLab([.. places.Select(one => new LabPlace(one.Id, one.Name))], [.. views]);
    }

    /// <summary>A report file as it was returned.</summary>
    public async Task<IResult> ShowFile(Guid couponId, Guid id, Guid fileId, CancellationToken cancel) =>
        await Order(couponId, id, cancel) is null ? NoOrder().ToResult() : await files.Show(id, fileId, cancel);

    /// <summary>What came back and waits to be taken over, the oldest first.</summary>
    public async Task<IReadOnlyList<LabDue>> Due(CancellationToken cancel)
    {
        var waiting = await db
            .LabOrders.AsNoTracking()
            .Where(order => order.DoneAt == null && order.ReturnedAt != null)
            .OrderBy(order => order.ReturnedAt)
            .Take(MostOrders)
            .ToListAsync(cancel);
        if (waiting.Count == 0)
        {
            return [];
        }

        var ids = waiting.Select(order => order.CouponId).ToList();
        var coupons = await db
            .Coupons.AsNoTracking()
            .Where(coupon => ids.Contains(coupon.Id))
            .Select(coupon => new
            {
                coupon.Id,
                coupon.Stamp,
                coupon.Student!.Name,
            })
            .ToDictionaryAsync(coupon => coupon.Id, cancel);
        var labs = await db
            .Devices.AsNoTracking()
            .Where(device => device.Kind == DeviceKind.Laboratory)
            .ToDictionaryAsync(one => one.Id, one => one.Name, cancel);
        return
        [
            .. waiting.Select(order => new LabDue(
                order.CouponId,
                coupons[order.CouponId].Stamp,
                coupons[order.CouponId].Name,
                labs[order.DeviceId],
                order.Specimens.Count,
                order.Report is not null,
                order.ReturnedAt!.Value
            )),
        ];
    }

    /// <summary>What a laboratory is asked to look at, the oldest first.</summary>
    /// <param name="stamp">Of one coupon alone; null: of all.</param>
    public async Task<IReadOnlyList<LabAsked>> Asked(Guid deviceId, string? stamp, CancellationToken cancel)
    {
        var orders = await db
            .LabOrders.AsNoTracking()
            .Where(order => order.DeviceId == deviceId && order.DoneAt == null && order.Report == null)
            .Where(order => stamp == null || db.Coupons.Any(coupon => coupon.Id == order.CouponId && coupon.Stamp == stamp))
            .OrderBy(order => order.SentAt)
            .Take(MostOrders)
            .ToListAsync(cancel);
        var ids = orders.Select(order => order.CouponId).Distinct().ToList();
        var coupons = await db.Coupons.AsNoTracking().Where(coupon => ids.Contains(coupon.Id)).ToDictionaryAsync(coupon => coupon.Id, cancel);
        return [.. orders.Select(order => View(order, coupons[order.CouponId]))];
    }

    /// <summary>A laboratory has the specimens. Done twice it changes nothing.</summary>
    public async Task<Outcome<Written>> Received(Guid deviceId, Guid id, CancellationToken cancel)
    {
        if (await At(deviceId, id, cancel) is not { } order)
        {
            return NoOrder();
        }

        if (IsCalledBack(order) is { } refusal)
        {
            return refusal;
        }

        var isNew = order.ReceivedAt is null;
        order.ReceivedAt ??= clock.Now;
        await db.SaveChangesAsync(cancel);
        return new Written(id, isNew);
    }

    /// <summary>Keeps what a laboratory saw, as it was returned. The same report sent again changes nothing.</summary>
    public async Task<Outcome<Written>> Return(Guid deviceId, Guid id, LabReportRequest request, CancellationToken cancel)
    {
        if (await At(deviceId, id, cancel) is not { } order)
        {
            return NoOrder();
        }

        var report = new LabReport(request.Found!, request.Remark);
        if (order.Report is { } kept)
        {
            return Twins.Answer(id, kept, report);
        }

        if (IsCalledBack(order) is { } refusal)
        {
            return refusal;
        }

        if (report.Found.FirstOrDefault(found => !order.Specimens.Contains(found.Specimen)) is { } foreign)
        {
            return Refusal.Field(
                "found",
                $"Specimen {foreign.Specimen} is not of this order. It is of the specimens {string.Join(", ", order.Specimens)}."
            );
        }

        if (await Header(order.CouponId, cancel) is not { } coupon)
        {
            return CouponRecorder.UnknownCoupon();
        }

        var (test, _) = CouponLogs.TestOf(coupon, library);
        if (report.Found.Select(found => MayRecord.Specimen(test, found.Body(test, id))).FirstOrDefault(no => no is not null) is { } unfit)
        {
            return (unfit with { Field = $"found.{unfit.Field.Split('.')[^1]}" }).ToRefusal();
        }

        order.Report = report;
        order.ReceivedAt ??= clock.Now;
        order.ReturnedAt ??= clock.Now;
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Keeps a report file byte for byte. The same one sent again changes nothing.</summary>
    public Task<Outcome<Written>> Attach(Guid deviceId, Guid id, Guid fileId, string? name, byte[] bytes, CancellationToken cancel) =>
        writes.Whole(
            async () =>
            {
                if (await At(deviceId, id, cancel) is not { } order)
                {
                    return NoOrder();
                }

                if (IsCalledBack(order) is { } refusal)
                {
                    return refusal;
                }

                order.ReceivedAt ??= clock.Now;
                order.ReturnedAt ??= clock.Now;
                return await files.Keep(fileId, id, GivenFiles.Called(name, "Report"), settles: false, bytes, deviceId, cancel);
            },
            cancel
        );

    private static Outcome<Written> NoOrder() => Refusal.NotFound("id", "An order of this laboratory.");

    private static Refusal? IsCalledBack(LabOrder order) =>
        order is { DoneAt: not null, IsTaken: false } ? Refusal.Conflict("id", "It was called back.") : null;

    // What it is and of which test; no record of what happened to it is needed here.
    private Task<Coupon?> Header(Guid couponId, CancellationToken cancel) =>
        db.Coupons.AsNoTracking().FirstOrDefaultAsync(one => one.Id == couponId, cancel);

    private Task<LabOrder?> Order(Guid couponId, Guid id, CancellationToken cancel) =>
        db.LabOrders.FirstOrDefaultAsync(order => order.Id == id && order.CouponId == couponId, cancel);

    private Task<LabOrder?> At(Guid deviceId, Guid id, CancellationToken cancel) =>
        db.LabOrders.FirstOrDefaultAsync(order => order.Id == id && order.DeviceId == deviceId, cancel);

    private LabAsked View(LabOrder order, Coupon coupon)
    {
        var (test, _) = CouponLogs.TestOf(coupon, library);
        return new LabAsked(
            order.Id,
            coupon.Stamp,
            order.SentAt,
            order.ReceivedAt,
            coupon.JudgedBy ?? test.Code,
            test.Product,
            test.Weld,
            test.Joint.ThicknessMm,
            test.Joint.PipeSize()?.OutsideDiameter.Mm,
            test.Weld == WeldKind.Fillet ? test.Joint.LegMm : null,
            [.. test.Passes.Select(pass => pass.Process).Distinct()],
            [
                .. order
                    .Specimens.Where(one => one < test.Specimens.Count)
                    .Select(one =>
                    {
                        var cut = test.Specimens[one];
                        return new LabSpecimen(
                            one,
                            Mark(coupon.Stamp, one),
                            cut.Kind,
                            CouponLife.SeenOn(cut.Kind, new BenchEventBody()).Field,
                            cut.FromMm,
                            cut.ToMm,
                            cut.Clock
                        );
                    }),
            ]
        );
    }
}
