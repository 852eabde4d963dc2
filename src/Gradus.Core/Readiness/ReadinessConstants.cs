namespace Gradus.Core.Readiness;

/// <summary>
/// The constants of the growth model: what is believed of a student before the first coupon. All on the log-odds of one element unless said
/// otherwise; a spread is a standard deviation between students.
/// </summary>
/// <param name="Version">Names the set, to be kept beside a decision.</param>
/// <param name="StartChance">The chance, 0 to 1, that a middling beginner's first full coupon is clean, whatever its number of elements.</param>
/// <param name="GeneralSpread">Spread of what a student brings to all elements alike.</param>
/// <param name="StageSpread">Spread by stage, shared by its zones.</param>
/// <param name="ZoneSpread">Spread by zone, shared by its stages.</param>
/// <param name="OwnSpread">Spread of an element by itself.</param>
/// <param name="GainMean">Mean of what practice adds in the end.</param>
/// <param name="GainSpread">Its spread.</param>
/// <param name="GainWithStart">Correlation of gain and start, -1 to 1: whoever begins low has more to gain.</param>
/// <param name="PaceCoupons">Median of the coupons after which 63 % of the gain is there.</param>
/// <param name="PaceSpread">Its spread, of the natural logarithm.</param>
/// <param name="DaySpread">Spread of the good or bad day that all elements of a coupon share.</param>
/// <param name="WanderPerCoupon">Standard deviation of the change that comes with a coupon and that the curve does not tell.</param>
/// <param name="WanderPerDay">The same for a day, up to <paramref name="ForgetDays"/>.</param>
/// <param name="ForgetDays">Days without practice after which 63 % of the practice counts no more.</param>
/// <param name="ForgetSpread">Its spread between students, of the natural logarithm.</param>
/// <param name="PracticeShared">Share, 0 to 1, of the practice on one element that counts for all.</param>
/// <param name="FailedPractice">What a rejected element teaches, as a share, 0 to 1, of what a clean one does.</param>
/// <param name="AidLift">How much easier an aided coupon is.</param>
/// <param name="AidSpread">Spread of that: the more it is, the less an aided coupon tells.</param>
/// <param name="Doubt">How unsure the constants themselves are: spread of the natural logarithm of the day, of the wander, and of how far students differ.</param>
/// <param name="Offsets">By stage or zone name: how much harder (under 0) or easier than the middling element it is.</param>
public sealed record ReadinessConstants(
    string Version,
    double StartChance,
    double GeneralSpread,
    double StageSpread,
    double ZoneSpread,
    double OwnSpread,
    double GainMean,
    double GainSpread,
    double GainWithStart,
    double PaceCoupons,
    double PaceSpread,
    double DaySpread,
    double WanderPerCoupon,
    double WanderPerDay,
    double ForgetDays,
    double ForgetSpread,
    double PracticeShared,
    double FailedPractice,
    double AidLift,
    double AidSpread,
    double Doubt,
    IReadOnlyDictionary<string, double> Offsets
)
{
    /// <summary>The documented defaults; their sources stand beside them in the file.</summary>
    public static ReadinessConstants Defaults { get; } = CoreJson.ReadEmbedded<ReadinessConstants>("Readiness/constants.json");

    /// <summary>What is wrong with constants that came from outside, in words; null when they can be used.</summary>
    public static string? Problem(ReadinessConstants constants)
    {
        const double Most = 20;
        double[] over0 = [constants.GeneralSpread, constants.GainSpread, constants.PaceCoupons, constants.ForgetDays];
        double[] from0 =
        [
            constants.StageSpread,
            constants.ZoneSpread,
            constants.OwnSpread,
            constants.PaceSpread,
            constants.DaySpread,
            constants.WanderPerCoupon,
            constants.WanderPerDay,
            constants.ForgetSpread,
            constants.AidSpread,
            constants.Doubt,
        ];
        double[] shares = [constants.PracticeShared, constants.FailedPractice];
        return constants.StartChance is not (> 0 and < 1) ? "startChance lies between 0 and 1."
            : !over0.All(value => value is > 0 and < 1e5) ? "Spreads of start and gain, pace and forgetting are over 0."
            : !from0.All(value => value is >= 0 and <= Most) ? $"Spreads lie from 0 to {Most:0}."
            : !shares.All(value => value is >= 0 and <= 1) ? "Shares lie from 0 to 1."
            : constants.GainWithStart is not (> -1 and < 1) ? "gainWithStart lies between -1 and 1."
            : !constants.Offsets.Values.Append(constants.GainMean).Append(constants.AidLift).All(value => Math.Abs(value) <= Most)
                ? $"Offsets, gain and lift lie from -{Most:0} to {Most:0}."
            : null;
    }
}

/// <summary>An element as the model takes it apart: <c>root/bottom</c> is the stage <c>root</c> in the zone <c>bottom</c>.</summary>
internal readonly record struct Element(string Name, string Stage, string? Zone)
{
    public static Element Parse(string name)
    {
        var cut = name.IndexOf('/', StringComparison.Ordinal);
        return cut < 0 ? new Element(name, name, null) : new Element(name, name[..cut], name[(cut + 1)..]);
    }

    /// <summary>Share of the spread between students that two elements have in common.</summary>
    public double CovarianceWith(Element other, ReadinessConstants constants)
    {
        var shared = Square(constants.GeneralSpread);
        shared += Stage == other.Stage ? Square(constants.StageSpread) : 0;
        shared += Zone is not null && Zone == other.Zone ? Square(constants.ZoneSpread) : 0;
        return shared + (Name == other.Name ? Square(constants.OwnSpread) : 0);
    }

    private static double Square(double value) => value * value;
}
