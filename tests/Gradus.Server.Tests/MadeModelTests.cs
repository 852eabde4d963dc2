using Gradus.Data;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Gradus.Server.Tests;

/// <summary>The model of the database is made ahead, so that a start does not build it: it is what the configurations say, and what the migrations make.</summary>
public sealed class MadeModelTests
{
    private readonly GradusContext db = SqliteSetup.Open(Path.Combine(Path.GetTempPath(), "gradus-no-file.db"));

    [Fact]
    public void The_migrations_make_what_the_model_says() => Assert.False(db.Database.HasPendingModelChanges(), "Add a migration.");

    [Fact]
    public void The_model_that_was_made_ahead_is_the_one_that_would_be_built()
    {
        Assert.Equal("Gradus.Data.Compiled.GradusContextModel", db.Model.GetType().FullName);

        var (built, made) = (Lines(db.GetService<IDesignTimeModel>().Model), Lines(db.Model));
        Assert.True(built.Count > 400);
        Assert.True(built.SequenceEqual(made), $"Run ./gradus model: {string.Join("; ", built.Except(made).Concat(made.Except(built)).Take(8))}");
    }

    private static List<string> Lines(IModel model) =>
        [
            .. model
                .GetEntityTypes()
                .SelectMany(entity =>
                    entity
                        .GetProperties()
                        .Select(one =>
                            $"{entity.Name}.{one.Name}: {one.ClrType} {one.GetColumnName()} {one.GetColumnType()} {one.IsNullable} {one.ValueGenerated} "
                            + $"{one.GetValueConverter()?.GetType() ?? one.FindTypeMapping()?.Converter?.GetType()} {one.GetValueComparer()?.GetType()}"
                        )
                        .Concat(entity.GetKeys().Select(key => $"{entity.Name} key {Names(key.Properties)} {key.IsPrimaryKey()}"))
                        .Concat(
                            entity.GetIndexes().Select(index => $"{entity.Name} index {Names(index.Properties)} {index.IsUnique} {index.GetFilter()}")
                        )
                        .Concat(
                            entity
                                .GetForeignKeys()
                                .Select(key =>
                                    $"{entity.Name} of {key.PrincipalEntityType.Name} {Names(key.Properties)} {key.DeleteBehavior} {key.IsRequired} {key.IsUnique}"
                                )
                        )
                        .Append($"{entity.Name} in {entity.GetTableName()}")
                )
                .Order(StringComparer.Ordinal),
        ];

    private static string Names(IEnumerable<IReadOnlyProperty> properties) => string.Join(',', properties.Select(one => one.Name));
}
