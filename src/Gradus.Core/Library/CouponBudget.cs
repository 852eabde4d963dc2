using Gradus.Core.Joints;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Library;

/// <summary>Filler metal that a coupon uses up: whole rods of a covered or hand-fed filler, or the mass of a wire.</summary>
/// <param name="DepositKg">What lies in the joint.</param>
/// <param name="Rods">Whole rods; null for wire from a spool.</param>
/// <param name="UsedKg">Mass drawn from the store, with stubs, spatter and slag; of a covered rod its core.</param>
public sealed record FillerDraw(string Classification, string DiameterText, Process Process, double DepositKg, int? Rods, double UsedKg);

/// <summary>What a coupon takes. Minutes by activity; gas in litres.</summary>
public sealed record CouponBudget(
    IReadOnlyList<FillerDraw> Fillers,
    double ShieldingGasL,
    double PurgeGasL,
    double Discs,
    double WireWheels,
    double FitUpMinutes,
    double PurgeMinutes,
    double ArcMinutes,
    double CleaningMinutes,
    double CoolingMinutes,
    double InspectionMinutes,
    double CutAndBendMinutes
)
{
    /// <summary>Minutes that the coupon holds a booth: all but cutting and bending.</summary>
    public double BoothMinutes => FitUpMinutes + PurgeMinutes + ArcMinutes + CleaningMinutes + CoolingMinutes + InspectionMinutes;

    private const int CellulosicFNumber = 3; // ASME IX QW-432

    /// <summary>Density of a metal in kg/m³.</summary>
    public static double DensityKgPerM3(BaseMetal metal) =>
        TradeNumbers.Of(
            metal switch
            {
                BaseMetal.StainlessSteel => "densityStainless",
                BaseMetal.Aluminium => "densityAluminium",
                BaseMetal.NickelAlloy => "densityNickel",
                _ => "densitySteel",
            }
        );

    /// <summary>The planned consumption and time of a coupon, from its beads. Typical values; the school's own logs replace them later.</summary>
    /// <param name="drill">The drill that is made of it; null for a full coupon.</param>
    public static CouponBudget Of(TestTemplate test, Drill? drill = null)
    {
        var density = DensityKgPerM3(test.BaseMetal);
        var beads = test.Beads();
        var share = drill?.Zone is null ? 1 : TradeNumbers.Of("zoneDrillShare");
        var passes = test
            .Passes.Select((pass, index) => (Pass: pass, Index: index))
            .Where(one => drill is null || drill.Stages.Contains(one.Pass.Stage))
            .Select(one => Draw(test, one.Pass, beads.Where(bead => bead.Pass == one.Index), density, share))
            .ToList();
        var isFitted = drill is null || drill.Stages.Contains(Stage.FitUp) || drill.Stages.Contains(Stage.Root);
        var layers = beads
            .Where(bead => drill is null || drill.Stages.Contains(bead.Stage))
            .Select(bead => (bead.Layer, bead.Half))
            .Distinct()
            .Count();
        var cleaning = passes.Sum(one => one.Beads * one.CleaningMinutes);
        var lengthMm = JointLengthMm(test) * share;
        var cutOut =
            test.RestartBy == RestartWay.CutOut
                ? passes.Where(one => one.Pass.Stage == Stage.Root).Sum(one => Math.Max(0, Math.Ceiling(one.Runs(lengthMm) - 1e-9) - 1))
                : 0;
        var (purgeMinutes, purgeFlow) = passes.Exists(one => one.Pass.Stage is Stage.Root or Stage.Hot) ? PurgeOf(test) : (0, 0);
        var arc = passes.Sum(one => one.ArcMinutes);
        return new CouponBudget(
            [
                .. passes
                    .GroupBy(one => (one.Pass.Filler.Classification, one.Pass.Filler.DiameterText, one.Pass.Process))
                    .Select(group => new FillerDraw(
                        group.Key.Classification,
                        group.Key.DiameterText,
                        group.Key.Process,
                        group.Sum(one => one.DepositKg),
                        group.Any(one => one.RodKg is null)
                            ? null
                            : (int)Math.Ceiling(group.Sum(one => one.DepositKg / one.RodDepositKg!.Value) - 1e-9),
                        group.Any(one => one.RodKg is null)
                            ? group.Sum(one => one.UsedKg)
                            : Math.Ceiling(group.Sum(one => one.DepositKg / one.RodDepositKg!.Value) - 1e-9) * group.First().RodKg!.Value
                    )),
            ],
            passes.Sum(one => one.ArcMinutes * Middle(one.Pass.Settings.GasFlowLPerMin)),
            // The purge stays on while the root and the hot pass are laid.
            purgeMinutes > 0
                ? purgeFlow * (purgeMinutes + passes.Where(one => one.Pass.Stage is Stage.Root or Stage.Hot).Sum(one => one.ArcMinutes))
                : 0,
            (TradeNumbers.Of("grindingDiscsPerMetre") * lengthMm / 1000) + (cutOut * TradeNumbers.Of("cutOutDiscs")),
            1 / TradeNumbers.Of("wireWheelCouponsEach"),
            isFitted ? TradeNumbers.Of($"fitUpMinutes{test.Product}") : 0,
            purgeMinutes,
            arc,
            cleaning + (cutOut * TradeNumbers.Of("cutOutMinutes")),
            TradeNumbers.Of("coolMinutesPerLayer") * Math.Max(0, layers - 1),
            TradeNumbers.Of("inspectMinutes") * (drill is null ? 1 : TradeNumbers.Of("drillLookShare")),
            drill is null ? TradeNumbers.Of("cutAndBendMinutesPerSpecimen") * test.Specimens.Count : 0
        );
    }

    /// <summary>
    /// Length of the joint: along the plate, or round the pipe at the middle of its wall; of a plug the length that gives its section the volume of the
    /// round hole, π/4 of its width; mm.
    /// </summary>
    public static double JointLengthMm(TestTemplate test) =>
        test.Joint.Form == JointForm.Plug ? Math.PI / 4 * test.Joint.RootOpeningMm
        : test.Joint.PipeSize() is { } pipe ? test.Joint.RoundMm(pipe.OutsideDiameter.Mm - pipe.Wall.Mm)
        : test.Joint.LengthMm ?? 0;

    private sealed record PassDraw(
        PassPlan Pass,
        int Beads,
        double DepositKg,
        double? RodDepositKg,
        double? RodKg,
        double UsedKg,
        double ArcMinutes,
        double CleaningMinutes
    )
    {
        /// <summary>Runs that it is laid in: a covered rod each; a hand-fed root in stretches as they are untaped or reached.</summary>
        public double Runs(double lengthMm) => RodDepositKg is { } rod ? DepositKg / rod : lengthMm / TradeNumbers.Of("handFedRunMm");
    }

    private static PassDraw Draw(TestTemplate test, PassPlan pass, IEnumerable<PlannedBead> beads, double density, double share)
    {
        var laid = beads.ToList();

        // A half is half of the way round.
        var length = JointLengthMm(test) * share / (pass.Half is null ? 1 : test.Halves.Count);
        var area = laid.Sum(bead => bead.AreaMm2);
        if (pass.Stage == Stage.Root && test.Joint.Insert is not null)
        {
            // The ring is metal that no rod has to bring.
            area = Math.Max(0, area - (Math.PI / 4 * test.Joint.RootOpeningMm * test.Joint.RootOpeningMm));
        }

        var depositKg = area * length * density / 1e9;
        var diameter = Length.FromMm(pass.Filler.DiameterMm);
        var amps = Middle(pass.Settings.Amps);
        var clean = TradeNumbers.Of("cleanMinutesPerBead");
        switch (pass.Process)
        {
            case Process.Smaw:
            {
                var recovery = TradeNumbers.Of(pass.Filler.FNumber == CellulosicFNumber ? "recoveryCellulosic" : "recoveryBasic");
                var (rod, stub) = (Length.FromMm(TradeNumbers.Of("rodLengthMm")), Length.FromMm(TradeNumbers.Of("stubMm")));
                var rodDeposit = Deposit.GramsPerRod(diameter, rod, stub, recovery, density) / 1000;
                var core = Deposit.GramsPerRod(diameter, rod, Length.FromMm(0), 1, density) / 1000;
                var minutes = depositKg * 1000 / (TradeNumbers.Of("smawGPerMinPerAmp") * amps);
                return new PassDraw(pass, laid.Count, depositKg, rodDeposit, core, 0, minutes, clean);
            }

            case Process.Gtaw:
            {
                var recovery = TradeNumbers.Of("recoveryGtaw");
                var used = depositKg / recovery;
                return new PassDraw(
                    pass,
                    laid.Count,
                    depositKg,
                    null,
                    null,
                    used,
                    used * 1000 / TradeNumbers.Of("rodFeedGtawGPerMin"),
                    clean * TradeNumbers.Of("cleanShareWithoutSlag")
                );
            }

            default:
            {
                var (recovery, metal) = Deposit.WireShares(pass.Process);
                var kgPerH = metal * Deposit.WireKgPerH(diameter, Middle(pass.Settings.WireFeedMmPerMin), recovery, density);
                return new PassDraw(
                    pass,
                    laid.Count,
                    depositKg,
                    null,
                    null,
                    depositKg / recovery,
                    kgPerH > 0 ? depositKg / kgPerH * 60 : 0,
                    pass.Process == Process.Gmaw ? clean * TradeNumbers.Of("cleanShareWithoutSlag") : clean
                );
            }
        }
    }

    /// <summary>The purge before the root: its minutes and its flow; zeros where nothing is purged.</summary>
    public static (double Minutes, double FlowLPerMin) PurgeOf(TestTemplate test)
    {
        if (test.Joint.Backing.Kind is not (BackingKind.Gas or BackingKind.Insert) || test.Joint.PipeSize() is not { } pipe)
        {
            return (0, 0);
        }

        var flow = TradeNumbers.Of("purgeFlowLPerMin");
        var volume = Purge.VolumeL(pipe.InsideDiameter, Length.FromMm(2 * test.Joint.WidthMm));
        return (Purge.Minutes(volume, TradeNumbers.Of("purgeChanges"), flow), flow);
    }

    private static double Middle(Span? range) => range is null ? 0 : (range.Min + range.Max) / 2;
}
