using System.Security.Claims;
using FluentValidation;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>Who works at the school, who has left, and its tablets.</summary>
public sealed record PeopleView(IReadOnlyList<PersonView> People, IReadOnlyList<TabletView> Tablets);

/// <param name="LeftAt">Since when they have left; null while they are here.</param>
public sealed record PersonView(Guid Id, string Name, PersonRole Role, DateTimeOffset? LeftAt);

public sealed record TabletView(Guid Id, string Name, string PairedBy, DateTimeOffset PairedAt, bool IsThis);

/// <summary>Somebody new, or what somebody is called and is from now on. The PIN is asked of somebody new only.</summary>
public sealed record AddPerson(string? Name, PersonRole? Role, string? Pin);

public sealed record ChangeRole(PersonRole? Role);

/// <summary>A PIN that somebody else gives.</summary>
public sealed record GivePin(string? Pin);

public sealed class AddPersonValidator : AbstractValidator<AddPerson>
{
    public AddPersonValidator()
    {
        RuleFor(request => request.Name).NeedsText(PeopleRules.NameLength, "the name as it is to stand on records");
        RuleFor(request => request.Role).Must(PeopleRules.IsOfStaff).WithMessage(PeopleRules.RoleAsked);
        RuleFor(request => request.Pin).NeedsPin();
    }
}

public sealed class ChangeRoleValidator : AbstractValidator<ChangeRole>
{
    public ChangeRoleValidator() => RuleFor(request => request.Role).Must(PeopleRules.IsOfStaff).WithMessage(PeopleRules.RoleAsked);
}

public sealed class GivePinValidator : AbstractValidator<GivePin>
{
    public GivePinValidator() => RuleFor(request => request.Pin).NeedsPin();
}

internal static class PeopleRules
{
    public const int NameLength = 80;
    public const string NameTooLong = "At most 80 characters.";
    public const string RoleAsked = "Give one of: lead, instructor, inspector. A student is added to a class.";

    public static bool IsOfStaff(PersonRole? role) => role is PersonRole.Lead or PersonRole.Instructor or PersonRole.Inspector;

    /// <summary>Required, and a PIN that will do.</summary>
    public static void NeedsPin<T>(this IRuleBuilder<T, string?> rule) =>
        rule.Custom(
            (pin, context) =>
            {
                if (PinRules.Refuse(pin) is { } why)
                {
                    context.AddFailure(why);
                }
            }
        );
}

/// <summary>The people of the school. Those who instruct see them; the lead looks after them.</summary>
public static class PeopleEndpoints
{
    private const int MostPeople = 100;

    public static void MapPeople(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("People");
        group.MapGet("/people", Read).Produces<PeopleView>();
        group.MapPut("/people/{id:guid}", Add).Validated<AddPerson>().Writes().Produces<Written>().ProducesProblem(409);
        group.MapPut("/people/{id:guid}/role", Change).Validated<ChangeRole>().Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapPut("/people/{id:guid}/pin", Give).Validated<GivePin>().Writes().Produces<Written>().ProducesProblem(404);
        group.MapPut("/people/{id:guid}/left", Leave).Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapDelete("/people/{id:guid}/left", ComeBack).Writes().Produces<Written>().ProducesProblem(404);
        group.MapDelete("/tablets/{id:guid}", EndTablet).Writes().Produces<Written>().ProducesProblem(404);
    }

    private static async Task<PeopleView> Read(HttpContext context, GradusContext db, Tablets tablets, CancellationToken cancel)
    {
        var people = await db
            .People.AsNoTracking()
            .Where(one => one.Role != PersonRole.Student)
            .OrderBy(one => one.LeftAt != null)
            .ThenBy(one => one.Name)
            .Take(MostPeople * 2)
            .Select(one => new PersonView(one.Id, one.Name, one.Role, one.LeftAt))
            .ToListAsync(cancel);
        var mine = await tablets.Of(context, cancel);
        var all = await db
            .Tablets.AsNoTracking()
            .Where(one => one.EndedAt == null)
            .OrderBy(one => one.Name)
            .Take(Limits.PageRows)
            .Join(db.People, one => one.PairedBy, one => one.Id, (tablet, by) => new { tablet, by.Name })
            .ToListAsync(cancel);
        return new PeopleView(
            people,
            [.. all.Select(one => new TabletView(one.tablet.Id, one.tablet.Name, one.Name, one.tablet.PairedAt, one.tablet.Id == mine?.Id))]
        );
    }

    private static async Task<IResult> Add(Guid id, AddPerson request, GradusContext db, PeopleBook people, CancellationToken cancel)
    {
        var name = request.Name!.Trim();
        if (await db.People.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
        {
            return Twins.Answer(id, new { known.Name, known.Role }, new { Name = name, Role = request.Role!.Value }).ToResult();
        }

        if (await db.People.AnyAsync(one => one.Role != PersonRole.Student && one.Name == name, cancel))
        {
            return Refusal.Conflict("name", "Somebody of that name signs records already. Tell the two apart.").ToResult();
        }

        if (await db.People.CountAsync(one => one.Role != PersonRole.Student && one.LeftAt == null, cancel) >= MostPeople)
        {
            return Refusal.Conflict("name", $"At most {MostPeople} people instruct at a school.").ToResult();
        }

        var (_, refusal) = await people.Add(id, name, request.Role!.Value, request.Pin!);
        return refusal?.ToResult() ?? TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult> Change(Guid id, ChangeRole request, PeopleBook people, CancellationToken cancel)
    {
        if (await Staff(people, id, cancel) is not { } person)
        {
            return Unknown();
        }

        if (request.Role != PersonRole.Lead && await people.IsLastLead(person, cancel))
        {
            return LastLead();
        }

        if (person.Role == request.Role)
        {
            return TypedResults.Ok(new Written(id, false));
        }

        person.Role = request.Role!.Value;
        await people.End(person, cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult> Give(Guid id, GivePin request, PeopleBook people, CancellationToken cancel) =>
        await Staff(people, id, cancel) is not { } person ? Unknown()
        : await people.GivePin(person, request.Pin!, cancel) is { } refusal ? refusal.ToResult()
        : TypedResults.Ok(new Written(id, true));

    private static async Task<IResult> Leave(Guid id, GradusContext db, PeopleBook people, SchoolClock clock, CancellationToken cancel)
    {
        if (await db.People.FirstOrDefaultAsync(one => one.Id == id && one.Role != PersonRole.Student, cancel) is not { } person)
        {
            return Unknown();
        }

        if (person.LeftAt is not null)
        {
            return TypedResults.Ok(new Written(id, false));
        }

        if (await people.IsLastLead(person, cancel))
        {
            return LastLead();
        }

        person.LeftAt = clock.Now;
        await people.End(person, cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult> ComeBack(Guid id, GradusContext db, CancellationToken cancel)
    {
        if (await db.People.FirstOrDefaultAsync(one => one.Id == id && one.Role != PersonRole.Student, cancel) is not { } person)
        {
            return Unknown();
        }

        person.LeftAt = null;
        return TypedResults.Ok(new Written(id, await db.SaveChangesAsync(cancel) > 0));
    }

    private static async Task<IResult> EndTablet(Guid id, Tablets tablets, CancellationToken cancel) =>
        await tablets.End(id, cancel) ? TypedResults.Ok(new Written(id, true)) : Refusal.NotFound("id", "A tablet of this school.").ToResult();

    private static async Task<Person?> Staff(PeopleBook people, Guid id, CancellationToken cancel) =>
        await people.Find(id, cancel) is { Role: not PersonRole.Student } person ? person : null;

    private static IResult Unknown() => Refusal.NotFound("id", "Somebody who instructs at this school.").ToResult();

    private static IResult LastLead() => Refusal.Conflict("id", "A school needs a lead instructor. Make somebody else one first.").ToResult();
}
