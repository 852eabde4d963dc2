namespace Gradus.Core.Vocabulary;

/// <summary>The size of the keyhole beside the diameter of the electrode or wire.</summary>
public enum Keyhole
{
    /// <summary>Under one diameter.</summary>
    Small,

    /// <summary>One to one and a half diameters.</summary>
    Right,

    /// <summary>Over one and a half diameters.</summary>
    Large,
}

/// <summary>How a stop was dressed before the bead went on.</summary>
public enum StopDress
{
    Feathered,
    CutOut,
    AsIs,
}

/// <summary>How a bead was cleaned before the next.</summary>
public enum Cleaning
{
    Brushed,
    Chipped,
    Picked,
    Ground,
}

/// <summary>How far below flush the joint was at a place, before the cap; negative when it stands proud.</summary>
public sealed record FillLevel(string At, double BelowFlushMm);

/// <summary>
/// What was measured of a run beside its settings; null where it was not, which says nothing either way. Lengths in mm, flow in L/min.
/// </summary>
/// <param name="RunLengthMm">Length of the run...</param>
/// <param name="ArcSeconds">...and the time that its arc burnt.</param>
/// <param name="RodsUsed">Rods that it took, in halves.</param>
/// <param name="Restarts">Times that it was stopped and begun again.</param>
/// <param name="GapAtTieInMm">What was left of the root opening where the root closed.</param>
/// <param name="RodOutHours">How long the electrode had been out of its oven.</param>
/// <param name="OxygenPercent">Oxygen in the purge gas as it came out.</param>
/// <param name="BallPassed">Whether a ball of the asked size went through the bore.</param>
public sealed record RunMeasures(
    double? GasFlowLPerMin = null,
    int? CupNumber = null,
    double? StickOutMm = null,
    double? RunLengthMm = null,
    double? ArcSeconds = null,
    double? RodsUsed = null,
    int? Restarts = null,
    StopDress? StopDress = null,
    Keyhole? Keyhole = null,
    double? GapAtTieInMm = null,
    double? BeadWidthMm = null,
    Cleaning? Cleaned = null,
    double? RodOutHours = null,
    double? OxygenPercent = null,
    bool? BallPassed = null,
    IReadOnlyList<FillLevel>? Levels = null
);
