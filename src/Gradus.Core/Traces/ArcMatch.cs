namespace Gradus.Core.Traces;

/// <summary>When an arc burnt in a booth.</summary>
/// <param name="From">When it was first struck.</param>
/// <param name="To">When it last went out.</param>
public sealed record BurntArc(Guid Id, DateTimeOffset From, DateTimeOffset To);

/// <summary>A bead that was written down in a booth.</summary>
/// <param name="Coupon">Its coupon: beads follow one another on it.</param>
/// <param name="At">When it was written down.</param>
public sealed record WrittenBead(Guid Id, Guid Coupon, DateTimeOffset At);

/// <summary>Which beads an arc can be of, by time.</summary>
/// <param name="Beads">One: it is that; two and more are asked about; none: nobody knows.</param>
public sealed record ArcFit(Guid Arc, IReadOnlyList<Guid> Beads);

/// <summary>
/// Says by time of which bead an arc is. A bead is welded before it is written down, and after the one before it on its coupon was. Where beads
/// were entered together, or two coupons were worked on in one booth, an arc fits several, and whoever was there is asked.
/// </summary>
public static class ArcMatch
{
    /// <summary>The beads that each arc can be of.</summary>
    /// <param name="beads">All that were written down in the booth, also those that have their arc.</param>
    public static IReadOnlyList<ArcFit> Of(IEnumerable<BurntArc> arcs, IEnumerable<WrittenBead> beads)
    {
        var spans = beads.GroupBy(bead => bead.Coupon).SelectMany(Spans).ToList();
        var slack = TimeSpan.FromSeconds(TraceThresholds.Of("matchSlackS"));
        return
        [
            .. arcs.Select(arc => new ArcFit(
                arc.Id,
                [.. spans.Where(span => arc.From >= span.After && arc.From < span.At && arc.To <= span.At + slack).Select(span => span.Bead)]
            )),
        ];
    }

    private static IEnumerable<(Guid Bead, DateTimeOffset After, DateTimeOffset At)> Spans(IEnumerable<WrittenBead> ofOneCoupon)
    {
        var together = TimeSpan.FromSeconds(TraceThresholds.Of("enteredTogetherS"));
        var longest = TimeSpan.FromSeconds(TraceThresholds.Of("matchWithinS"));
        var inOrder = ofOneCoupon.OrderBy(bead => bead.At).ToList();
        for (var first = 0; first < inOrder.Count; )
        {
            // Those entered together share the time before the first and up to the last of them.
            var last = first;
            while (last + 1 < inOrder.Count && inOrder[last + 1].At - inOrder[last].At < together)
            {
                last++;
            }

            var after = inOrder[last].At - longest;
            if (first > 0 && inOrder[first - 1].At > after)
            {
                after = inOrder[first - 1].At;
            }

            for (; first <= last; first++)
            {
                yield return (inOrder[first].Id, after, inOrder[last].At);
            }
        }
    }
}
