using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Library;

namespace Gradus.Core.Tests.Coaching;

/// <summary>
/// Faults as an instructor meets them, with the cause that is said first of each. Common practice throughout, as handbooks of the processes have it;
/// where a number decides it is said beside the case.
/// </summary>
public class CauseCasesTests
{
    private static readonly Span Amps = new(80, 95);
    private static readonly Span Volts = new(18, 20);

    private static CauseFacts Smaw(Stage stage, ElectrodeFamily family = ElectrodeFamily.LowHydrogen) =>
        new(stage, Process: Process.Smaw, Family: family, Metal: BaseMetal.CarbonSteel, CardAmps: Amps, ElectrodeMm: 3.175);

    private static CauseFacts OpenRoot(Process process = Process.Smaw) =>
        new(
            Stage.Root,
            Process: process,
            Family: process == Process.Smaw ? ElectrodeFamily.Cellulosic : ElectrodeFamily.Other,
            Joint: CoachJoint.Open,
            Metal: BaseMetal.CarbonSteel,
            PlannedGapMm: 2.4,
            PlannedFaceMm: 2.4,
            CardAmps: Amps,
            ElectrodeMm: 3.175
        );

    private static CauseFacts Wire(Process process, Stage stage) =>
        new(
            stage,
            Process: process,
            Metal: BaseMetal.CarbonSteel,
            CardAmps: new(170, 210),
            CardVolts: Volts,
            CardStickOut: new(12.7, 19),
            CardGasFlow: new(14, 19)
        );

    private static readonly Dictionary<string, (DiscontinuityKind Kind, CauseFacts Facts, string First)> Cases = new()
    {
        ["root short, gap closed"] = (DiscontinuityKind.IncompleteJointPenetration, OpenRoot() with { GapMm = 1.6 }, "gapClosed"),
        ["root short, face thick"] = (DiscontinuityKind.IncompleteJointPenetration, OpenRoot() with { FaceMm = 3.2 }, "faceThick"),
        ["root short, 70 A"] = (DiscontinuityKind.IncompleteJointPenetration, OpenRoot() with { Amps = 70 }, "ampsLowRoot"),
        ["root short on one wall, offset"] = (
            DiscontinuityKind.IncompleteJointPenetration,
            OpenRoot() with
            {
                OffsetMm = 1.6,
                Shape = FindingShape.OneWall,
            },
            "offsetRoot"
        ),
        ["root short at the tie-in, stop as it was"] = (
            DiscontinuityKind.IncompleteJointPenetration,
            OpenRoot() with
            {
                StartStopAwayMm = 3,
                StopAsIs = true,
                Shape = FindingShape.AtStop,
            },
            "coldTieIn"
        ),
        ["root short over a strip that stood off"] = (
            DiscontinuityKind.IncompleteFusion,
            Smaw(Stage.Root) with
            {
                Joint = CoachJoint.Strip,
                StripGapMm = 1,
            },
            "stripOff"
        ),
        ["lower corner of a strip not fused"] = (
            DiscontinuityKind.IncompleteFusion,
            Smaw(Stage.Root) with
            {
                Joint = CoachJoint.Strip,
                Position = "2G",
                Shape = FindingShape.LowerToe,
            },
            "stripWall"
        ),
        ["hole, keyhole large"] = (DiscontinuityKind.BurnThrough, OpenRoot() with { KeyholeLarge = true }, "keyholePause"),
        ["hole, face thin"] = (DiscontinuityKind.BurnThrough, OpenRoot() with { FaceMm = 1 }, "faceThin"),
        ["hole, gap wide"] = (DiscontinuityKind.BurnThrough, OpenRoot() with { GapMm = 4 }, "gapWide"),
        ["hole, 110 A"] = (DiscontinuityKind.BurnThrough, OpenRoot() with { Amps = 110 }, "ampsHighRoot"),
        ["hole in the hot pass"] = (DiscontinuityKind.BurnThrough, Smaw(Stage.Hot, ElectrodeFamily.Cellulosic), "hotSlow"),
        ["hole in a short-arc root, tip close"] = (
            DiscontinuityKind.BurnThrough,
            OpenRoot(Process.Gmaw) with
            {
                StickOutMm = 6,
                CardStickOut = new(9.5, 12.7),
            },
            "tipShort"
        ),
        ["suck-back at six"] = (DiscontinuityKind.RootConcavity, OpenRoot() with { ClockMinutes = 360, Position = "5G" }, "overheadArc"),
        ["suck-back under a hot pass"] = (
            DiscontinuityKind.RootConcavity,
            new CauseFacts(Stage.Hot, Process: Process.Gtaw, Amps: 190, CardAmps: new(130, 150)),
            "hotRemelt"
        ),
        ["whisker inside"] = (DiscontinuityKind.UnmeltedWire, OpenRoot(Process.Gtaw) with { GapMm = 4 }, "wireAhead"),
        ["pores at a start, low hydrogen"] = (DiscontinuityKind.Porosity, Smaw(Stage.Fill) with { Shape = FindingShape.AtStart }, "startOnStop"),
        ["pores at a start, self-shielded"] = (
            DiscontinuityKind.Porosity,
            Wire(Process.FcawS, Stage.Fill) with
            {
                Shape = FindingShape.AtStart,
            },
            "notClipped"
        ),
        ["pores scattered, rod out five hours"] = (
            DiscontinuityKind.Porosity,
            Smaw(Stage.Fill) with
            {
                RodOutHours = 5,
                Shape = FindingShape.Scatter,
            },
            "dampRod"
        ),
        ["pores scattered, flow under the card"] = (
            DiscontinuityKind.Porosity,
            Wire(Process.Gmaw, Stage.Fill) with
            {
                GasFlowLPerMin = 8,
            },
            "flowLow"
        ),
        ["pores scattered, volts high"] = (
            DiscontinuityKind.Porosity,
            Wire(Process.FcawS, Stage.Fill) with
            {
                Volts = 24,
                Shape = FindingShape.Scatter,
            },
            "longArcPores"
        ),
        ["pores, gas tungsten arc, nothing known"] = (
            DiscontinuityKind.Porosity,
            new CauseFacts(Stage.Fill, Process: Process.Gtaw, Metal: BaseMetal.CarbonSteel),
            "flowLow"
        ),
        ["pores, 40 ft3/h through a No. 5 cup"] = (
            DiscontinuityKind.Porosity,
            OpenRoot(Process.Gtaw) with
            {
                GasFlowLPerMin = 18.9,
                CupNumber = 5,
            },
            "flowHigh"
        ),
        ["pores along the root of stainless"] = (
            DiscontinuityKind.Porosity,
            OpenRoot(Process.Gtaw) with
            {
                Metal = BaseMetal.StainlessSteel,
                PurgeMinutes = 1,
                PurgeNeededMinutes = 6,
                Shape = FindingShape.CentreLine,
            },
            "purgeLeak"
        ),
        ["sugar inside, purge short"] = (
            DiscontinuityKind.OxidisedRoot,
            OpenRoot(Process.Gtaw) with
            {
                Metal = BaseMetal.StainlessSteel,
                PurgeMinutes = 1,
                PurgeNeededMinutes = 6,
            },
            "purgeNotReached"
        ),
        ["slag, brushed only"] = (DiscontinuityKind.SlagInclusion, Smaw(Stage.Fill) with { BrushedOnly = true }, "poorCleaning"),
        ["slag in a centre line"] = (DiscontinuityKind.SlagInclusion, Smaw(Stage.Fill) with { Shape = FindingShape.CentreLine }, "valleys"),
        ["slag at the upper toe, horizontal"] = (
            DiscontinuityKind.SlagInclusion,
            Smaw(Stage.Fill) with
            {
                Position = "2G",
                Shape = FindingShape.UpperToe,
            },
            "upperWall"
        ),
        ["one wall cold, short arc"] = (
            DiscontinuityKind.IncompleteFusion,
            Wire(Process.Gmaw, Stage.Fill) with
            {
                Volts = 16,
                Shape = FindingShape.OneWall,
            },
            "shortArcCold"
        ),
        ["no fusion, 1/8 in wire cold"] = (
            DiscontinuityKind.IncompleteFusion,
            new CauseFacts(Stage.Root, Process: Process.Gtaw, Amps: 78, CardAmps: Amps, StartStopAwayMm: null),
            "ampsLowRoot"
        ),
        ["undercut, fill low"] = (DiscontinuityKind.Undercut, Smaw(Stage.Cap) with { FillBelowFlushMm = 3 }, "fillLow"),
        ["undercut at both toes"] = (DiscontinuityKind.Undercut, Smaw(Stage.Cap) with { Shape = FindingShape.BothToes }, "noPause"),
        ["undercut, 110 A"] = (DiscontinuityKind.Undercut, Smaw(Stage.Cap) with { Amps = 110 }, "tooHot"),
        ["undercut at the upper toe, 6G"] = (
            DiscontinuityKind.Undercut,
            Smaw(Stage.Cap) with
            {
                Position = "6G",
                Shape = FindingShape.UpperToe,
            },
            "upperWall"
        ),
        ["overlap at the lower toe, 2G"] = (
            DiscontinuityKind.Overlap,
            Smaw(Stage.Cap) with
            {
                Position = "2G",
                Shape = FindingShape.LowerToe,
            },
            "lowerSag"
        ),
        ["overlap at six, 5G"] = (DiscontinuityKind.Overlap, Smaw(Stage.Cap) with { Position = "5G", ClockMinutes = 360 }, "rodAngleSag"),
        ["high cap, a bead short"] = (
            DiscontinuityKind.ExcessFaceReinforcement,
            Smaw(Stage.Cap) with
            {
                CapBeads = 2,
                PlannedCapBeads = 3,
            },
            "capFewBeads"
        ),
        ["high cap, fill flush"] = (DiscontinuityKind.ExcessFaceReinforcement, Smaw(Stage.Cap) with { FillBelowFlushMm = 0 }, "fillHigh"),
        ["heap at a stop"] = (
            DiscontinuityKind.ExcessFaceReinforcement,
            Smaw(Stage.Cap) with
            {
                StartStopAwayMm = 2,
                Shape = FindingShape.AtStop,
            },
            "heapedStop"
        ),
        ["valley in the cap"] = (DiscontinuityKind.Underfill, Smaw(Stage.Cap) with { Shape = FindingShape.CentreLine }, "beadsApart"),
        ["tracks, tip close"] = (DiscontinuityKind.Wormholes, Wire(Process.FcawG, Stage.Cap) with { StickOutMm = 9 }, "stickOutShort"),
        ["tracks, 24 V"] = (DiscontinuityKind.Wormholes, Wire(Process.FcawG, Stage.Cap) with { Volts = 24 }, "voltsHighWorm"),
        ["tracks, 50 ft3/h"] = (DiscontinuityKind.Wormholes, Wire(Process.FcawG, Stage.Cap) with { GasFlowLPerMin = 23.6 }, "flowHighWorm"),
        ["star in a crater"] = (DiscontinuityKind.CraterCrack, Smaw(Stage.Cap) with { StartStopAwayMm = 1 }, "craterNotFilled"),
        ["crack, rods out six hours"] = (DiscontinuityKind.Crack, Smaw(Stage.Fill) with { RodOutHours = 6 }, "hydrogen"),
        ["tungsten in the root"] = (DiscontinuityKind.TungstenInclusion, OpenRoot(Process.Gtaw), "touched"),
        ["lump at a restart"] = (DiscontinuityKind.PoorRestart, Smaw(Stage.Cap) with { StopAsIs = true }, "onCrater"),
    };

    public static TheoryData<string> Names => [.. Cases.Keys];

    [Theory]
    [MemberData(nameof(Names))]
    public void The_first_cause_is_the_one_that_the_trade_gives(string name)
    {
        var (kind, facts, first) = Cases[name];
        var ranked = CauseFinder.Rank(kind, facts);
        Assert.True(ranked[0].Id == first, $"{name}: {string.Join(", ", ranked.Select(one => $"{one.Id} {one.Score}"))}");
    }

    /// <summary>A rod has no flow, a torch has no damp coating, and what burns no flux leaves no slag.</summary>
    [Fact]
    public void No_cause_is_one_that_the_process_cannot_have()
    {
        string[] gas = ["flowHigh", "flowLow", "flowHighWorm", "purgeLeak", "purgeNotReached", "touched", "shortArcCold", "stickOutShort"];
        string[] rods = ["dampRod", "hydrogen", "poorCleaning", "slagRunsAhead", "onlyRods"];
        string[] tungsten = ["touched", "tungstenHot", "purgeLeak", "purgeNotReached", "tacksHeat", "wireThick"];
        foreach (var kind in Enum.GetValues<DiscontinuityKind>())
        {
            foreach (var stage in new[] { Stage.Root, Stage.Hot, Stage.Fill, Stage.Cap })
            {
                IEnumerable<string> Of(Process process) =>
                    CauseFinder
                        .Rank(kind, new CauseFacts(stage, Process: process, Family: ElectrodeFamily.Other, Metal: BaseMetal.CarbonSteel))
                        .Select(cause => cause.Id);
                Assert.DoesNotContain(Of(Process.Smaw), gas.Contains);
                Assert.DoesNotContain(Of(Process.FcawS), id => id is "flowHigh" or "flowLow" or "flowHighWorm");
                Assert.DoesNotContain(Of(Process.Gtaw), rods.Contains);
                Assert.DoesNotContain(Of(Process.Gmaw), id => rods.Contains(id) || id is "stickOutShort" or "notClipped");
                Assert.All(
                    new[] { Process.Smaw, Process.Gmaw, Process.FcawG, Process.FcawS },
                    process => Assert.DoesNotContain(Of(process), tungsten.Contains)
                );
            }
        }

        // Nothing sags to a low side on a plate that lies flat, and no purge leaks where nothing is closed.
        Assert.DoesNotContain(
            CauseFinder.Rank(DiscontinuityKind.Overlap, new CauseFacts(Stage.Cap, Position: "1G")),
            cause => cause.Id is "lowerSag" or "rodAngleSag"
        );
    }

    /// <summary>Whatever the library can be welded with, a fault that its stage can have has a cause.</summary>
    [Fact]
    public void Every_fault_of_every_pass_of_the_library_has_a_cause()
    {
        foreach (var test in TestLibrary.Shipped.Values)
        {
            foreach (var pass in test.Passes)
            {
                var facts = new CauseFacts(
                    pass.Stage,
                    Process: pass.Process,
                    Position: test.Positions[0],
                    Joint: CoachBook.JointOf(test),
                    Family: pass.Family,
                    Metal: test.BaseMetal
                );
                var possible = Discontinuities.All.Where(one => one.Stages.Contains(pass.Stage) && CanBe(one.Kind, pass.Process));
                Assert.All(
                    possible,
                    one => Assert.True(CauseFinder.Rank(one.Kind, facts).Count > 0, $"{test.Id} {pass.Stage} {pass.Process} {one.Kind}")
                );
            }
        }
    }

    /// <summary>What a process cannot leave behind at all.</summary>
    private static bool CanBe(DiscontinuityKind kind, Process process) =>
        kind switch
        {
            DiscontinuityKind.TungstenInclusion or DiscontinuityKind.OxidisedRoot => process == Process.Gtaw,
            DiscontinuityKind.SlagInclusion => process is Process.Smaw or Process.FcawG or Process.FcawS,
            DiscontinuityKind.Wormholes => process is Process.FcawG or Process.FcawS,
            DiscontinuityKind.UnmeltedWire => process is Process.Gtaw or Process.Gmaw,
            _ => true,
        };
}
