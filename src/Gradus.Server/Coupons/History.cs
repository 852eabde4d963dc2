using System.Globalization;
using System.Text.RegularExpressions;
using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Measure;
using Gradus.Data;
using Gradus.Server.Accounts;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>Who did what to a coupon and when, in words. What was taken back stays in it, and so does the taking back.</summary>
public static partial class History
{
    private const int PageRows = 50;
    private static readonly TimeSpan AMoment = TimeSpan.FromMinutes(1);

    public static void Map(RouteGroupBuilder coupon) => coupon.MapGet("/history", Read).Produces<HistoryPage>();

    private static async Task<IResult> Read(
        Guid couponId,
        DateTimeOffset? before,
        CouponRecorder recorder,
        GradusContext db,
        CancellationToken cancel
    )
    {
        if (await recorder.Load(couponId, cancel) is not { } coupon)
        {
            return CouponRecorder.UnknownCoupon().ToResult();
        }

        var names = await Names.Of(db, cancel);
        var rows = coupon
            .AllRecords()
            .SelectMany(record => Rows(record, names))
            .Append(
                new HistoryRow(
                    coupon.StartedAt,
                    names[coupon.StartedBy],
                    $"Coupon {coupon.Stamp} started",
                    false,
                    Late(coupon.StartedAt, coupon.ArrivedAt),
                    coupon.SentBy is { } sender ? names[sender] : null
                )
            )
            .Where(row => before is null || row.At < before)
            .OrderByDescending(row => row.At)
            .ToList();

        // Rows of one moment stay on one page, so that none is skipped between two.
        var last = rows.Count > PageRows ? rows[PageRows - 1].At : (DateTimeOffset?)null;
        return TypedResults.Ok(
            new HistoryPage([.. rows.TakeWhile(row => last is null || row.At >= last)], rows.Any(row => row.At < last) ? last : null)
        );
    }

    private static IEnumerable<HistoryRow> Rows(CouponRecord record, IReadOnlyDictionary<Guid, string> names)
    {
        var says = Says(record);
        yield return new HistoryRow(
            record.HappenedAt,
            names[record.RecordedBy],
            says,
            false,
            Late(record.HappenedAt, record.RecordedAt),
            record.SentBy is { } sender ? names[sender] : null
        );
        if (record is { WithdrawnAt: { } at, WithdrawnBy: { } by })
        {
            yield return new HistoryRow(at, names[by], says, true, null, null);
        }
    }

    /// <summary>When it arrived, where that was more than a moment after it happened.</summary>
    private static DateTimeOffset? Late(DateTimeOffset happened, DateTimeOffset? arrived) => arrived - happened > AMoment ? arrived : null;

    private static string Says(CouponRecord record) =>
        record switch
        {
            FitUpRecord fitUp => $"Fit-up: {fitUp.Measured.Points.Count} points, {fitUp.Measured.Tacks.Count} tacks",
            PassRecord pass => string.Create(
                CultureInfo.InvariantCulture,
                $"{Words(pass.Stage)}, layer {pass.Layer}: {pass.ElectrodeClass}, {pass.Amps:0.#} A"
            ),
            FindingRecord finding => $"{Discontinuities.Of(finding.Kind).Name}, {Words(finding.Stage).ToLowerInvariant()}{Place(finding)}",
            NoteRecord note => $"Note: {note.Text}",
            PhotoRecord => "Photo",
            ClosingRecord closing => $"Closed: {Words(closing.Kind).ToLowerInvariant()}",
            EventRecord told => Words(told.Kind) + Detail(told.Body),
            _ => throw new InvalidOperationException($"No words for {record.GetType().Name}."),
        };

    private static string Place(FindingRecord finding) => finding.ClockMinutes is { } minutes ? $" at {ClockPosition.FromMinutes(minutes)}" : "";

    private static string Detail(BenchEventBody body)
    {
        string?[] said =
        [
            body.Point,
            body.Go switch
            {
                true => "go on",
                false => "mend first",
                null => null,
            },
            body.Timer is { } timer ? Words(timer).ToLowerInvariant() : null,
            body.Reason is { } reason ? Words(reason).ToLowerInvariant() : null,
            body.Action is { } action ? Words(action).ToLowerInvariant() : null,
            body.Rule is { } rule ? Words(rule).ToLowerInvariant() : null,
            body.Side is { } side ? Words(side).ToLowerInvariant() : null,
            body.At,
            body.Specimen is { } specimen ? $"specimen {specimen + 1}" : null,
            body.Note,
        ];
        var told = said.OfType<string>().ToList();
        return told.Count == 0 ? "" : $": {string.Join(", ", told)}";
    }

    /// <summary>A name as words: <c>PositionWitnessed</c> is "Position witnessed".</summary>
    private static string Words<T>(T value)
        where T : struct, Enum
    {
        var words = Capital().Replace(value.ToString(), match => $" {match.Value.ToLowerInvariant()}").TrimStart();
        return char.ToUpperInvariant(words[0]) + words[1..];
    }

    [GeneratedRegex("[A-Z]")]
    private static partial Regex Capital();
}
