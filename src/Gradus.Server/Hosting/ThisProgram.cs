using System.Reflection;

namespace Gradus.Server.Hosting;

/// <summary>Which program this is.</summary>
public static class ThisProgram
{
    /// <summary>Its version, as a closing keeps it.</summary>
    public static readonly string Version =
        typeof(ThisProgram).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>()?.InformationalVersion.Split('+')[0] ?? "0";
}
