namespace Gradus.Data;

/// <summary>A record of qualification, frozen as it was certified. A correction is a new revision; the old one stays.</summary>
public sealed class Certificate
{
    public Guid Id { get; init; }

    /// <summary>Running number of the school; the revisions of one share it.</summary>
    public long Number { get; init; }
    public int Revision { get; init; }
    public Guid StudentId { get; init; }

    /// <summary>The sitting that it stands on; null for one from outside.</summary>
    public Guid? SittingId { get; init; }
    public required string Code { get; init; }

    /// <summary>The test of the library; null for one from outside.</summary>
    public string? TestId { get; init; }
    public required string Title { get; init; }

    /// <summary>The positions that were tested.</summary>
    public required List<string> Positions { get; init; }

    /// <summary>The processes that it is for.</summary>
    public required List<string> Processes { get; init; }
    public DateOnly QualifiedOn { get; init; }

    /// <summary>The route of renewal, by its clause; null where the code has none.</summary>
    public string? Route { get; init; }

    /// <summary>The record in canonical JSON: what was signed, letter by letter.</summary>
    public required string Body { get; init; }

    /// <summary>The signature over it and the public key, in Base64; null for one from outside.</summary>
    public string? Signature { get; init; }
    public string? PublicKey { get; init; }

    /// <summary>True for the paper of another school or employer.</summary>
    public bool Outside { get; init; }
    public DateTimeOffset IssuedAt { get; init; }
    public Guid IssuedBy { get; init; }

    /// <summary>The revision that counts in its stead; null for the one that counts.</summary>
    public Guid? ReplacedBy { get; set; }

    /// <summary>When it was revoked, by whom and why; null while it stands.</summary>
    public DateTimeOffset? RevokedAt { get; set; }
    public Guid? RevokedBy { get; set; }
    public string? RevokedWhy { get; set; }
}

/// <summary>A qualification renewed by its route.</summary>
public sealed class CertificateRenewed
{
    public Guid Id { get; init; }
    public long Number { get; init; }
    public DateOnly Day { get; init; }

    /// <summary>What it was renewed on: reports, welds.</summary>
    public required string Evidence { get; init; }
    public DateTimeOffset At { get; init; }
    public Guid By { get; init; }

    /// <summary>What was recorded, without who and when.</summary>
    public object Content =>
        new
        {
            Number,
            Day,
            Evidence,
        };
}

/// <summary>Use of a process that was signed for: it keeps qualifications alive.</summary>
public sealed class UseProof
{
    public Guid Id { get; init; }
    public Guid StudentId { get; init; }
    public required string Process { get; init; }
    public DateOnly Day { get; init; }

    /// <summary>The coupon that shows it; null for work elsewhere, which is told in words.</summary>
    public Guid? CouponId { get; init; }
    public required string Says { get; init; }

    /// <summary>The records of whose range the work was, by number: where a code asks for that.</summary>
    public required List<long> Within { get; init; }
    public DateTimeOffset SignedAt { get; init; }
    public Guid SignedBy { get; init; }
    public DateTimeOffset? WithdrawnAt { get; set; }
    public Guid? WithdrawnBy { get; set; }

    /// <summary>What was signed for, without who and when.</summary>
    public object Content =>
        new
        {
            StudentId,
            Process,
            Day,
            CouponId,
            Says,
        };
}
