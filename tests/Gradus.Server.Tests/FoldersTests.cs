using ArchUnitNET.Loader;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>The server's folders stand in one order, and each knows only those before it; every call that writes is one whole write.</summary>
public sealed class FoldersTests
{
    private const string Root = "Gradus.Server.";

    private static readonly string[] Order =
    [
        "Hosting",
        "Network",
        "School",
        "Accounts",
        "Library",
        "ShopMath",
        "Readiness",
        "Coupons",
        "Instruments",
        "Search",
        "Students",
        "Decisions",
        "Qualifications",
        "Learning",
        "Planning",
        "Sittings",
        "Floor",
        "Coaching",
        "Demo",
    ];

    // What they send changes nothing that is kept: sums, verdicts and previews, a session, and weeks that are being solved.
    private static readonly string[] WriteNothing =
    [
        "/api/calc/",
        "/api/judge/",
        "/api/qualifies",
        "/api/covered",
        "/api/causes",
        "/api/trace/analyse",
        "/api/arc/batches/", // those of many devices are written together
        "/api/coverage",
        "/api/readiness/",
        "/api/plan/solve",
        "/api/tests/preview",
        "/api/coupons/{couponId:guid}/findings/preview",
        "/api/session",
        "/api/students/{studentId:guid}/covers",
        "/api/weeks/{monday}/solve",
        "/api/weeks/{monday}/job",
        "/api/weeks/{monday}/proposal",
        "/api/school/backups", // beside the database
        "/api/model/fit", // the fitting writes when it is done
    ];

    [Fact]
    public void Each_folder_knows_only_those_before_it()
    {
        var types = new ArchLoader().LoadAssembly(typeof(Program).Assembly).Build().Types.Where(type => FolderOf(type.FullName) is not null).ToList();
        Assert.Equal(Order.Order(), types.Select(type => FolderOf(type.FullName)!).Distinct().Order());
        Assert.Empty(
            from type in types
            from used in type.Dependencies.Select(one => one.Target.FullName).Distinct()
            where FolderOf(used) is { } folder && Array.IndexOf(Order, folder) > Array.IndexOf(Order, FolderOf(type.FullName))
            select $"{type.FullName} knows {used}"
        );
    }

    [Fact]
    public async Task Every_call_that_may_write_is_one_whole_write()
    {
        await using var server = new RunningServer();
        server.CreateClient().Dispose();
        var loose = server
            .Services.GetRequiredService<IEnumerable<EndpointDataSource>>()
            .SelectMany(source => source.Endpoints)
            .OfType<RouteEndpoint>()
            .Where(endpoint =>
                endpoint.Metadata.GetMetadata<IHttpMethodMetadata>()?.HttpMethods.Any(method => method is "PUT" or "POST" or "DELETE") == true
            )
            .Where(endpoint => endpoint.Metadata.GetMetadata<WriteMark>() is null)
            .Select(endpoint => endpoint.RoutePattern.RawText!)
            .Where(path => !WriteNothing.Any(one => path.StartsWith(one, StringComparison.Ordinal)))
            .ToList();
        Assert.Empty(loose);
    }

    private static string? FolderOf(string fullName) =>
        fullName.StartsWith(Root, StringComparison.Ordinal) && fullName[Root.Length..].Split('.', '+', '/') is [var folder, _, ..] ? folder : null;
}
