using Gradus.Core.Bench;
using Gradus.Core.Traces;

namespace Gradus.Data;

/// <summary>What a device is.</summary>
public enum DeviceKind
{
    /// <summary>Measures current and volts at the machine of a booth.</summary>
    ArcLogger,

    /// <summary>A laboratory that takes specimens and returns what it found.</summary>
    Laboratory,
}

/// <summary>A device that sends by itself, with a key of its own.</summary>
public sealed class Device
{
    public Guid Id { get; init; }
    public DeviceKind Kind { get; init; }
    public required string Name { get; set; }

    /// <summary>The booth whose machine it measures; null for what stands elsewhere.</summary>
    public Guid? BoothId { get; set; }

    /// <summary>SHA-256 of its key in hex; the key itself was shown once.</summary>
    public required string KeyHash { get; set; }

    /// <summary>What is lost in the leads of its booth, in V; taken off what it measures.</summary>
    public double LeadVolts { get; set; }
    public DateTimeOffset PairedAt { get; init; }
    public Guid PairedBy { get; init; }

    /// <summary>Since when it is none of the school any more; null while it is.</summary>
    public DateTimeOffset? RemovedAt { get; set; }

    /// <summary>Of its batches, all up to this number are in traces or were left out.</summary>
    public long PackedThrough { get; set; }

    /// <summary>When the last of those was measured, by the device's clock; null before there was one.</summary>
    public DateTimeOffset? PackedAt { get; set; }

    /// <summary>The last of those that were waited for in vain: one that comes after all is refused.</summary>
    public List<long> Lost { get; set; } = [];
}

/// <summary>A batch of an arc logger as it came in, until it is part of a trace.</summary>
public sealed class ArcBatch
{
    public Guid DeviceId { get; init; }

    /// <summary>The device's own running number.</summary>
    public long Sequence { get; init; }

    /// <summary>When its first measurement was made, by the device's clock.</summary>
    public DateTimeOffset DeviceAt { get; init; }

    /// <summary>By how many milliseconds the school's clock was ahead of the device's as it arrived, with the time on the way.</summary>
    public long AheadMs { get; init; }
    public DateTimeOffset ArrivedAt { get; init; }

    /// <summary>Measurements in a second.</summary>
    public int Hz { get; init; }

    /// <summary>Amps, volts and feed in mm/min of each, as 32-bit numbers, little end first; a feed that is not measured is not a number.</summary>
    public required byte[] Samples { get; init; }
}

/// <summary>What an arc logger measured from before an arc was struck until it was out for long. The measurements lie in a file beside the photos.</summary>
public sealed class TraceRecord
{
    public Guid Id { get; init; }
    public Guid DeviceId { get; init; }
    public Guid BoothId { get; init; }

    /// <summary>When its first measurement was made, as the clock of the school has it.</summary>
    public DateTimeOffset StartsAt { get; init; }

    /// <summary>When the first arc in it was struck.</summary>
    public DateTimeOffset FromAt { get; init; }

    /// <summary>When the last arc in it went out.</summary>
    public DateTimeOffset ArcEndedAt { get; init; }
    public int Hz { get; init; }

    /// <summary>How long an arc burnt in it, in s.</summary>
    public double ArcSeconds { get; init; }

    /// <summary>What was lost in the leads of its booth, in V.</summary>
    public double LeadVolts { get; init; }

    /// <summary>The bead that it is of; null while that is not known.</summary>
    public Guid? PassId { get; set; }

    /// <summary>The coupon and the student of that bead.</summary>
    public Guid? CouponId { get; set; }
    public Guid? StudentId { get; set; }

    /// <summary>Who said which bead it is of, or that it is of none; null where the time alone told.</summary>
    public Guid? SaidBy { get; set; }

    /// <summary>What was read from it for its bead; null while that is not known.</summary>
    public TraceReading? Reading { get; set; }

    /// <summary>When its measurements were taken away by the rule of keeping; null while they are there. What was read stays.</summary>
    public DateTimeOffset? RawGoneAt { get; set; }
}

/// <summary>Specimens of a coupon that were given to a laboratory.</summary>
public sealed class LabOrder
{
    public Guid Id { get; init; }
    public Guid CouponId { get; init; }

    /// <summary>The laboratory.</summary>
    public Guid DeviceId { get; init; }

    /// <summary>Which of the test's specimens, from 0.</summary>
    public required List<int> Specimens { get; init; }
    public DateTimeOffset SentAt { get; init; }
    public Guid SentBy { get; init; }

    /// <summary>When the laboratory said that it has them; null while it has not.</summary>
    public DateTimeOffset? ReceivedAt { get; set; }

    /// <summary>When its report or the first of its files came back; null while nothing has.</summary>
    public DateTimeOffset? ReturnedAt { get; set; }

    /// <summary>What it saw; null where nothing came back, or a file alone.</summary>
    public LabReport? Report { get; set; }

    /// <summary>Since when nothing waits on it any more; null while something does.</summary>
    public DateTimeOffset? DoneAt { get; set; }
    public Guid? DoneBy { get; set; }

    /// <summary>Whether what it saw was taken over into the coupon; otherwise it was called back or put aside.</summary>
    public bool IsTaken { get; set; }
}
