using Gradus.Core.Inspection;
using Gradus.Core.Library;

namespace Gradus.Core.Bench;

/// <summary>What a laboratory saw on a specimen: measurements and what is there, never a verdict. One of the kinds is given, as the specimen is of.</summary>
/// <param name="Specimen">Which of the test's specimens, from 0.</param>
/// <param name="Remark">What it says of it in words.</param>
public sealed record LabFound(
    int Specimen,
    BendSpecimen? Bend = null,
    NickBreakSpecimen? NickBreak = null,
    FilletBreakSpecimen? FilletBreak = null,
    MacroSpecimen? Macro = null,
    IReadOnlyList<Indication>? Indications = null,
    string? Remark = null
)
{
    /// <summary>
    /// The same as it is recorded on a coupon of a test. What is asked is the test's to say, and so is what a limit goes by: a thicker wall or a longer
    /// specimen than it has would let more pass.
    /// </summary>
    /// <param name="order">Under which order it was seen.</param>
    public BenchEventBody Body(TestTemplate test, Guid order)
    {
        double Wall(double? said) => Math.Min(said ?? double.PositiveInfinity, test.Joint.ThicknessMm);
        return new BenchEventBody(
            Specimen: Specimen,
            Bend: Bend is null ? null : Bend with { WallMm = Wall(Bend.WallMm) },
            NickBreak: NickBreak is null ? null : NickBreak with { WallMm = Wall(NickBreak.WallMm) },
            FilletBreak: FilletBreak is null ? null : FilletBreak with { LengthMm = null },
            Macro: Macro is null
                ? null
                : Macro with
                {
                    Fillet = test.Weld == WeldKind.Fillet,
                    LegAskedMm = test.Weld == WeldKind.Fillet ? test.Joint.LegMm : null,
                    ThicknessMm = Wall(Macro.ThicknessMm),
                },
            Indications: Indications,
            LabOrder: order
        );
    }
}

/// <summary>What a laboratory returned of the specimens that were sent to it.</summary>
/// <param name="Remark">Of all of them, in words.</param>
public sealed record LabReport(IReadOnlyList<LabFound> Found, string? Remark = null)
{
    /// <summary>The same with another word where it says something in words.</summary>
    public LabReport Without(string instead) =>
        new([.. Found.Select(one => one with { Remark = one.Remark is null ? null : instead })], Remark is null ? null : instead);
}
