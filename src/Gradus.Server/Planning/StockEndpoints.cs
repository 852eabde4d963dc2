using System.Globalization;
using System.Security.Claims;
using CsvHelper;
using CsvHelper.Configuration;
using FluentValidation;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>The store as it is.</summary>
/// <param name="Kinds">What the library's tests and drills are made of: stock by another name is not drawn on by any plan.</param>
public sealed record StockView(IReadOnlyList<StockLevel> Levels, IReadOnlyList<StockKind> Kinds);

/// <summary>Something that came in (over 0) or went out (under 0).</summary>
/// <param name="LengthMm">Of bars; the amount then counts bars.</param>
public sealed record MoveStock(string? Stock, string? Unit, double? LengthMm, double? Amount, string? Why, bool OffCut = false);

/// <summary>What planning goes by.</summary>
public sealed record SetupView(WeekSetup Week, IReadOnlyList<SetPrice> Prices, Saw Saw, IReadOnlyList<SetupClass> Classes, string? FeedPath);

public sealed record SetPrice(string Id, string Unit, double Amount, string Meaning);

public sealed record SetupClass(Guid Id, string Name);

/// <summary>Changes to it; what is left out stays.</summary>
public sealed record SaveSetup(WeekSetup? Week, Dictionary<string, double>? Prices, Saw? Saw);

public sealed class MoveStockValidator : AbstractValidator<MoveStock>
{
    public static readonly string[] Units = ["kg", "L", "each", "mm"];

    public MoveStockValidator()
    {
        RuleFor(request => request.Stock).NeedsText(120, "the name of the stock");
        RuleFor(request => request.Unit).NeedsOneOf(Units);
        RuleFor(request => request.LengthMm)
            .Must((one, length) => one.Unit == "mm" ? length is >= 10 and <= 30_000 : length is null)
            .WithMessage("Of bars (unit mm) give the length, 10 to 30000 mm; leave it out for anything else.");
        RuleFor(request => request.Amount)
            .Must((one, amount) => amount is >= -1e7 and <= 1e7 and not 0 && (one.Unit != "mm" || double.IsInteger(amount.Value)))
            .WithMessage("Give the amount, over 0 for what came in and under 0 for what went out; bars are whole.");
        RuleFor(request => request.Why).NeedsText(200, "the reason");
    }
}

public sealed class SaveSetupValidator : AbstractValidator<SaveSetup>
{
    public SaveSetupValidator()
    {
        RuleFor(request => request.Week)
            .Must(week =>
                week is null
                || (
                    week.PeriodNames is { Count: >= 1 and <= 8 } names
                    && names.All(name => !string.IsNullOrWhiteSpace(name) && name.Length <= 30)
                    && week.PeriodStarts?.Count == names.Count
                    && week.PeriodStarts.Zip(week.PeriodStarts.Skip(1)).All(pair => pair.First < pair.Second)
                )
            )
            .WithMessage("Name 1 to 8 periods, each with the time at which it starts, one after another.");
        RuleFor(request => request.Week)
            .Must(week =>
                week is null
                || (
                    week.HoursPerPeriod is >= 0.5 and <= 12
                    && week.HoldPointsPerPeriod is >= 0 and <= 500
                    && week.MinPeriods is >= 0 and <= 40
                    && week.MaxPeriods is >= 1 and <= 40
                    && week.MinPeriods <= week.MaxPeriods
                    && (week.TeacherHoldPoints?.Values.All(holds => holds is >= 0 and <= 500) ?? true)
                )
            )
            .WithMessage("A period has 0.5 to 12 hours; hold points are 0 to 500; a student's periods 0 to 40, the least no more than the most.");
        RuleFor(request => request.Week)
            .Must(week =>
                week?.ClassPeriods is not { } classes
                || classes.Values.All(periods => periods.All(period => period >= 0 && period < week.PeriodNames.Count))
            )
            .WithMessage("A class comes in a period that there is not.");
        RuleFor(request => request.Prices)
            .Must(prices =>
                prices is null || prices.All(price => Price.Shipped.Any(one => one.Id == price.Key) && price.Value is >= 0 and <= 100_000)
            )
            .WithMessage($"Prices are 0 to 100000, of: {string.Join(", ", Price.Shipped.Select(one => one.Id))}.");
        RuleFor(request => request.Saw)
            .Must(saw => saw is null || (saw.KerfMm is >= 0 and <= 20 && saw.GripMm is >= 0 and <= 1000 && saw.KeepMm is >= 0 and <= 10_000))
            .WithMessage("Kerf is 0 to 20 mm, grip 0 to 1000 mm, the shortest off-cut 0 to 10000 mm.");
    }
}

/// <summary>The store, its moves, what planning goes by, and files coming in. For signed-in instructors.</summary>
public static class StockEndpoints
{
    public static void MapStock(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Stock");
        group.MapGet("/stock", Read).Produces<StockView>();
        group.MapPut("/stock/moves/{id:guid}", Move).Validated<MoveStock>().Writes().Produces<Written>().ProducesProblem(409);
        group.MapPut("/weeks/{monday}/sawn/{id:guid}", Sawn).OnMondays().Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapGet("/plan/setup", ReadSetup).Produces<SetupView>();
        group.MapPut("/plan/setup", SaveSetup).Validated<SaveSetup>().Writes().Produces<SetupView>();
        group.MapPost("/plan/calendar-key", RenewFeed).Writes().Produces<SetupView>();
        group.MapPost("/stock/import", ImportStock).TakesCsv();
        group.MapPost("/attendance/import", ImportAttendance).TakesCsv();
    }

    private const int MostLevels = 2000;

    private static async Task<Ok<StockView>> Read(StockBook stock, StockKinds kinds, CancellationToken cancel) =>
        TypedResults.Ok(
            new StockView(
                [
                    .. (await stock.Levels(cancel))
                        .Where(level => level.Amount != 0 || !level.OffCut)
                        .OrderBy(level => level.Stock, StringComparer.Ordinal)
                        .ThenByDescending(level => level.LengthMm)
                        .Take(MostLevels),
                ],
                kinds.All
            )
        );

    private static async Task<IResult> Move(
        Guid id,
        MoveStock request,
        StockBook stock,
        StockKinds kinds,
        GradusContext db,
        TimeProvider time,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        (request, var wrong) = Named(request, kinds);
        if (wrong is not null)
        {
            return Refusal.Field("unit", wrong).ToResult();
        }

        var move = Row(id, request, time.GetUtcNow(), user.PersonId());
        if (await db.StockMoves.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
        {
            return Twins.Answer(id, known.Content, move.Content).ToResult();
        }

        if (request.Amount < 0)
        {
            var there = (await stock.Levels(cancel))
                .Where(level => level.Stock == request.Stock && level.LengthMm == request.LengthMm && level.OffCut == request.OffCut)
                .Sum(level => level.Amount);
            if (there + request.Amount < 0)
            {
                return Refusal
                    .Conflict("amount", string.Create(CultureInfo.InvariantCulture, $"Only {there:0.###} {request.Unit} is there."))
                    .ToResult();
            }
        }

        db.StockMoves.Add(move);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    // Stock is kept under the name by which plans draw on it, and in its unit.
    private static (MoveStock Move, string? Wrong) Named(MoveStock move, StockKinds kinds) =>
        kinds.Match(move.Stock ?? "") is not { } kind ? (move, null)
        : kind.Unit == move.Unit ? (move with { Stock = kind.Stock }, null)
        : (move, $"{kind.Stock} is counted in {(kind.Unit == "mm" ? "bars (unit mm)" : kind.Unit)}.");

    private static StockMove Row(Guid id, MoveStock move, DateTimeOffset at, Guid by) =>
        new()
        {
            Id = id,
            Stock = move.Stock!.Trim(),
            Unit = move.Unit!,
            LengthMm = move.LengthMm,
            OffCut = move.OffCut,
            Amount = move.Amount!.Value,
            Why = move.Why!,
            At = at,
            By = by,
        };

    /// <summary>Puts the cut list of a section down as sawn: bars go out, off-cuts that are kept come in.</summary>
    private static async Task<IResult> Sawn(
        DateOnly monday,
        Guid id,
        [FromQuery] string stock,
        CutBook book,
        GradusContext db,
        TimeProvider time,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var why = $"Sawn for the week of {monday:yyyy-MM-dd}";
        if (await db.StockMoves.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
        {
            return Twins.Answer(id, new { known.Stock, known.Why }, new { Stock = stock, Why = why }).ToResult();
        }

        var section = (await book.Read(monday, cancel)).Sections.FirstOrDefault(one => one.Stock == stock);
        if (section is null)
        {
            return Refusal.NotFound("stock", "A section of this week's cut list.").ToResult();
        }

        if (section.Plan.Bars.Count == 0)
        {
            return Refusal.Conflict("stock", "There is no bar on the rack to cut.").ToResult();
        }

        var now = time.GetUtcNow();
        var rows = section
            .Plan.Bars.GroupBy(bar => (bar.LengthMm, bar.OffCut))
            .Select(group => new MoveStock(stock, "mm", group.Key.LengthMm, -group.Count(), why, group.Key.OffCut))
            .Concat(
                section
                    .Plan.Bars.Where(bar => bar.Kept)
                    .GroupBy(bar => Math.Floor(bar.LeftMm))
                    .Select(group => new MoveStock(stock, "mm", group.Key, group.Count(), why, true))
            )
            .Select((move, index) => Row(index == 0 ? id : Guid.CreateVersion7(now), move, now, user.PersonId()));
        db.StockMoves.AddRange(rows);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<Ok<SetupView>> ReadSetup(SetupBook setups, GradusContext db, CancellationToken cancel) =>
        TypedResults.Ok(await View(setups, db, cancel));

    private static async Task<Ok<SetupView>> SaveSetup(
        SaveSetup request,
        SetupBook setups,
        GradusContext db,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        await setups.Save(user.PersonId(), cancel, request.Week, prices: request.Prices, saw: request.Saw);
        return TypedResults.Ok(await View(setups, db, cancel));
    }

    /// <summary>The address that was given out is good for nothing from now on.</summary>
    private static async Task<Ok<SetupView>> RenewFeed(SetupBook setups, GradusContext db, ClaimsPrincipal user, CancellationToken cancel)
    {
        await setups.Save(user.PersonId(), cancel, isNewFeed: true);
        return TypedResults.Ok(await View(setups, db, cancel));
    }

    private static async Task<SetupView> View(SetupBook setups, GradusContext db, CancellationToken cancel)
    {
        var setup = await setups.Read(cancel);
        return new SetupView(
            setup.Week,
            [.. Price.Shipped.Select(price => new SetPrice(price.Id, price.Unit, setup.Prices[price.Id], price.Meaning))],
            setup.Saw,
            await db.ClassGroups.OrderBy(group => group.Name).Select(group => new SetupClass(group.Id, group.Name)).ToListAsync(cancel),
            setup.FeedKey is null ? null : $"/calendar/{setup.FeedKey}.ics"
        );
    }

    private static async Task<IResult> ImportStock(
        HttpRequest request,
        StockKinds kinds,
        GradusContext db,
        Writes writes,
        TimeProvider time,
        ClaimsPrincipal user,
        CancellationToken cancel,
        bool take = false
    )
    {
        var check = new MoveStockValidator();
        var now = time.GetUtcNow();
        return await CsvImport.Read(
            request,
            ["stock", "unit", "lengthMm", "amount"],
            take,
            csv =>
            {
                var amount = Number(csv.GetField("amount"));
                var length = Number(csv.GetField("lengthMm"));
                var (move, wrong) = Named(new MoveStock(csv.GetField("stock"), csv.GetField("unit"), length, amount, "Imported"), kinds);
                var error =
                    !string.IsNullOrWhiteSpace(csv.GetField("lengthMm")) && length is null ? "The length is not a number."
                    : amount is null ? "The amount is not a number."
                    : amount < 0 ? "A stock cannot come in with an amount under 0."
                    : check.Validate(move).Errors.FirstOrDefault()?.ErrorMessage ?? wrong;
                return error is null
                    ? (
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"{move.Stock}: {amount} {(length is null ? move.Unit : $"bars of {length} mm")}"
                        ),
                        null,
                        () => db.StockMoves.Add(Row(Guid.CreateVersion7(now), move, now, user.PersonId()))
                    )
                    : (null, error, null);
            },
            db,
            writes,
            cancel
        );
    }

    private static async Task<IResult> ImportAttendance(
        HttpRequest request,
        GradusContext db,
        SetupBook setups,
        Writes writes,
        TimeProvider time,
        ClaimsPrincipal user,
        CancellationToken cancel,
        bool take = false
    )
    {
        var students = await db.Students.Present().Select(one => new { one.Id, one.Name }).ToListAsync(cancel);
        var setup = await setups.Read(cancel);
        var now = time.GetUtcNow();
        return await CsvImport.Read(
            request,
            ["student", "day", "period"],
            take,
            csv =>
            {
                var name = csv.GetField("student")?.Trim();
                var student = students.Find(one => string.Equals(one.Name, name, StringComparison.OrdinalIgnoreCase));
                var isDay = DateOnly.TryParseExact(csv.GetField("day"), "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day);
                var text = csv.GetField("period")?.Trim();
                var period = string.IsNullOrEmpty(text)
                    ? (int?)null
                    : setup.Week.PeriodNames.ToList().FindIndex(one => string.Equals(one, text, StringComparison.OrdinalIgnoreCase));
                var error =
                    student is null ? $"There is no student '{name}'."
                    : !isDay ? "The day is written as 2026-11-23."
                    : period < 0 ? $"There is no period '{text}'; there are {string.Join(", ", setup.Week.PeriodNames)}."
                    : null;
                return error is null
                    ? (
                        $"{student!.Name} is absent on {day:yyyy-MM-dd}{(period is null ? "" : $", {text}")}",
                        null,
                        () =>
                            db.Absences.Add(
                                new Absence
                                {
                                    Id = Guid.CreateVersion7(now),
                                    StudentId = student.Id,
                                    Day = day,
                                    Period = period,
                                    RecordedAt = now,
                                    RecordedBy = user.PersonId(),
                                }
                            )
                    )
                    : (null, error, null);
            },
            db,
            writes,
            cancel
        );
    }

    private static double? Number(string? text) =>
        double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var value) && double.IsFinite(value) ? value : null;
}
