using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>
/// <c>people</c>: for a school that lost its lead. Whoever has the machine has the school; everybody else asks the lead. It works while the server
/// is stopped, so that nothing of it is kept in memory elsewhere.
/// </summary>
public static class PeopleCommand
{
    private const string Usage = """
        people                     lists who instructs
        people pin NAME            gives a new PIN, and tells it once
        people lead NAME           makes an instructor a lead
        """;

    public static bool IsAsked(string[] args) => args is ["people", ..];

    public static async Task<int> Run(string[] args)
    {
        var options = GradusOptions.FromEnvironment();
        await using var db = await SchoolFile.Open(options);
        if (db is null)
        {
            return ExitCodes.StorageIll;
        }

        switch (args)
        {
            case ["people"]:
                foreach (var one in await db.People.Where(one => one.Role != PersonRole.Student).OrderBy(one => one.Name).ToListAsync())
                {
                    Console.WriteLine($"{one.Name}, {Words(one.Role)}{(one.LeftAt is null ? "" : ", has left")}");
                }

                return ExitCodes.Fine;
            case ["people", var what, var name] when what is "pin" or "lead":
                using (var storage = new Storage(options))
                {
                    try
                    {
                        storage.Take(); // a running server has it
                    }
                    catch (StorageException error)
                    {
                        await Console.Error.WriteLineAsync(error.Message);
                        return ExitCodes.StorageIll;
                    }

                    return await Change(db, what, name);
                }

            default:
                await Console.Error.WriteLineAsync(Usage);
                return ExitCodes.Misused;
        }
    }

    private static async Task<int> Change(GradusContext db, string what, string name)
    {
        var people = (await db.People.Where(one => one.Role != PersonRole.Student).ToListAsync()).Where(one =>
            string.Equals(one.Name, name.Trim(), StringComparison.OrdinalIgnoreCase)
        );
        if (people.FirstOrDefault() is not { } person)
        {
            await Console.Error.WriteLineAsync($"Nobody who instructs is called '{name}'. 'people' lists them.");
            return ExitCodes.Misused;
        }

        if (what == "lead")
        {
            (person.Role, person.LeftAt) = (PersonRole.Lead, null);
            Console.WriteLine($"{person.Name} is a lead instructor.");
        }
        else
        {
            var pin = PeopleBook.NewPin();
            person.PasswordHash = new PasswordHasher<Person>().HashPassword(person, pin);
            Console.WriteLine($"The PIN of {person.Name} is {pin}. It is told once: write it down, then sign in and choose another.");
        }

        // Whoever is signed in is so no more.
        person.SecurityStamp = Guid.NewGuid().ToString("N");
        await db.Sessions.Where(one => one.PersonId == person.Id).ExecuteDeleteAsync();
        await db.SaveChangesAsync();
        return ExitCodes.Fine;
    }

    private static string Words(PersonRole role) =>
        role switch
        {
            PersonRole.Lead => "lead instructor",
            PersonRole.Inspector => "inspector of sittings",
            _ => "instructor",
        };
}
