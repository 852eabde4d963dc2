namespace Gradus.Server.Library;

/// <summary>Tells whoever goes by the limits that they were changed.</summary>
public sealed class LimitsChanged
{
    /// <summary>A profile has a new version.</summary>
    public event Action? Changed;

    /// <summary>Tells it.</summary>
    public void Tell() => Changed?.Invoke();
}
