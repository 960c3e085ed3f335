using System.Reflection;

namespace InnerCadence.Storage.Upkeep;

/// <summary>Which version of the program this is; CHANGELOG.md says what came with each.</summary>
public static class ProgramVersion
{
    public static string Words { get; } = typeof(ProgramVersion).Assembly.GetCustomAttribute<AssemblyInformationalVersionAttribute>(
        )!.InformationalVersion;
}
