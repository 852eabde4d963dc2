using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace Gradus.Data;

/// <summary>Lets the migrations tool build the context without the server.</summary>
public sealed class DesignTimeFactory : IDesignTimeDbContextFactory<GradusContext>
{
    public GradusContext CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<GradusContext>();
        options.UseGradusFile("design.db");
        return new GradusContext(options.Options);
    }
}
