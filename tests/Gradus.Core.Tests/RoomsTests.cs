using ArchUnitNET.Loader;

namespace Gradus.Core.Tests;

/// <summary>The core's rooms stand in one order, and each knows only those before it.</summary>
public sealed class RoomsTests
{
    private const string Root = "Gradus.Core.";

    private static readonly string[] Order =
    [
        "Measure",
        "Vocabulary",
        "Joints",
        "Welding",
        "Inspection",
        "Qualification",
        "Library",
        "Safety",
        "Traces",
        "Coaching",
        "Bench",
        "Certification",
        "Readiness",
        "Planning",
        "Learning",
    ];

    [Fact]
    public void Each_room_knows_only_those_before_it()
    {
        var types = new ArchLoader().LoadAssembly(typeof(CoreJson).Assembly).Build().Types.Where(type => RoomOf(type.FullName) is not null).ToList();
        Assert.Equal(Order.Order(), types.Select(type => RoomOf(type.FullName)!).Distinct().Order());
        Assert.Empty(
            from type in types
            from used in type.Dependencies.Select(one => one.Target.FullName).Distinct()
            where RoomOf(used) is { } room && Array.IndexOf(Order, room) > Array.IndexOf(Order, RoomOf(type.FullName))
            select $"{type.FullName} knows {used}"
        );
    }

    private static string? RoomOf(string fullName) =>
        fullName.StartsWith(Root, StringComparison.Ordinal) && fullName[Root.Length..].Split('.', '+') is [var room, _, ..] ? room : null;
}
