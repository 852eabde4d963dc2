using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Planning;

/// <summary>What an item takes from one stock.</summary>
/// <param name="Stock">The stock by its trade name: <c>E7018 1/8 in</c>, <c>Pipe NPS 6 schedule 80</c>.</param>
/// <param name="Unit"><c>kg</c>, <c>L</c>, <c>mm</c> of length, or <c>each</c>.</param>
public sealed record StockDraw(string Stock, string Unit, double Amount, double Cost);

/// <summary>Lengths of one stock that are cut for an item; in mm.</summary>
public sealed record SteelPiece(string Stock, double LengthMm, int Count);

/// <summary>What logged full coupons of a test took.</summary>
/// <param name="Minutes">From the first pass to the last.</param>
/// <param name="FillShares">What the joint took to fill as it was fitted up, as a share of what it takes as planned.</param>
/// <param name="ArcMinutes">How long the arc burnt in those whose every bead was measured.</param>
public sealed record LoggedWork(IReadOnlyList<double> Minutes, IReadOnlyList<double> FillShares, IReadOnlyList<double> ArcMinutes)
{
    /// <summary>Nothing was logged.</summary>
    public static LoggedWork None { get; } = new([], [], []);
}

/// <summary>What an item takes: booth time, material and money.</summary>
/// <param name="FromCoupons">How many logged coupons the minutes are learned from; 0 when they are worked out from the passes.</param>
public sealed record ItemWork(double BoothMinutes, int FromCoupons, double Cost, IReadOnlyList<StockDraw> Draws, IReadOnlyList<SteelPiece> Steel)
{
    /// <summary>Logged coupons of a kind that are enough to go by.</summary>
    public const int EnoughLogs = 5;

    private const double MinutesPerHour = 60;

    /// <summary>Works out an item of a test.</summary>
    /// <param name="drill">The drill; null for a full coupon.</param>
    /// <param name="logged">What full coupons of this test took; used where there are enough.</param>
    /// <param name="prices">Prices by their id.</param>
    public static ItemWork Of(TestTemplate test, Drill? drill, LoggedWork logged, IReadOnlyDictionary<string, double> prices)
    {
        var budget = CouponBudget.Of(test, drill);
        var isLearned = drill is null && logged.Minutes.Count >= EnoughLogs;

        // Welded slower or faster here than on paper, a drill is so, too.
        var isTimed = logged.ArcMinutes.Count >= EnoughLogs;
        var pace = isTimed ? Median(logged.ArcMinutes) / CouponBudget.Of(test, null).ArcMinutes : 1;
        var minutes = isLearned
            ? budget.FitUpMinutes + budget.PurgeMinutes + budget.InspectionMinutes + Median(logged.Minutes)
            : budget.BoothMinutes + (budget.ArcMinutes * (pace - 1));

        // A gap that is wider here than on paper takes more filler; gas flows for as long as the arc burns, as it was timed, else for as much longer.
        var fill = logged.FillShares.Count >= EnoughLogs ? Median(logged.FillShares) : 1;
        var gas = isTimed ? pace : fill;
        var isAlloy = test.BaseMetal != BaseMetal.CarbonSteel;
        var dearer = isAlloy ? prices["alloyShare"] : 1;
        var draws = budget
            .Fillers.Select(filler => new StockDraw(
                $"{filler.Classification} {filler.DiameterText} in",
                "kg",
                filler.UsedKg * fill,
                filler.UsedKg * fill * prices[isAlloy ? "fillerAlloy" : "filler"]
            ))
            .ToList();
        void Add(string stock, string unit, double amount, double price)
        {
            if (amount > 0)
            {
                draws.Add(new StockDraw(stock, unit, amount, amount * price));
            }
        }

        Add(
            $"Gas {test.Passes.Select(pass => pass.Gas).FirstOrDefault(gas => gas is not null) ?? "argon"}",
            "L",
            budget.ShieldingGasL * gas,
            prices["gas"]
        );
        Add("Purge argon", "L", budget.PurgeGasL, prices["gas"]);
        Add("Grinding discs", "each", budget.Discs, prices["disc"]);
        Add("Wire wheels", "each", budget.WireWheels, prices["wheel"]);
        if (BlankOf(test, drill) is { } blank)
        {
            minutes += TradeNumbers.Of("blankMinutes");
            Add(blank, "each", 1, prices["blank"]);
        }

        var steel = SteelOf(test, drill);
        foreach (var piece in steel)
        {
            var price = (test.Joint.Pipe is null ? prices["plate"] : prices["pipe"]) * dearer;
            Add(piece.Stock, "mm", piece.LengthMm * piece.Count, KgPerMm(test, piece.Stock) * price);
        }

        return new ItemWork(
            minutes,
            isLearned ? logged.Minutes.Count
                : isTimed ? logged.ArcMinutes.Count
                : 0,
            draws.Sum(draw => draw.Cost) + (minutes / MinutesPerHour * prices["boothHour"]),
            draws,
            steel
        );
    }

    /// <summary>The kept coupon that a drill is made on, as it is called in the store; null when it is made on new steel.</summary>
    public static string? BlankOf(TestTemplate test, Drill? drill)
    {
        if (drill is null || drill.Stages.Any(stage => stage is Stage.FitUp or Stage.Root))
        {
            return null;
        }

        var laid = test.Stages.Where(stage => stage < drill.Stages.Min()).ToList();
        return laid.Count == 0 ? null : BlankName(test.Id, laid.Contains(Stage.Fill));
    }

    /// <summary>How a blank is called in the store.</summary>
    /// <param name="filled">True when it is filled to within 1/16 in of flush; false when only the root is in.</param>
    public static string BlankName(string testId, bool filled) => $"{BlankWord} {testId}, {(filled ? "filled" : "root in")}";

    /// <summary>How the name of every blank begins.</summary>
    public const string BlankWord = "Blank";

    /// <summary>What several pieces in one period take together: the work is laid out and the machine set anew for each after the first.</summary>
    public static ItemWork Together(IReadOnlyList<(ItemWork Work, int Times)> pieces, IReadOnlyDictionary<string, double> prices)
    {
        var setUp = TradeNumbers.Of("setUpMinutes") * (pieces.Count - 1);
        return new ItemWork(
            setUp + pieces.Sum(one => one.Work.BoothMinutes * one.Times),
            pieces[0].Work.FromCoupons,
            (setUp / MinutesPerHour * prices["boothHour"]) + pieces.Sum(one => one.Work.Cost * one.Times),
            [
                .. pieces
                    .SelectMany(one => one.Work.Draws.Select(draw => draw with { Amount = draw.Amount * one.Times, Cost = draw.Cost * one.Times }))
                    .GroupBy(draw => (draw.Stock, draw.Unit))
                    .Select(draws => new StockDraw(draws.Key.Stock, draws.Key.Unit, draws.Sum(draw => draw.Amount), draws.Sum(draw => draw.Cost))),
            ],
            [
                .. pieces
                    .SelectMany(one => one.Work.Steel.Select(piece => piece with { Count = piece.Count * one.Times }))
                    .GroupBy(piece => (piece.Stock, piece.LengthMm))
                    .Select(steel => new SteelPiece(steel.Key.Stock, steel.Key.LengthMm, steel.Sum(piece => piece.Count))),
            ]
        );
    }

    /// <summary>What the parts of a period take.</summary>
    public static ItemWork OfParts(
        TestTemplate test,
        IReadOnlyList<PeriodPart> parts,
        LoggedWork logged,
        IReadOnlyDictionary<string, double> prices
    ) =>
        Together(
            [.. parts.Select(part => (Of(test, test.Drills.FirstOrDefault(drill => drill.Id == part.DrillId), logged, prices), part.Times))],
            prices
        );

    /// <summary>The lengths to saw: both members and the strip. A drill that lays no root is made on steel that was welded before.</summary>
    private static List<SteelPiece> SteelOf(TestTemplate test, Drill? drill)
    {
        var joint = test.Joint;
        if (drill is not null && !drill.Stages.Contains(Stage.Root))
        {
            return [];
        }

        if (joint.Pipe is { } pipe)
        {
            return [new SteelPiece($"Pipe NPS {pipe.Nps} schedule {pipe.Schedule}{Metal(test)}", joint.WidthMm, 2)];
        }

        var length = joint.LengthMm ?? 0;
        var pieces = new List<SteelPiece> { new($"Flat {Inch(joint.ThicknessMm)} × {Inch(joint.WidthMm)} in{Metal(test)}", length, 2) };
        if (joint.Backing is { Kind: BackingKind.Strip, ThicknessMm: { } thick, WidthMm: { } wide })
        {
            pieces.Add(new SteelPiece($"Strip {Inch(thick)} × {Inch(wide)} in", length + (2 * (joint.Backing.OverhangMm ?? 0)), 1));
        }

        return pieces;
    }

    private static double KgPerMm(TestTemplate test, string stock)
    {
        var density = TradeNumbers.Of("densitySteel") / 1e9;
        var joint = test.Joint;
        return joint.PipeSize() is { } pipe ? Math.PI * (pipe.OutsideDiameter.Mm - pipe.Wall.Mm) * pipe.Wall.Mm * density
            : stock.StartsWith("Strip", StringComparison.Ordinal) ? joint.Backing.ThicknessMm!.Value * joint.Backing.WidthMm!.Value * density
            : joint.ThicknessMm * joint.WidthMm * density;
    }

    private static string Metal(TestTemplate test) =>
        test.BaseMetal switch
        {
            BaseMetal.StainlessSteel => ", stainless",
            BaseMetal.ChromeMoly => ", chrome",
            BaseMetal.Aluminium => ", aluminium",
            BaseMetal.NickelAlloy => ", nickel alloy",
            _ => "",
        };

    private static string Inch(double mm) => Length.FromMm(mm).ToInchText();

    private static double Median(IReadOnlyList<double> values) => MathNet.Numerics.Statistics.Statistics.Median(values);
}

/// <summary>How an item goes into the periods of a week: several times in one, or in parts over several.</summary>
/// <param name="Periods">Periods that one takes; 1 for what is shorter.</param>
/// <param name="Times">How often it is made in one period; 1 for what takes several.</param>
public readonly record struct SlotFit(int Periods, int Times)
{
    // More often than this in one go teaches little and tires. A chosen default.
    internal const int MostTimes = 4;

    // A coupon that runs over by a little is finished all the same.
    private const double OverrunShare = 0.1;

    /// <summary>By the minutes that it takes.</summary>
    public static SlotFit Of(double minutes, double hoursPerPeriod)
    {
        var share = minutes / (hoursPerPeriod * 60);
        return new SlotFit(Math.Max(1, (int)Math.Ceiling(share - OverrunShare)), Math.Clamp((int)Math.Floor(1 / share), 1, MostTimes));
    }

    /// <summary>How many are made in so many periods.</summary>
    public int Made(int slots) => Periods > 1 ? (int)Math.Ceiling((double)slots / Periods) : slots * Times;
}

/// <summary>Prices that a school may replace.</summary>
/// <param name="Unit">What the price is for.</param>
public sealed record Price(
    string Id,
    string Unit,
    [property: System.Text.Json.Serialization.JsonPropertyName("price")] double Amount,
    string Meaning,
    string Source
)
{
    /// <summary>The prices that ship with the program, all of them examples.</summary>
    public static IReadOnlyList<Price> Shipped { get; } = CoreJson.ReadEmbedded<PriceFile>("Planning/prices.json").Prices;

    private sealed record PriceFile(IReadOnlyList<Price> Prices);
}
