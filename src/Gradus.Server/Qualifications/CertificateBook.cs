using System.Text.Json;
using Gradus.Core;
using Gradus.Core.Bench;
using Gradus.Core.Certification;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Qualification;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Qualifications;

/// <summary>Certifies, corrects, revokes and renews records, and keeps what is signed of use. Nothing that was signed is changed.</summary>
public sealed class CertificateBook(GradusContext db, SchoolLibrary library, RecordSigner signer, SchoolClock clock)
{
    /// <summary>Certifies what a passed sitting qualifies, or corrects what was certified.</summary>
    public async Task<Outcome<Written>> Certify(Guid id, CertifyRequest request, Guid by, CancellationToken cancel)
    {
        if (await db.Certificates.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
        {
            return Twins.Answer(id, new { known.SittingId }, new { request.SittingId });
        }

        if (await db.Sittings.AsNoTracking().FirstOrDefaultAsync(one => one.Id == request.SittingId, cancel) is not { } sitting)
        {
            return Refusal.NotFound("sittingId", "A sitting of this school.");
        }

        if (await db.SittingResults.AsNoTracking().FirstOrDefaultAsync(one => one.SittingId == sitting.Id, cancel) is not { Passed: true } result)
        {
            return Refusal.Conflict("sittingId", "It is certified once the sitting was passed.");
        }

        var before = await db.Certificates.FirstOrDefaultAsync(one => one.SittingId == sitting.Id && one.ReplacedBy == null, cancel);
        var because = request.Because.Said();
        if (before is { RevokedAt: not null } && request.Replaces is null)
        {
            because = $"Certified anew; revision {before.Revision} was revoked: {before.RevokedWhy}";
        }
        else if (before is not null && before.Id != request.Replaces)
        {
            return Refusal.Conflict("sittingId", $"Record {before.Number} stands on it already. Correct that one by a new revision.");
        }

        if (before is null && request.Replaces is not null)
        {
            return Refusal.Conflict("replaces", "No record stands on this sitting that could be corrected.");
        }

        var coupons = await Made(sitting, cancel);
        if (coupons.Count == 0)
        {
            return Refusal.Conflict("sittingId", "No coupon was made at it.");
        }

        var names = await Accounts.Names.Of(db, cancel);
        var student = await db.Students.AsNoTracking().SingleAsync(one => one.Id == sitting.StudentId, cancel);
        var school = await db.Schools.AsNoTracking().Select(one => one.Name).SingleAsync(cancel);
        var (coupon, log) = coupons[^1];
        if (request.Route is { } route && Continuity.RoutesOf(Ranges.ByCode[log.Profile.Code].Continuity).All(one => one.Id != route))
        {
            return Refusal.Field("route", "A route of renewal of this code.");
        }

        var marks = await db
            .SittingMarks.AsNoTracking()
            .Where(mark => mark.SittingId == sitting.Id && mark.WithdrawnAt == null)
            .OrderBy(mark => mark.At)
            .ToListAsync(cancel);
        var said = new Dictionary<string, string>(request.Said ?? []);
        foreach (var (check, key) in (ReadOnlySpan<(string, string)>)[(DayList.Material, "heat"), (DayList.Filler, "fillerLot")])
        {
            if (marks.LastOrDefault(mark => mark.Check == check) is { Text.Length: > 0 } mark)
            {
                said.TryAdd(key, mark.Text);
            }
        }

        var evaluator = request.Evaluator.Said() ?? names[result.RecordedBy];
        var record = RecordMaker.Of(
            new RecordSource(
                before?.Number ?? ((await db.Certificates.MaxAsync(one => (long?)one.Number, cancel) ?? 0) + 1),
                (before?.Revision ?? 0) + 1,
                because,
                school,
                new RecordWelder(student.Id, student.Name, coupon.Stamp),
                log.Test,
                log.Profile.Code,
                Chosen(log.Test, coupon.Variants),
                result.Day,
                clock.Today,
                request.Procedure.Said() ?? sitting.Procedure ?? "",
                said,
                [
                    .. coupons.SelectMany(one => Tests(one.Log, coupons.Count > 1 ? one.Coupon.Stamp : null, evaluator)),
                    .. await Reports(sitting.Id, cancel),
                ],
                sitting.ByFilm,
                request.Witness.Said()
                    ?? marks.LastOrDefault(mark => mark.WitnessName is not null)?.WitnessName
                    ?? sitting.InspectorName
                    ?? (sitting.InspectorId is { } inspector ? names.GetValueOrDefault(inspector) : null),
                evaluator,
                names[by],
                request.Route,
                ThisProgram.Version,
                log.Profile.Id,
                log.Profile.Version
            )
        );
        if (record is null)
        {
            return Refusal.Conflict("sittingId", $"{log.Profile.Name} qualifies nothing by a coupon like this: there is nothing to certify.");
        }

        var body = CanonicalJson.Of(record);
        var (signature, publicKey) = signer.Sign(body);
        db.Certificates.Add(
            new Certificate
            {
                Id = id,
                Number = record.Number,
                Revision = record.Revision,
                StudentId = student.Id,
                SittingId = sitting.Id,
                Code = record.Code,
                TestId = log.Test.Id,
                Title = record.Title,
                Positions = [.. log.Test.Positions],
                Processes = [.. record.Processes],
                QualifiedOn = record.TestedOn,
                Route = record.Validity.Route,
                Body = body,
                Signature = signature,
                PublicKey = publicKey,
                IssuedAt = clock.Now,
                IssuedBy = by,
            }
        );
        if (before is not null)
        {
            before.ReplacedBy = id;
        }

        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Enters the paper of another school or employer: what it says, with what that qualifies by the rules kept here.</summary>
    public async Task<Outcome<Written>> Enter(Guid studentId, Guid id, OutsideRequest request, Guid by, CancellationToken cancel)
    {
        if (await db.Students.AsNoTracking().FirstOrDefaultAsync(one => one.Id == studentId, cancel) is not { } student)
        {
            return Refusal.NotFound("studentId", "A student of this school.");
        }

        if (request.TestedOn > clock.Today || request.LastUsedOn > clock.Today)
        {
            return Refusal.Field(request.TestedOn > clock.Today ? "testedOn" : "lastUsedOn", "A day that has come.");
        }

        var code = request.Code!;
        var continuity = Ranges.ByCode[code].Continuity;
        if (request.Route is { } route && Continuity.RoutesOf(continuity).All(one => one.Id != route))
        {
            return Refusal.Field("route", "A route of renewal of this code.");
        }

        if (request.Product == Product.Pipe && request.OutsideDiameterMm is null)
        {
            return Refusal.Field("outsideDiameterMm", "The outside diameter of the pipe.");
        }

        var coupon = new PassedCoupon(
            request.Product!.Value,
            request.Weld!.Value,
            request.Position!.Trim(),
            request.ThicknessMm!.Value,
            request.Product == Product.Pipe ? request.OutsideDiameterMm : null,
            request.Backing!.Value,
            request.Process!,
            request.FNumber,
            request.Progression!.Value,
            FillerGroup: request.FillerGroup.Said(),
            Covering: request.Covering.Said()
        );
        var rules = CoveringRules.ByCode[code];
        var covers = Covering.Sets(rules, [coupon]).Select(set => Covering.Variables(rules, set)).ToList();
        if (covers.Count == 0)
        {
            return Refusal.Field("position", "A coupon like this qualifies nothing by that code.");
        }

        var names = await Accounts.Names.Of(db, cancel);
        var kept = Continuity.Of(continuity, request.TestedOn!.Value, request.LastUsedOn is { } used ? [used] : [], clock.Today, request.Route);
        var known = await db.Certificates.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel);
        var record = RecordMaker.Entered(
            known?.Number ?? ((await db.Certificates.MaxAsync(one => (long?)one.Number, cancel) ?? 0) + 1),
            request.Paper!.Trim(),
            new RecordWelder(student.Id, student.Name, null),
            code,
            request.Title!.Trim(),
            request.TestedOn.Value,
            known is null ? clock.Today : clock.DayOf(known.IssuedAt),
            coupon,
            covers,
            kept,
            request.Route,
            known is null ? names[by] : names[known.IssuedBy],
            ThisProgram.Version
        );
        var body = CanonicalJson.Of(record);
        if (known is not null)
        {
            return Twins.Answer(id, new { known.StudentId, Paper = known.Body }, new { StudentId = studentId, Paper = body });
        }

        db.Certificates.Add(
            new Certificate
            {
                Id = id,
                Number = record.Number,
                Revision = 1,
                StudentId = studentId,
                Code = code,
                Title = record.Title,
                Positions = [coupon.Position],
                Processes = [coupon.Process],
                QualifiedOn = request.TestedOn.Value,
                Route = record.Validity.Route,
                Body = body,
                Outside = true,
                IssuedAt = clock.Now,
                IssuedBy = by,
            }
        );
        if (request.LastUsedOn is { } last && last > request.TestedOn)
        {
            db.UseProofs.Add(
                new UseProof
                {
                    Id = Guid.CreateVersion7(),
                    StudentId = studentId,
                    Process = coupon.Process,
                    Day = last,
                    Says = $"Confirmed on the paper of {record.School}.",
                    Within = [record.Number],
                    SignedAt = clock.Now,
                    SignedBy = by,
                }
            );
        }

        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Takes the validity from a record. It stays readable, with who revoked it and why.</summary>
    public async Task<Outcome<Written>> Revoke(Guid id, string why, Guid by, CancellationToken cancel)
    {
        if (await db.Certificates.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } certificate)
        {
            return Unknown();
        }

        if (certificate.ReplacedBy is not null)
        {
            return Refusal.Conflict("id", "A later revision counts in its stead. Revoke that one.");
        }

        if (certificate.RevokedAt is not null)
        {
            return new Written(id, false);
        }

        (certificate.RevokedAt, certificate.RevokedBy, certificate.RevokedWhy) = (clock.Now, by, why.Trim());
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Renews a record on its route.</summary>
    public async Task<Outcome<Written>> Renew(Guid id, Guid renewalId, RenewRequest request, Guid by, HoldsReader holds, CancellationToken cancel)
    {
        if (await db.Certificates.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } certificate)
        {
            return Unknown();
        }

        var renewal = new CertificateRenewed
        {
            Id = renewalId,
            Number = certificate.Number,
            Day = request.Day!.Value,
            Evidence = request.Evidence!.Trim(),
            At = clock.Now,
            By = by,
        };
        if (await db.CertificateRenewals.AsNoTracking().FirstOrDefaultAsync(one => one.Id == renewalId, cancel) is { } known)
        {
            return Twins.Answer(renewalId, known.Content, renewal.Content);
        }

        if (certificate.Route is null)
        {
            return Refusal.Conflict("id", "This code asks for no renewal: use of the process keeps it.");
        }

        if (renewal.Day > clock.Today || renewal.Day < certificate.QualifiedOn)
        {
            return Refusal.Field("day", "A day that has come, and not before the test.");
        }

        var held = (await holds.Read([certificate.StudentId], cancel)).Where(one => one.Number == certificate.Number).ToList();
        if (held.Count == 0 || held.TrueForAll(one => renewal.Day > one.Keeping.EndsOn))
        {
            return Refusal.Conflict("day", "It had ended by then: what has ended is won back by a new test.");
        }

        db.CertificateRenewals.Add(renewal);
        await db.SaveChangesAsync(cancel);
        return new Written(renewalId, true);
    }

    /// <summary>Signs for uses of processes. A coupon counts once for each process, whoever signs for it and how often.</summary>
    public async Task<Outcome<Written>> Sign(SignUses request, Guid by, HoldsReader holds, CancellationToken cancel)
    {
        var studentId = request.StudentId!.Value;
        if (!await db.Students.AnyAsync(one => one.Id == studentId, cancel))
        {
            return Refusal.NotFound("studentId", "A student of this school.");
        }

        var open = (await holds.Open(studentId, DateOnly.MinValue.AddYears(1969), cancel)).ToDictionary(one => (one.CouponId, one.Process));
        var records = await db
            .Certificates.AsNoTracking()
            .Where(one => one.StudentId == studentId && one.ReplacedBy == null && one.RevokedAt == null)
            .ToListAsync(cancel);
        var added = false;
        foreach (var (index, use) in request.Uses!.Index())
        {
            var field = $"uses[{index}]";
            if (await db.UseProofs.AsNoTracking().FirstOrDefaultAsync(one => one.Id == use!.Id, cancel) is { } known)
            {
                if (known.StudentId != studentId || known.Process != use!.Process || known.CouponId != use.CouponId)
                {
                    return Refusal.Conflict(field, "Another use is signed for under this id.");
                }

                continue;
            }

            var shown = use!.CouponId is { } couponId ? open.GetValueOrDefault((couponId, use.Process!)) : null;
            if (use.CouponId is not null && shown is null)
            {
                if (await db.UseProofs.AnyAsync(one => one.CouponId == use.CouponId && one.Process == use.Process && one.WithdrawnAt == null, cancel))
                {
                    continue; // signed for already
                }

                return Refusal.Conflict(field, "A closed coupon of this student with a run of that process.");
            }

            if (use.CouponId is null && use.Day > clock.Today)
            {
                return Refusal.Field(field, "A day that has come.");
            }

            db.UseProofs.Add(
                new UseProof
                {
                    Id = use.Id!.Value,
                    StudentId = studentId,
                    Process = use.Process!,
                    Day = shown?.Day ?? use.Day!.Value,
                    CouponId = use.CouponId,
                    Says = shown is null
                        ? use.Says!.Trim()
                        : $"Coupon {shown.Stamp}, {library.Tests.GetValueOrDefault(shown.TestId)?.Title ?? shown.TestId}",
                    Within = shown is null
                        ? [.. (use.Within ?? []).Where(number => records.Exists(one => one.Number == number))]
                        : await InRange(shown, records, cancel),
                    SignedAt = clock.Now,
                    SignedBy = by,
                }
            );
            added = true;
        }

        await db.SaveChangesAsync(cancel);
        return new Written(studentId, added);
    }

    /// <summary>Takes back what was signed of a use.</summary>
    public async Task<Outcome<Written>> Unsign(Guid id, Guid by, CancellationToken cancel)
    {
        if (await db.UseProofs.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } proof)
        {
            return Refusal.NotFound("id", "A use that was signed for.");
        }

        if (proof.WithdrawnAt is not null)
        {
            return new Written(id, false);
        }

        (proof.WithdrawnAt, proof.WithdrawnBy) = (clock.Now, by);
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>The coupons that were made at a sitting and count, with their logs, in the order in which they were started.</summary>
    public async Task<IReadOnlyList<(Coupon Coupon, CouponLog Log)>> Made(Sitting sitting, CancellationToken cancel)
    {
        var ids = await db
            .Coupons.Where(coupon => coupon.SittingId == sitting.Id && coupon.VoidedAt == null)
            .OrderBy(coupon => coupon.StartedAt)
            .Select(coupon => coupon.Id)
            .ToListAsync(cancel);
        List<(Coupon, CouponLog)> made = [];
        foreach (var one in ids)
        {
            var coupon = (await CouponLoad.Whole(db, one, cancel))!;
            made.Add((coupon, CouponLogs.Of(coupon, library)));
        }

        return made;
    }

    /// <summary>The record of a certificate, as it was signed.</summary>
    public static QualificationRecord RecordOf(Certificate certificate) =>
        JsonSerializer.Deserialize<QualificationRecord>(certificate.Body, Lenient)
        ?? throw new InvalidOperationException($"The record {certificate.Number} is empty.");

    // A record of any release stays readable.
    private static readonly JsonSerializerOptions Lenient = new(CoreJson.Options)
    {
        UnmappedMemberHandling = System.Text.Json.Serialization.JsonUnmappedMemberHandling.Skip,
        RespectRequiredConstructorParameters = false,
        RespectNullableAnnotations = false,
    };

    internal static Refusal Unknown() => Refusal.NotFound("id", "A record of qualification of this school.");

    // The records in whose range a coupon lies, where the code asks for that.
    private async Task<List<long>> InRange(OpenUse shown, List<Certificate> records, CancellationToken cancel)
    {
        var coupon = await db.Coupons.AsNoTracking().SingleAsync(one => one.Id == shown.CouponId, cancel);
        var test = library.Test(coupon.TestId, coupon.TestVersion).With(coupon.Variants);
        List<long> within = [];
        foreach (var record in records.Where(one => HoldsReader.NeedsRange(one.Code) && one.Processes.Contains(shown.Process)))
        {
            var table = Positions.Of(record.Code)!;
            var certified = RecordOf(record);
            var covered = RecordMaker
                .CouponsOf(test, record.Code)
                .Any(deposit =>
                    deposit.Process == shown.Process
                    && certified.Covers(
                        new AskedWeld(
                            deposit.Product,
                            deposit.Weld,
                            Positions.NameIn(table, deposit.Product, deposit.Position, deposit.Progression),
                            deposit.ThicknessMm,
                            deposit.OutsideDiameterMm,
                            deposit.Backing,
                            deposit.Process,
                            deposit.FNumber,
                            table.IsIso ? Progression.None : deposit.Progression,
                            deposit.PNumber,
                            deposit.FillerGroup,
                            deposit.Covering
                        )
                    )
                );
            if (covered)
            {
                within.Add(record.Number);
            }
        }

        return within;
    }

    private static IEnumerable<RecordTest> Tests(CouponLog log, string? stamp, string evaluator)
    {
        string Named(string name) => stamp is null ? name : $"{name}, {stamp}";
        var verdict = log.Verdict();
        yield return new RecordTest(
            Named("Visual examination"),
            Word(verdict.Seen == VerdictKind.CannotJudge && verdict.Visual.IsOpenInside ? VerdictKind.Accept : verdict.Seen),
            null,
            null,
            evaluator
        );
        foreach (var one in verdict.Specimens ?? [])
        {
            yield return new RecordTest(
                Named(one.Name.Capital()),
                Word(one.Verdict.Kind),
                one.Verdict.Reasons.Count > 0 ? one.Verdict.Reasons[0].Rule : null,
                null,
                evaluator
            );
        }
    }

    private async Task<IEnumerable<RecordTest>> Reports(Guid sittingId, CancellationToken cancel) =>
        (
            await db.SittingFiles.AsNoTracking().Where(file => file.OwnerId == sittingId && file.Settles).OrderBy(file => file.At).ToListAsync(cancel)
        ).Select(file => new RecordTest("Report of a laboratory", "accepted", $"SHA-256 {file.Hash[..16]}", file.Name, null));

    private static string Word(VerdictKind kind) =>
        kind switch
        {
            VerdictKind.Accept => "accepted",
            VerdictKind.Reject => "rejected",
            _ => "not judged",
        };

    private static Dictionary<string, string> Chosen(TestTemplate test, Dictionary<string, string> variants) =>
        test
            .Variants.Select(group => (group.Name, Option: group.Options.FirstOrDefault(option => option.Id == variants.GetValueOrDefault(group.Id))))
            .Where(one => one.Option is not null)
            .ToDictionary(one => one.Name, one => one.Option!.Name);
}
