namespace Gradus.Core.Measure;

/// <summary>A bevel angle: from square to the bevelled face of one member (AWS A3.0), 0 to <see cref="MaxDegrees"/> degrees.</summary>
public readonly record struct BevelAngle
{
    /// <summary>The steepest bevel that is taken for a welding preparation: beyond it a groove no longer has a usable width.</summary>
    public const double MaxDegrees = 75;

    private BevelAngle(double degrees) => Degrees = degrees;

    /// <summary>The angle in degrees from square.</summary>
    public double Degrees { get; }

    /// <summary>The tangent: width gained per depth.</summary>
    public double Tan => Math.Tan(Degrees * Math.PI / 180);

    /// <summary>What a protractor laid on the face of the member reads: 90° minus the bevel.</summary>
    public double ProtractorDegrees => 90 - Degrees;

    /// <summary>True when the number can be a bevel angle.</summary>
    public static bool IsPossible(double degrees) => degrees is >= 0 and <= MaxDegrees;

    /// <summary>A bevel angle from degrees.</summary>
    /// <exception cref="ArgumentOutOfRangeException">Not from 0 to <see cref="MaxDegrees"/>.</exception>
    public static BevelAngle FromDegrees(double degrees) =>
        IsPossible(degrees)
            ? new BevelAngle(degrees)
            : throw new ArgumentOutOfRangeException(nameof(degrees), degrees, "A bevel angle is from 0 to 75 degrees.");
}
