using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;

namespace Gradus.Server.Coupons;

/// <summary><c>verdicts</c>: lists the closings whose verdict is not the one that their record gives; also while the server runs.</summary>
public static class VerdictCommand
{
    public static bool IsAsked(string[] args) => args is ["verdicts"];

    public static async Task<int> Run()
    {
        await using var db = await SchoolFile.Open(GradusOptions.FromEnvironment());
        if (db is null)
        {
            return ExitCodes.StorageIll;
        }

        var library = new SchoolLibrary(TimeProvider.System);
        await library.Read(db, CancellationToken.None);
        var wrong = await new VerdictReview(db, library).Wrong(CancellationToken.None);
        foreach (var one in wrong)
        {
            Console.WriteLine(
                $"{one.Stamp}  {one.ClosedAt.UtcDateTime:yyyy-MM-dd HH:mm} UTC  {one.Student}, {one.TestId}: kept as {one.Kept}, the record says {one.Now}"
            );
        }

        Console.WriteLine(
            wrong.Count == 0
                ? "Every verdict is the one that its record gives."
                : $"{wrong.Count} to look at: open each again and close it. Nothing was changed."
        );
        return ExitCodes.Fine;
    }
}
