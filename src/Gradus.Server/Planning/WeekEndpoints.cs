using System.Security.Claims;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>The week: read, solved in the background, accepted, and changed by hand. For signed-in instructors.</summary>
public static class WeekEndpoints
{
    private const double UsualSeconds = 10;
    private const int MostTold = 5;

    public static void MapWeeks(this IEndpointRouteBuilder routes)
    {
        var week = routes.MapGroup("/api/weeks/{monday}").WithTags("Plan").OnMondays();
        week.MapGet("", Read).Produces<WeekView>().ProducesProblem(400);
        week.MapPost("/solve", Solve).Validated<SolveWeek>().Produces<JobView>(202);
        week.MapGet("/job", Job).Produces<JobView>().ProducesProblem(404);
        week.MapDelete("/job", Cancel).Produces<JobView>().ProducesProblem(404);
        week.MapPost("/accept", Accept).Writes().Produces<Written>().ProducesProblem(409);
        week.MapDelete("/proposal", Discard).Produces<Written>();
        week.MapPut("/cells", Edit).Validated<EditCell>().Writes().Produces<Written>().ProducesProblem(409);
        week.MapGet("/cutlist", CutList).Produces<CutView>();
        week.MapGet("/cards", Cards).Produces<CardsView>();

        var plan = routes.MapGroup("/api").WithTags("Plan");
        plan.MapPut("/absences/{id:guid}", PutAbsence)
            .Validated<AbsenceRequest>()
            .Writes()
            .Produces<Written>()
            .ProducesProblem(404)
            .ProducesProblem(409);
        plan.MapDelete("/absences/{studentId:guid}/{day}", DeleteAbsences).Writes().Produces<Written>();
        plan.MapPut("/booths/{id:guid}", PutBooth).Validated<BoothRequest>().Writes().Produces<Written>().ProducesProblem(409);
        plan.MapPut("/booths/{id:guid}/removed", Remove).Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        plan.MapDelete("/booths/{id:guid}/removed", BringBack).Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        plan.MapPut("/booths/{id:guid}/closed", PutClosed).Validated<CloseBooth>().Writes().Produces<Written>().ProducesProblem(404);
    }

    private static async Task<Ok<WeekView>> Read(DateOnly monday, WeekBuilder builder, WeekDone done, WeekJobs jobs, CancellationToken cancel)
    {
        var facts = await builder.Build(monday, false, cancel);
        return TypedResults.Ok(View(facts, await done.Read(facts, cancel), jobs));
    }

    private static WeekView View(WeekFacts facts, IReadOnlyList<SlotDone> done, WeekJobs jobs)
    {
        var setup = facts.Setup;
        var cells = facts.Plan?.Cells ?? [];
        var perDay = setup.Week.PeriodNames.Count;
        var slots = facts
            .Comes.Values.SelectMany(one => one)
            .Concat(cells.Select(cell => cell.Slot))
            .Concat(done.Select(one => one.Slot))
            .ToHashSet();
        var ahead = cells.Where(cell => cell.Slot >= facts.Week.FirstOpen).ToList();
        return new WeekView(
            facts.Monday,
            [
                .. Enumerable
                    .Range(0, 7)
                    .Select(day => new WeekDay(facts.Monday.AddDays(day), [.. Enumerable.Range(day * perDay, perDay).Where(slots.Contains)]))
                    .Where(day => day.Slots.Count > 0),
            ],
            setup.Week.PeriodNames,
            setup.Week.HoursPerPeriod,
            setup.Week.HoldPointsPerPeriod,
            [.. facts.Booths.Select(PlanBooth.From)],
            [
                .. facts.Practice.Values.Select(one => new PlanStudent(
                    one.Student.Id,
                    one.Student.Name,
                    facts.Classes.First(group => group.Id == one.Student.ClassGroupId).Name,
                    facts.Comes[one.Student.Id],
                    [
                        .. facts
                            .Absences.Where(absence => absence.StudentId == one.Student.Id)
                            .SelectMany(absence =>
                                Enumerable
                                    .Range(0, perDay)
                                    .Where(period => absence.Period is null || absence.Period == period)
                                    .Select(period => setup.SlotOf(absence.Day, facts.Monday, period))
                            )
                            .Distinct()
                            .Order(),
                    ],
                    [.. one.Items.Select(PlanItem.From)],
                    one.Withheld,
                    one.Items.FirstOrDefault(item => !item.IsToKeep)?.TestId,
                    one.Chance,
                    one.Sound,
                    facts.WhyWithout(one)
                )),
            ],
            cells,
            jobs.Finished(facts.Monday) is { } waits ? waits.Facts.Describe(waits.Solution.Cells) : null,
            jobs.Of(facts.Monday),
            facts.Plan?.AcceptedAt,
            ahead.Sum(cell => cell.Gain),
            ahead.Sum(cell => cell.Cost),
            facts.Week.FirstOpen,
            done
        );
    }

    private static async Task<IResult> Solve(DateOnly monday, SolveWeek request, WeekBuilder builder, WeekJobs jobs, CancellationToken cancel) =>
        TypedResults.Accepted(
            $"/api/weeks/{monday:yyyy-MM-dd}/job",
            jobs.Start(await builder.Build(monday, request.FewestMoves, cancel, OpenFrom.NotBegun), request.Seconds ?? UsualSeconds)
        );

    private static IResult Job(DateOnly monday, WeekJobs jobs) =>
        jobs.Of(monday) is { } job ? TypedResults.Ok(job) : Refusal.NotFound("monday", "No week is being solved for this Monday.").ToResult();

    private static IResult Cancel(DateOnly monday, WeekJobs jobs) =>
        jobs.Stop(monday) is { } job ? TypedResults.Ok(job) : Refusal.NotFound("monday", "No week is being solved for this Monday.").ToResult();

    private static Ok<Written> Discard(DateOnly monday, WeekJobs jobs)
    {
        jobs.Forget(monday);
        return TypedResults.Ok(new Written(Guid.Empty, false));
    }

    /// <summary>Takes a solved week over, by what is true at this moment: what changed while it was solved is told, and a plan that cannot stand any more is refused.</summary>
    private static async Task<IResult> Accept(
        DateOnly monday,
        WeekJobs jobs,
        WeekBuilder builder,
        GradusContext db,
        TimeProvider time,
        ClaimsPrincipal user,
        Writes writes,
        CancellationToken cancel
    )
    {
        if (jobs.Finished(monday) is not { } done)
        {
            return Refusal.Conflict("monday", "No solved week waits to be accepted.").ToResult();
        }

        var now = await builder.Build(monday, false, cancel, solved: done.Facts);
        var solvedFrom = Math.Max(now.Week.FirstOpen, done.Facts.Week.FirstOpen);
        var cells = WeekMerge.Onto(now.Week, solvedFrom, now.Week.Periods, done.Solution.Cells);
        var errors = WeekCheck.Errors(now.Week, cells, needsMet: false);
        if (errors.Count > 0)
        {
            var changed = WeekMerge.Changed(done.Facts, now);
            return Refusal
                .Conflict(
                    "monday",
                    $"{(changed.Count > 0 ? $"Meanwhile: {string.Join(" ", changed)} " : "")}So this cannot stand: {string.Join(" ", errors.Take(MostTold).Select(now.InWords))} Plan again."
                )
                .ToResult();
        }

        // What has begun stays as it was planned before; what was pinned to it since comes in.
        var before = now.Plan?.Cells ?? [];
        var begun = WeekMerge.Onto(now.Week, now.Week.FirstOpen, solvedFrom, before.Select(cell => cell.Bare)).ToHashSet();
        IReadOnlyList<PlannedCell> all =
        [
            .. now.Past,
            .. before.Where(cell => begun.Remove(cell.Bare)),
            .. now.Describe([.. begun.Where(cell => cell.Booth is not null)]),
            .. now.Describe(cells),
        ];
        var id = await Keep(db, time, user, monday, all, done.Solution.Objective, done.Solution.Bound, cancel);
        writes.OnCommit(() => jobs.Forget(monday));
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<Guid> Keep(
        GradusContext db,
        TimeProvider time,
        ClaimsPrincipal user,
        DateOnly monday,
        IReadOnlyList<PlannedCell> cells,
        double objective,
        double bound,
        CancellationToken cancel
    )
    {
        // The latest holds, so two in one moment are told apart.
        var last = await db
            .WeekPlans.Where(one => one.Monday == monday)
            .OrderByDescending(one => one.AcceptedAt)
            .Select(one => (DateTimeOffset?)one.AcceptedAt)
            .FirstOrDefaultAsync(cancel);
        var now = time.GetUtcNow();
        var at = last >= now ? last.Value.AddMilliseconds(1) : now;
        var plan = new WeekPlan
        {
            Id = Guid.CreateVersion7(at),
            Monday = monday,
            Cells = cells,
            Objective = objective,
            Bound = bound,
            AcceptedAt = at,
            AcceptedBy = user.PersonId(),
        };
        db.WeekPlans.Add(plan);
        await db.SaveChangesAsync(cancel);
        return plan.Id;
    }

    private static async Task<IResult> Edit(
        DateOnly monday,
        EditCell request,
        WeekBuilder builder,
        GradusContext db,
        TimeProvider time,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var facts = await builder.Build(monday, false, cancel);
        var (cells, why) = PlanChange.Apply(
            facts.Week,
            facts.Plan?.Cells ?? [],
            new PlanMove(request.StudentId!.Value, request.Slot!.Value, request.ItemId, request.BoothId, request.FromSlot, request.Pinned),
            facts.Practice.ToDictionary(one => one.Key, one => one.Value.Student.Name),
            cell => facts.Describe([cell])[0]
        );
        if (cells is null)
        {
            return why!.ToRefusal().ToResult();
        }

        var id = await Keep(db, time, user, monday, cells, cells.Sum(cell => cell.Gain), facts.Plan?.Bound ?? 0, cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult> CutList(DateOnly monday, CutBook book, CancellationToken cancel) =>
        TypedResults.Ok(await book.Read(monday, cancel));

    private static async Task<IResult> Cards(DateOnly monday, HttpRequest request, BoothCards cards, CancellationToken cancel) =>
        TypedResults.Ok(await cards.Read(monday, $"{request.Scheme}://{request.Host}", cancel));

    private static async Task<IResult> PutAbsence(
        Guid id,
        AbsenceRequest request,
        GradusContext db,
        TimeProvider time,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        if (!await db.Students.AnyAsync(one => one.Id == request.StudentId, cancel))
        {
            return Refusal.NotFound("studentId", "The id of a student.").ToResult();
        }

        var absence = new Absence
        {
            Id = id,
            StudentId = request.StudentId!.Value,
            Day = request.Day!.Value,
            Period = request.Period,
            RecordedAt = time.GetUtcNow(),
            RecordedBy = user.PersonId(),
        };
        if (await db.Absences.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
        {
            return Twins.Answer(id, known.Content, absence.Content).ToResult();
        }

        db.Absences.Add(absence);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult> DeleteAbsences(Guid studentId, DateOnly day, GradusContext db, CancellationToken cancel)
    {
        var rows = await db.Absences.Where(one => one.StudentId == studentId && one.Day == day).ToListAsync(cancel);
        db.Absences.RemoveRange(rows);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(studentId, rows.Count > 0));
    }

    private static async Task<IResult> PutBooth(Guid id, BoothRequest request, GradusContext db, CancellationToken cancel)
    {
        if (await db.Booths.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } booth)
        {
            if (await IsFull(db, cancel) is { } full)
            {
                return full;
            }

            // A number that once stood on a coupon is not given again.
            booth = Booth.New(id, (await db.Booths.MaxAsync(one => (int?)one.Number, cancel) ?? 0) + 1);
            db.Booths.Add(booth);
        }

        if (
            await db
                .Booths.Standing()
                .Where(one => one.Id != id && one.Column == request.Column && one.Row == request.Row)
                .Select(one => (int?)one.Number)
                .FirstOrDefaultAsync(cancel) is
            { } there
        )
        {
            return Refusal.Conflict("column", $"Booth {there} stands there. Choose another place.").ToResult();
        }

        booth.Processes = [.. request.Processes!];
        booth.Has =
            (request.Pipe == true ? BoothTraits.Pipe : BoothTraits.None)
            | (request.Purge == true ? BoothTraits.Purge : BoothTraits.None)
            | (request.Extraction == true ? BoothTraits.Extraction : BoothTraits.None)
            | (request.Positioner == true ? BoothTraits.Positioner : BoothTraits.None);
        (booth.Column, booth.Row) = (request.Column!.Value, request.Row!.Value);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult?> IsFull(GradusContext db, CancellationToken cancel) =>
        await db.Booths.Standing().CountAsync(cancel) >= Accounts.SetupValidator.MostBooths
            ? Refusal.Conflict("id", $"A shop has at most {Accounts.SetupValidator.MostBooths} booths.").ToResult()
            : null;

    /// <summary>Takes a booth out of the shop; what was welded in it keeps its number.</summary>
    private static async Task<IResult> Remove(Guid id, GradusContext db, TimeProvider time, CancellationToken cancel)
    {
        if (await db.Booths.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } booth)
        {
            return Refusal.NotFound("id", "The id of a booth.").ToResult();
        }

        if (await db.Coupons.AnyAsync(one => one.BoothId == id && one.ClosedAt == null && one.VoidedAt == null, cancel))
        {
            return Refusal.Conflict("id", "A coupon is in work in this booth. Close it or move it first.").ToResult();
        }

        booth.RemovedAt ??= time.GetUtcNow();
        return TypedResults.Ok(new Written(id, await db.SaveChangesAsync(cancel) > 0));
    }

    private static async Task<IResult> BringBack(Guid id, GradusContext db, CancellationToken cancel)
    {
        if (await db.Booths.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } booth)
        {
            return Refusal.NotFound("id", "The id of a booth.").ToResult();
        }

        if (booth.RemovedAt is not null && await IsFull(db, cancel) is { } full)
        {
            return full;
        }

        booth.RemovedAt = null;
        return TypedResults.Ok(new Written(id, await db.SaveChangesAsync(cancel) > 0));
    }

    private static async Task<IResult> PutClosed(Guid id, CloseBooth request, GradusContext db, TimeProvider time, CancellationToken cancel)
    {
        if (await db.Booths.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } booth)
        {
            return Refusal.NotFound("id", "The id of a booth.").ToResult();
        }

        (booth.ClosedAt, booth.ClosedWhy) = (request.Why is null ? null : time.GetUtcNow(), request.Why);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(id, true));
    }
}
