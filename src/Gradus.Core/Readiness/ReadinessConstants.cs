using System.Text.Json.Serialization;

namespace Gradus.Core.Readiness;

/// <summary>
/// The constants of the growth model: what is believed of a student before the first coupon. All on the log-odds of one element unless said
/// otherwise; a spread is a standard deviation between students.
/// </summary>
/// <param name="Version">Names the set, to be kept beside a decision.</param>
/// <param name="StartChance">The chance, 0 to 1, that a middling beginner's first full coupon is clean, whatever its number of elements.</param>
/// <param name="General">What a student brings to every weld.</param>
/// <param name="Process">What belongs to a process.</param>
/// <param name="Stage">What belongs to a stage with a process; to the open and to the backed root apart.</param>
/// <param name="Gravity">What belongs to flat, horizontal, vertical or overhead.</param>
/// <param name="Product">What belongs to plate or pipe.</param>
/// <param name="Own">What belongs to an element of one test; its gain to the whole test.</param>
/// <param name="GainWithStart">Correlation of the general gain and start, -1 to 1: whoever begins low has more to gain.</param>
/// <param name="PaceCoupons">Median of the coupons after which 63 % of the gain is there.</param>
/// <param name="PaceSpread">Its spread, of the natural logarithm.</param>
/// <param name="DaySpread">Spread of the good or bad day that all elements of a coupon share.</param>
/// <param name="WanderPerCoupon">Standard deviation of the change that comes with a coupon and that the curve does not tell.</param>
/// <param name="WanderPerDay">The same for a day, up to <paramref name="ForgetDays"/>.</param>
/// <param name="ForgetDays">Days without practice after which 63 % of the practice counts no more.</param>
/// <param name="ForgetSpread">Its spread between students, of the natural logarithm.</param>
/// <param name="FailedPractice">What a rejected element teaches, as a share, 0 to 1, of what a clean one does.</param>
/// <param name="AidLift">How much easier an aided coupon is.</param>
/// <param name="AidSpread">Spread of that: the more it is, the less an aided coupon tells.</param>
/// <param name="Misread">How often an element is taken for what it is not, 0 to 0.2.</param>
/// <param name="MisreadSpread">How unsure that is, of the natural logarithm.</param>
/// <param name="Doubt">How unsure the constants themselves are: spread of the natural logarithm of the day, of the wander, and of how far students differ.</param>
/// <param name="Offsets">By stage or zone name: how much harder (under 0) or easier than the middling element it is.</param>
public sealed record ReadinessConstants(
    string Version,
    double StartChance,
    PartConstants General,
    PartConstants Process,
    PartConstants Stage,
    PartConstants Gravity,
    PartConstants Product,
    PartConstants Own,
    double GainWithStart,
    double PaceCoupons,
    double PaceSpread,
    double DaySpread,
    double WanderPerCoupon,
    double WanderPerDay,
    double ForgetDays,
    double ForgetSpread,
    double FailedPractice,
    double AidLift,
    double AidSpread,
    double Misread,
    double MisreadSpread,
    double Doubt,
    IReadOnlyDictionary<string, double> Offsets
)
{
    /// <summary>The documented defaults; their sources stand beside them in the file.</summary>
    public static ReadinessConstants Defaults { get; } = CoreJson.ReadEmbedded<ReadinessConstants>("Readiness/constants.json");

    /// <summary>More than this nobody misreads.</summary>
    internal const double MostMisread = 0.2;

    /// <summary>False for constants that were fitted to an earlier model: they mean something else.</summary>
    [JsonIgnore]
    public bool IsOfThisModel => Version.Split('+')[0] == Defaults.Version;

    internal PartConstants Of(PartKind kind) =>
        kind switch
        {
            PartKind.General => General,
            PartKind.Process => Process,
            PartKind.Stage => Stage,
            PartKind.Gravity => Gravity,
            PartKind.Product => Product,
            _ => Own,
        };

    private IEnumerable<PartConstants> Parts => Enum.GetValues<PartKind>().Select(Of);

    /// <summary>What is wrong with constants that came from outside, in words; null when they can be used.</summary>
    public static string? Problem(ReadinessConstants constants)
    {
        const double Most = 20;
        if (constants.Parts.Any(part => part is null))
        {
            return "Give spread and gainSpread of every part.";
        }

        double[] over0 = [constants.General.Spread, constants.PaceCoupons, constants.ForgetDays];
        double[] from0 =
        [
            .. constants.Parts.SelectMany(part => new[] { part.Spread, part.GainSpread }),
            constants.PaceSpread,
            constants.DaySpread,
            constants.WanderPerCoupon,
            constants.WanderPerDay,
            constants.ForgetSpread,
            constants.AidSpread,
            constants.MisreadSpread,
            constants.Doubt,
        ];
        return constants.StartChance is not (> 0 and < 1) ? "startChance lies between 0 and 1."
            : !over0.All(value => value is > 0 and < 1e5) ? "The general spread, pace and forgetting are over 0."
            : !from0.All(value => value is >= 0 and <= Most) ? $"Spreads lie from 0 to {Most:0}."
            : constants.FailedPractice is not (>= 0 and <= 1) ? "failedPractice lies from 0 to 1."
            : constants.Misread is not (>= 0 and <= MostMisread) ? "misread lies from 0 to 0.2."
            : constants.GainWithStart is not (> -1 and < 1) ? "gainWithStart lies between -1 and 1."
            : !constants
                .Offsets.Values.Concat(constants.Parts.Select(part => part.Gain))
                .Append(constants.AidLift)
                .All(value => Math.Abs(value) <= Most)
                ? $"Offsets, gain and lift lie from -{Most:0} to {Most:0}."
            : null;
    }
}

/// <summary>What is believed of one part of a skill, on the log-odds of an element.</summary>
/// <param name="Spread">How far students differ in it from the start.</param>
/// <param name="Gain">What practice of it adds in the end, in the mean.</param>
/// <param name="GainSpread">How far students differ in that.</param>
public sealed record PartConstants(double Spread, double Gain, double GainSpread);

/// <summary>An element as the model takes it apart: <c>root/bottom</c> is the stage <c>root</c> in the zone <c>bottom</c>.</summary>
internal readonly record struct Element(string Name, string Stage, string? Zone)
{
    /// <summary>As it is said: the root at the bottom.</summary>
    public string Words
    {
        get
        {
            var name = Stage switch
            {
                "fitUp" => "the fit-up",
                "hot" => "the hot pass",
                _ => $"the {Stage}",
            };
            return Zone switch
            {
                null => name,
                "side" => $"{name} at the sides",
                _ => $"{name} at the {Zone}",
            };
        }
    }

    public static Element Parse(string name)
    {
        var cut = name.IndexOf('/', StringComparison.Ordinal);
        return cut < 0 ? new Element(name, name, null) : new Element(name, name[..cut], name[(cut + 1)..] is "all" ? null : name[(cut + 1)..]);
    }
}
