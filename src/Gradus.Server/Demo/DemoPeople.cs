using Gradus.Data;

namespace Gradus.Server.Demo;

/// <summary>A simulated student: where they start, how they learn, and how many coupons the demo history has of them.</summary>
/// <param name="Skill">Log-odds of a clean stage on the first coupon.</param>
/// <param name="Gain">What each coupon adds to it.</param>
/// <param name="Weak">The stage that lags, and by how much.</param>
/// <param name="LastDaysAgo">Days between the last closed coupon and today.</param>
/// <param name="Earlier">The tests practised before, in order, and on how many coupons.</param>
/// <param name="OpenStage">Today's coupon in work has reached this stage; null when none is open.</param>
internal sealed record SimulatedStudent(
    string Name,
    bool Evening,
    OperatorHand Hand,
    string TestId,
    int Coupons,
    double Skill,
    double Gain,
    (Stage Stage, double By)? Weak,
    string? WeakClock,
    double LastDaysAgo,
    Stage? OpenStage,
    string? Note,
    (DecisionKind Kind, string Reason, double DaysAgo)? Decision,
    (string TestId, int Coupons)[] Earlier,
    (bool Passed, double DaysAgo, string Note)? Sat = null
);

/// <summary>The people of the demo school. All of them are invented.</summary>
internal static class DemoPeople
{
    public const string Lead = "Greta Lindqvist-Moe";
    public const string Second = "Femi Adair";

    public static readonly IReadOnlyList<SimulatedStudent> Students =
    [
        new(
            "Ines Halvorsen",
            false,
            OperatorHand.Right,
            "R3",
            14,
            1.6,
            0.12,
            (Stage.Root, -2.2),
            "6:00",
            1,
            Stage.Root,
            "The bottom of the root keeps coming back.",
            (DecisionKind.Practise, "The root keeps failing at the bottom. Bottom half only until two are clean.", 4),
            [("F1", 2), ("P4", 6), ("R2", 6)]
        ),
        new("Tobias Okoro", false, OperatorHand.Right, "P8", 2, -0.4, 0.1, null, null, 2, Stage.FitUp, "First weeks.", null, [("F1", 3)]),
        new("Maren Quist", true, OperatorHand.Right, "R3", 9, 2.2, 0.1, null, null, 74, null, "Back after ten weeks away.", null, [("P4", 5)]),
        new("Dev Pillai", false, OperatorHand.Left, "R3", 15, 2.8, 0.25, null, null, 1, Stage.Cap, null, null, [("P4", 4), ("R1", 5)]),
        new(
            "Sunniva Brandt",
            true,
            OperatorHand.Right,
            "R3",
            12,
            2.2,
            0.12,
            (Stage.Cap, -1.0),
            "9:00",
            3,
            null,
            "Sat the test last week and failed on undercut at the cap.",
            (DecisionKind.TestNow, "Steady at the bottom, and the cap has come up.", 9),
            [("P6", 5), ("R2", 4)],
            (false, 7, "Undercut at the cap, 9 o'clock.")
        ),
        new(
            "Oksana Dral",
            true,
            OperatorHand.Right,
            "P8",
            6,
            3.6,
            0.1,
            null,
            null,
            22,
            null,
            "Certified in June; the six months of continuity run out soon.",
            null,
            [("P4", 5), ("P9", 4)],
            (true, 162, "")
        ),
        new("Priya Venn", false, OperatorHand.Right, "P8", 8, 1.2, 0.2, (Stage.Cap, -1.2), null, 1, Stage.Fill, null, null, [("F1", 3), ("P1", 4)]),
        new(
            "Bastien Amsel",
            false,
            OperatorHand.Left,
            "P8",
            10,
            1.8,
            0.15,
            null,
            null,
            2,
            null,
            null,
            (DecisionKind.Practise, "Fill is left low before the cap. Two more with the fill measured.", 6),
            [("P1", 4)]
        ),
        new("Leila Farrow", true, OperatorHand.Right, "P8", 11, 2.6, 0.2, null, null, 3, null, null, null, [("P1", 4), ("P9", 3)]),
        new("Callum Wight", false, OperatorHand.Right, "P8", 5, 0.6, 0.15, (Stage.Root, -0.8), null, 1, Stage.Root, null, null, [("F1", 4)]),
        new("Noor Haddix", true, OperatorHand.Right, "R3", 7, 1.0, 0.2, (Stage.Fill, -0.8), "7:30", 4, null, null, null, [("P4", 5)]),
        new("Emeka Strand", false, OperatorHand.Right, "R3", 10, 1.6, 0.18, null, null, 1, Stage.Fill, null, null, [("P3", 4), ("R1", 5)]),
        new("Yuki Tarrant", true, OperatorHand.Left, "P8", 4, 0.8, 0.2, null, null, 5, null, null, null, [("F1", 3)]),
        new("Rosalind Peake", true, OperatorHand.Right, "R3", 3, 0.2, 0.2, (Stage.Root, -0.6), "5:00", 4, null, null, null, [("P3", 5)]),
    ];
}
