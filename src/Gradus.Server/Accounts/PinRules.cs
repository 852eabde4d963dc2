using Gradus.Data;
using Microsoft.AspNetCore.Identity;

namespace Gradus.Server.Accounts;

/// <summary>What a PIN is: 4 to 12 digits, none that anybody tries first.</summary>
public sealed class PinRules : IPasswordValidator<Person>
{
    public const int Shortest = 4;
    public const int Longest = 12;
    public const string Asked = "Choose a PIN of 4 to 12 digits.";
    public const string TooPlain = "Anybody would try that first. Choose another PIN, not all one digit and not a row such as 1234.";

    /// <summary>Why a PIN will not do; null when it will.</summary>
    public static string? Refuse(string? pin) =>
        pin is not { Length: >= Shortest and <= Longest } || !pin.All(char.IsAsciiDigit) ? Asked
        : IsPlain(pin) ? TooPlain
        : null;

    public Task<IdentityResult> ValidateAsync(UserManager<Person> manager, Person user, string? password) =>
        Task.FromResult(
            Refuse(password) is { } why ? IdentityResult.Failed(new IdentityError { Code = "pin", Description = why }) : IdentityResult.Success
        );

    private static bool IsPlain(string pin)
    {
        var steps = pin.Zip(pin.Skip(1), (a, b) => b - a).Distinct().ToList();
        return steps is [0 or 1 or -1];
    }
}
