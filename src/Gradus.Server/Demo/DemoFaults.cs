using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Server.Coupons;

namespace Gradus.Server.Demo;

/// <summary>What a simulated stage shows: a fault over the limit when it went wrong, now and then a trace within the limit when it did not.</summary>
internal static class DemoFaults
{
    private const double Inch = 25.4;
    private static readonly string[] Clocks = ["12:00", "1:30", "3:00", "4:30", "6:00", "7:30", "9:00", "10:30"];

    public static RecordFinding? Pick(Random random, TestTemplate template, Stage stage, bool clean, string? weakClock)
    {
        var clock =
            template.Product == Product.Pipe
                ? (weakClock is not null && random.NextDouble() < 0.7 ? weakClock : Clocks[random.Next(Clocks.Length)])
                : null;
        double? place = clock is null ? Math.Round(random.NextDouble() * template.Joint.LengthMm!.Value) : null;
        RecordFinding Found(DiscontinuityKind kind, double? depth = null, double? height = null, double? length = null, double? width = null) =>
            new(null, kind, stage, clock, place, depth, height, length, null, width, null);

        if (clean)
        {
            return stage == Stage.Cap && random.NextDouble() < 0.5
                    ? Found(DiscontinuityKind.ExcessFaceReinforcement, height: Inch / 16 * (1 + random.Next(2) * 0.5), width: Inch * 3 / 8)
                : stage == Stage.Cap && random.NextDouble() < 0.3 ? Found(DiscontinuityKind.Undercut, depth: Inch / 64, length: Inch / 2)
                : null;
        }

        return (stage, template.OpenRoot && template.Weld == WeldKind.Groove, random.Next(2)) switch
        {
            (Stage.Root, true, 0) => Found(DiscontinuityKind.IncompleteJointPenetration, length: Inch / 2),
            (Stage.Root, true, _) => Found(DiscontinuityKind.RootConcavity, depth: Inch * 3 / 32, length: Inch / 2),
            (Stage.Root, false, _) => Found(DiscontinuityKind.IncompleteFusion, length: Inch / 4),
            (Stage.Cap, _, 0) => Found(DiscontinuityKind.Undercut, depth: Inch * 3 / 64, length: Inch),
            (Stage.Cap, _, _) => Found(DiscontinuityKind.Underfill, depth: Inch / 32, length: Inch),
            _ => Found(DiscontinuityKind.IncompleteFusion, length: Inch / 4),
        };
    }
}
