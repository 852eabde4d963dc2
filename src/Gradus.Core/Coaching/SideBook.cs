namespace Gradus.Core.Coaching;

/// <summary>Beads of one side: how many of them came out clean.</summary>
public sealed record SideRecord(PipeSide Side, int Clean, int All);

/// <summary>The side that is harder for a student.</summary>
/// <param name="FromOwn">True when it is what the student's own beads say.</param>
public sealed record DifficultSide(PipeSide Side, string Says, bool FromOwn);

/// <summary>Which side of a fixed pipe is the difficult one.</summary>
public static class SideBook
{
    // So many beads a side, and the student's own share says more than the hand. A chosen default.
    private const int Enough = 6;

    /// <summary>
    /// By the student's own beads where there are enough on both sides and they differ; else by the hand: 6-9-12 for a right one, 6-3-12 for a left
    /// one (a chosen default; practitioners differ).
    /// </summary>
    public static DifficultSide Of(OperatorHand hand, IReadOnlyCollection<SideRecord> own, Wording words)
    {
        var three = own.FirstOrDefault(one => one.Side == PipeSide.Three);
        var nine = own.FirstOrDefault(one => one.Side == PipeSide.Nine);
        if (three is { All: >= Enough } && nine is { All: >= Enough } && three.Clean * nine.All != nine.Clean * three.All)
        {
            var hard = three.Clean * nine.All < nine.Clean * three.All ? three : nine;
            var text =
                hard.Side == PipeSide.Nine
                    ? "Difficult side: 6-9-12, clean {own} of {all} there"
                    : "Difficult side: 6-3-12, clean {own} of {all} there";
            return new DifficultSide(hard.Side, words.Say(text, ("own", hard.Clean), ("all", hard.All)), true);
        }

        return hand == OperatorHand.Right
            ? new DifficultSide(PipeSide.Nine, words.Say("Difficult side: 6-9-12, for a right hand"), false)
            : new DifficultSide(PipeSide.Three, words.Say("Difficult side: 6-3-12, for a left hand"), false);
    }
}
