using Gradus.Core.Library;

namespace Gradus.Core.Certification;

/// <summary>A point of the list of a sitting's day.</summary>
/// <param name="Asks">What is read off and written down; null for nothing.</param>
/// <param name="Witnessed">True where the inspector has to see it.</param>
/// <param name="HoldPoint">The hold point of the test that it answers; null for none.</param>
public sealed record DayPoint(string Id, string Title, string? Asks, bool Witnessed, string? HoldPoint = null);

/// <summary>What is done on the day of a sitting, in the order of the job. Common practice, but for the hold points: those are the test's.</summary>
public static class DayList
{
    public const string Identity = "identity";
    public const string Material = "material";
    public const string Filler = "filler";
    public const string Stamp = "stamp";
    public const string FitUp = "fitUp";
    public const string Position = "position";
    public const string Finished = "finished";

    /// <summary>The points for a test under its rules.</summary>
    public static IReadOnlyList<DayPoint> Of(TestTemplate test, TestRules rules)
    {
        var fitUp = rules.HoldPoints.FirstOrDefault(point => point.Stage == Stage.FitUp);
        return
        [
            new(Identity, "Identity of the welder", "Seen by: card, badge", false),
            new(Material, "Base metal", "Heat number", false),
            new(Filler, "Filler metal", "Lot number", false),
            new(Stamp, "Coupon stamped", null, false),
            new(FitUp, "Fit-up", null, true, fitUp?.Id),
            .. test.FitUp.Questions.Any(question => question.Id == "position") ? [new DayPoint(Position, "Position", null, true)] : (DayPoint[])[],
            .. rules.HoldPoints.Where(point => point != fitUp).Select(point => new DayPoint($"hold:{point.Id}", point.Title, null, true, point.Id)),
            new(Finished, "Welding finished", null, true),
        ];
    }
}
