using Gradus.Core.Measure;

namespace Gradus.Core.Vocabulary;

/// <summary>One part of a split coupon, from a clock position clockwise to another.</summary>
public sealed record Half(string Id, string Name, string FromClock, string ToClock, Progression Progression)
{
    /// <summary>True when a place on the clock, in minutes past twelve, belongs to it; its start does, its end does not.</summary>
    public bool Holds(int minutes)
    {
        var (from, to) = (ClockPosition.Parse(FromClock).Minutes, ClockPosition.Parse(ToClock).Minutes);
        return from < to ? minutes >= from && minutes < to : minutes >= from || minutes < to;
    }

    /// <summary>True when it goes from the top to the bottom of the pipe, by one side or the other.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsWholeSide =>
        (ClockPosition.Parse(FromClock).Minutes, ClockPosition.Parse(ToClock).Minutes)
            is
                (0, ClockPosition.MinutesRound / 2)
                or
                (ClockPosition.MinutesRound / 2, 0);
}

/// <summary>A range of a setting; both ends allowed.</summary>
public sealed record Span(double Min, double Max);

/// <summary>The filler metal of a pass.</summary>
/// <param name="Classification">As the standard has it: <c>E7018</c>.</param>
/// <param name="DiameterText">As the trade says the size: <c>1/8</c>, <c>0.045</c>.</param>
/// <param name="FNumber">F-number of ASME IX QW-432.</param>
public sealed record Filler(string Classification, double DiameterMm, string DiameterText, int FNumber);

/// <summary>Starting ranges for a pass. Null where the setting has no meaning for the process.</summary>
public sealed record SettingRanges(
    Span Amps,
    Span? Volts = null,
    Span? WireFeedMmPerMin = null,
    Span? GasFlowLPerMin = null,
    Span? StickOutMm = null,
    Span? TravelAngleDeg = null,
    Span? WorkAngleDeg = null,
    Span? CupNumber = null
);

/// <summary>The least preheat and the most between passes, in °C; logged with each pass.</summary>
public sealed record Temperatures(double? PreheatMinC, double? InterpassMaxC, string Source, bool FromMemory);

/// <summary>The passes of one stage by one process.</summary>
/// <param name="Half">The half that it belongs to on a split coupon; null for all.</param>
/// <param name="Layers">Beads in each layer, from the root up.</param>
/// <param name="BeadShare">How large a bead of this stage is beside one of the others; only the proportion counts.</param>
public sealed record PassPlan(
    Stage Stage,
    string? Half,
    Process Process,
    Filler Filler,
    Polarity Polarity,
    string? Gas,
    Progression Progression,
    BeadTechnique Technique,
    IReadOnlyList<int> Layers,
    double BeadShare,
    SettingRanges Settings,
    string? Note
)
{
    /// <summary>How its electrode is run.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public ElectrodeFamily Family =>
        (Process, Filler.FNumber) switch
        {
            (Process.Smaw, 3) => ElectrodeFamily.Cellulosic,
            (Process.Smaw, 4) => ElectrodeFamily.LowHydrogen,
            _ => ElectrodeFamily.Other,
        };
}

/// <summary>Covered electrodes by how they are run.</summary>
public enum ElectrodeFamily
{
    /// <summary>F-number 3 of ASME IX QW-432.</summary>
    Cellulosic,

    /// <summary>F-number 4.</summary>
    LowHydrogen,

    /// <summary>Any other, and what is no covered electrode.</summary>
    Other,
}

/// <summary>A specimen that is cut from the coupon: on plate by its span from the start, on pipe by its clock position.</summary>
public sealed record Specimen(string Kind, double? FromMm, double? ToMm, string? Clock);
