using Gradus.Core.Coaching;
using Gradus.Core.Vocabulary;
using Gradus.Core.Welding;

namespace Gradus.Server.Coaching;

/// <summary>What the coach says of a coupon. Cards are held once and named by number: many beads share one.</summary>
/// <param name="Language">In which it is said, by ISO 639-1.</param>
/// <param name="Silent">True under the rules of a test: nothing is said of how it is done.</param>
/// <param name="Beads">By the key of the bead.</param>
/// <param name="FitUp">Cautions while it is fitted up.</param>
/// <param name="Look">Cautions when specimens are bent and etched.</param>
/// <param name="Gap">What becomes of the root opening; null where nothing is open or measured.</param>
/// <param name="Level">What the fill asks for before the cap; null where it was not measured.</param>
/// <param name="Side">The difficult side of a fixed pipe; null elsewhere.</param>
/// <param name="BurnThrough">What is done about a hole, step by step.</param>
/// <param name="Words">Hold points as they are called in the language, by their titles.</param>
public sealed record CoachView(
    string Language,
    bool Silent,
    IReadOnlyList<CoachCard> Cards,
    IReadOnlyDictionary<string, CoachBead> Beads,
    IReadOnlyList<string> FitUp,
    IReadOnlyList<string> Look,
    CoachGap? Gap,
    CapLevelAdvice? Level,
    DifficultSide? Side,
    IReadOnlyList<string> BurnThrough,
    string SafetyLine,
    IReadOnlyDictionary<string, string> Words
);

/// <summary>What is said beside a bead.</summary>
/// <param name="Card">The number of its card; on fixed pipe that of the side.</param>
/// <param name="Zones">On fixed pipe the number of the card at each place of the fit-up; empty elsewhere.</param>
/// <param name="Cautions">What is said here for the first and only time.</param>
/// <param name="Preflight">What is asked before the arc; empty where nothing is.</param>
/// <param name="Mend">The questions that were last answered with no.</param>
/// <param name="Last">What was found on this student's last coupon here, with what to do; null when nothing was.</param>
public sealed record CoachBead(
    int Card,
    IReadOnlyDictionary<string, int> Zones,
    RestartPlan Restart,
    IReadOnlyList<string> Cautions,
    IReadOnlyList<PreflightAsk> Preflight,
    IReadOnlyList<string> Mend,
    string? Last
);

/// <summary>A question before the arc.</summary>
public sealed record PreflightAsk(string Id, string Ask, string Mend, string Why);

/// <summary>The root opening at the places where it was measured.</summary>
public sealed record CoachGap(IReadOnlyList<GapAt> Points, GapForecast? Forecast);

/// <summary>The gap at a place with what to do.</summary>
/// <param name="EndMm">What is left of it where the root is tied in.</param>
/// <param name="Now">What the gap as it is asks for; null where nothing is known.</param>
/// <param name="End">What is left of it asks for.</param>
public sealed record GapAt(string At, double GapMm, double EndMm, GapAdvice? Now, GapAdvice? End);

/// <summary>A sentence of the coach that the school may say in its own words.</summary>
/// <param name="Shipped">As it ships, by language.</param>
/// <param name="School">As the school says it, by language; empty where it says nothing else.</param>
public sealed record CoachSentence(string Sentence, IReadOnlyDictionary<string, string> Shipped, IReadOnlyDictionary<string, string> School);

/// <summary>The coach's book.</summary>
public sealed record CoachBookView(
    IReadOnlyList<LanguageView> Languages,
    IReadOnlyList<CoachBaseView> Cards,
    IReadOnlyList<SchoolQuestion> Schools,
    IReadOnlyList<CoachSentence> Sentences
);

/// <param name="Id">By ISO 639-1.</param>
/// <param name="Name">As those who speak it call it.</param>
public sealed record LanguageView(string Id, string Name);

/// <param name="Sentences">What the card says, in the order in which it is read.</param>
public sealed record CoachBaseView(string Id, string Name, IReadOnlyList<string> Sentences, string Source);

/// <summary>A sentence in the school's own words.</summary>
/// <param name="Sentence">The sentence that it stands for, as it ships in English.</param>
/// <param name="Says">Null takes the school's words back.</param>
public sealed record PutSentence(string? Sentence, string? Language, string? Says);

/// <summary>What is shown of a fault, on one sheet.</summary>
/// <param name="Fault">As it is called.</param>
/// <param name="BeadKey">The bead that is shown, in the section of its test.</param>
/// <param name="Causes">Usual ones, the likeliest first.</param>
/// <param name="Card">How that bead is laid.</param>
/// <param name="Cautions">What can hurt while it is shown.</param>
public sealed record DemonstrationSheet(
    string Fault,
    Stage Stage,
    string TestId,
    string TestTitle,
    string BeadKey,
    JointSection Section,
    Progression Progression,
    IReadOnlyList<LikelyCause> Causes,
    CoachCard Card,
    RestartPlan Restart,
    IReadOnlyList<string> Cautions,
    string SafetyLine
);
