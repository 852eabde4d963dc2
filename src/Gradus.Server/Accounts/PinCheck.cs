using System.Net;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Gradus.Server.Accounts;

/// <summary>Marks an endpoint whose request is a signature.</summary>
/// <param name="Always">False where only some requests are.</param>
public sealed record PinMark(bool Always);

/// <summary>Tries PINs, as slowly as <see cref="PinBrake"/> has it. A name that is nobody's takes as long as one that is somebody's.</summary>
public sealed class PinCheck(PinBrake brake, UserManager<Person> people, Tablets tablets)
{
    private static readonly string NobodysHash = new PasswordHasher<Person>().HashPassword(
        Person.New(Guid.Empty, "", PersonRole.Student, default),
        ""
    );

    /// <summary>Whose PIN it is, of those whom it may be.</summary>
    public async Task<(Person? Person, Refusal? Refusal)> Try(
        IReadOnlyList<Person> candidates,
        string pin,
        HttpContext context,
        CancellationToken cancel
    )
    {
        var device = await Device(context, cancel);

        // One after another on a device: a double tap is not two guesses, and a hundred at once are a hundred.
        using var turn = await brake.Turn(device, cancel);
        Guid? first = candidates is [var one, ..] ? one.Id : null;
        if (brake.Begin(first, device) is { } wait)
        {
            context.Response.Headers.RetryAfter = $"{Math.Max(1, (int)Math.Ceiling(wait.TotalSeconds))}";
            return (null, PinBrake.Refuse(wait));
        }

        var right = candidates.Where(person => Is(person, person.PasswordHash ?? NobodysHash, pin)).ToList();
        if (candidates.Count == 0)
        {
            Is(Person.New(Guid.Empty, "", PersonRole.Student, default), NobodysHash, pin);
        }

        if (right is not [var found])
        {
            var says =
                right.Count > 1 ? "Two of that name have that PIN. Ask an instructor for another one." : "That PIN does not belong to that name.";
            return (null, Refusal.Of(StatusCodes.Status401Unauthorized, "Not signed in.", "pin", says));
        }

        brake.Right(first!.Value, device, found.Id);
        return (found, null);
    }

    /// <summary>Whether whoever is signed in signs with their own PIN; null when they do.</summary>
    public async Task<Refusal?> Sign(HttpContext context, CancellationToken cancel) =>
        await SignAs((await people.FindByIdAsync($"{context.User.PersonId()}"))!, "Give your PIN: this is your signature.", context, cancel);

    /// <summary>Whether somebody signs with their own PIN on the device of whoever is signed in; null when they do.</summary>
    /// <param name="asks">What is said when no PIN was given.</param>
    public async Task<Refusal?> SignAs(Person who, string asks, HttpContext context, CancellationToken cancel)
    {
        var pin = context.Request.Headers[Signing.Header].FirstOrDefault();
        if (string.IsNullOrWhiteSpace(pin) || pin.Length > PinRules.Longest)
        {
            return Refusal.Field("pin", asks);
        }

        return (await Try([who], pin, context, cancel)).Refusal is { } refusal ? NotYours(refusal) : null;
    }

    /// <summary>Who is signed in stays so; the PIN was wrong.</summary>
    public static Refusal NotYours(Refusal refusal) =>
        refusal.Status == StatusCodes.Status401Unauthorized
            ? Refusal.Of(StatusCodes.Status403Forbidden, "Not signed.", "pin", "That is not your PIN.")
            : refusal;

    // A tablet of the shop is a device wherever it stands; else it is the address that asks.
    private async Task<string> Device(HttpContext context, CancellationToken cancel) =>
        await tablets.Of(context, cancel) is { } tablet
            ? $"{tablet.Id}"
            : (context.Connection.RemoteIpAddress ?? IPAddress.None).MapToIPv6().ToString();

    private bool Is(Person person, string hash, string pin) =>
        people.PasswordHasher.VerifyHashedPassword(person, hash, pin) != PasswordVerificationResult.Failed;
}

/// <summary>Endpoints whose request is a signature: the PIN comes in a header, so that no body is kept with one in it.</summary>
public static class Signing
{
    /// <summary>The header that carries the PIN of whoever signs.</summary>
    public const string Header = "Gradus-Pin";

    /// <summary>Asks for the PIN of whoever is signed in before anything is written.</summary>
    public static RouteHandlerBuilder WithPin(this RouteHandlerBuilder route) =>
        route
            .AddEndpointFilter(
                async (context, next) =>
                    await context
                        .HttpContext.RequestServices.GetRequiredService<PinCheck>()
                        .Sign(context.HttpContext, context.HttpContext.RequestAborted)
                        is { } refusal
                        ? refusal.ToResult()
                        : await next(context)
            )
            .MayAskForPin(always: true);

    /// <summary>Says in the document that a PIN is asked for.</summary>
    public static RouteHandlerBuilder MayAskForPin(this RouteHandlerBuilder route, bool always = false) =>
        route
            .WithMetadata(new PinMark(always))
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status403Forbidden)
            .ProducesProblem(StatusCodes.Status429TooManyRequests);

    /// <summary>States the header in the OpenAPI document.</summary>
    public static Task State(OpenApiOperation operation, OpenApiOperationTransformerContext context, CancellationToken cancel)
    {
        if (context.Description.ActionDescriptor.EndpointMetadata.OfType<PinMark>().FirstOrDefault() is { } mark)
        {
            (operation.Parameters ??= []).Add(
                new OpenApiParameter
                {
                    Name = Header,
                    In = ParameterLocation.Header,
                    Required = mark.Always,
                    Description = mark.Always
                        ? "The PIN of whoever is signed in: the signature."
                        : "The PIN of whoever is signed in, where a verdict was signed before.",
                    Schema = new OpenApiSchema { Type = JsonSchemaType.String },
                }
            );
        }

        return Task.CompletedTask;
    }
}
