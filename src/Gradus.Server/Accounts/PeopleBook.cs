using System.Globalization;
using System.Security.Cryptography;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>
/// Adds people, gives them PINs, ends their sessions. Whatever is changed here takes effect at once on every device. Each call is to be made
/// inside a whole write.
/// </summary>
public sealed class PeopleBook(GradusContext db, UserManager<Person> people, SessionBook sessions, SchoolClock clock, Writes writes)
{
    /// <summary>Somebody new with a PIN.</summary>
    public async Task<Outcome<Person>> Add(Guid id, string name, PersonRole role, string pin)
    {
        var person = Person.New(id, name.Trim(), role, clock.Now);
        return Refused(await people.CreateAsync(person, pin)) is { } refusal ? refusal : person;
    }

    /// <summary>Gives a PIN; whoever is signed in with the old one is signed out everywhere.</summary>
    public async Task<Refusal?> GivePin(Person person, string pin, CancellationToken cancel)
    {
        foreach (var rule in people.PasswordValidators)
        {
            if (Refused(await rule.ValidateAsync(people, person, pin)) is { } refusal)
            {
                return refusal;
            }
        }

        person.PasswordHash = people.PasswordHasher.HashPassword(person, pin);
        await End(person, cancel);
        return null;
    }

    /// <summary>Ends every session of somebody.</summary>
    public async Task End(Person person, CancellationToken cancel)
    {
        await people.UpdateSecurityStampAsync(person); // saves the person with it
        await db.Sessions.Where(one => one.PersonId == person.Id).ExecuteDeleteAsync(cancel);
        writes.OnCommit(() => sessions.Changed(person.Id));
    }

    /// <summary>Somebody who can sign in; null when there is none, or they have left.</summary>
    public Task<Person?> Find(Guid id, CancellationToken cancel) => db.People.FirstOrDefaultAsync(one => one.Id == id && one.LeftAt == null, cancel);

    /// <summary>True when nobody but this one leads the school.</summary>
    public async Task<bool> IsLastLead(Person person, CancellationToken cancel) =>
        person is { Role: PersonRole.Lead, LeftAt: null }
        && !await db.People.AnyAsync(one => one.Id != person.Id && one.Role == PersonRole.Lead && one.LeftAt == null, cancel);

    /// <summary>A PIN of six digits that nobody chose.</summary>
    public static string NewPin()
    {
        string pin;
        do
        {
            pin = RandomNumberGenerator.GetInt32(1_000_000).ToString("D6", CultureInfo.InvariantCulture);
        } while (PinRules.Refuse(pin) is not null);
        return pin;
    }

    private static Refusal? Refused(IdentityResult result) =>
        result.Succeeded ? null : Refusal.Field("pin", string.Join(" ", result.Errors.Select(error => error.Description)));
}
