using System.Text.Json;
using FluentValidation;
using Gradus.Core;
using Gradus.Core.Measure;

namespace Gradus.Server.Hosting;

/// <summary>Checks request bodies before they reach a handler.</summary>
public static class Validation
{
    /// <summary>Field names in errors are those of the JSON.</summary>
    public static void UseJsonNames() =>
        ValidatorOptions.Global.PropertyNameResolver = (_, member, _) => member is null ? null : JsonNamingPolicy.CamelCase.ConvertName(member.Name);

    /// <summary>Refuses a body that its validator does not accept, naming each field.</summary>
    public static RouteHandlerBuilder Validated<T>(this RouteHandlerBuilder route)
        where T : class =>
        route
            .AddEndpointFilter(
                async (context, next) =>
                {
                    var validator = context.HttpContext.RequestServices.GetRequiredService<IValidator<T>>();
                    var result = await validator.ValidateAsync(context.Arguments.OfType<T>().Single(), context.HttpContext.RequestAborted);
                    if (result.IsValid)
                    {
                        return await next(context);
                    }

                    var errors = result
                        .Errors.GroupBy(error => error.PropertyName)
                        .ToDictionary(group => group.Key, group => group.Select(error => error.ErrorMessage).Distinct().ToArray());
                    return new Refusal(StatusCodes.Status400BadRequest, "Some of what was sent cannot be used.", errors).ToResult();
                }
            )
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge);

    /// <summary>Required, and from one number to another.</summary>
    public static IRuleBuilderOptions<T, double?> Needs<T>(this IRuleBuilder<T, double?> rule, double from, double to, string what) =>
        rule.Must(value => value >= from && value <= to).WithMessage($"Give {what}, a number from {from:0.###} to {to:0.###}.");

    /// <summary>When given, from one number to another.</summary>
    public static IRuleBuilderOptions<T, double?> MayBe<T>(this IRuleBuilder<T, double?> rule, double from, double to, string what) =>
        rule.Must(value => value is null || (value >= from && value <= to))
            .WithMessage($"{what} is a number from {from:0.###} to {to:0.###}, or left out.");

    /// <summary>A number over 0 up to an end, or left out.</summary>
    public static IRuleBuilderOptions<T, double?> MayBeOver0<T>(this IRuleBuilder<T, double?> rule, double to, string what) =>
        rule.Must(value => value is null || (value > 0 && value <= to)).WithMessage($"{what} is over 0 and at most {to}, or left out.");

    /// <summary>Required, over 0, and at most a number.</summary>
    public static IRuleBuilderOptions<T, double?> NeedsOver0<T>(this IRuleBuilder<T, double?> rule, double to, string what) =>
        rule.Must(value => value > 0 && value <= to).WithMessage($"Give {what}, a number over 0 and at most {to:0.###}.");

    /// <summary>Required, and a bevel angle.</summary>
    public static IRuleBuilderOptions<T, double?> NeedsBevel<T>(this IRuleBuilder<T, double?> rule) =>
        rule.Needs(0, BevelAngle.MaxDegrees, "a bevel angle in degrees from square");

    /// <summary>Required text of some length.</summary>
    public static IRuleBuilderOptions<T, string?> NeedsText<T>(this IRuleBuilder<T, string?> rule, int most, string what) =>
        rule.Must(text => !string.IsNullOrWhiteSpace(text) && text.Length <= most).WithMessage($"Give {what}, 1 to {most} characters.");

    /// <summary>Required, and one of the names of an enumeration.</summary>
    public static IRuleBuilderOptions<T, TEnum?> NeedsOneOf<T, TEnum>(this IRuleBuilder<T, TEnum?> rule)
        where TEnum : struct, Enum => rule.NotNull().WithMessage($"Give one of: {CoreJson.Names<TEnum>()}.");

    /// <summary>Required, and one of the known ids.</summary>
    public static IRuleBuilderOptions<T, string?> NeedsOneOf<T>(this IRuleBuilder<T, string?> rule, IEnumerable<string> known) =>
        rule.Must(id => id is not null && known.Contains(id)).WithMessage($"Give one of: {string.Join(", ", known)}.");

    /// <summary>Required, and one of ids that may change while the server runs.</summary>
    public static IRuleBuilderOptions<T, string?> NeedsOneOf<T>(this IRuleBuilder<T, string?> rule, Func<IEnumerable<string>> known) =>
        rule.Must(id => id is not null && known().Contains(id)).WithMessage(_ => $"Give one of: {string.Join(", ", known())}.");
}
