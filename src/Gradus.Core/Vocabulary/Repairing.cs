namespace Gradus.Core.Vocabulary;

/// <summary>What was done about a finding.</summary>
public enum RepairAction
{
    Cool,
    Grind,
    Taper,
    Refill,
    CutOutAndRegap,
    File,
}
