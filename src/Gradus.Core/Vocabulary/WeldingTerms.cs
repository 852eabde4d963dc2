namespace Gradus.Core.Vocabulary;

/// <summary>Welding process by its AWS letters (ISO 4063 number).</summary>
[System.Diagnostics.CodeAnalysis.SuppressMessage("Naming", "CA1707", Justification = "FCAW-G and FCAW-S are the terms of the field.")]
public enum Process
{
    /// <summary>Shielded metal arc welding (111).</summary>
    Smaw,

    /// <summary>Gas tungsten arc welding (141).</summary>
    Gtaw,

    /// <summary>Gas metal arc welding (135 active, 131 inert).</summary>
    Gmaw,

    /// <summary>Flux cored arc welding with gas (136).</summary>
    FcawG,

    /// <summary>Flux cored arc welding, self-shielded (114).</summary>
    FcawS,
}

/// <summary>What follows from a process.</summary>
public static class Processes
{
    /// <summary>True where a wire is fed: the volts are set, and the current follows from the feed.</summary>
    public static bool IsWire(this Process process) => process is Process.Gmaw or Process.FcawG or Process.FcawS;
}

/// <summary>The stages of a weld, in the order in which they are laid.</summary>
public enum Stage
{
    FitUp,
    Root,
    Hot,
    Fill,
    Cap,
}

/// <summary>Direction of travel on a vertical or fixed-pipe joint.</summary>
public enum Progression
{
    /// <summary>The position has none (flat, horizontal, overhead plate).</summary>
    None,
    Uphill,
    Downhill,
}

/// <summary>Current and polarity.</summary>
public enum Polarity
{
    /// <summary>Direct current, electrode positive.</summary>
    Dcep,

    /// <summary>Direct current, electrode negative.</summary>
    Dcen,

    /// <summary>Alternating current.</summary>
    Ac,
}

/// <summary>How the bead was laid.</summary>
public enum BeadTechnique
{
    Stringer,
    Weave,
    WhipAndPause,
    Drag,
    LayWire,
    Dip,
    BackFed,
    ShortArc,
}

/// <summary>The welder's hand on this pass, as seen by the instructor.</summary>
public enum OperatorHand
{
    Right,
    Left,
}

/// <summary>What the coupon is made from.</summary>
public enum Product
{
    Plate,
    Pipe,
    Sheet,
}
