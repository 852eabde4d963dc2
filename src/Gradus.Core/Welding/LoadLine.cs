namespace Gradus.Core.Welding;

/// <summary>The load lines of IEC 60974-1, from memory: the volts that a process has at a current.</summary>
public static class LoadLine
{
    /// <summary>Volts at a current in A: 20 + 0.04 I covered electrode, 10 + 0.04 I gas tungsten arc, 14 + 0.05 I wire.</summary>
    public static double Volts(Process process, double amps) =>
        process switch
        {
            Process.Smaw => 20 + (0.04 * amps),
            Process.Gtaw => 10 + (0.04 * amps),
            _ => 14 + (0.05 * amps),
        };
}
